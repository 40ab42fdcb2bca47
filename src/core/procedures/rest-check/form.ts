import type { ProcedureForm } from "../contract";

/** Cells that a table of one column a cell may have here; a file may have more. */
const COLUMNS = 24;

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const restCheckForm = {
  summary: "Charged cells at rest, measured on the day and days later: how fast each falls, and which are rejected.",
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
