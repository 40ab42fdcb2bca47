"use client";

import { useState } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import type { Finding } from "@/core/measurement";
import { uncertaintyRemark } from "@/core/procedures/kit/accuracies";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import { VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import { Origin, ValueButton } from "./findings-table";
import { findingKey, type Answered } from "./use-verdicts";

/** The verdict on one claim that a result answers. */
const Verdict = ({ a, boardId }: { readonly a: Answered; readonly boardId: string }) => (
  <Link
    href={`/board/${boardId}/claim/${a.claimId}`}
    className={`flex items-center justify-end gap-1 text-xs hover:underline ${VERDICT_TONE[a.word]}`}
  >
    <VerdictShape word={a.word} className="h-3 w-7" />
    {a.word}, claimed {a.claim}
  </Link>
);

/** The results of a log, one a row, each value beside its name, with the claim that it answers and the verdict. */
export function ResultList({
  findings,
  verdicts,
  boardId,
  onPoint,
}: {
  readonly boardId: string;
  readonly findings: readonly Finding[];
  readonly verdicts: ReadonlyMap<string, readonly Answered[]>;
  onPoint(id: string): void;
}) {
  const [open, setOpen] = useState<string | null>(null);
  // What is to be said of every value is said once.
  const remarks = new Set(findings.filter((f) => typeof f.value === "number" && f.unit !== "s").map(uncertaintyRemark));
  const common = remarks.size === 1 ? [...remarks][0] : null;
  const at = (f: Finding): string =>
    formatConditions(Object.fromEntries(Object.entries(f.conditions).filter(([k]) => k !== "configuration")));
  const columns: readonly DataColumn<Finding>[] = [
    {
      id: "quantity",
      head: "Quantity",
      names: true,
      className: "leading-snug",
      content: (f) => (
        <>
          {characteristic(f.characteristic)?.label ?? f.characteristic}
          {at(f) ? <span className="text-pencil">, {at(f)}</span> : null}
        </>
      ),
    },
    {
      id: "value",
      head: `Value ± U, k = 2${common ? `, ${common}` : ""}`,
      heading: <span className="block text-right">Value ± U, k = 2{common ? `, ${common}` : ""}</span>,
      className: "text-right",
      content: (f) => {
        const key = findingKey(f);
        return (
          <>
            <ValueButton
              finding={f}
              remark={!common}
              open={open === key}
              onOpen={() => setOpen(open === key ? null : key)}
            />
            {(verdicts.get(key) ?? []).map((a) => (
              <Verdict key={a.claimId} a={a} boardId={boardId} />
            ))}
          </>
        );
      },
    },
  ];
  return (
    <DataTable
      label="Results"
      dense
      rows={findings}
      columns={columns}
      id={findingKey}
      below={(f) => (open === findingKey(f) ? <Origin finding={f} onPoint={onPoint} /> : null)}
    />
  );
}
