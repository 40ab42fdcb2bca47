import { onModule } from "./around";
import type { ProcedureBench } from "./contract";

/** A module that switches off at light load. */
export const lightLoadBench: ProcedureBench = {
  ...onModule,
  procedure: "light-load",
  demo: [
    {
      board: "Sedge 51",
      place: 5,
      title: "Light load",
      sample: 0,
      specimen: "steady-synchronous",
      seed: 74,
      plan: { from: 0.09, step: 0.005, dwell: 40, every: 1 },
    },
  ],
};
