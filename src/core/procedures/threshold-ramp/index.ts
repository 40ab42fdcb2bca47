import { GuidedWatch } from "../kit/guided";
import type { AtBench, TraceProcedure } from "../contract";
import { thresholdRampFacts } from "./facts";
import { thresholdRampForm } from "./form";
import { analyseRamp } from "./analyse";
import { rampCautions, rampStopRules, rampWiring } from "./cautions";
import { RampGuide } from "./guide";
import { likeness } from "./likeness";
import { RampSeen } from "./live";
import { followRamp, planRamp, RAMP_FIELDS, rampRemarks, rampRoles, type RampPlan } from "./plan";

export { reach, type RampPlan } from "./plan";

/** A slow ramp of the battery or the cell volts past the protection's thresholds and back. */
export const thresholdRamp: AtBench<TraceProcedure<RampPlan>> = {
  ...thresholdRampFacts,
  ...thresholdRampForm,
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
  wiring: rampWiring,
  cautions: rampCautions,
  stopRules: rampStopRules,
  watch: (setup) => new GuidedWatch(new RampGuide(setup), new RampSeen(setup)),
  guide: (setup) => new RampGuide(setup),
  likeness,
  analyse: analyseRamp,
};
