import { onModule } from "./around";
import type { ProcedureBench } from "./contract";

/** A module that idles. */
export const standbyBench: ProcedureBench = {
  ...onModule,
  procedure: "standby",
  demo: [
    {
      board: "Sedge 51",
      place: 4,
      title: "Idle states",
      sample: 0,
      specimen: "steady-synchronous",
      seed: 73,
      plan: { states: ["no-load", "auto-off", "cut-off"] },
    },
  ],
};
