import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface RampPlan {
  /** Down and up again under load, or up and down again with a charging current. */
  readonly way: "discharge" | "charge";
  /** V that claims name for each cut; null where they name none. */
  readonly claimed: Readonly<Record<"discharge" | "charge", number | null>>;
  /** V at which the cut is expected. */
  readonly expected: number;
  /** V from which the ramp begins, and beyond which it does not go. */
  readonly start: number;
  readonly farthest: number;
  /** V/s far from the expected cut and near it. */
  readonly quick: number;
  readonly slow: number;
  /** A from the output while it ramps down; A into the cell's terminals while it ramps up. */
  readonly load: number;
  readonly chargeCurrent: number;
  /** A that a resistor draws from the source in place of the cell: it takes the charging current that the source can't. */
  readonly preload: number;
  /** Longest time that the module may take to notice, s; the reading is corrected by half of what the ramp does in it. */
  readonly delay: number;
  /** A logger or meter on the bench that joins the battery's minus and the output's. */
  readonly groundsJoined: boolean;
  readonly every: number;
  readonly partLimit: number;
  readonly timeLimit: number;
}

/** V around the expected cut in which the ramp is slow. */
export const NEAR = 0.12;
const GUESS = { discharge: 2.9, charge: 4.28 } as const;

/** Beginning and end of a ramp around an expected cut. */
export const reach = (way: RampPlan["way"], expected: number): Pick<RampPlan, "expected" | "start" | "farthest"> =>
  way === "discharge"
    ? {
        expected,
        start: Number((expected + 0.4).toFixed(3)),
        farthest: Number(Math.max(1.8, Math.min(2.2, expected - 0.5)).toFixed(3)),
      }
    : { expected, start: Number((expected - 0.25).toFixed(3)), farthest: Number((expected + 0.12).toFixed(3)) };

/** Another way or another expected cut moves both ends of the ramp. */
export function followRamp(plan: RampPlan, patch: Partial<RampPlan>): Partial<RampPlan> {
  const way = patch.way ?? plan.way;
  if (way !== plan.way) return { ...patch, ...reach(way, plan.claimed[way] ?? GUESS[way]) };
  return patch.expected === undefined ? patch : { ...patch, ...reach(way, patch.expected) };
}

/** The ramp that claims and house rules suggest: downwards first, as that is what most boards are asked. */
export function planRamp(context: PlanContext): Result<RunSetup<RampPlan>> {
  const { claims, rules, rig } = context;
  const expected = claimedNominal(claims, "protect.over-discharge-voltage") ?? GUESS.discharge;
  const nominal = nominalOutput(context);
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: rig.supplyCurrentLimit,
      ...(rig.inputLeadResistance ? { inputLeadResistance: rig.inputLeadResistance } : {}),
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    // An ampere range can't tell a disconnected battery from one that leaks a few milliamps.
    instruments: {
      ...accuraciesFor(["batteryVoltage", "outputVoltage", "cellVoltage", "cellCurrent"], rig.instruments),
      batteryCurrent: { gain: 0.002, counts: 4, resolution: 1e-4, assumed: true },
    },
    plan: {
      way: "discharge",
      claimed: {
        discharge: claimedNominal(claims, "protect.over-discharge-voltage") ?? null,
        charge: claimedNominal(claims, "protect.over-charge-voltage") ?? null,
      },
      ...reach("discharge", expected),
      quick: 0.05,
      slow: 0.004,
      load: 0.15,
      chargeCurrent: 0.4,
      preload: 0.5,
      delay: 0.3,
      groundsJoined: false,
      every: 1,
      partLimit: rules.partLimit,
      timeLimit: 2 * 3600,
    },
  });
}

export const rampRoles = (setup: RunSetup<RampPlan>): readonly Role[] =>
  setup.plan?.way === "charge" ? ["cellVoltage", "cellCurrent"] : ["batteryVoltage", "batteryCurrent", "outputVoltage"];

export const RAMP_FIELDS: readonly (PlanField | PlanChoice)[] = [
  {
    key: "way",
    label: "Which threshold?",
    of: [
      { value: "discharge", label: "over-discharge and dropout: battery down and up again" },
      { value: "charge", label: "over-charge: cell voltage up and down" },
    ],
  },
  {
    key: "expected",
    label: "Cut expected at",
    unit: "V",
    low: 1.8,
    high: 4.6,
    why: "as claimed; the ramp is slow around it",
  },
  { key: "start", label: "Ramp begins at", unit: "V", low: 2, high: 4.6 },
  { key: "farthest", label: "and goes no farther than", unit: "V", low: 1.5, high: 4.6 },
  { key: "slow", label: "Slow ramp near the threshold", unit: "V", low: 0.0005, high: 0.02, why: "5 mV/s or less" },
  { key: "quick", label: "Quick ramp elsewhere", unit: "V", low: 0.002, high: 0.5 },
  { key: "load", label: "Load on the output", unit: "A", low: 0.01, high: 5, where: { key: "way", is: "discharge" } },
  {
    key: "chargeCurrent",
    label: "Charging current",
    unit: "A",
    low: 0.02,
    high: 5,
    where: { key: "way", is: "charge" },
  },
  {
    key: "preload",
    label: "Preload on the source",
    unit: "A",
    low: 0,
    high: 10,
    where: { key: "way", is: "charge" },
    why: "a supply can't take current in: the preload must draw more than the charging current",
  },
  {
    key: "delay",
    label: "Longest detection delay, as its data sheet has it",
    unit: "s",
    low: 0,
    high: 10,
    why: "bounds what the ramp adds",
  },
  {
    key: "groundsJoined",
    label: "Does a logger or meter join battery minus and output minus?",
    of: [
      { value: false, label: "no" },
      { value: true, label: "yes" },
    ],
    where: { key: "way", is: "discharge" },
  },
];

/** What stands against a planned ramp, worst first. */
export function rampRemarks(setup: RunSetup<RampPlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  const q = formatQuantity;
  const down = plan.way === "discharge";
  if (down ? plan.start <= plan.expected : plan.start >= plan.expected)
    out.push({
      severity: "refused",
      text: `The ramp begins at ${q(plan.start, "V")}, already past the ${q(plan.expected, "V")} at which the cut is expected.`,
    });
  if (down ? plan.farthest >= plan.expected : plan.farthest <= plan.expected)
    out.push({
      severity: "refused",
      text: `The ramp ends at ${q(plan.farthest, "V")}, before the ${q(plan.expected, "V")} at which the cut is expected: the claim would not be tested.`,
    });
  if (!down && plan.preload < 1.1 * plan.chargeCurrent)
    out.push({
      severity: "refused",
      text: `The source in place of the cell can't take ${q(plan.chargeCurrent, "A")} in: preload it with at least ${q(1.1 * plan.chargeCurrent, "A", { digits: 2 })}, a resistor of ${q(plan.start / (1.2 * plan.chargeCurrent), "Ω", { digits: 2 })} and ${q(2 * (1.2 * plan.chargeCurrent) * plan.farthest, "W", { digits: 2 })}.`,
    });
  if (!down && plan.farthest > 4.6)
    out.push({ severity: "care", text: `At ${q(plan.farthest, "V")} parts of the board may exceed their ratings.` });
  if (plan.slow > 0.005)
    out.push({
      severity: "care",
      text: `${q(1000 * plan.slow, "")} mV a second is fast: 5 or less keeps what the delay adds small.`,
    });
  if (down && plan.load < 0.1)
    out.push({
      severity: "care",
      text: `A load of ${q(plan.load, "A")} may be so light that the module switches itself off: that would look like a cut. Take 0.1 A or more.`,
    });
  if (plan.groundsJoined && down)
    out.push({
      severity: "care",
      text: "Joining battery minus and output minus bypasses a protection in the minus wire: a missing cut-off would be the wiring's fault. Remove the earthed meter, or use an insulated one.",
    });
  const nominal = conditions.nominalOutput;
  const drawn = nominal ? (nominal * plan.load) / (0.8 * plan.expected) : NaN;
  if (down && conditions.supplyCurrentLimit && drawn > conditions.supplyCurrentLimit)
    out.push({
      severity: "refused",
      text: `At the cut the module draws about ${q(drawn, "A", { digits: 2 })}, more than the supply's limit of ${q(conditions.supplyCurrentLimit, "A")}: the output would fall by the supply's doing.`,
    });
  out.push({
    severity: "fine",
    text: `Near the cut the ramp moves ${q(plan.slow * plan.delay, "V", { digits: 2 })} in ${q(plan.delay, "s")}: the reading is corrected by half of it, and the other half stays as uncertainty.`,
  });
  out.push({ severity: "fine", text: `It takes about ${formatDuration(Math.round(rampSeconds(plan) / 60) * 60)}.` });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}

/** s that a ramp likely takes: quick, slow, the way back. */
export function rampSeconds(p: RampPlan): number {
  const away = Math.max(0, Math.abs(p.start - p.expected) - NEAR);
  return 15 + away / p.quick + (1.3 * NEAR) / p.slow + 0.3 / p.slow;
}
