import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const powerPathFacts = {
  id: "power-path",
  version: 2,
  title: "Power path",
  readings: "trace",
  destructive: false,
  position: 76,
  work: [{ minutes: 20, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["power-path"],
  measures: [
    "path.output-voltage",
    "path.dip",
    "path.overshoot",
    "path.handover-time",
    "path.charge-current",
    "path.input-current",
    "path.finishes-under-load",
  ],
  headline: ["path.handover-time", "path.dip", "path.finishes-under-load"],
} as const satisfies ProcedureFacts;
