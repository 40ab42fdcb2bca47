import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const standbyFacts = {
  id: "standby",
  version: 3,
  title: "Standby",
  readings: "trace",
  destructive: false,
  position: 70,
  work: [{ minutes: 15, needs: ["hands", "supply", "logger"] }],
  calledForBy: ["protection", "boost", "charger"],
  measures: ["standby.current", "standby.life"],
  headline: ["standby.current", "standby.life"],
  takes: "cell",
} as const satisfies ProcedureFacts;
