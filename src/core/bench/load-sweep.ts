import { SIMULATED_BOARDS } from "../simulator";
import type { ProcedureBench } from "./contract";

/** A boost between a supply and a load. */
export const loadSweepBench: ProcedureBench = {
  procedure: "load-sweep",
  thing: "module",
  specimens: SIMULATED_BOARDS,
  keptByBoard: true,
};
