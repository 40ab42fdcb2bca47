import type { AtBench, TraceProcedure } from "../contract";
import { chargeAnswer } from "./answer";
import { chargeCycleFacts } from "./facts";
import { chargeCycleForm } from "./form";
import { analyseCharge } from "./analyse";
import { chargeCautions, chargeStopRules, chargeWiring } from "./cautions";
import { likeness } from "./likeness";
import { ChargeWatch } from "./live";
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
export const chargeCycle: AtBench<TraceProcedure<ChargePlan>> = {
  ...chargeCycleFacts,
  ...chargeCycleForm,
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
  fields: CHARGE_FIELDS,
  conditionFields: CHARGE_CONDITIONS,
  remarks: checkChargePlan,
  withCell: chargeOf,
  wiring: chargeWiring,
  cautions: chargeCautions,
  stopRules: chargeStopRules,
  watch: (setup) => new ChargeWatch(setup),
  likeness,
  workFor: chargeWork,
  predicts: predictCharge,
  forecast: chargeFigures,
  answer: chargeAnswer,
  analyse: analyseCharge,
};
