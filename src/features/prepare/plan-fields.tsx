"use client";

import { useEffect, useState } from "react";
import { formatQuantity, parseQuantity } from "@/core/quantities";
import type { RunSetup } from "@/core/procedures";
import { supplyNeeds, type SweepPlan } from "@/core/procedures/load-sweep";
import { fieldText, NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";

interface ListProps {
  readonly label: string;
  readonly unit: "V" | "A";
  readonly values: readonly number[];
  readonly descending?: boolean;
  onValues(values: number[] | null): void;
  readonly allowZero?: boolean;
}

/** A list of quantities in one field, separated by spaces or semicolons. */
function ListField({ label, unit, values, onValues, descending = false, allowZero = false }: ListProps) {
  const [text, setText] = useState(() => values.map((v) => fieldText(v, unit)).join("  "));
  const parts = text.trim().split(/[;\s]+/).filter(Boolean);
  const parsed = parts.map((t) => parseQuantity(t, unit));
  const bad = parsed.find((p) => !p.ok);
  const negative = parsed.find((p) => p.ok && (allowZero ? p.value.value < 0 : p.value.value <= 0));
  const error = parts.length === 0 ? "Enter at least one value." : bad && !bad.ok ? bad.error : negative ? "Enter values above zero." : null;
  return (
    <TextField
      label={label}
      text={text}
      numeric
      wide
      unit={unit}
      error={error}
      echo={error ? undefined : `${parts.length} values`}
      onText={(t) => {
        setText(t);
        const list = t.trim().split(/[;\s]+/).filter(Boolean).map((x) => parseQuantity(x, unit));
        const good = list.length > 0 && list.every((p) => p.ok && (allowZero ? p.value.value >= 0 : p.value.value > 0));
        onValues(good ? [...new Set(list.flatMap((p) => (p.ok ? [p.value.value] : [])))].sort((a, b) => (descending ? b - a : a - b)) : null);
      }}
    />
  );
}

export interface PlanFieldsProps {
  readonly setup: RunSetup<SweepPlan>;
  onSetup(s: RunSetup<SweepPlan>): void;
  onValid(valid: boolean): void;
  /** The supply's limit is the bench's: a changed one is remembered. */
  onSupplyLimit(amps: number): void;
}

export function PlanFields({ setup, onSetup, onValid, onSupplyLimit }: PlanFieldsProps) {
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => onValid(bad.size === 0), [bad, onValid]);
  const plan = setup.plan as SweepPlan;
  const take = <T,>(name: string, value: T | null, apply: (v: T) => RunSetup<SweepPlan>) => {
    setBad((b) => {
      const next = new Set(b);
      if (value === null) next.add(name);
      else next.delete(name);
      return next.size === b.size && next.has(name) === b.has(name) ? b : next;
    });
    if (value !== null) onSetup(apply(value));
  };
  const withPlan = (change: Partial<SweepPlan>): RunSetup<SweepPlan> => ({ ...setup, plan: { ...plan, ...change } });
  const withConditions = (change: Partial<RunSetup["conditions"]>): RunSetup<SweepPlan> => ({ ...setup, conditions: { ...setup.conditions, ...change } });
  const needs = supplyNeeds(setup);
  /** Without a rated load the regulation runs to the highest load held. */
  const withRated = (v: number | null): RunSetup<SweepPlan> => {
    const { ratedLoad: _was, ...conditions } = setup.conditions;
    void _was;
    return { ...setup, conditions: { ...conditions, ...(v === null ? {} : { ratedLoad: v }) } };
  };
  const positive = (v: number) => (v > 0 ? null : "Enter a value above zero.");
  return (
    <>
      <ListField label="Battery voltages, fullest first" unit="V" values={plan.batteries} descending onValues={(v) => take("batteries", v, (batteries) => withPlan({ batteries }))} />
      <ListField label="Load currents, from none to past the claim" unit="A" values={plan.loads} allowZero onValues={(v) => take("loads", v, (loads) => withPlan({ loads }))} />
      <div className="flex flex-wrap gap-x-5">
        <NumberField label="Nominal output" quantity="V" value={setup.conditions.nominalOutput ?? null} refuse={positive} onValue={(v) => take("nominal", v, (nominalOutput) => withConditions({ nominalOutput }))} />
        <NumberField label="Regulation band, ±" quantity="1" value={setup.conditions.regulationBand ?? 0.05} refuse={(v) => (v > 0 && v < 0.5 ? null : "Between 0 and 50 %.")} onValue={(v) => take("band", v, (regulationBand) => withConditions({ regulationBand }))} />
        <NumberField
          label="Supply current limit"
          quantity="A"
          value={setup.conditions.supplyCurrentLimit ?? null}
          refuse={positive}
          onValue={(v) => {
            take("limit", v, (supplyCurrentLimit) => withConditions({ supplyCurrentLimit }));
            if (v !== null) onSupplyLimit(v);
          }}
        />
        <NumberField label="Dwell before a point counts" quantity="s" value={plan.dwell} refuse={(v) => (v >= 0 ? null : "Enter zero or more.")} onValue={(v) => take("dwell", v, (dwell) => withPlan({ dwell }))} />
        <NumberField label="Resolution of the highest load" quantity="A" value={plan.resolution} refuse={positive} onValue={(v) => take("resolution", v, (resolution) => withPlan({ resolution }))} />
        <NumberField label="Rated load, for the load regulation" quantity="A" optional value={setup.conditions.ratedLoad ?? null} refuse={positive} onValue={(v) => onSetup(withRated(v))} />
        <NumberField label="Part temperature limit" quantity="°C" value={plan.partLimit} onValue={(v) => take("part", v, (partLimit) => withPlan({ partLimit }))} />
      </div>
      <p className="text-sm text-pencil">
        {plan.claimedMaximum ? `The highest claimed load is ${formatQuantity(plan.claimedMaximum, "A")}. The loads go past it to find the limit.` : "No claim gives a highest load. 1 A is assumed."}
        {needs !== null && setup.conditions.supplyCurrentLimit ? (needs <= setup.conditions.supplyCurrentLimit ? ` The sweep draws at most about ${formatQuantity(needs, "A", { digits: 3 })}, within the supply's limit.` : ` The sweep may draw ${formatQuantity(needs, "A", { digits: 3 })}, more than the supply's limit.`) : ""}
      </p>
      <label className="mt-2 inline-flex items-center gap-2">
        <input type="checkbox" checked={plan.starts === true} onChange={(e) => onSetup(withPlan({ starts: e.target.checked }))} className="size-4 accent-(--copper)" />
        Also find the highest load it starts into from off
      </label>
    </>
  );
}
