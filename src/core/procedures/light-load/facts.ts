import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const lightLoadFacts = {
  id: "light-load",
  version: 2,
  title: "Light load",
  readings: "trace",
  destructive: false,
  position: 72,
  work: [{ minutes: 20, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["boost"],
  measures: ["standby.auto-off-current", "standby.auto-off-delay"],
  headline: ["standby.auto-off-current", "standby.auto-off-delay"],
} as const satisfies ProcedureFacts;
