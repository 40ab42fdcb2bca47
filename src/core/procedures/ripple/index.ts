import type { TraceProcedure } from "../contract";
import { rippleFacts, rippleForm } from "./facts";
import { analyseRipple } from "./analyse";
import { likeness } from "./likeness";

/** The ripple of an output, from a waveform that an oscilloscope wrote. */
export const ripple: TraceProcedure = {
  ...rippleFacts,
  ...rippleForm,
  likeness,
  analyse: analyseRipple,
};
