import type { BoardFunction } from "../../characteristics";
import { formatQuantity, ok, type Result } from "../../quantities";
import { formatLimit } from "../../claims";
import { accuraciesFor, type ChecklistItem, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";
import { ACTIONS, gaugeVolts, GROUP_LABELS, GROUPS, itemsFor, type Group } from "./items";

export interface BehaviourPlan {
  readonly groups: readonly Group[];
  /** Empty where nobody said what the board does: then all is asked. */
  readonly functions: readonly BoardFunction[];
  /** V between which a gauge is looked at, in steps. */
  readonly gaugeFrom: number;
  readonly gaugeTo: number;
  readonly gaugeStep: number;
  /** Action → what was said to come of it. */
  readonly said: Readonly<Record<string, string>>;
}

/** What claims say of each action, in words. */
function saidIn(context: PlanContext): Record<string, string> {
  const out: Record<string, string> = {};
  for (const r of context.claims.flatMap((c) => c.readings)) {
    const action = r.conditions.action;
    if (r.characteristic !== "behaviour.response" || !action || !("word" in action)) continue;
    const listed = ACTIONS.find((a) => a.toLowerCase() === action.word.trim().toLowerCase());
    if (listed) out[listed] = r.limit.kind === "one-of" ? r.limit.words.join(" or ") : formatLimit(r.limit, "");
  }
  return out;
}

export function planBehaviour(context: PlanContext): Result<RunSetup<BehaviourPlan>> {
  const { rules, rig, functions } = context;
  return ok({
    conditions: {},
    instruments: accuraciesFor(["batteryVoltage"], rig.instruments),
    plan: {
      groups: GROUPS,
      functions: functions ?? [],
      gaugeFrom: 4.2,
      gaugeTo: rules.batteryEmpty,
      gaugeStep: 0.1,
      said: saidIn(context),
    },
  });
}

/** The checklist of a plan, in its order. */
export function itemsOf(setup: RunSetup<BehaviourPlan>): ChecklistItem[] {
  const { plan } = setup;
  return plan
    ? itemsFor(plan.functions, plan.groups, gaugeVolts(plan.gaugeFrom, plan.gaugeTo, plan.gaugeStep), plan.said)
    : [];
}

export const BEHAVIOUR_FIELDS: readonly (PlanChoice | PlanField)[] = [
  {
    key: "groups",
    label: "What is looked at?",
    many: true,
    of: GROUPS.map((value) => ({ value, label: GROUP_LABELS[value] })),
  },
  { key: "gaugeFrom", label: "Gauge looked at from", unit: "V", low: 3, high: 20 },
  { key: "gaugeTo", label: "down to", unit: "V", low: 2.3, high: 20 },
  {
    key: "gaugeStep",
    label: "in steps of",
    unit: "V",
    low: 0.01,
    high: 1,
    why: "a step of the gauge is known to half of it",
  },
];

export function behaviourRemarks(setup: RunSetup<BehaviourPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  const items = itemsOf(setup);
  if (plan.gaugeTo >= plan.gaugeFrom)
    out.push({
      severity: "refused",
      text: `The gauge voltages go from ${formatQuantity(plan.gaugeFrom, "V")} to ${formatQuantity(plan.gaugeTo, "V")}, which isn't downwards.`,
    });
  if (items.length === 0) out.push({ severity: "refused", text: "Choose at least one group." });
  const looks = items.reduce((n, i) => n + (i.at?.volts.length ?? 1), 0);
  if (looks > 80)
    out.push({ severity: "care", text: `${looks} things to look at: wider steps of the gauge would spare some.` });
  const answered = items.filter((i) => i.said).length;
  out.push({
    severity: "fine",
    text: `${looks} things to look at${answered ? `; ${answered} of them have a claim` : "; none has a claim yet: add the printed table as claims on “Response”, one per action"}.`,
  });
  return out;
}
