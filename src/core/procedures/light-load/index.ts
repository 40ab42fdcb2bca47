import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { lightLoadFacts } from "./facts";
import { lightLoadForm } from "./form";
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
export const lightLoad: AtBench<TraceProcedure<LightLoadPlan>> = {
  ...lightLoadFacts,
  ...lightLoadForm,
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
