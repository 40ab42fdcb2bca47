import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../guided";
import type { BenchProcedure, Caution, RunSetup, StopRule, WiringSketch } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
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
export const overload: BenchProcedure<OverloadPlan> = {
  id: "overload",
  version: PROCEDURE_FACTS.overload.version,
  title: procedureTitle("overload"),
  summary:
    "The load is raised until the module limits or trips. Then the output is shorted several times, from a limited supply: current and recovery.",
  readings: PROCEDURE_FACTS.overload.readings,
  destructive: false,
  position: 80,
  work: [{ minutes: 5, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["protection", "boost", "power-path"],
  silences: {
    "protect.over-current": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The load was not raised to a limit or a trip."],
    },
    "protect.short-current": {
      roles: ["batteryCurrent"],
      otherwise: ["did-not-happen", "The output was not shorted."],
    },
    "protect.short-peak": { roles: ["batteryCurrent"], otherwise: ["did-not-happen", "The output was not shorted."] },
    "protect.short-present": {
      roles: ["batteryCurrent"],
      otherwise: ["did-not-happen", "The output was not shorted."],
    },
    "protect.short-recovery": { otherwise: ["did-not-happen", "The output was not shorted."] },
  },
  headline: ["protect.over-current", "protect.short-present", "protect.short-current", "protect.short-recovery"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryCurrent", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "partTemperature", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    { condition: "supplyCurrentLimit", label: "Supply current limit", unit: "A", required: true, aboveZero: true },
  ],
  measures: [
    "protect.over-current",
    "protect.short-current",
    "protect.short-peak",
    "protect.short-present",
    "protect.short-recovery",
  ],
  plan: planOverload,
  planFor: ({ characteristic }) => (characteristic.startsWith("protect.short") ? { shorts: true } : {}),
  fields: OVERLOAD_FIELDS,
  remarks: overloadRemarks,
  roles: () => OVERLOAD_ROLES,
  marks: [
    { key: "h", kind: "short-on", what: "short" },
    { key: "j", kind: "short-off", what: "short removed" },
    { key: "l", kind: "load-off", what: "load removed" },
    { key: "d", kind: "supply-off", what: "supply switched off" },
    { key: "w", kind: "supply-on", what: "supply switched on" },
  ],
  wiring,
  cautions,
  stopRules,
  watch: (setup) => new GuidedWatch(new OverloadGuide(setup), new OverloadSeen(setup)),
  guide: (setup) => new OverloadGuide(setup),
  likeness,
  analyse: analyseOverload,
};
