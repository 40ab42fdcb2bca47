import { SIMULATED_BUTTONS } from "../simulator";
import type { ProcedureBench } from "./contract";

/** A board that answers to presses, plugs and cells. */
export const behaviourBench: ProcedureBench = {
  procedure: "behaviour",
  thing: "module",
  specimens: SIMULATED_BUTTONS,
};
