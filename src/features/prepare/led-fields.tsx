"use client";

import { useState } from "react";
import type { BenchProcedure, PlanChoice, PlanField } from "@/core/procedures";
import { capacityRefusal } from "@/ui/capacity";
import { NumberField } from "@/ui/number-field";

export type PlanValues = Readonly<Record<string, unknown>>;
type Value = string | boolean;

interface LedFieldsProps {
  readonly p: BenchProcedure;
  readonly plan: PlanValues;
  onChange(patch: PlanValues): void;
  onBad(name: string, bad: boolean): void;
}

/** A plan's fields and choices, as its procedure lists them. */
export function LedFields({ p, plan, onChange, onBad }: LedFieldsProps) {
  /** Raised for each field that another one set, so that it shows what it was set to. */
  const [moved, setMoved] = useState<Readonly<Record<string, number>>>({});
  const shown = (f: PlanField | PlanChoice) => !f.where || plan[f.where.key] === f.where.is;
  const take = (key: string, value: unknown) => {
    const change = { [key]: value };
    const patch = (p.follows?.(plan, change) ?? change) as PlanValues;
    const others = Object.keys(patch).filter((k) => k !== key);
    if (others.length) setMoved((m) => ({ ...m, ...Object.fromEntries(others.map((k) => [k, (m[k] ?? 0) + 1])) }));
    onChange(patch);
  };
  const fields = (p.fields ?? []).filter(shown);
  return (
    <>
      {fields.filter((f): f is PlanChoice => "of" in f).map((f) => (
        <Choice key={f.key} f={f} value={plan[f.key]} onValue={(v) => take(f.key, v)} />
      ))}
      <div className="flex flex-wrap gap-x-5">
        {fields.filter((f): f is PlanField => !("of" in f)).map((f) => (
          <div key={f.key} className="max-w-64">
            <NumberField
              key={`${f.key}${moved[f.key] ?? 0}`}
              label={f.label}
              quantity={f.unit}
              value={(plan[f.key] as number | null | undefined) ?? null}
              optional={f.optional ?? false}
              refuse={(v) => (v >= f.low && v <= f.high ? null : (f.unit === "Ah" ? capacityRefusal(v) : null) ?? `Between ${f.low} and ${f.high}${f.unit ? ` ${f.unit}` : ""}.`)}
              onValue={(v, empty) => {
                const cleared = empty && (f.optional ?? false);
                onBad(f.key, v === null && !cleared);
                if (v !== null || cleared) take(f.key, v);
              }}
            />
            {f.why ? <p className="-mt-1 mb-2 text-xs text-pencil">{f.why}</p> : null}
          </div>
        ))}
      </div>
    </>
  );
}

function Choice({ f, value, onValue }: { readonly f: PlanChoice; readonly value: unknown; onValue(v: Value | readonly Value[]): void }) {
  const chosen = f.many ? (value as readonly Value[]) : [value as Value];
  const toggle = (v: Value) => onValue(f.many ? f.of.map((o) => o.value).filter((o) => (o === v) !== chosen.includes(o)) : v);
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 text-sm text-pencil">{f.label}</legend>
      {f.of.map((o) => (
        <label key={String(o.value)} className="mr-5 inline-flex items-center gap-2">
          <input type={f.many ? "checkbox" : "radio"} name={f.key} checked={chosen.includes(o.value)} onChange={() => toggle(o.value)} className="size-4 accent-(--copper)" />
          {o.label}
        </label>
      ))}
      {f.why ? <p className="text-xs text-pencil">{f.why}</p> : null}
    </fieldset>
  );
}
