"use client";

import { Link } from "@/ui/link";
import { characteristic } from "@/core/characteristics";
import { readingText, saidTwice, type Relation } from "@/core/claims";
import type { BoardDossier } from "@/notebook";
import { Section } from "@/ui/section";
import { VerdictMark, VerdictRemarks } from "@/ui/verdict-mark";

const SAYS: Readonly<Record<Relation, string>> = {
  "the same": "They claim the same.",
  "one stricter": "They agree, but one claims more. Each is judged separately.",
  overlapping: "They overlap but differ.",
  contradicting: "They contradict each other: one of them must be wrong.",
};

/** Other sources on the same quantity, side by side with this claim. */
export function AlsoSaid({ dossier, claimId }: { readonly dossier: BoardDossier; readonly claimId: string }) {
  const groups = saidTwice(dossier.claims, dossier.rules.houseTolerance).filter((g) =>
    g.sayings.some((s) => s.claim.id === claimId),
  );
  return groups.map((g) => (
    <Section
      key={g.characteristic}
      mark="sources"
      title={`${characteristic(g.characteristic)?.label ?? g.characteristic}: sources`}
    >
      <p className="mb-2 max-w-prose">{SAYS[g.relation]}</p>
      <ul className="grid gap-x-6 gap-y-3 min-[700px]:grid-cols-2">
        {g.sayings.map(({ claim, reading }, k) => {
          const v = dossier.verdicts.get(claim.id)?.readings[claim.readings.indexOf(reading)];
          return (
            <li
              key={`${claim.id} ${k}`}
              className={`border-l-2 pl-3 ${claim.id === claimId ? "border-margin" : "border-rule"}`}
            >
              <p className="text-sm text-pencil">
                {claim.source.kind}, {claim.source.date}
                {claim.id === claimId ? " (this one)" : ""}
              </p>
              {claim.id === claimId ? (
                <p>“{claim.source.wording}”</p>
              ) : (
                <Link href={`/board/${dossier.board.id}/claim/${claim.id}`} className="underline underline-offset-4">
                  “{claim.source.wording}”
                </Link>
              )}
              <p className="text-sm">{readingText(reading)}</p>
              <VerdictMark word={v?.word ?? "not measured"} />
              <VerdictRemarks v={v} />
            </li>
          );
        })}
      </ul>
    </Section>
  ));
}
