import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const meterCheckForm = {
  summary:
    "Two meters on the same point over several currents: their offset, the lead resistance between them, and the correction for later runs on this bench.",
  silences: {
    "meter.offset": { otherwise: ["not-in-log", "The two meters were not read on one point."] },
    "meter.lead-resistance": { otherwise: ["not-in-log", "The two voltmeters were not read at several currents."] },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "referenceVoltage", required: false },
      { role: "referenceCurrent", required: false },
      { role: "outputVoltage", required: false },
      { role: "outputCurrent", required: false },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
    ],
    either: [["referenceVoltage"], ["referenceCurrent"]],
    derived: [],
  },
  asks: [],
} satisfies ProcedureForm;
