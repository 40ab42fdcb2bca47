"use client";

import {
  HOUSE_RULES,
  RULE_CHOICES,
  RULE_TEXTS,
  SCHOOLS,
  type RuleChoice,
  type RuleGroup,
  type RuleText,
} from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import { Button } from "@/ui/button";
import { FormNumber, FormRadioGroup } from "@/ui/form-fields";
import type { EditedRules } from "./use-rules";

/** The rules on one matter. */
export function RuleRows({ group, edited }: { readonly group: RuleGroup; readonly edited: EditedRules }) {
  return (
    <>
      {RULE_CHOICES.filter((c) => c.group === group).map((c) => (
        <Choice key={c.key} choice={c} edited={edited} />
      ))}
      <ul className="divide-y divide-rule">
        {RULE_TEXTS.filter((t) => t.group === group).map((t) => (
          <RuleRow key={t.key} rule={t} edited={edited} />
        ))}
      </ul>
    </>
  );
}

const schoolValue = (t: RuleText, value: number): string =>
  t.unit === "1" ? formatQuantity(value, "1") : String(Number(value.toPrecision(2)));

function RuleRow({ rule: t, edited }: { readonly rule: RuleText; readonly edited: EditedRules }) {
  const schools = SCHOOLS.filter((s) => s.key === t.key);
  return (
    <li className="grid gap-x-6 pt-1.5 min-[700px]:grid-cols-[17rem_minmax(0,1fr)]">
      <FormNumber
        control={edited.control}
        name={t.key}
        label={t.label}
        quantity={t.unit}
        missing="Enter a number."
        refuse={(v) =>
          v >= t.low && v <= t.high
            ? null
            : `Between ${formatQuantity(t.low, t.unit)} and ${formatQuantity(t.high, t.unit)}.`
        }
      />
      <p className="pb-2 text-sm min-[700px]:pt-6">
        {t.reason} <span className="text-pencil">Default {formatQuantity(HOUSE_RULES[t.key], t.unit)}.</span>
        {schools.length ? (
          <span className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
            {schools.map((s) => (
              <Button
                key={s.value}
                look="bare"
                title={s.why}
                aria-label={`${t.label}: ${s.label}, ${schoolValue(t, s.value)}: ${s.why}`}
                onClick={() => edited.take(t.key, s.value)}
              >
                {s.label} {schoolValue(t, s.value)}
              </Button>
            ))}
          </span>
        ) : null}
      </p>
    </li>
  );
}

function Choice({ choice: c, edited }: { readonly choice: RuleChoice; readonly edited: EditedRules }) {
  return (
    <div className="mb-3 max-w-prose">
      <FormRadioGroup
        control={edited.control}
        name={c.key}
        label={c.label}
        stacked
        choices={c.of.map((o) => ({
          value: o.value,
          label: (
            <>
              {o.label}: <span className="text-sm text-pencil">{o.why}</span>
            </>
          ),
        }))}
      />
    </div>
  );
}
