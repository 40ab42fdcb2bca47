import { highest } from "@/core/quantities";
import { Link } from "@/ui/link";
import { characteristic } from "@/core/characteristics";
import { readingText, saidTwice } from "@/core/claims";
import { claimMarks } from "@/core/compare";
import type { ClaimRecord } from "@/core/files/records";
import type { BoardDossier } from "@/storage";
import { Button } from "@/ui/button";
import { VerdictMark, VerdictRemarks } from "@/ui/verdict-mark";

export function ClaimsTable({ dossier, onEdit }: { dossier: BoardDossier; onEdit(claim: ClaimRecord): void }) {
  const { board, claims, verdicts } = dossier;
  if (claims.length === 0) return <p className="mb-3 max-w-prose text-pencil">No claims yet. Copy them from the listing, the data sheet and the print on the board.</p>;
  const twice = saidTwice(claims, dossier.rules.houseTolerance).filter((g) => g.relation !== "the same");
  return (
    <div className="mb-2 overflow-x-auto">
      <table className="w-full border-collapse text-left text-[0.9375rem] leading-snug max-[700px]:block">
        <thead className="text-sm text-pencil max-[700px]:sr-only">
          <tr className="border-b border-pencil/60">
            <th className="pb-0.5 pr-4 font-medium">Claimed</th>
            <th className="pb-0.5 pr-4 font-medium">Read as</th>
            <th className="pb-0.5 pr-4 font-medium">Measured, k = 2</th>
            <th className="pb-0.5 pr-4 font-medium">Verdict</th>
            <th className="py-1 font-medium">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody className="max-[700px]:block">
          {claims.map((c) => {
            const v = verdicts.get(c.id);
            const samples = highest([0, ...(v?.readings.map((r) => r.samples) ?? [])]);
            return (
              <tr key={c.id} className="border-b border-rule align-top max-[700px]:block max-[700px]:py-2">
                <td className="py-0.5 pr-4 max-[700px]:block max-[700px]:py-0.5">
                  “{c.source.wording || "no wording"}”{" "}
                  <span className="whitespace-nowrap text-xs text-pencil" title={`dated ${c.source.date}`}>
                    {c.source.kind}
                  </span>
                </td>
                <td className="py-0.5 pr-4 max-[700px]:block max-[700px]:py-0.5">
                  {c.readings.map((r, i) => (
                    <span key={i} className="block">
                      {c.readings.length > 1 ? <span className="text-pencil">{i === 0 ? "either " : "or "}</span> : null}
                      {readingText(r)}
                    </span>
                  ))}
                </td>
                <td className="figures py-0.5 pr-4 text-xs leading-5 min-[1100px]:whitespace-nowrap max-[700px]:block max-[700px]:py-0.5">
                  {[...new Set(claimMarks([c], verdicts).flatMap((m) => (m.value ? [m.value] : [])))].map((text) => (
                    <span key={text} className="block">
                      {text}
                    </span>
                  ))}
                </td>
                <td className="py-0.5 pr-4 max-[700px]:block max-[700px]:py-0.5">
                  <Link href={`/board/${board.id}/claim/${c.id}`} className="whitespace-nowrap underline decoration-transparent underline-offset-4 hover:decoration-current" aria-label={`${v?.word ?? "not measured"}: why`}>
                    <VerdictMark word={v?.word ?? "not measured"} />
                  </Link>
                  <VerdictRemarks v={v} />
                  {samples > 1 ? <span className="block text-xs text-pencil">{samples} samples</span> : null}
                </td>
                <td className="py-0.5 text-right text-sm max-[700px]:block max-[700px]:py-0.5 max-[700px]:text-left">
                  <Button look="bare" onClick={() => onEdit(c)} aria-label={`Edit claim ${c.source.wording}`}>
                    Edit
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {twice.length ? (
        <ul className="mt-2 text-sm" aria-label="Sources that disagree">
          {twice.map((g) => (
            <li key={g.characteristic + (g.sayings[0]?.claim.id ?? "")}>
              <span className={g.relation === "contradicting" ? "font-semibold text-misses" : "font-semibold text-close"}>{g.relation === "contradicting" ? "Sources contradict each other" : "Sources differ"}</span>{" "}
              on {(characteristic(g.characteristic)?.label ?? g.characteristic).toLowerCase()}: {[...new Set(g.sayings.map((s) => s.claim.source.kind))].join(" and ")}.{" "}
              <Link href={`/board/${board.id}/claim/${g.sayings[0]?.claim.id}`} className="underline underline-offset-4">
                Side by side
              </Link>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
