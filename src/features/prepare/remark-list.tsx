"use client";

import type { PlanRemark } from "@/core/procedures";

const MARKS: Readonly<Record<PlanRemark["severity"], string>> = {
  refused: "Blocked.",
  care: "Caution.",
  fine: "Note.",
};
const EDGES: Readonly<Record<PlanRemark["severity"], string>> = {
  refused: "border-misses",
  care: "border-close",
  fine: "border-meets",
};

/** What stands against a plan, worst first, and what speaks for it. */
export function RemarkList({ remarks }: { readonly remarks: readonly PlanRemark[] }) {
  return (
    <ul className="mb-3 max-w-prose space-y-1">
      {remarks.map((r) => (
        <li key={r.text} data-remark={r.severity} className={`border-l-4 ${EDGES[r.severity]} pl-3`}>
          <strong className={r.severity === "refused" ? "text-misses" : ""}>{MARKS[r.severity]} </strong>
          {r.text}
        </li>
      ))}
    </ul>
  );
}
