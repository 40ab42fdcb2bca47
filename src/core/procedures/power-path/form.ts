import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const powerPathForm = {
  summary:
    "Output while the input is plugged and unplugged under load: dip, overshoot, time out of band. Charging while a load runs: the three currents, and whether the charge ends.",
  silences: {
    "path.output-voltage": { roles: ["outputVoltage"], otherwise: ["not-in-log", "The log holds no settled output."] },
    "path.dip": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.overshoot": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.handover-time": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.charge-current": {
      roles: ["cellCurrent"],
      otherwise: ["not-in-log", "The log holds no stretch of charging at a steady load."],
    },
    "path.input-current": {
      roles: ["inputCurrent"],
      otherwise: ["not-in-log", "The log holds no stretch of charging at a steady load."],
    },
    "path.finishes-under-load": {
      roles: ["cellCurrent"],
      otherwise: ["not-in-log", "The log does not show whether charging ends while the load runs."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: false },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
      { role: "outputLow", required: false },
      { role: "outputHigh", required: false },
      { role: "outsideTime", required: false },
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
  ],
  marks: [
    { key: "p", kind: "plugged", what: "input plugged in" },
    { key: "w", kind: "unplugged", what: "input pulled" },
    { key: "l", kind: "done-light", what: "done light" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
