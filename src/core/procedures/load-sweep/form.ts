import type { ProcedureForm } from "../contract";
import { record } from "./record";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const loadSweepForm = {
  summary: "Output voltage, efficiency and the highest load held, at a full, a nominal and a nearly empty battery.",
  record,
  silences: {
    "boost.no-load-voltage": {
      roles: ["outputVoltage"],
      otherwise: ["not-in-log", "No point was recorded without a load."],
    },
    "boost.peak-efficiency": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      otherwise: ["not-in-log", "No point under load holds all four readings."],
    },
    "boost.peak-efficiency-current": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      otherwise: ["not-in-log", "No point under load holds all four readings."],
    },
    "boost.lowest-efficiency": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No point in regulation holds all four readings."],
    },
    "boost.max-current": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No point under load was held."],
    },
    "boost.collapse-current": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "The output did not leave its band."],
    },
    "boost.load-regulation": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No load was held at that battery voltage besides no load."],
    },
    "boost.output-resistance": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "Too few points in regulation."],
    },
    "boost.line-regulation": {
      roles: ["batteryVoltage", "outputVoltage"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "Fewer than two battery voltages held a common load."],
    },
    "boost.start-current": {
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No load was started from off."],
    },
    "boost.start-voltage": {
      roles: ["batteryVoltage", "outputVoltage"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No load was started from several battery voltages."],
    },
    "boost.input-current-limit": {
      roles: ["batteryCurrent"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No collapse shows a limit of the battery current."],
    },
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
    {
      condition: "supplyCurrentLimit",
      label: "Supply current limit, if known",
      unit: "A",
      required: false,
      aboveZero: true,
    },
    {
      condition: "inputLeadResistance",
      label: "Battery leads, both wires",
      unit: "Ω",
      required: false,
      first: 0,
      aboveZero: false,
    },
    {
      condition: "outputLeadResistance",
      label: "Load leads, both wires",
      unit: "Ω",
      required: false,
      first: 0,
      aboveZero: false,
    },
  ],
} satisfies ProcedureForm;
