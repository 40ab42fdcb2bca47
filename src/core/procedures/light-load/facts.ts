import type { ProcedureFacts, ProcedureForm } from "../contract";

/** What is known of it apart from its code. */
export const lightLoadFacts = {
  id: "light-load",
  version: 2,
  title: "Light load",
  summary:
    "The load is lowered step by step until the output switches itself off: below which current, after how long, and which resistor keeps it on.",
  readings: "trace",
  destructive: false,
  position: 72,
  work: [{ minutes: 20, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["boost"],
  measures: ["standby.auto-off-current", "standby.auto-off-delay"],
  headline: ["standby.auto-off-current", "standby.auto-off-delay"],
} as const satisfies ProcedureFacts;

/** What it records and asks for, and why it may stay silent. */
export const lightLoadForm = {
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
