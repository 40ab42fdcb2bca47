import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const overloadFacts = {
  id: "overload",
  version: 2,
  title: "Overload and short",
  readings: "trace",
  destructive: false,
  position: 80,
  work: [{ minutes: 5, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["protection", "boost", "power-path"],
  measures: [
    "protect.over-current",
    "protect.short-current",
    "protect.short-peak",
    "protect.short-present",
    "protect.short-recovery",
  ],
  headline: ["protect.over-current", "protect.short-present", "protect.short-current", "protect.short-recovery"],
} as const satisfies ProcedureFacts;
