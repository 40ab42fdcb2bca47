import type { ProcedureFacts, ProcedureForm } from "../contract";

/** What is known of it apart from its code. */
export const restCheckFacts = {
  id: "rest-check",
  version: 2,
  title: "Rest check",
  summary: "Charged cells at rest, measured on the day and days later: how fast each falls, and which are rejected.",
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

/** Cells that a table of one column a cell may have here; a file may have more. */
const COLUMNS = 24;

/** What it records and asks for, and why it may stay silent. */
export const restCheckForm = {
  silences: {
    "cell.rest-drop-rate": { otherwise: ["not-in-log", "No cell was read on two days."] },
  },
  asks: [],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "cell", required: true },
      { role: "cellVoltage", required: true },
      ...Array.from({ length: COLUMNS }, (_, k) => ({ role: `cell${k + 1}Voltage` as const, required: false })),
    ],
    derived: [],
  },
} satisfies ProcedureForm;
