"use client";

import type { PlannedCell } from "@/core/procedures";
import { conditionsAsked } from "@/core/procedures/conditions-asked";
import { entryShown, type ConditionField, type PlanEntry } from "@/core/procedures/plan-fields";
import { capacityRefusal } from "@/ui/capacity";
import { NumberField } from "@/ui/number-field";
import { PlanEntryField } from "./plan-entry";
import { ProgrammeHelper } from "./programme-helper";
import type { Preparation } from "./use-preparation";

/** A plan's entries and the conditions beside it: choices and lists first, then the numbers abreast. */
export function PlanPart({ prep }: { readonly prep: Preparation }) {
  const { p, plan, setup, rig } = prep;
  const shown = (p.fields ?? []).filter((f) => entryShown(f, plan));
  const number = (f: PlanEntry) => !("of" in f) && !("list" in f) && !("tick" in f);
  // What a procedure asks itself for comes first.
  const conditions = conditionsAsked(p, setup.conditions, prep.roles).map((c) => <Condition key={c.key} prep={prep} asked={c} />);
  const cell = plan.cell as PlannedCell | null | undefined;
  return (
    <>
      {shown.filter((f) => "of" in f || "list" in f).map((f) => (
        <Entry key={f.key} prep={prep} entry={f} />
      ))}
      <div className="flex flex-wrap gap-x-5">
        {p.conditionFields ? conditions : null}
        {shown.filter(number).map((f) => (
          <Entry key={f.key} prep={prep} entry={f} />
        ))}
        {p.conditionFields ? null : conditions}
      </div>
      {shown.filter((f) => "tick" in f).map((f) => (
        <Entry key={f.key} prep={prep} entry={f} />
      ))}
      {p.programmed && cell ? (
        <ProgrammeHelper
          boardId={prep.run.boardId}
          cell={cell}
          drawer={rig.drawer.map((r) => r.ohms)}
          onCurrent={(amps) => {
            prep.condition("programmedCurrent", amps);
            prep.mark("programmedCurrent", false);
            prep.moved(["programmedCurrent"]);
          }}
        />
      ) : null}
    </>
  );
}

function Entry({ prep, entry }: { readonly prep: Preparation; readonly entry: PlanEntry }) {
  const { p, plan } = prep;
  const take = (value: unknown) => {
    const change = { [entry.key]: value };
    const patch = p.follows?.(plan, change) ?? change;
    prep.moved(Object.keys(patch).filter((k) => k !== entry.key));
    prep.put(patch);
    // What it sets is the bench's, and remembered with it.
    if ("bench" in entry && entry.bench && typeof value === "number") prep.setRig((r) => ({ ...r, [entry.bench as string]: value }));
  };
  return (
    <PlanEntryField
      key={prep.edition(entry.key)}
      entry={entry}
      value={plan[entry.key]}
      onValue={(value, empty = false) => {
        prep.mark(entry.key, value === null && !empty);
        if (value !== null || empty) take(value);
      }}
    />
  );
}

function Condition({ prep, asked: c }: { readonly prep: Preparation; readonly asked: ConditionField }) {
  return (
    <NumberField
      key={prep.edition(c.key)}
      label={c.label}
      quantity={c.unit}
      value={prep.setup.conditions[c.key] ?? c.first ?? null}
      optional={c.optional ?? false}
      refuse={(v) => (v >= c.low && v <= (c.high ?? Infinity) ? (c.unit === "Ah" ? capacityRefusal(v) : null) : v < c.low ? "The value is too small." : "The value is too large.")}
      onValue={(v, empty) => {
        const cleared = empty && (c.optional ?? false);
        prep.mark(c.key, v === null && !cleared);
        if (v !== null || cleared) prep.condition(c.key, v);
      }}
    />
  );
}
