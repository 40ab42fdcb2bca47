import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const rippleFacts = {
  id: "ripple",
  version: 1,
  title: "Output ripple",
  readings: "trace",
  destructive: false,
  position: 52,
  work: [{ minutes: 10, needs: ["hands", "supply", "load"] }],
  calledForBy: ["boost", "power-path"],
  rare: true,
  measures: ["boost.ripple"],
  headline: ["boost.ripple"],
  oscilloscope: true,
} as const satisfies ProcedureFacts;
