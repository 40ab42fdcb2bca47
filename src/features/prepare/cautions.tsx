"use client";

import type { Caution, StopRule } from "@/core/procedures";

/** What to mind besides the dangers, which are ticked at the start. */
export function CautionList({ cautions }: { readonly cautions: readonly Caution[] }) {
  const mild = cautions.filter((c) => c.severity !== "danger");
  if (mild.length === 0) return null;
  return (
    <ul className="mb-3 max-w-prose space-y-2">
      {mild.map((c) => (
        <li key={c.text} className="border-l-4 border-rule pl-3">
          <strong>Caution. </strong>
          {c.text}
        </li>
      ))}
    </ul>
  );
}

export function StopRuleList({ rules }: { rules: readonly StopRule[] }) {
  return (
    <>
      <p className="text-sm font-medium">The application watches these and calls out:</p>
      <ul className="mb-4 list-disc pl-5 text-sm">
        {rules.map((r) => (
          <li key={r.why}>
            {r.why} {r.act}
          </li>
        ))}
      </ul>
    </>
  );
}
