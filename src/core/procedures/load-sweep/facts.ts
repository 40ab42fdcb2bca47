import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const loadSweepFacts = {
  id: "load-sweep",
  version: 4,
  title: "Load sweep",
  readings: "points",
  destructive: false,
  position: 50,
  work: [{ minutes: 45, needs: ["hands", "supply", "load"] }],
  calledForBy: ["boost"],
  measures: [
    "boost.no-load-voltage",
    "boost.peak-efficiency",
    "boost.peak-efficiency-current",
    "boost.lowest-efficiency",
    "boost.max-current",
    "boost.collapse-current",
    "boost.load-regulation",
    "boost.output-resistance",
    "boost.line-regulation",
    "boost.start-current",
    "boost.start-voltage",
    "boost.input-current-limit",
  ],
  headline: ["boost.max-current"],
  resistors: true,
  usualMeters: true,
  onPaper: 1,
} as const satisfies ProcedureFacts;
