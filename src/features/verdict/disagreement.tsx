"use client";

import { useState } from "react";
import type { RunRecord } from "@/core/files/records";
import type { ReadingVerdict } from "@/core/verdicts";
import { attempt } from "@/browser/notify";
import { letDecide, letNewestDecide, setRunAside, type BoardDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { ReasonDialog } from "@/ui/reason-dialog";
import { DisagreeMark } from "@/ui/verdict-mark";
import { Link } from "@/ui/link";

/** Runs that contradict each other: which rule decides, and the acts that choose one or set one aside. */
export function Disagreement({
  reading,
  dossier,
}: {
  readonly reading: ReadingVerdict;
  readonly dossier: BoardDossier;
}) {
  const [aside, setAside] = useState<RunRecord | null>(null);
  const name = reading.characteristic;
  const chosen = dossier.runs.filter((r) => r.decides?.includes(name) && reading.judged.some((j) => j.runId === r.id));
  const runs = [...new Set(reading.contradictions.flatMap((c) => [c.runId, c.otherId]))].flatMap(
    (id) => dossier.runs.find((r) => r.id === id) ?? [],
  );
  if (runs.length === 0 && chosen.length === 0) return null;
  return (
    <div className="mb-4 max-w-prose border-l-4 border-close pl-3" data-testid="disagreement">
      {runs.length ? (
        <>
          <DisagreeMark />
          <ul className="list-disc pl-5">
            {reading.contradictions.map((c) => (
              <li key={c.text}>{c.text}</li>
            ))}
          </ul>
          <p className="text-sm text-pencil">
            The newest fair run of a sample decides. Choose another run, or set one aside.
          </p>
          <ul className="mt-1">
            {runs.map((r) => (
              <li key={r.id} className="flex flex-wrap items-center gap-2 py-1">
                <Link href={`/run/${r.id}/review`} className="mr-auto underline underline-offset-4">
                  {r.title}
                </Link>
                <Button onClick={() => void attempt(() => letDecide(r, name))}>Use this run</Button>
                <Button onClick={() => setAside(r)}>Set aside</Button>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {chosen.map((r) => (
        <p key={r.id} className="flex flex-wrap items-center gap-2">
          <span className="mr-auto">“{r.title}” was chosen to decide.</span>
          <Button onClick={() => void attempt(() => letNewestDecide(r, name))}>Use the newest fair run</Button>
        </p>
      ))}
      {aside ? (
        <ReasonDialog
          title={`Set “${aside.title}” aside`}
          about="Its readings stay. It judges no claim, and the reason is shown."
          act="Set aside"
          onReason={(why) => attempt(() => setRunAside(aside, why))}
          onClose={() => setAside(null)}
        />
      ) : null}
    </div>
  );
}
