"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { atBench } from "@/core/procedures";
import type { FairRun } from "@/core/verdicts/fair-run";
import { attempt } from "@/browser/notify";
import { preparedRun, type BoardDossier, keepDraft } from "@/notebook";
import { Button } from "@/ui/button";

/** Which run would judge a claim fairly, and the way to it. */
export function FairRunOffer({ run, dossier }: { readonly run: FairRun; readonly dossier: BoardDossier }) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const sample = dossier.samples.find((s) => s.id === run.sampleId);
  const bench = atBench(run.procedure);
  const open = dossier.runs.find(
    (r) => r.procedure === run.procedure.id && r.state !== "finished" && (!sample || r.sampleId === sample.id),
  );
  const start = () => {
    setBusy(true);
    void attempt(async () => {
      if (!bench || !sample) return;
      const record = await preparedRun(bench, dossier, sample, run.patch);
      router.push(`/run/${await keepDraft(record, true)}/prepare`);
    }).finally(() => setBusy(false));
  };
  return (
    <div className="mb-4 max-w-prose border-l-4 border-margin pl-3" data-testid="fair-run">
      <h3 className="font-semibold">What a fair run needs</h3>
      <ul className="mb-2">
        {run.words.map((w) => (
          <li key={w}>{w}</li>
        ))}
        {open ? <li className="text-pencil">One run of this kind is not finished: {open.title}.</li> : null}
      </ul>
      {bench && sample ? (
        <Button look="main" onClick={start} disabled={busy}>
          Prepare run
        </Button>
      ) : bench ? null : (
        <p className="text-sm text-pencil">Import its file on the board page.</p>
      )}
    </div>
  );
}
