import { onModule } from "./around";
import type { ProcedureBench } from "./contract";

/** A module that is overloaded and shorted. */
export const overloadBench: ProcedureBench = {
  ...onModule,
  procedure: "overload",
  demo: [
    {
      board: "Sedge 51",
      place: 6,
      title: "Overload and three shorts",
      sample: 0,
      specimen: "steady-synchronous",
      seed: 75,
      plan: { from: 0.8, most: 2.4 },
      supplyLimit: 4,
    },
    {
      board: "Marl 15",
      place: 2,
      title: "Overload and three shorts",
      sample: 0,
      specimen: "weak-switch",
      seed: 82,
      plan: { from: 0.6, most: 1.8 },
    },
    {
      board: "Alder 12",
      place: 1,
      title: "Overload from the small supply",
      sample: 0,
      specimen: "dies-shorted",
      seed: 91,
      plan: { from: 0.6, most: 1.4, shortSeconds: 0.8, repeats: 2 },
      supplyLimit: 1.5,
    },
  ],
};
