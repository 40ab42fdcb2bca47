"use client";

import { Fragment, useState } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import type { Finding } from "@/core/procedures";
import { uncertaintyRemark } from "@/core/procedures/accuracies";
import { Link } from "@/ui/link";
import { VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import { Origin, ValueButton } from "./findings-table";
import { findingKey, type Answered } from "./use-verdicts";

/** The verdict on one claim that a result answers. */
const Verdict = ({ a, boardId }: { readonly a: Answered; readonly boardId: string }) => (
  <Link href={`/board/${boardId}/claim/${a.claimId}`} className={`flex items-center justify-end gap-1 text-xs hover:underline ${VERDICT_TONE[a.word]}`}>
    <VerdictShape word={a.word} className="h-3 w-7" />
    {a.word}, claimed {a.claim}
  </Link>
);

/** The results of a log, one a row, each value beside its name, with the claim that it answers and the verdict. */
export function ResultList({ findings, verdicts, boardId, onPoint }: { readonly boardId: string; readonly findings: readonly Finding[]; readonly verdicts: ReadonlyMap<string, readonly Answered[]>; onPoint(id: string): void }) {
  const [open, setOpen] = useState<string | null>(null);
  // What is to be said of every value is said once.
  const remarks = new Set(findings.filter((f) => typeof f.value === "number" && f.unit !== "s").map(uncertaintyRemark));
  const common = remarks.size === 1 ? [...remarks][0] : null;
  return (
    <table className="w-full text-left text-sm" aria-label="Results">
      <thead className="text-pencil">
        <tr className="border-b border-pencil/60">
          <th className="py-0.5 pr-3 font-medium">Quantity</th>
          <th className="py-0.5 text-right font-medium">Value ± U, k = 2{common ? `, ${common}` : ""}</th>
        </tr>
      </thead>
      <tbody>
        {findings.map((f) => {
          const key = findingKey(f);
          const at = formatConditions(Object.fromEntries(Object.entries(f.conditions).filter(([k]) => k !== "configuration")));
          return (
            <Fragment key={key}>
              <tr className="border-b border-rule align-top">
                <th scope="row" className="py-0.5 pr-3 font-normal leading-snug">
                  {characteristic(f.characteristic)?.label ?? f.characteristic}
                  {at ? <span className="text-pencil">, {at}</span> : null}
                </th>
                <td className="py-0.5 text-right">
                  <ValueButton finding={f} remark={!common} open={open === key} onOpen={() => setOpen(open === key ? null : key)} />
                  {(verdicts.get(key) ?? []).map((a) => (
                    <Verdict key={a.claimId} a={a} boardId={boardId} />
                  ))}
                </td>
              </tr>
              {open === key ? (
                <tr>
                  <td colSpan={2} className="bg-film px-2 py-1.5">
                    <Origin finding={f} onPoint={onPoint} />
                  </td>
                </tr>
              ) : null}
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}
