import { onModule } from "./around";
import type { ProcedureBench } from "./contract";

/** A module between a supply and a load, its battery ramped. */
export const thresholdRampBench: ProcedureBench = {
  ...onModule,
  procedure: "threshold-ramp",
  demo: [
    { board: "Sedge 51", place: 2, title: "Ramp down and up", sample: 0, specimen: "steady-synchronous", seed: 71 },
    {
      board: "Sedge 51",
      place: 3,
      title: "Ramp of the cell voltage",
      sample: 0,
      specimen: "steady-synchronous",
      seed: 72,
      plan: { way: "charge" },
    },
    {
      board: "Marl 15",
      place: 1,
      title: "Ramp down and up",
      sample: 0,
      specimen: "weak-switch",
      seed: 81,
      plan: { load: 0.3 },
    },
  ],
};
