import type { BenchProcedure, Caution, RunSetup, StopRule, WiringSketch } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseBehaviour } from "./analyse";
import { groupOf } from "./items";
import { BEHAVIOUR_FIELDS, behaviourRemarks, itemsOf, planBehaviour, type BehaviourPlan } from "./plan";

export { ACTIONS } from "./items";
export type { BehaviourPlan } from "./plan";

const cautions = (): Caution[] => [
  {
    severity: "danger",
    text: "A current-limited supply plays the battery, also the dead one: never a real dead cell, it must not be charged.",
  },
  { severity: "danger", text: "Polarity is checked with a meter before the supply touches the board." },
  {
    severity: "care",
    text: "While the input charges, the supply can't take current in: load it with more than the charge current, or put a sound cell there for the lights.",
  },
  { severity: "care", text: "Enter what you see, not what should happen. Skip an item that can't be tried." },
];

const wiring = (): WiringSketch => ({
  devices: [
    {
      id: "supply",
      kind: "supply",
      title: "Supply as battery",
      lines: ["limit 0.5 A", "voltage as asked"],
      right: ["+", "−"],
    },
    {
      id: "module",
      kind: "module",
      title: "Module",
      lines: ["input: plugged as asked"],
      left: ["B+", "B−"],
      right: ["OUT+", "OUT−"],
    },
    { id: "load", kind: "load", title: "Small load", lines: ["such as 100 Ω"], left: ["+", "−"] },
  ],
  gaps: [
    { ammeter: null, voltmeter: "battery voltage", clips: "right", note: "for the gauge" },
    { ammeter: null, voltmeter: "output voltage", clips: "left", note: "on or off?" },
  ],
  notes: ["An output light doesn't prove that the output is on: measure its voltage."],
});

const stopRules = (setup: RunSetup<BehaviourPlan>): StopRule[] => {
  void setup;
  return [];
};

/** What each press, plug and state of the board leads to, against what was printed. */
export const behaviour: BenchProcedure<BehaviourPlan> = {
  id: "behaviour",
  version: PROCEDURE_FACTS.behaviour.version,
  title: procedureTitle("behaviour"),
  summary:
    "What each press, plug and light does, with no, a removed and a dead cell among them; where the gauge steps and whether it follows the battery; cables, wake-up, jumper, marks and joints.",
  readings: PROCEDURE_FACTS.behaviour.readings,
  destructive: false,
  position: 95,
  work: [{ minutes: 20, needs: ["hands", "supply"] }],
  calledForBy: ["charger", "protection", "boost", "power-path"],
  measures: ["behaviour.response", "behaviour.gauge-step"],
  silences: {
    "behaviour.response": { otherwise: ["did-not-happen", "No item of the checklist was answered."] },
    "behaviour.gauge-step": { otherwise: ["did-not-happen", "The gauge was not read at two voltages."] },
  },
  headline: ["behaviour.response"],
  record: { roles: [{ role: "batteryVoltage", required: false }], derived: [] },
  asks: [],
  plan: planBehaviour,
  planFor: ({ plan, conditions, characteristic }) => {
    const action = conditions.action && "word" in conditions.action ? conditions.action.word : null;
    const group = characteristic === "behaviour.gauge-step" ? "gauge" : groupOf(action);
    return group && !plan.groups.includes(group) ? { groups: [...plan.groups, group] } : {};
  },
  fields: BEHAVIOUR_FIELDS,
  remarks: behaviourRemarks,
  roles: () => ["batteryVoltage"],
  items: itemsOf,
  wiring,
  cautions,
  stopRules,
  analyse: analyseBehaviour,
};
