import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface PathPlan {
  /** The output while the input comes and goes, or the charging under loads and to its end. */
  readonly part: "handover" | "charging";
  /** A from the output; for charging, the heaviest of the loads. */
  readonly load: number;
  /** How often the input is plugged in and pulled. */
  readonly repeats: number;
  /** s in each state. */
  readonly dwell: number;
  /** The input's supply: V, A at most, and the cable there and back, Ω. */
  readonly inputVolts: number;
  readonly inputLimit: number;
  readonly inputCable: number;
  /** Ah and rested V of the cell on the board. */
  readonly capacity: number;
  readonly startVoltage: number;
  /** Whether the charge is logged to its end under the load, and s without a change after which it counts as never ending. */
  readonly toTheEnd: boolean;
  readonly patience: number;
  /** V that the load stands at most; null where nobody said. */
  readonly loadMaximum: number | null;
  readonly every: number;
  readonly timeLimit: number;
}

const HAND_OVER: readonly Role[] = [
  "outputVoltage",
  "outputCurrent",
  "inputVoltage",
  "outputLow",
  "outputHigh",
  "outsideTime",
];
const CHARGING: readonly Role[] = [
  "cellCurrent",
  "inputCurrent",
  "outputCurrent",
  "outputVoltage",
  "inputVoltage",
  "cellVoltage",
];
export const pathRoles = (setup: RunSetup<PathPlan>): readonly Role[] =>
  setup.plan?.part === "charging" ? CHARGING : HAND_OVER;

/** A scope or a fast logger: one per cent, ten millivolts. */
const SCOPE = { gain: 0.01, counts: 1, resolution: 0.01, assumed: true } as const;
const DETAIL = { handover: { every: 0.001, dwell: 1 }, charging: { every: 5, dwell: 60 } } as const;

export function planPath(context: PlanContext): Result<RunSetup<PathPlan>> {
  const { claims, rules, rig, cell } = context;
  const nominal = nominalOutput(context) ?? claimedNominal(claims, "path.output-voltage");
  const current = claimedNominal(claims, "charge.cc-current");
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      partLimitTemperature: rules.partLimit,
      ...(current ? { programmedCurrent: current } : {}),
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: {
      ...accuraciesFor([...HAND_OVER, ...CHARGING], rig.instruments),
      outputVoltage: SCOPE,
      outputLow: SCOPE,
      outputHigh: SCOPE,
    },
    plan: {
      part: "handover",
      load: 0.18,
      repeats: 3,
      ...DETAIL["handover"],
      inputVolts: 5.1,
      inputLimit: 2,
      inputCable: 0.08,
      capacity: cell?.capacity ?? 1,
      startVoltage: 3.8,
      toTheEnd: true,
      patience: 1800,
      loadMaximum: 5.5,
      timeLimit: 12 * 3600,
    },
  });
}

/** Hand-overs are read a thousand times a second, charges every few seconds. */
export const followPath = (plan: PathPlan, patch: Partial<PathPlan>): Partial<PathPlan> =>
  patch.part && patch.part !== plan.part ? { ...patch, ...DETAIL[patch.part] } : patch;

export const PATH_FIELDS: readonly (PlanField | PlanChoice)[] = [
  {
    key: "part",
    label: "What is looked at?",
    of: [
      { value: "handover", label: "the output while the input is plugged in and pulled under load" },
      { value: "charging", label: "charging while the output carries a load, and whether it ends" },
    ],
  },
  {
    key: "load",
    label: "Load on the output",
    unit: "A",
    low: 0.005,
    high: 5,
    why: "what the board will feed; for charging the heaviest of three",
  },
  {
    key: "repeats",
    label: "Plug and unplug, number of times",
    unit: "",
    low: 1,
    high: 20,
    where: { key: "part", is: "handover" },
  },
  { key: "dwell", label: "In each state for", unit: "s", low: 0.2, high: 3600 },
  { key: "inputVolts", label: "Input supply set to", unit: "V", low: 3, high: 25 },
  { key: "inputLimit", label: "Supply current limit", unit: "A", low: 0.05, high: 10 },
  { key: "inputCable", label: "Input cable, both wires", unit: "Ω", low: 0, high: 3 },
  { key: "capacity", label: "Capacity of the cell", unit: "Ah", low: 0.05, high: 50 },
  { key: "startVoltage", label: "Rested cell voltage now", unit: "V", low: 2.5, high: 4.25 },
  {
    key: "toTheEnd",
    label: "Log the charge to its end under the heaviest load?",
    of: [
      { value: true, label: "yes" },
      { value: false, label: "no" },
    ],
    where: { key: "part", is: "charging" },
  },
  {
    key: "patience",
    label: "Counts as not ending after no change for",
    unit: "s",
    low: 60,
    high: 4 * 3600,
    where: { key: "part", is: "charging" },
  },
  {
    key: "loadMaximum",
    label: "Highest voltage the load allows",
    unit: "V",
    low: 1,
    high: 30,
    optional: true,
    where: { key: "part", is: "handover" },
    why: "an overshoot above it can kill what hangs on the output",
  },
];

/** Loads of the charging part: none, half, all. A. */
export const pathLoads = (p: PathPlan): readonly number[] => [0, Number((p.load / 2).toPrecision(3)), p.load];

export function pathRemarks(setup: RunSetup<PathPlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  if (plan.startVoltage < 3)
    out.push({
      severity: "refused",
      text: `The cell is at ${q(plan.startVoltage, "V")}: charge it first, or the handover shows the cell, not the board.`,
    });
  const both = plan.load + (conditions.programmedCurrent ?? 0.5);
  if (both > plan.inputLimit)
    out.push({
      severity: "care",
      text: `Load and charging together may need ${q(both, "A", { digits: 2 })}, more than the supply's ${q(plan.inputLimit, "A")}: the supply would limit, not the board.`,
    });
  if (plan.inputCable * both > 0.3)
    out.push({
      severity: "care",
      text: `The cable takes ${q(plan.inputCable * both, "V", { digits: 2 })} at that current: use a shorter or thicker one, or a sag is blamed on the board.`,
    });
  if (plan.part === "handover") {
    if (plan.every > 0.005)
      out.push({
        severity: "care",
        text: `One sample every ${q(plan.every, "s")} is too slow for a handover of milliseconds: type what a scope shows, or import its waveform as a CSV.`,
      });
    out.push({ severity: "fine", text: "Plug and unplug quickly: a bouncing connector counts as several handovers." });
  } else {
    if (plan.startVoltage > 4.1)
      out.push({
        severity: "care",
        text: `At ${q(plan.startVoltage, "V")} the cell is nearly full: the charging current is no longer what the charger can give.`,
      });
    if (plan.toTheEnd)
      out.push({
        severity: "fine",
        text: `A complete charge takes hours. It stops at the end, or after ${formatDuration(plan.patience)} without a change.`,
      });
  }
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}
