import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const packChargeForm = {
  summary:
    "Cells in series behind one board, each of them logged: which cell cut the charge and at what, whether the pack was full, when it was allowed again, and which cell ends the discharge.",
  silences: {
    "behaviour.response": { otherwise: ["did-not-happen", "Waking the board after its low cut was not tried."] },
    "pack.cutoff-cell-voltage": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["did-not-happen", "The board did not cut the charge."],
    },
    "pack.current-at-cutoff": {
      roles: ["cellCurrent"],
      otherwise: ["did-not-happen", "The board did not cut the charge."],
    },
    "pack.release-cell-voltage": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["did-not-happen", "Charging was not allowed again in the log."],
    },
    "pack.spread-at-cutoff": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["did-not-happen", "The board did not cut the charge."],
    },
    "pack.voltage-at-cutoff": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["did-not-happen", "The board did not cut the charge."],
    },
    "pack.charge-at-cutoff": {
      roles: ["cellCurrent"],
      otherwise: ["did-not-happen", "The board did not cut the charge, or a gap hides what flowed before."],
    },
    "pack.rebound": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["not-in-log", "No whole minute without current follows the cut."],
    },
    "pack.missing-charge": {
      roles: ["cell1Voltage", "cell2Voltage"],
      condition: "cellCapacity",
      otherwise: ["not-in-log", "No whole minute without current follows the cut."],
    },
    "pack.low-cutoff-cell-voltage": {
      roles: ["cell1Voltage", "cell2Voltage"],
      otherwise: ["did-not-happen", "The board did not cut the discharge."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "cellCurrent", required: true },
      ...([1, 2, 3, 4, 5, 6, 7, 8] as const).map((n) => ({ role: `cell${n}Voltage` as const, required: n <= 2 })),
    ],
    derived: [],
  },
  asks: [
    {
      condition: "cellCapacity",
      label: "Rated capacity of a cell, if known",
      unit: "Ah",
      required: false,
      aboveZero: true,
    },
  ],
  marks: [
    { key: "w", kind: "load-again", what: "light load on: does it wake?" },
    { key: "c", kind: "cut-seen", what: "the board cut the charge" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
