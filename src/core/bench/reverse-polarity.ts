import { SIMULATED_BOARDS } from "../simulator";
import type { ProcedureBench } from "./contract";

/** A boost whose battery is reversed. */
export const reversePolarityBench: ProcedureBench = {
  procedure: "reverse-polarity",
  thing: "module",
  specimens: SIMULATED_BOARDS,
};
