import { GuidedWatch } from "../guided";
import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseRamp } from "./analyse";
import { rampCautions, rampStopRules, rampWiring } from "./cautions";
import { RampGuide } from "./guide";
import { likeness } from "./likeness";
import { RampSeen } from "./live";
import { followRamp, planRamp, RAMP_FIELDS, rampRemarks, rampRoles, type RampPlan } from "./plan";

export { reach, type RampPlan } from "./plan";

/** A slow ramp of the battery or the cell volts past the protection's thresholds and back. */
export const thresholdRamp: BenchProcedure<RampPlan> = {
  id: "threshold-ramp",
  version: PROCEDURE_FACTS["threshold-ramp"].version,
  title: procedureTitle("threshold-ramp"),
  summary:
    "The battery is ramped down until the module cuts it off and up until it comes back (or the cell up and down): where, how really, and what still flows.",
  readings: PROCEDURE_FACTS["threshold-ramp"].readings,
  destructive: false,
  position: 60,
  work: [{ minutes: 10, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["protection", "boost", "power-path", "charger"],
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
  headline: [
    "protect.over-discharge-present",
    "protect.over-discharge-voltage",
    "protect.over-charge-voltage",
    "boost.dropout-voltage",
  ],
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
  measures: [
    "protect.over-discharge-present",
    "protect.over-discharge-voltage",
    "protect.over-discharge-release",
    "protect.residual-current",
    "protect.over-charge-voltage",
    "protect.over-charge-release",
    "boost.dropout-voltage",
  ],
  plan: planRamp,
  planFor: ({ plan, characteristic, unfair }) => ({
    way: characteristic.startsWith("protect.over-charge") ? "charge" : "discharge",
    ...(unfair.includes("no-preload") ? { preload: 1.3 * plan.chargeCurrent } : {}),
    ...(unfair.includes("grounds-joined") ? { groundsJoined: false } : {}),
  }),
  fields: RAMP_FIELDS,
  remarks: rampRemarks,
  follows: followRamp,
  roles: rampRoles,
  marks: [
    { key: "l", kind: "load-off", what: "load removed" },
    { key: "j", kind: "charger-on", what: "charger plugged in" },
  ],
  wiring: rampWiring,
  cautions: rampCautions,
  stopRules: rampStopRules,
  watch: (setup) => new GuidedWatch(new RampGuide(setup), new RampSeen(setup)),
  guide: (setup) => new RampGuide(setup),
  likeness,
  analyse: analyseRamp,
};
