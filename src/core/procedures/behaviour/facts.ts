import type { ProcedureFacts, ProcedureForm } from "../contract";

/** What is known of it apart from its code. */
export const behaviourFacts = {
  id: "behaviour",
  version: 1,
  title: "Behaviour checklist",
  summary:
    "What each press, plug and light does, with no, a removed and a dead cell among them; where the gauge steps and whether it follows the battery; cables, wake-up, jumper, marks and joints.",
  readings: "answers",
  destructive: false,
  position: 95,
  work: [{ minutes: 20, needs: ["hands", "supply"] }],
  calledForBy: ["charger", "protection", "boost", "power-path"],
  measures: ["behaviour.response", "behaviour.gauge-step"],
  headline: ["behaviour.response"],
} as const satisfies ProcedureFacts;

/** What it records and asks for, and why it may stay silent. */
export const behaviourForm = {
  silences: {
    "behaviour.response": { otherwise: ["did-not-happen", "No item of the checklist was answered."] },
    "behaviour.gauge-step": { otherwise: ["did-not-happen", "The gauge was not read at two voltages."] },
  },
  record: { roles: [{ role: "batteryVoltage", required: false }], derived: [] },
  asks: [],
} satisfies ProcedureForm;
