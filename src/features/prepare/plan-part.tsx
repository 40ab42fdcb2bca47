"use client";

import type { Control } from "react-hook-form";
import type { PlannedCell } from "@/core/measurement";
import type { ConditionField, PlanEntry } from "@/core/procedures/kit/plan-fields";
import { capacityRefusal } from "@/ui/capacity";
import { FormNumber } from "@/ui/form-fields";
import { PlanEntryField } from "./plan-entry";
import { conditionsShown, entriesShown, type PlanForm } from "./plan-form";
import { ProgrammeHelper } from "./programme-helper";
import type { Preparation } from "./use-preparation";

/** A plan's entries and the conditions beside it: choices and lists first, then the numbers abreast. */
export function PlanPart({ prep }: { readonly prep: Preparation }) {
  const { p, typed, roles, form } = prep;
  const { control, setValue } = form;
  const shown = entriesShown(p, typed.plan);
  const entries = (of: (f: PlanEntry) => boolean) =>
    shown.filter(of).map((f) => <PlanEntryField key={f.key} control={control} entry={f} />);
  // What a procedure asks itself for comes first.
  const conditions = conditionsShown(p, typed.conditions, roles).map((c) => (
    <Condition key={c.key} control={control} asked={c} />
  ));
  const cell = typed.plan.cell as PlannedCell | null | undefined;
  return (
    <>
      {entries((f) => "of" in f || "list" in f)}
      <div className="flex flex-wrap gap-x-5">
        {p.conditionFields ? conditions : null}
        {entries((f) => !("of" in f) && !("list" in f) && !("tick" in f))}
        {p.conditionFields ? null : conditions}
      </div>
      {entries((f) => "tick" in f)}
      {p.programmed && cell ? (
        <ProgrammeHelper
          boardId={prep.run.boardId}
          cell={cell}
          resistors={prep.rig.drawer.map((r) => r.ohms)}
          onCurrent={(amps) => setValue("conditions.programmedCurrent", amps)}
        />
      ) : null}
    </>
  );
}

function Condition({ control, asked: c }: { readonly control: Control<PlanForm>; readonly asked: ConditionField }) {
  return (
    <FormNumber
      control={control}
      name={`conditions.${c.key}`}
      label={c.label}
      quantity={c.unit}
      {...(c.optional ? {} : { missing: "Enter a number." })}
      refuse={(v) =>
        v >= c.low && v <= (c.high ?? Infinity)
          ? c.unit === "Ah"
            ? capacityRefusal(v)
            : null
          : v < c.low
            ? "The value is too small."
            : "The value is too large."
      }
    />
  );
}
