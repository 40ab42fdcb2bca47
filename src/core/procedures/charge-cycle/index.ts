import type { BenchProcedure } from "../shape";
import { PROCEDURE_FACTS } from "../versions";
import { analyseCharge } from "./analyse";
import { chargeCautions, chargeStopRules, chargeWiring } from "./cautions";
import { ChargeWatch } from "./live";
import { planCharge, type ChargePlan } from "./plan";

export { ChargeStream, type ChargeEvent, type ChargeEventKind, type ChargeSample } from "./stream";
export { findPhases, type Phases } from "./phases";
export { CHARGE_ROLES, checkChargePlan, forecastFor, type ChargePlan } from "./plan";
export { ChargeWatch } from "./live";

/** A charge of one cell, logged to the end and past it. */
export const chargeCycle: BenchProcedure<ChargePlan> = {
  id: "charge-cycle",
  version: PROCEDURE_FACTS["charge-cycle"].version,
  title: "Charge cycle",
  summary: "From the first current to the rest after it: current, voltages, times, charge, efficiency and heat.",
  readings: PROCEDURE_FACTS["charge-cycle"].readings,
  destructive: false,
  position: 30,
  minutes: 180,
  calledForBy: ["charger"],
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
    { condition: "programmedCurrent", label: "Programmed current, if known", unit: "A", required: false, claim: "charge.cc-current", aboveZero: true },
    { condition: "cellCapacity", label: "Cell capacity, if known", unit: "Ah", required: false, aboveZero: true },
    { condition: "ambientTemperature", label: "Ambient, where no column has it", unit: "°C", required: false, aboveZero: false },
  ],
  measures: [
    "charge.precharge-current",
    "charge.precharge-threshold",
    "charge.cc-current",
    "charge.cc-end-voltage",
    "charge.cc-duration",
    "charge.cv-voltage",
    "charge.termination-current",
    "charge.termination-voltage",
    "charge.rest-voltage",
    "charge.total-time",
    "charge.capacity",
    "charge.energy-delivered",
    "charge.energy-drawn",
    "charge.efficiency",
    "charge.input-sag",
    "charge.peak-dissipation",
    "charge.peak-temperature-rise",
    "charge.foldback-onset-temperature",
    "charge.recharge-threshold",
    "channels.done-voltage",
    "channels.done-current",
    "channels.voltage-spread",
    "channels.early-time",
    "channels.early-charge",
  ],
  plan: planCharge,
  marks: [
    { key: "l", kind: "light", what: "indicator changes" },
    { key: "b", kind: "press", what: "button pressed" },
  ],
  wiring: chargeWiring,
  cautions: chargeCautions,
  stopRules: chargeStopRules,
  watch: (setup) => new ChargeWatch(setup),
  analyse: analyseCharge,
};
