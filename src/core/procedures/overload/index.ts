import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { overloadFacts } from "./facts";
import { overloadForm } from "./form";
import { analyseOverload } from "./analyse";
import { OverloadGuide, OverloadSeen } from "./guide";
import { likeness } from "./likeness";
import { limitOf, OVERLOAD_FIELDS, OVERLOAD_ROLES, overloadRemarks, planOverload, type OverloadPlan } from "./plan";

export type { OverloadPlan } from "./plan";
const q = formatQuantity;

const cautions = (setup: RunSetup<OverloadPlan>): Caution[] => [
  { severity: "danger", text: "Never short a real cell: only a current-limited supply plays the battery here." },
  {
    severity: "danger",
    text: `Set the supply's limit to ${q(limitOf(setup), "A")} and check it with its own output shorted, before the module is connected.`,
  },
  { severity: "danger", text: "Wear eye protection: parts can burst. Put the board on a surface that can't burn." },
  { severity: "danger", text: "Check the polarity at B+ and B− with a meter before the supply touches the board." },
  {
    severity: "care",
    text: "Do this after everything that must not be disturbed: standby and efficiency are measured before.",
  },
  { severity: "care", text: "Hands off the part and the leads during a short; they get hot within a second." },
];

function stopRules(setup: RunSetup<OverloadPlan>): StopRule[] {
  const { plan, conditions } = setup;
  const part = plan?.partLimit ?? conditions.partLimitTemperature ?? 85;
  const limit = limitOf(setup);
  const nominal = conditions.nominalOutput;
  const time = plan?.timeLimit ?? 3600;
  return [
    {
      role: "partTemperature",
      above: part,
      why: `The part is above ${q(part, "°C")}.`,
      act: "Open the short first, then switch the supply off.",
    },
    {
      role: "batteryCurrent",
      above: 2 * limit,
      why: `The supply gives more than twice its limit of ${q(limit, "A")}.`,
      act: "Switch the supply off first: its limit doesn't work.",
    },
    ...(nominal
      ? [
          {
            role: "outputVoltage" as const,
            above: 1.2 * nominal,
            why: `The output is more than 20 % over ${q(nominal, "V")}.`,
            act: "Switch the supply off first.",
          },
        ]
      : []),
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Open the short, remove the load, switch the supply off.",
    },
  ];
}

function wiring(setup: RunSetup<OverloadPlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as the battery",
        lines: plan ? [q(plan.battery, "V"), `limit ${q(limitOf(setup), "A")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: ["on a surface", "that can't burn"],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
      {
        id: "load",
        kind: "load",
        title: "Load, and a short",
        lines: plan
          ? [`${q(plan.from, "A")} to ${q(plan.most, "A")}`, ...(plan.shorts ? ["a switch across it"] : [])]
          : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: "battery current", voltmeter: "battery voltage", clips: "right", note: "clip on at B+ and B−" },
      { ammeter: "load current", voltmeter: "output voltage", clips: "left", note: "clip on at OUT+ and OUT−" },
    ],
    notes: [
      "Short with a switch or a thick wire across OUT+ and OUT−, not through the load's ammeter.",
      "Set the supply's limit above the current of the claimed trip, or you test the supply.",
    ],
  };
}

/** The load raised until the module limits or trips, then shorts from a limited supply. */
export const overload: AtBench<TraceProcedure<OverloadPlan>> = {
  ...overloadFacts,
  ...overloadForm,
  plan: planOverload,
  planFor: ({ characteristic }) => (characteristic.startsWith("protect.short") ? { shorts: true } : {}),
  fields: OVERLOAD_FIELDS,
  remarks: overloadRemarks,
  roles: () => OVERLOAD_ROLES,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => new GuidedWatch(new OverloadGuide(setup), new OverloadSeen(setup)),
  guide: (setup) => new OverloadGuide(setup),
  likeness,
  analyse: analyseOverload,
};
