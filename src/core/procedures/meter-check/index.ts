import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import { roleLabel, type RunSetup } from "../../measurement";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import { meterCheckFacts } from "./facts";
import { meterCheckForm } from "./form";
import { analyseMeterCheck } from "./analyse";
import { MeterCheckGuide, MeterCheckSeen } from "./guide";
import { likeness } from "./likeness";
import {
  CHECK_FIELDS,
  CURRENT_OF,
  checkRemarks,
  checkRoles,
  isCurrent,
  planMeterCheck,
  type MeterCheckPlan,
} from "./plan";

export type { MeterCheckPlan } from "./plan";
const q = formatQuantity;

const cautions = (): Caution[] => [
  {
    severity: "danger",
    text: "An ammeter's jack across a supply is a short: use the volt jack for voltage and the ampere jack for current.",
  },
  { severity: "care", text: "Clip the trusted meter to the terminals themselves, not to the plugs of the leads." },
  { severity: "care", text: "Resistors get hot at an ampere: take one of at least twice the power." },
  { severity: "care", text: "Read both meters at the same moment: a drifting supply would look like a difference." },
];

function stopRules(setup: RunSetup<MeterCheckPlan>): StopRule[] {
  const time = setup.plan?.timeLimit ?? 3600;
  const most = setup.plan?.most ?? 1;
  const role = CURRENT_OF[setup.plan?.checks ?? "outputVoltage"];
  return [
    {
      role,
      above: 1.5 * most,
      why: `The current is above ${q(1.5 * most, "A", { digits: 3 })}, half more than was to flow.`,
      act: "Remove the load first.",
    },
    {
      role: "time",
      above: time,
      why: `The check has taken more than ${formatDuration(time)}.`,
      act: "Remove the load first, then the supply.",
    },
  ];
}

function wiring(setup: RunSetup<MeterCheckPlan>): WiringSketch {
  const checks = setup.plan?.checks ?? "outputVoltage";
  const current = isCurrent(checks);
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply or module",
        lines: [`limit ${q(setup.conditions.supplyCurrentLimit ?? 3, "A")}`],
        right: ["+", "−"],
      },
      {
        id: "load",
        kind: "load",
        title: "Load",
        lines: setup.plan
          ? [`0 to ${q(setup.plan.most, "A")}`, ...(current ? [] : ["the meter under check at its end"])]
          : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      {
        ammeter: current ? "both ammeters, one after the other" : "amps",
        voltmeter: current ? null : "reference voltage",
        clips: "left",
        note: "clip on at the terminals",
      },
    ],
    notes: [
      current
        ? "Two ammeters in series carry the same current, whatever their burden."
        : `${roleLabel(checks)} is measured at its usual point, the reference at the terminals: the resistance between them shows as a slope.`,
    ],
  };
}

/** Two meters on one point over several currents: offset, lead resistance, and what to correct with. */
export const meterCheck: AtBench<TraceProcedure<MeterCheckPlan>> = {
  ...meterCheckFacts,
  ...meterCheckForm,
  plan: planMeterCheck,
  fields: CHECK_FIELDS,
  remarks: checkRemarks,
  roles: checkRoles,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => {
    if (!setup.plan) throw new Error("internal: a meter check is led by its plan");
    return new GuidedWatch(new MeterCheckGuide(setup), new MeterCheckSeen(setup.plan));
  },
  guide: (setup) => new MeterCheckGuide(setup),
  likeness,
  analyse: analyseMeterCheck,
};
