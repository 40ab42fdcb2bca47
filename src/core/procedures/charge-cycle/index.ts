import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseCharge } from "./analyse";
import { chargeCautions, chargeStopRules, chargeWiring } from "./cautions";
import { likeness } from "./likeness";
import { ChargeWatch } from "./live";
import { chargeMeasures } from "./measures";
import { CHARGE_CONDITIONS, CHARGE_FIELDS } from "./fields";
import {
  chargeFigures,
  chargeOf,
  chargeWork,
  checkChargePlan,
  planCharge,
  predictCharge,
  type ChargePlan,
} from "./plan";

export { ChargeStream, type ChargeEvent, type ChargeEventKind, type ChargeSample } from "./stream";
export { findPhases, type Phases } from "./phases";
export { CHARGE_ROLES, checkChargePlan, forecastFor, predictCharge, type ChargePlan } from "./plan";
export { ChargeWatch } from "./live";

/** A charge of one cell, logged to the end and past it. */
export const chargeCycle: BenchProcedure<ChargePlan> = {
  id: "charge-cycle",
  version: PROCEDURE_FACTS["charge-cycle"].version,
  title: procedureTitle("charge-cycle"),
  summary: "From the first current to the rest after it: current, voltages, times, charge, efficiency and heat.",
  readings: PROCEDURE_FACTS["charge-cycle"].readings,
  destructive: false,
  position: 30,
  work: [
    { minutes: 15, needs: ["hands", "supply", "logger"] },
    { minutes: 165, needs: ["supply", "logger"] },
  ],
  calledForBy: ["charger"],
  silences: {
    "charge.precharge-current": { otherwise: ["not-in-log", "The log doesn't show a pre-charge."] },
    "charge.precharge-threshold": { otherwise: ["not-in-log", "The log doesn't show the end of a pre-charge."] },
    "charge.cc-current": { otherwise: ["not-in-log", "The log doesn't show the constant-current phase."] },
    "charge.cc-end-voltage": { otherwise: ["not-in-log", "The log doesn't show the change to constant voltage."] },
    "charge.cc-duration": {
      otherwise: ["not-in-log", "The log doesn't show the constant-current phase from its start to its end."],
    },
    "charge.cv-voltage": { otherwise: ["did-not-happen", "No constant-voltage phase was seen."] },
    "charge.termination-current": { otherwise: ["not-in-log", "The log doesn't show the end of the charge."] },
    "charge.termination-voltage": { otherwise: ["not-in-log", "The log doesn't show the end of the charge."] },
    "charge.rest-voltage": { otherwise: ["not-in-log", "The log doesn't show a rest after the end."] },
    "charge.total-time": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.capacity": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.partial-capacity": { otherwise: ["did-not-happen", "The log covers the whole charge."] },
    "charge.interruptions": { otherwise: ["did-not-happen", "The charge was not interrupted."] },
    "charge.paused-time": { otherwise: ["did-not-happen", "The charge did not resume after an interruption."] },
    "charge.energy-delivered": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.energy-drawn": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log doesn't cover the whole charge."],
    },
    "charge.efficiency": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log doesn't cover the whole charge."],
    },
    "charge.input-sag": {
      roles: ["inputVoltage"],
      otherwise: ["not-in-log", "The log does not show the input both unloaded and while charging."],
    },
    "charge.peak-dissipation": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log has less than a minute of charging."],
    },
    "charge.peak-temperature-rise": {
      roles: ["partTemperature"],
      condition: "ambientTemperature",
      otherwise: ["not-in-log", "The log doesn't show a charge."],
    },
    "charge.foldback-onset-temperature": {
      roles: ["partTemperature"],
      otherwise: ["did-not-happen", "The charger did not cut its own current because of heat."],
    },
    "charge.recharge-threshold": { otherwise: ["did-not-happen", "Charging did not begin again in the log."] },
    "channels.done-voltage": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.done-current": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.voltage-spread": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.early-time": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.early-charge": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
  },
  headline: ["charge.cc-current", "charge.cv-voltage"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: true },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "partTemperature", required: false },
      { role: "cellTemperature", required: false },
      { role: "ambientTemperature", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "programmedCurrent",
      label: "Programmed current, if known",
      unit: "A",
      required: false,
      claim: "charge.cc-current",
      aboveZero: true,
    },
    { condition: "cellCapacity", label: "Cell capacity, if known", unit: "Ah", required: false, aboveZero: true },
    {
      condition: "ambientTemperature",
      label: "Ambient, where no column has it",
      unit: "°C",
      required: false,
      aboveZero: false,
    },
  ],
  measures: chargeMeasures,
  plan: planCharge,
  planFor: ({ plan, conditions, unfair, supplyMaximum }) => {
    const input = conditions.inputVoltage;
    const volts = input && ("at" in input ? input.at : "from" in input ? (input.from + input.to) / 2 : null);
    return {
      ...(volts ? { supplyVoltage: volts } : {}),
      // A shorter cable and a stronger supply.
      ...(unfair.includes("input-sagged")
        ? { cable: Math.min(plan.cable, 0.05), supplyLimit: Math.max(plan.supplyLimit, supplyMaximum) }
        : {}),
    };
  },
  marks: [
    { key: "l", kind: "light", what: "indicator changes" },
    { key: "b", kind: "press", what: "button pressed" },
    { key: "p", kind: "unplugged", what: "input unplugged" },
    { key: "q", kind: "cell-out", what: "cell removed" },
    { key: "d", kind: "ended", what: "charge ended" },
  ],
  fields: CHARGE_FIELDS,
  conditionFields: CHARGE_CONDITIONS,
  remarks: checkChargePlan,
  takes: "cell",
  withCell: chargeOf,
  charges: PROCEDURE_FACTS["charge-cycle"].charges,
  programmed: true,
  usualMeters: true,
  wiring: chargeWiring,
  cautions: chargeCautions,
  stopRules: chargeStopRules,
  watch: (setup) => new ChargeWatch(setup),
  likeness,
  workFor: chargeWork,
  predicts: predictCharge,
  forecast: chargeFigures,
  analyse: analyseCharge,
};
