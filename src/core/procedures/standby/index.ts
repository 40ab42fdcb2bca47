import { GuidedWatch } from "../kit/guided";
import type { AtBench, TraceProcedure } from "../contract";
import { standbyFacts } from "./facts";
import { standbyForm } from "./form";
import { analyseStandby } from "./analyse";
import { standbyCautions, standbyStopRules, standbyWiring } from "./cautions";
import { StandbyGuide, StandbySeen } from "./guide";
import { likeness } from "./likeness";
import {
  planStandby,
  STANDBY_FIELDS,
  standbyOf,
  standbyRemarks,
  STANDBY_ROLES,
  type StandbyPlan,
  type StandbyState,
} from "./plan";

export { STANDBY_STATES, type StandbyPlan, type StandbyState } from "./plan";

/** What a module draws from its battery while it does nothing, in each of its idle states. */
export const standby: AtBench<TraceProcedure<StandbyPlan>> = {
  ...standbyFacts,
  ...standbyForm,
  plan: planStandby,
  planFor: ({ plan, conditions }) => {
    const state = conditions.state && "word" in conditions.state ? (conditions.state.word as StandbyState) : null;
    return state && !plan.states.includes(state) ? { states: [...plan.states, state] } : {};
  },
  fields: STANDBY_FIELDS,
  withCell: standbyOf,
  remarks: standbyRemarks,
  roles: () => STANDBY_ROLES,
  wiring: standbyWiring,
  cautions: standbyCautions,
  stopRules: standbyStopRules,
  watch: (setup) => new GuidedWatch(new StandbyGuide(setup), new StandbySeen()),
  guide: (setup) => new StandbyGuide(setup),
  likeness,
  analyse: analyseStandby,
};
