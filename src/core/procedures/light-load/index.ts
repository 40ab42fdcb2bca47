import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../guided";
import type { BenchProcedure, Caution, RunSetup, StopRule, WiringSketch } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseLightLoad } from "./analyse";
import { LightLoadGuide, LightLoadSeen } from "./guide";
import { likeness } from "./likeness";
import { LIGHT_FIELDS, LIGHT_ROLES, lightRemarks, planLightLoad, type LightLoadPlan } from "./plan";

export type { LightLoadPlan } from "./plan";
const q = formatQuantity;

const cautions = (): Caution[] => [
  {
    severity: "danger",
    text: "Check the polarity at B+ and B− with a meter before the supply touches the board: reversed polarity can destroy it at once.",
  },
  { severity: "care", text: "Use a fine range for a light load: an ampere range leaves only its last digits." },
  {
    severity: "care",
    text: "Disconnect a voltmeter that draws more than a milliamp from the output; it is a load too.",
  },
];

function stopRules(setup: RunSetup<LightLoadPlan>): StopRule[] {
  const nominal = setup.conditions.nominalOutput;
  const time = setup.plan?.timeLimit ?? 4 * 3600;
  return [
    ...(nominal
      ? [
          {
            role: "outputVoltage" as const,
            above: 1.2 * nominal,
            why: `The output is more than 20 % over ${q(nominal, "V")}: at light load it has lost its regulation.`,
            act: "Switch the supply off first.",
          },
        ]
      : []),
    {
      role: "partTemperature",
      above: setup.conditions.partLimitTemperature ?? 85,
      why: `The part is above ${q(setup.conditions.partLimitTemperature ?? 85, "°C")}.`,
      act: "Switch the supply off: a light load must not heat it.",
    },
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Remove the load, then the supply.",
    },
  ];
}

function wiring(setup: RunSetup<LightLoadPlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as the battery",
        lines: plan ? [q(plan.battery, "V"), `limit ${q(setup.conditions.supplyCurrentLimit ?? 1, "A")}`] : [],
        right: ["+", "−"],
      },
      { id: "module", kind: "module", title: "Module", lines: [], left: ["B+", "B−"], right: ["OUT+", "OUT−"] },
      {
        id: "load",
        kind: "load",
        title: "Load",
        lines: plan ? [`${q(plan.from, "A")} down to ${q(plan.least, "A")}`] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: "battery current", voltmeter: "battery voltage", clips: "right", note: "clip on at B+ and B−" },
      { ammeter: "load current", voltmeter: "output voltage", clips: "left", note: "clip on at OUT+ and OUT−" },
    ],
    notes: [
      "Resistors of 50 Ω to 5 kΩ do as loads; read the current, don't compute it.",
      "Press the board's button first if it needs one to switch its output on.",
    ],
  };
}

/** The load lowered step by step until the output switches itself off. */
export const lightLoad: BenchProcedure<LightLoadPlan> = {
  id: "light-load",
  version: PROCEDURE_FACTS["light-load"].version,
  title: procedureTitle("light-load"),
  summary:
    "The load is lowered step by step until the output switches itself off: below which current, after how long, and which resistor keeps it on.",
  readings: PROCEDURE_FACTS["light-load"].readings,
  destructive: false,
  position: 72,
  work: [{ minutes: 20, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["boost"],
  silences: {
    "standby.auto-off-current": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The output did not switch itself off."],
    },
    "standby.auto-off-delay": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The output did not switch itself off."],
    },
  },
  headline: ["standby.auto-off-current", "standby.auto-off-delay"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
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
    { condition: "usableCapacity", label: "Usable capacity of the cell", unit: "Ah", required: false, aboveZero: true },
  ],
  measures: ["standby.auto-off-current", "standby.auto-off-delay"],
  plan: planLightLoad,
  fields: LIGHT_FIELDS,
  remarks: lightRemarks,
  roles: () => LIGHT_ROLES,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => new GuidedWatch(new LightLoadGuide(setup), new LightLoadSeen()),
  guide: (setup) => new LightLoadGuide(setup),
  likeness,
  analyse: analyseLightLoad,
};
