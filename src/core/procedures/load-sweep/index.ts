import { loadSweepFacts } from "./facts";
import { loadSweepForm } from "./form";
import type { AtBench, PointsProcedure } from "../contract";
import { analyseSweep } from "./analyse";
import { sweepCautions, sweepStopRules } from "./cautions";
import { checkSweepPoint } from "./check";
import { nextSweepStep } from "./guide";
import { likeness } from "./likeness";
import { SWEEP_CONDITIONS, SWEEP_FIELDS } from "./fields";
import { planSweep, sweepRemarks, sweepWork, wantedKinds, wantedStart, type SweepPlan } from "./plan";
import { sweepWiring } from "./setup";

export { chooseLoads, type LoadResistor, type LoadChoice } from "./resistors";
export { loadLadder, supplyNeeds, type SweepPlan } from "./plan";
export { analyseSweep } from "./analyse";
export { efficiencyAt, fitLossModel, lossAt, type LossModel } from "./loss-model";

export const loadSweep: AtBench<PointsProcedure<SweepPlan>> = {
  ...loadSweepFacts,
  ...loadSweepForm,
  workFor: sweepWork,
  plan: planSweep,
  fields: SWEEP_FIELDS,
  conditionFields: SWEEP_CONDITIONS,
  remarks: sweepRemarks,
  planFor: ({ characteristic, conditions, plan }) =>
    characteristic === "boost.start-current"
      ? {
          starts: true,
          startKinds: plan.drawer ? ["resistance"] : wantedKinds([{ readings: [{ characteristic, conditions }] }]),
        }
      : characteristic === "boost.start-voltage"
        ? {
            startLoad: wantedStart(
              [{ readings: [{ characteristic, conditions }] }],
              [characteristic],
              plan.claimedMaximum,
            ),
          }
        : {},
  wiring: sweepWiring,
  cautions: sweepCautions,
  stopRules: sweepStopRules,
  next: nextSweepStep,
  check: checkSweepPoint,
  likeness,
  analyse: analyseSweep,
};
