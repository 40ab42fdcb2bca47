import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, highestClaimed, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface OverloadPlan {
  readonly battery: number;
  /** A: first load, what it is raised by, and the most that is tried. */
  readonly from: number;
  readonly step: number;
  readonly most: number;
  /** s at each load. */
  readonly dwell: number;
  /** A of load at which the module is claimed to trip; null where nothing is claimed. */
  readonly claimedTrip: number | null;
  readonly shorts: boolean;
  /** s that a short lasts, and how many there are. */
  readonly shortSeconds: number;
  readonly repeats: number;
  /** A of load while it recovers. */
  readonly after: number;
  readonly every: number;
  readonly partLimit: number;
  readonly timeLimit: number;
}

export const OVERLOAD_ROLES: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"];
/** Share of the battery's power that reaches the output near the limit, for what the supply has to give. */
const EFFICIENCY = 0.82;

/** Loads from half of the claimed limit on to half above it, and three shorts. */
export function planOverload(context: PlanContext): Result<RunSetup<OverloadPlan>> {
  const { claims, rules, rig } = context;
  const trip =
    claimedNominal(claims, "protect.over-current") ??
    highestClaimed(claims, "protect.over-current", rules.houseTolerance) ??
    null;
  const rated = highestClaimed(claims, "boost.max-current", rules.houseTolerance);
  const top = trip ?? rated ?? 1;
  // Where no trip is claimed it may lie well above what the board is rated for.
  const beyond = trip === null ? 2.5 : 1.6;
  const nominal = nominalOutput(context);
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: rig.supplyCurrentLimit,
      partLimitTemperature: rules.partLimit,
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: accuraciesFor(OVERLOAD_ROLES, rig.instruments),
    plan: {
      battery: rules.batteryNominal,
      from: Number((0.5 * top).toPrecision(2)),
      step: Number(Math.max(0.02, 0.05 * top).toPrecision(1)),
      most: Number((beyond * top).toPrecision(2)),
      dwell: 3,
      claimedTrip: trip,
      shorts: true,
      shortSeconds: 5,
      repeats: 3,
      after: Number((0.2 * top).toPrecision(1)),
      every: 0.1,
      partLimit: rules.partLimit,
      timeLimit: 3600,
    },
  });
}

export const OVERLOAD_FIELDS: readonly (PlanField | PlanChoice)[] = [
  { key: "battery", label: "Battery at", unit: "V", low: 2, high: 4.5 },
  { key: "claimedTrip", label: "Load at which it is claimed to trip", unit: "A", low: 0.01, high: 30, optional: true },
  { key: "from", label: "Load begins at", unit: "A", low: 0, high: 30 },
  { key: "step", label: "and is raised in steps of", unit: "A", low: 0.005, high: 5 },
  { key: "most", label: "up to", unit: "A", low: 0.02, high: 30 },
  { key: "dwell", label: "At each load for", unit: "s", low: 0.5, high: 120 },
  {
    key: "shorts",
    label: "Then short the output?",
    of: [
      { value: true, label: "yes" },
      { value: false, label: "no" },
    ],
  },
  { key: "shortSeconds", label: "Each short lasts", unit: "s", low: 1, high: 30, where: { key: "shorts", is: true } },
  {
    key: "repeats",
    label: "Number of shorts",
    unit: "",
    low: 1,
    high: 10,
    where: { key: "shorts", is: true },
    why: "one short may be luck",
  },
];

/** What the supply has to give for a load, A. */
export const supplyFor = (load: number, nominal: number, battery: number): number =>
  (load * nominal) / (EFFICIENCY * battery);

/** A of the supply's limit: what a short stays small by. */
export const limitOf = (setup: RunSetup<OverloadPlan>): number => setup.conditions.supplyCurrentLimit ?? 3;

/** What stands against the planned overload: above all a supply that gives up before the module could. */
export function overloadRemarks(setup: RunSetup<OverloadPlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  const nominal = conditions.nominalOutput;
  const limit = limitOf(setup);
  if (plan.most <= plan.from) out.push({ severity: "refused", text: "The highest load is not above the first." });
  if (!nominal)
    out.push({
      severity: "care",
      text: "No nominal output is stated: the output counts as fallen at 5 % below its no-load voltage.",
    });
  if (plan.claimedTrip !== null) {
    const needs = nominal ? supplyFor(plan.claimedTrip, nominal, plan.battery) : NaN;
    if (needs > limit)
      out.push({
        severity: "care",
        text: `Not a fair test of the claimed trip: at a ${q(plan.claimedTrip, "A")} load the module draws about ${q(needs, "A", { digits: 2 })}, more than the supply's limit of ${q(limit, "A")}. Raise the limit as far as the wiring and the maker allow.`,
      });
    if (plan.most < 1.05 * plan.claimedTrip)
      out.push({
        severity: "care",
        text: `The loads end at ${q(plan.most, "A")}, before the claimed trip at ${q(plan.claimedTrip, "A")} with its tolerance.`,
      });
  } else if (nominal && supplyFor(plan.most, nominal, plan.battery) > limit)
    out.push({
      severity: "care",
      text: `The supply's limit of ${q(limit, "A")} may be reached before ${q(plan.most, "A")} of load: the supply would limit there.`,
    });
  if (plan.shorts)
    out.push({
      severity: "fine",
      text: `Each short takes at most ${q(limit * plan.battery, "W", { digits: 2 })} from the supply, for ${formatDuration(plan.shortSeconds)}.`,
    });
  out.push({ severity: "fine", text: `It takes about ${formatDuration(Math.ceil(overloadSeconds(plan) / 60) * 60)}.` });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}

export const overloadSeconds = (p: OverloadPlan): number =>
  (2 + (p.most - p.from) / p.step) * p.dwell + 15 + (p.shorts ? p.repeats * (p.shortSeconds + 8) : 0);
