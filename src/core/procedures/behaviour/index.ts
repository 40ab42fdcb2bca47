import type { AnswersProcedure, AtBench, Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { behaviourFacts } from "./facts";
import { behaviourForm } from "./form";
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
export const behaviour: AtBench<AnswersProcedure<BehaviourPlan>> = {
  ...behaviourFacts,
  ...behaviourForm,
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
