import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const lightLoadForm = {
  summary:
    "The load is lowered step by step until the output switches itself off: below which current, after how long, and which resistor keeps it on.",
  silences: {
    "standby.auto-off-current": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The output did not switch itself off."],
    },
    "standby.auto-off-delay": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The output did not switch itself off."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    { condition: "usableCapacity", label: "Usable capacity of the cell", unit: "Ah", required: false, aboveZero: true },
  ],
} satisfies ProcedureForm;
