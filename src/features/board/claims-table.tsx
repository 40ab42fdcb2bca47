import { highest } from "@/core/quantities";
import { Link } from "@/ui/link";
import { characteristic } from "@/core/characteristics";
import { readingText, saidTwice } from "@/core/claims";
import { claimMarks } from "@/core/compare";
import type { ClaimRecord } from "@/core/files/records";
import type { BoardDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Tip } from "@/ui/why";
import { VerdictMark, VerdictRemarks } from "@/ui/verdict-mark";

const columns = (
  { board, verdicts }: BoardDossier,
  onEdit: (claim: ClaimRecord) => void,
): readonly DataColumn<ClaimRecord>[] => [
  {
    id: "claimed",
    head: "Claimed",
    className: "text-[0.9375rem] leading-snug",
    by: (c) => c.source.wording,
    content: (c) => (
      <>
        “{c.source.wording || "no wording"}”{" "}
        <Tip text={`Dated ${c.source.date}`}>
          <span className="whitespace-nowrap text-xs text-pencil">{c.source.kind}</span>
        </Tip>
      </>
    ),
  },
  {
    id: "read",
    head: "Read as",
    className: "text-[0.9375rem] leading-snug",
    content: (c) =>
      c.readings.map((r, i) => (
        <span key={i} className="block">
          {c.readings.length > 1 ? <span className="text-pencil">{i === 0 ? "either " : "or "}</span> : null}
          {readingText(r)}
        </span>
      )),
  },
  {
    id: "measured",
    head: "Measured, k = 2",
    className: "figures text-xs leading-5 min-[1100px]:whitespace-nowrap",
    content: (c) =>
      [...new Set(claimMarks([c], verdicts).flatMap((m) => (m.value ? [m.value] : [])))].map((text) => (
        <span key={text} className="block">
          {text}
        </span>
      )),
  },
  {
    id: "verdict",
    head: "Verdict",
    className: "text-[0.9375rem] leading-snug",
    by: (c) => verdicts.get(c.id)?.word ?? "not measured",
    content: (c) => <ClaimVerdict boardId={board.id} claim={c} v={verdicts.get(c.id)} />,
  },
  {
    id: "actions",
    head: "Actions",
    bare: true,
    className: "py-0.5 text-right max-[700px]:text-left",
    content: (c) => (
      <Button look="bare" onClick={() => onEdit(c)} aria-label={`Edit claim ${c.source.wording}`}>
        Edit
      </Button>
    ),
  },
];

function ClaimVerdict({
  boardId,
  claim,
  v,
}: {
  readonly boardId: string;
  readonly claim: ClaimRecord;
  readonly v: ReturnType<BoardDossier["verdicts"]["get"]>;
}) {
  const samples = highest([0, ...(v?.readings.map((r) => r.samples) ?? [])]);
  return (
    <>
      <Link
        href={`/board/${boardId}/claim/${claim.id}`}
        className="whitespace-nowrap underline decoration-transparent underline-offset-4 hover:decoration-current"
        aria-label={`${v?.word ?? "not measured"}: why`}
      >
        <VerdictMark word={v?.word ?? "not measured"} />
      </Link>
      <VerdictRemarks v={v} />
      {samples > 1 ? <span className="block text-xs text-pencil">{samples} samples</span> : null}
    </>
  );
}

/** What is claimed of a board, each claim with what was measured and its verdict; sorts by wording and verdict. */
export function ClaimsTable({ dossier, onEdit }: { dossier: BoardDossier; onEdit(claim: ClaimRecord): void }) {
  const { board, claims } = dossier;
  if (claims.length === 0)
    return (
      <p className="mb-3 max-w-prose text-pencil">
        No claims yet. Copy them from the listing, the data sheet and the print on the board.
      </p>
    );
  const twice = saidTwice(claims, dossier.rules.houseTolerance).filter((g) => g.relation !== "the same");
  return (
    <div className="mb-2">
      <DataTable label="Claims" stacks dense rows={claims} columns={columns(dossier, onEdit)} id={(c) => c.id} />
      {twice.length ? (
        <ul className="mt-2 text-sm" aria-label="Sources that disagree">
          {twice.map((g) => (
            <li key={g.characteristic + (g.sayings[0]?.claim.id ?? "")}>
              <span
                className={g.relation === "contradicting" ? "font-semibold text-misses" : "font-semibold text-close"}
              >
                {g.relation === "contradicting" ? "Sources contradict each other" : "Sources differ"}
              </span>{" "}
              on {(characteristic(g.characteristic)?.label ?? g.characteristic).toLowerCase()}:{" "}
              {[...new Set(g.sayings.map((s) => s.claim.source.kind))].join(" and ")}.{" "}
              <Link
                href={`/board/${board.id}/claim/${g.sayings[0]?.claim.id}`}
                className="underline underline-offset-4"
              >
                Side by side
              </Link>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
