import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const behaviourForm = {
  summary:
    "What each press, plug and light does, with no, a removed and a dead cell among them; where the gauge steps and whether it follows the battery; cables, wake-up, jumper, marks and joints.",
  silences: {
    "behaviour.response": { otherwise: ["did-not-happen", "No item of the checklist was answered."] },
    "behaviour.gauge-step": { otherwise: ["did-not-happen", "The gauge was not read at two voltages."] },
  },
  record: { roles: [{ role: "batteryVoltage", required: false }], derived: [] },
  asks: [],
} satisfies ProcedureForm;
