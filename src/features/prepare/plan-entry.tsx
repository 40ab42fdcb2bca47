"use client";

import { useState } from "react";
import type { PlanChoice, PlanEntry, PlanField, PlanList } from "@/core/procedures/plan-fields";
import { parseQuantity } from "@/core/quantities";
import { capacityRefusal } from "@/ui/capacity";
import { Checkbox, CheckList } from "@/ui/checkbox";
import { fieldText, NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { RadioGroup } from "@/ui/radio-group";

export interface PlanEntryProps<E extends PlanEntry> {
  readonly entry: E;
  readonly value: unknown;
  /** Null where what stands in the field can't be taken. `empty`: and nothing has to be. */
  onValue(value: unknown, empty?: boolean): void;
}

/** One entry of a plan, as its procedure lists it. */
export function PlanEntryField({ entry, ...rest }: PlanEntryProps<PlanEntry>) {
  if ("of" in entry) return <Choice entry={entry} {...rest} />;
  if ("list" in entry) return <ListField entry={entry} {...rest} />;
  if ("tick" in entry)
    return (
      <Checkbox className="mb-3" checked={rest.value === true} onChecked={rest.onValue}>
        {entry.label}
      </Checkbox>
    );
  return <NumberEntry entry={entry} {...rest} />;
}

function NumberEntry({ entry: f, value, onValue }: PlanEntryProps<PlanField>) {
  return (
    <div className="max-w-64">
      <NumberField
        label={f.label}
        quantity={f.unit}
        value={(value as number | null | undefined) ?? null}
        optional={f.optional ?? false}
        refuse={(v) => (v >= f.low && v <= f.high ? null : (f.unit === "Ah" ? capacityRefusal(v) : null) ?? `Between ${f.low} and ${f.high}${f.unit ? ` ${f.unit}` : ""}.`)}
        onValue={(v, empty) => onValue(v, empty && (f.optional ?? false))}
      />
      {f.why ? <p className="-mt-1 mb-2 text-xs text-pencil">{f.why}</p> : null}
    </div>
  );
}

/** Words that a list is made of, and what each is understood as. */
function understood(text: string, { unit, low }: PlanList): { readonly values: number[] } | { readonly error: string } {
  const parts = text.trim().split(/[;\s]+/).filter(Boolean);
  const values: number[] = [];
  for (const part of parts) {
    const p = parseQuantity(part, unit);
    if (!p.ok) return { error: p.error };
    if (p.value.value < low) return { error: low > 0 ? "Enter values above zero." : "Enter values of zero or more." };
    values.push(p.value.value);
  }
  return values.length ? { values } : { error: "Enter at least one value." };
}

/** A list of quantities in one field, separated by spaces or semicolons. */
function ListField({ entry, value, onValue }: PlanEntryProps<PlanList>) {
  const [text, setText] = useState(() => (value as readonly number[]).map((v) => fieldText(v, entry.unit)).join("  "));
  const read = understood(text, entry);
  return (
    <div className="w-full">
      <TextField
        label={entry.label}
        text={text}
        numeric
        wide
        unit={entry.unit}
        error={"error" in read ? read.error : undefined}
        echo={"values" in read ? `${read.values.length} values` : undefined}
        onText={(t) => {
          setText(t);
          const r = understood(t, entry);
          onValue("values" in r ? [...new Set(r.values)].sort((a, b) => (entry.list === "descending" ? b - a : a - b)) : null);
        }}
      />
    </div>
  );
}

/** A list holds words; a plan's choices may be a yes or a no. */
const word = (v: string | boolean): string => String(v);

function Choice({ entry: f, value, onValue }: PlanEntryProps<PlanChoice>) {
  const choices = f.of.map((o) => ({ value: word(o.value), label: o.label }));
  const back = (w: string) => f.of.find((o) => word(o.value) === w)?.value;
  return (
    <div className="mb-3 w-full">
      {f.many ? (
        <CheckList label={f.label} choices={choices} values={((value as readonly (string | boolean)[] | undefined) ?? []).map(word)} onValues={(list) => onValue(f.of.map((o) => o.value).filter((v) => list.includes(word(v))))} />
      ) : (
        <RadioGroup label={f.label} choices={choices} value={word(value as string | boolean)} onValue={(w) => onValue(back(w))} />
      )}
      {f.why ? <p className="text-xs text-pencil">{f.why}</p> : null}
    </div>
  );
}
