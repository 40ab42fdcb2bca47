import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { accuraciesFor, roleLabel, type Role, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export const CHECKED = [
  "outputVoltage",
  "batteryVoltage",
  "inputVoltage",
  "cellVoltage",
  "outputCurrent",
  "batteryCurrent",
] as const satisfies readonly Role[];
export type Checked = (typeof CHECKED)[number];

export interface MeterCheckPlan {
  /** What the meter under check reads. */
  readonly checks: Checked;
  /** A up to which the current goes, in so many steps. */
  readonly most: number;
  readonly steps: number;
  /** s at each current. */
  readonly dwell: number;
  readonly every: number;
  readonly timeLimit: number;
}

/** The current that goes with a voltage at the same place. */
export const CURRENT_OF: Readonly<Record<Checked, Role>> = {
  outputVoltage: "outputCurrent",
  batteryVoltage: "batteryCurrent",
  inputVoltage: "inputCurrent",
  cellVoltage: "cellCurrent",
  outputCurrent: "outputCurrent",
  batteryCurrent: "batteryCurrent",
};
export const isCurrent = (c: Checked): boolean => c.endsWith("Current");

/** The meter under check, the trusted one beside it, and the current between. */
export const checkRoles = (setup: RunSetup<MeterCheckPlan>): readonly Role[] => {
  const c = setup.plan?.checks ?? "outputVoltage";
  return isCurrent(c) ? [c, "referenceCurrent"] : [c, "referenceVoltage", CURRENT_OF[c]];
};

export function planMeterCheck(context: PlanContext): Result<RunSetup<MeterCheckPlan>> {
  const { rig } = context;
  return ok({
    conditions: { supplyCurrentLimit: rig.supplyCurrentLimit },
    instruments: accuraciesFor(
      [...CHECKED, "inputCurrent", "cellCurrent", "referenceVoltage", "referenceCurrent"],
      rig.instruments,
    ),
    plan: { checks: "outputVoltage", most: 1, steps: 5, dwell: 10, every: 1, timeLimit: 3600 },
  });
}

export const CHECK_FIELDS: readonly (PlanField | PlanChoice)[] = [
  {
    key: "checks",
    label: "Which meter is checked?",
    of: CHECKED.map((value) => ({ value, label: roleLabel(value).toLowerCase() })),
    why: "the other, trusted one sits on the same point, clipped to the terminals themselves",
  },
  { key: "most", label: "Current goes up to", unit: "A", low: 0.01, high: 20 },
  { key: "steps", label: "number of steps", unit: "", low: 2, high: 50, why: "a slope needs three currents or more" },
  { key: "dwell", label: "At each current for", unit: "s", low: 2, high: 600 },
];

export function checkRemarks(setup: RunSetup<MeterCheckPlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  if (conditions.supplyCurrentLimit && plan.most > conditions.supplyCurrentLimit)
    out.push({
      severity: "refused",
      text: `The supply gives at most ${q(conditions.supplyCurrentLimit, "A")}: the current can't reach ${q(plan.most, "A")}.`,
    });
  if (plan.steps < 3)
    out.push({
      severity: "care",
      text: "Two currents make a line through anything: take three or more, so that a slip shows.",
    });
  const a = setup.instruments[plan.checks];
  const ref = setup.instruments[isCurrent(plan.checks) ? "referenceCurrent" : "referenceVoltage"];
  if (!isCurrent(plan.checks) && a && ref) {
    const sure = (2 * Math.hypot(a.resolution, ref.resolution)) / (Math.sqrt(12) * plan.most);
    out.push({
      severity: "fine",
      text: `The meters' last digits resolve the leads to about ${q(sure, "Ω", { digits: 1 })} at ${q(plan.most, "A")}; more current resolves them better.`,
    });
  }
  out.push({
    severity: "fine",
    text: `It takes about ${formatDuration(Math.ceil(((plan.steps + 1) * plan.dwell) / 60) * 60)}.`,
  });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((x, y) => rank[x.severity] - rank[y.severity]);
}

/** Currents of the check, from nothing up, A. */
export const checkCurrents = (p: MeterCheckPlan): readonly number[] =>
  Array.from({ length: p.steps + 1 }, (_, k) => Number(((k * p.most) / p.steps).toPrecision(4)));
