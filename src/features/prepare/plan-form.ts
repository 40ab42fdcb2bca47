import { sameValue } from "@/core/files/three-way";
import type { RigRecord } from "@/core/files/records";
import type { BenchProcedure } from "@/core/procedures";
import type { RunConditions, RunSetup, Role } from "@/core/measurement";
import { conditionsAsked } from "@/core/procedures/kit/conditions-asked";
import { entryShown, type ConditionField, type PlanEntry } from "@/core/procedures/kit/plan-fields";

export type PlanValues = Readonly<Record<string, unknown>>;

/** A run while it is prepared: an empty number is null, and what makes no sense is not a number (NaN). */
export interface PlanForm {
  plan: Record<string, unknown>;
  conditions: Record<string, number | string | null>;
  rig: RigRecord;
  /** Accuracies and meters that were chosen for this run alone. */
  own: RunSetup["instruments"];
  ownMeters: NonNullable<RunSetup["meters"]>;
  /** Key of the invented specimen on the simulated bench; null where the readings are typed. */
  simulated: string | null;
  /** Id of the drawer's cell that the run is made with. */
  cellId: string | null;
}

type Asking = Pick<BenchProcedure, "fields" | "conditionFields" | "moreConditions">;

/** The entries of a plan that are asked for as the rest of it stands. */
export const entriesShown = (p: Pick<Asking, "fields">, plan: PlanValues): readonly PlanEntry[] =>
  (p.fields ?? []).filter((f) => entryShown(f, plan));

/** The conditions asked for beside it; what was emptied is still asked. */
export const conditionsShown = (
  p: Asking,
  conditions: PlanForm["conditions"],
  roles: readonly Role[],
): readonly ConditionField[] => conditionsAsked(p, conditions as RunConditions, roles);

/** What the fields begin with: the conditions of a set-up, and what is shown where it states none. */
export function conditionsOf(p: Asking, setup: RunSetup, roles: readonly Role[]): PlanForm["conditions"] {
  const stated = setup.conditions as PlanForm["conditions"];
  return { ...Object.fromEntries(conditionsShown(p, stated, roles).map((c) => [c.key, c.first ?? null])), ...stated };
}

const nonsense = (v: unknown): boolean => typeof v === "number" && Number.isNaN(v);

/** Values of which none is nonsense: what can't be taken stays as it last could. */
export const lastTaken = <T extends PlanValues>(values: T, last: T): T =>
  Object.fromEntries(Object.entries(values).map(([key, v]) => [key, nonsense(v) ? last[key] : v])) as T;

const LEADS = ["inputLeadResistance", "outputLeadResistance"] as const;

/** A rig with its leads and its drawer as they last could be taken: none of them may be empty. */
export function rigTaken(rig: RigRecord, last: RigRecord): RigRecord {
  const isNumber = (v: number | null): boolean => v !== null && !nonsense(v);
  const leads = Object.fromEntries(LEADS.map((key) => [key, isNumber(rig[key]) ? rig[key] : last[key]]));
  return { ...rig, ...leads, drawer: nonsense(rig.drawer) ? last.drawer : rig.drawer };
}

/** The conditions that are stated. */
export const statedOf = (conditions: PlanForm["conditions"]): RunConditions =>
  Object.fromEntries(Object.entries(conditions).filter(([, v]) => v !== null)) as RunConditions;

const optionalEntry = (f: PlanEntry): boolean => "optional" in f && f.optional === true;

/** Whether a field that is shown holds nonsense, or was emptied where something has to stand. `begun`: what the form began with. */
export function unreadOf(
  p: Asking & Pick<BenchProcedure, "resistors">,
  form: Pick<PlanForm, "plan" | "conditions" | "simulated" | "rig">,
  begun: Pick<PlanForm, "plan" | "conditions">,
  roles: readonly Role[],
): boolean {
  const bad = (v: unknown, first: unknown, optional: boolean): boolean =>
    nonsense(v) || (v === null && !optional && !sameValue(v, first ?? null));
  return (
    entriesShown(p, form.plan).some((f) => bad(form.plan[f.key], begun.plan[f.key], optionalEntry(f))) ||
    conditionsShown(p, form.conditions, roles).some((c) =>
      bad(form.conditions[c.key], begun.conditions[c.key], c.optional === true),
    ) ||
    (p.resistors === true &&
      (LEADS.some((key) => bad(form.rig[key], 0, false)) || (form.rig.useDrawer && nonsense(form.rig.drawer)))) ||
    // The sampling is asked for on the simulated bench alone.
    (form.simulated !== null && bad(form.plan.every, begun.plan.every, begun.plan.every === undefined))
  );
}
