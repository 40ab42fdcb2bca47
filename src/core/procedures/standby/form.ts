import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const standbyForm = {
  summary: "Battery current in each idle state as a mean over its wake pulses, and how long the cell lasts at it.",
  silences: {
    "standby.current": {
      roles: ["batteryCurrent"],
      otherwise: ["not-in-log", "No idle state was logged for long enough."],
    },
    "standby.life": {
      condition: "usableCapacity",
      otherwise: ["not-in-log", "No idle state was logged for long enough."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "outputVoltage", required: false },
    ],
    derived: [],
  },
  asks: [
    { condition: "usableCapacity", label: "Usable capacity of the cell", unit: "Ah", required: false, aboveZero: true },
    {
      condition: "cellSelfDischargeCurrent",
      label: "Its self-discharge, as a current",
      unit: "A",
      required: false,
      aboveZero: false,
    },
  ],
  chooses: [
    {
      condition: "state",
      label: "State",
      of: [
        { value: "no-load", label: "output on, no load" },
        { value: "output-off", label: "output switched off" },
        { value: "auto-off", label: "switched itself off" },
        { value: "cut-off", label: "cut off by its protection" },
      ],
    },
  ],
  marks: [
    { key: "i", kind: "state:no-load", what: "output on, no load" },
    { key: "g", kind: "state:output-off", what: "output switched off" },
    { key: "h", kind: "state:auto-off", what: "output has switched itself off" },
    { key: "j", kind: "state:cut-off", what: "battery cut off" },
    { key: "q", kind: "state:end", what: "end of that state" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
