import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const thresholdRampForm = {
  summary:
    "The battery is ramped down until the module cuts it off and up until it comes back (or the cell up and down): where, how really, and what still flows.",
  silences: {
    "protect.over-discharge-present": {
      roles: ["batteryVoltage", "batteryCurrent"],
      otherwise: ["did-not-happen", "The battery voltage was not lowered to a cut-off."],
    },
    "protect.over-discharge-voltage": {
      roles: ["batteryVoltage", "batteryCurrent"],
      otherwise: ["did-not-happen", "The module did not disconnect its battery."],
    },
    "protect.over-discharge-release": {
      roles: ["batteryVoltage", "batteryCurrent"],
      otherwise: ["did-not-happen", "The module did not connect its battery again."],
    },
    "protect.residual-current": {
      roles: ["batteryCurrent"],
      otherwise: ["did-not-happen", "The module did not disconnect its battery."],
    },
    "protect.over-charge-voltage": {
      roles: ["cellVoltage", "cellCurrent"],
      otherwise: ["did-not-happen", "Charging was not cut off."],
    },
    "protect.over-charge-release": {
      roles: ["cellVoltage", "cellCurrent"],
      otherwise: ["did-not-happen", "Charging was not allowed again."],
    },
    "boost.dropout-voltage": {
      roles: ["batteryVoltage", "outputVoltage"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "The output did not leave its band."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
      { role: "outputVoltage", required: false },
      { role: "outputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
      { role: "partTemperature", required: false },
    ],
    either: [
      ["batteryVoltage", "batteryCurrent"],
      ["cellVoltage", "cellCurrent"],
    ],
    derived: [],
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output, for the dropout",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    { condition: "supplyCurrentLimit", label: "Supply current limit", unit: "A", required: false, aboveZero: true },
    {
      condition: "inputLeadResistance",
      label: "Battery leads, both together, if read at their far ends",
      unit: "Ω",
      required: false,
      aboveZero: false,
    },
  ],
  marks: [
    { key: "l", kind: "load-off", what: "load removed" },
    { key: "j", kind: "charger-on", what: "charger plugged in" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
