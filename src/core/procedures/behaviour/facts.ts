import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const behaviourFacts = {
  id: "behaviour",
  version: 1,
  title: "Behaviour checklist",
  readings: "answers",
  destructive: false,
  position: 95,
  work: [{ minutes: 20, needs: ["hands", "supply"] }],
  calledForBy: ["charger", "protection", "boost", "power-path"],
  measures: ["behaviour.response", "behaviour.gauge-step"],
  headline: ["behaviour.response"],
} as const satisfies ProcedureFacts;
