"use client";

import type { Control } from "react-hook-form";
import type { PlanChoice, PlanEntry, PlanField, PlanList } from "@/core/procedures/kit/plan-fields";
import { formatQuantity, parseQuantity } from "@/core/quantities";
import { capacityRefusal } from "@/ui/capacity";
import { FormCheckbox, FormCheckList, FormNumber, FormParsed, FormRadioGroup } from "@/ui/form-fields";
import { fieldText } from "@/ui/number-field";
import type { PlanForm } from "./plan-form";

export interface PlanEntryProps<E extends PlanEntry> {
  readonly control: Control<PlanForm>;
  readonly entry: E;
}

const placeOf = (entry: PlanEntry): `plan.${string}` => `plan.${entry.key}`;

/** One entry of a plan, as its procedure lists it. */
export function PlanEntryField({ control, entry }: PlanEntryProps<PlanEntry>) {
  if ("of" in entry) return <Choice control={control} entry={entry} />;
  if ("list" in entry) return <ListField control={control} entry={entry} />;
  if ("tick" in entry)
    return (
      <FormCheckbox control={control} name={placeOf(entry)} className="mb-3">
        {entry.label}
      </FormCheckbox>
    );
  return <NumberEntry control={control} entry={entry} />;
}

function NumberEntry({ control, entry: f }: PlanEntryProps<PlanField>) {
  return (
    <div className="max-w-64">
      <FormNumber
        control={control}
        name={placeOf(f)}
        label={f.label}
        quantity={f.unit}
        {...(f.optional ? {} : { missing: "Enter a number." })}
        refuse={(v) =>
          v >= f.low && v <= f.high
            ? null
            : ((f.unit === "Ah" ? capacityRefusal(v) : null) ??
              `Between ${formatQuantity(f.low, f.unit)} and ${formatQuantity(f.high, f.unit)}.`)
        }
      />
      {f.why ? <p className="-mt-1 mb-2 text-xs text-pencil">{f.why}</p> : null}
    </div>
  );
}

/** Words that a list is made of, and what each is understood as: in the list's order, each once. */
function understood(
  text: string,
  { unit, low, list }: PlanList,
): { readonly value: readonly number[] } | { readonly error: string } {
  const parts = text
    .trim()
    .split(/[;\s]+/)
    .filter(Boolean);
  const values: number[] = [];
  for (const part of parts) {
    const p = parseQuantity(part, unit);
    if (!p.ok) return { error: p.error };
    if (p.value.value < low) return { error: low > 0 ? "Enter values above zero." : "Enter values of zero or more." };
    values.push(p.value.value);
  }
  return values.length
    ? { value: [...new Set(values)].sort((a, b) => (list === "descending" ? b - a : a - b)) }
    : { error: "Enter at least one value." };
}

/** A list of quantities in one field, separated by spaces or semicolons. */
function ListField({ control, entry }: PlanEntryProps<PlanList>) {
  return (
    <div className="w-full">
      <FormParsed<PlanForm, readonly number[]>
        control={control}
        name={placeOf(entry)}
        label={entry.label}
        numeric
        wide
        unit={entry.unit}
        textOf={(values) => values.map((v) => fieldText(v, entry.unit)).join("  ")}
        read={(text) => understood(text, entry)}
        echoOf={(values) => `${values.length} values`}
      />
    </div>
  );
}

function Choice({ control, entry: f }: PlanEntryProps<PlanChoice>) {
  return (
    <div className="mb-3 w-full">
      {f.many ? (
        <FormCheckList
          control={control}
          name={placeOf(f)}
          label={f.label}
          choices={f.of.map((o) => ({ value: String(o.value), label: o.label }))}
        />
      ) : (
        <FormRadioGroup control={control} name={placeOf(f)} label={f.label} choices={f.of} />
      )}
      {f.why ? <p className="text-xs text-pencil">{f.why}</p> : null}
    </div>
  );
}
