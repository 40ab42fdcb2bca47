import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const restCheckFacts = {
  id: "rest-check",
  version: 2,
  title: "Rest check",
  readings: "points",
  destructive: false,
  position: 15,
  work: [{ minutes: 10, needs: ["hands"] }],
  calledForBy: ["charger", "protection", "balancer"],
  anyTime: true,
  ofDrawer: true,
  measures: ["cell.rest-drop-rate"],
  headline: ["cell.rest-drop-rate"],
} as const satisfies ProcedureFacts;
