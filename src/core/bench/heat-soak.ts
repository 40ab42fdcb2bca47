import { onModule } from "./around";
import type { ProcedureBench } from "./contract";

/** A module that warms. */
export const heatSoakBench: ProcedureBench = {
  ...onModule,
  procedure: "heat-soak",
  demo: [
    {
      board: "Sedge 51",
      place: 1,
      title: "Heat at one ampere",
      sample: 0,
      specimen: "steady-synchronous",
      seed: 76,
      plan: { load: 1, seconds: 1500, enough: 0.5 },
    },
    {
      board: "Marl 15",
      place: 0,
      title: "Heat at 0.9 A",
      sample: 0,
      specimen: "weak-switch",
      seed: 83,
      plan: { load: 0.9, seconds: 1500, enough: 0.6 },
    },
  ],
};
