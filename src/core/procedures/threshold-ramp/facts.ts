import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const thresholdRampFacts = {
  id: "threshold-ramp",
  version: 2,
  title: "Threshold ramp",
  readings: "trace",
  destructive: false,
  position: 60,
  work: [{ minutes: 10, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["protection", "boost", "power-path", "charger"],
  measures: [
    "protect.over-discharge-present",
    "protect.over-discharge-voltage",
    "protect.over-discharge-release",
    "protect.residual-current",
    "protect.over-charge-voltage",
    "protect.over-charge-release",
    "boost.dropout-voltage",
  ],
  headline: [
    "protect.over-discharge-present",
    "protect.over-discharge-voltage",
    "protect.over-charge-voltage",
    "boost.dropout-voltage",
  ],
  onPaper: 6,
} as const satisfies ProcedureFacts;
