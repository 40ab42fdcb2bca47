"use client";

import { compute } from "@/workers/compute";
import { movedText } from "@/core/verdicts/moved";
import { attempt } from "@/browser/notify";
import { boardSummary, noteMoved, type BoardDossier } from "@/notebook";
import { useLive } from "@/storage";
import { Button } from "@/ui/button";
import { FlipList } from "@/ui/flip-list";
import { Link } from "@/ui/link";
import { Section } from "@/ui/section";

/** What a better analysis changed of this board since it was last looked at: verdicts, and the results behind them. */
export function Moved({ dossier }: { readonly dossier: BoardDossier }) {
  const { board, claims, runs } = dossier;
  const live = useLive(`moved-${board.id}`, async () => (await boardSummary(compute, board)).moved ?? []);
  const verdicts = live.state === "ready" ? live.value : [];
  if (verdicts.length === 0 && dossier.moved.size === 0) return null;
  const wording = new Map(claims.map((c) => [c.id, c.source.wording]));
  const title = new Map(runs.map((r) => [r.id as string, r.title]));
  return (
    <Section
      mark="moved"
      title="Changed by a better analysis"
      aside={<Button onClick={() => void attempt(() => noteMoved(compute, board, runs))}>Mark as read</Button>}
    >
      <p className="mb-2 max-w-prose text-pencil">
        The readings are the same; this version of Nimbus Bench analyses them better.
      </p>
      {verdicts.length ? (
        <FlipList flips={verdicts.map((v) => ({ ...v, board: board.title, wording: wording.get(v.claimId) ?? "" }))} />
      ) : null}
      {dossier.moved.size ? (
        <ul className="text-sm">
          {[...dossier.moved].map(([id, moved]) => (
            <li key={id} className="mb-1">
              <Link href={`/run/${id}/review`} className="font-medium hover:underline">
                {title.get(id) ?? "Run"}
              </Link>
              <ul className="pl-4">
                {moved.map((m) => (
                  <li key={movedText(m)}>{movedText(m)}</li>
                ))}
              </ul>
            </li>
          ))}
        </ul>
      ) : null}
    </Section>
  );
}
