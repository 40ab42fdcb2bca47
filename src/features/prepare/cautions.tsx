"use client";

import type { Caution, StopRule } from "@/core/procedures";

/** What to mind before the first connection; every danger is ticked once it is done. */
export function CautionList({ cautions, checked, onToggle }: { cautions: readonly Caution[]; checked: ReadonlySet<string>; onToggle(text: string): void }) {
  return (
    <ul className="mb-3 max-w-prose space-y-2">
      {cautions.map((c) => (
        <li key={c.text} className={c.severity === "danger" ? "border-l-4 border-margin pl-3" : "border-l-4 border-rule pl-3"}>
          {c.severity === "danger" ? (
            <label className="flex items-start gap-2">
              <input type="checkbox" checked={checked.has(c.text)} onChange={() => onToggle(c.text)} className="mt-1 size-4 shrink-0 accent-(--copper)" />
              <span>
                <strong className="text-misses">Danger. </strong>
                {c.text}
              </span>
            </label>
          ) : (
            <span>
              <strong>Caution. </strong>
              {c.text}
            </span>
          )}
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
