import type { ProcedureFacts, ProcedureForm, TraceProcedure } from "../contract";

/** What is known of it apart from its code. */
export const packChargeFacts = {
  id: "pack-charge",
  version: 5,
  title: "Pack charge",
  summary:
    "Cells in series behind one board, each of them logged: which cell cut the charge and at what, whether the pack was full, when it was allowed again, and which cell ends the discharge.",
  readings: "trace",
  destructive: false,
  position: 45,
  work: [
    { minutes: 15, needs: ["hands", "supply", "logger"] },
    { minutes: 225, needs: ["supply", "logger"] },
  ],
  calledForBy: ["balancer"],
  measures: [
    "behaviour.response",
    "pack.cutoff-cell-voltage",
    "pack.current-at-cutoff",
    "pack.release-cell-voltage",
    "pack.spread-at-cutoff",
    "pack.low-cutoff-cell-voltage",
    "pack.voltage-at-cutoff",
    "pack.charge-at-cutoff",
    "pack.rebound",
    "pack.missing-charge",
  ],
  headline: ["pack.cutoff-cell-voltage", "pack.spread-at-cutoff"],
  takes: "pack",
  charges: true,
  onPaper: 4,
} as const satisfies ProcedureFacts;

/** What it records and asks for, and why it may stay silent. */
export const packChargeForm = {
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
