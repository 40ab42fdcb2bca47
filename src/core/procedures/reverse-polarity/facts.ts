import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const reversePolarityFacts = {
  id: "reverse-polarity",
  version: 1,
  title: "Reversal test",
  readings: "points",
  destructive: true,
  position: 900,
  work: [{ minutes: 15, needs: ["hands", "supply", "load"] }],
  calledForBy: ["charger", "protection", "boost", "power-path"],
  measures: ["reverse.current", "reverse.survived"],
  headline: ["reverse.survived", "reverse.current"],
} as const satisfies ProcedureFacts;
