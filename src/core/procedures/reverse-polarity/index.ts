import { formatQuantity } from "../../quantities";
import type { AtBench, Caution, PointsProcedure, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { reversePolarityFacts } from "./facts";
import { reversePolarityForm } from "./form";
import { analyseReverse } from "./analyse";
import { checkReversePoint, nextReverseStep } from "./guide";
import { likeness } from "./likeness";
import { planReverse, REVERSE_FIELDS, REVERSE_ROLES, reverseRemarks, type ReversePlan } from "./plan";

export type { ReversePlan } from "./plan";
const q = formatQuantity;

const cautions = (setup: RunSetup<ReversePlan>): Caution[] => [
  {
    severity: "danger",
    text: "This can kill the board. Everything else that is to be measured on this sample is done.",
  },
  {
    severity: "danger",
    text: "No cell anywhere near: a current-limited supply plays the battery. A real cell is never reversed.",
  },
  {
    severity: "danger",
    text: `The ${q(setup.plan?.ohms ?? 33, "Ω")} resistor is in the wire before the leads are swapped, and rated for its heat.`,
  },
  { severity: "danger", text: "Wear eye protection: parts can burst." },
  { severity: "care", text: "Nothing that burns beneath the board, and nothing of value on its output or its input." },
];

function stopRules(setup: RunSetup<ReversePlan>): StopRule[] {
  const limit = setup.plan?.reverseLimit ?? 0.2;
  return [
    {
      role: "partTemperature",
      above: setup.plan?.partLimit ?? 85,
      why: `The part is above ${q(setup.plan?.partLimit ?? 85, "°C")}.`,
      act: "Switch the supply off at once.",
    },
    {
      role: "batteryCurrent",
      below: -1.2 * limit,
      why: `More than ${q(1.2 * limit, "A")} flow the wrong way: the supply's limit is not what it should be.`,
      act: "Switch the supply off at once.",
    },
  ];
}

function wiring(setup: RunSetup<ReversePlan>): WiringSketch {
  const { plan, conditions } = setup;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as battery",
        lines: plan ? [q(plan.battery, "V"), `reversed: limit ${q(plan.reverseLimit, "A")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: conditions.nominalOutput ? [`output ${q(conditions.nominalOutput, "V")}`] : [],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
      {
        id: "load",
        kind: "load",
        title: "Load",
        lines: plan ? [`none, then ${q(plan.load, "A")}`] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: "battery current", voltmeter: "battery voltage", clips: "right", note: "swapped when reversed" },
      { ammeter: "output current", voltmeter: "output voltage", clips: "left", note: "" },
    ],
    notes: [
      `To reverse it, + and − are swapped between supply and module${plan ? `, with ${q(plan.ohms, "Ω")} in the wire` : ""}.`,
      "Drawn the right way round, as before and after. The voltmeter stays on the module's terminals, behind the resistor: it then reads below zero.",
    ],
  };
}

/** Battery terminals reversed through a resistor, and whether the board lives. */
export const reversePolarity: AtBench<PointsProcedure<ReversePlan>> = {
  ...reversePolarityFacts,
  ...reversePolarityForm,
  plan: planReverse,
  planFor: ({ plan, unfair }) => (unfair.includes("supply-limit") ? { reverseLimit: 2 * plan.reverseLimit } : {}),
  fields: REVERSE_FIELDS,
  remarks: reverseRemarks,
  roles: () => REVERSE_ROLES,
  wiring,
  cautions,
  stopRules,
  next: nextReverseStep,
  check: checkReversePoint,
  likeness,
  analyse: analyseReverse,
};
