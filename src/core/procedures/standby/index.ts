import { GuidedWatch } from "../guided";
import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
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
export const standby: BenchProcedure<StandbyPlan> = {
  id: "standby",
  version: PROCEDURE_FACTS.standby.version,
  title: procedureTitle("standby"),
  summary: "Battery current in each idle state as a mean over its wake pulses, and how long the cell lasts at it.",
  readings: PROCEDURE_FACTS.standby.readings,
  destructive: false,
  position: 70,
  work: [{ minutes: 15, needs: ["hands", "supply", "logger"] }],
  calledForBy: ["protection", "boost", "charger"],
  silences: {
    "standby.current": {
      roles: ["batteryCurrent"],
      otherwise: ["not-in-log", "No idle state was logged for long enough."],
    },
    "standby.life": {
      condition: "usableCapacity",
      otherwise: ["not-in-log", "No idle state was logged for long enough."],
    },
  },
  headline: ["standby.current", "standby.life"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "outputVoltage", required: false },
    ],
    derived: [],
  },
  asks: [
    { condition: "usableCapacity", label: "Usable capacity of the cell", unit: "Ah", required: false, aboveZero: true },
    {
      condition: "cellSelfDischargeCurrent",
      label: "Its self-discharge, as a current",
      unit: "A",
      required: false,
      aboveZero: false,
    },
  ],
  measures: ["standby.current", "standby.life"],
  chooses: [
    {
      condition: "state",
      label: "State",
      of: [
        { value: "no-load", label: "output on, no load" },
        { value: "output-off", label: "output switched off" },
        { value: "auto-off", label: "switched itself off" },
        { value: "cut-off", label: "cut off by its protection" },
      ],
    },
  ],
  plan: planStandby,
  planFor: ({ plan, conditions }) => {
    const state = conditions.state && "word" in conditions.state ? (conditions.state.word as StandbyState) : null;
    return state && !plan.states.includes(state) ? { states: [...plan.states, state] } : {};
  },
  fields: STANDBY_FIELDS,
  takes: "cell",
  withCell: standbyOf,
  remarks: standbyRemarks,
  roles: () => STANDBY_ROLES,
  marks: [
    { key: "i", kind: "state:no-load", what: "output on, no load" },
    { key: "g", kind: "state:output-off", what: "output switched off" },
    { key: "h", kind: "state:auto-off", what: "output has switched itself off" },
    { key: "j", kind: "state:cut-off", what: "battery cut off" },
    { key: "q", kind: "state:end", what: "end of that state" },
  ],
  wiring: standbyWiring,
  cautions: standbyCautions,
  stopRules: standbyStopRules,
  watch: (setup) => new GuidedWatch(new StandbyGuide(setup), new StandbySeen()),
  guide: (setup) => new StandbyGuide(setup),
  likeness,
  analyse: analyseStandby,
};
