import type { TraceProcedure } from "../contract";
import { rippleFacts } from "./facts";
import { rippleForm } from "./form";
import { analyseRipple } from "./analyse";
import { likeness } from "./likeness";

/** The ripple of an output, from a waveform that an oscilloscope wrote. */
export const ripple: TraceProcedure = {
  ...rippleFacts,
  ...rippleForm,
  likeness,
  analyse: analyseRipple,
};
