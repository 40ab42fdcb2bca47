"use client";

import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { atBench, type Finding, type Procedure } from "@/core/procedures";
import { runPage } from "@/core/procedures/versions";
import type { RunRecord } from "@/core/files/records";
import { attempt } from "@/session/notify";
import { preparedRun, type BoardDossier, keepDraft } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { Section } from "@/ui/section";
import { SimulatedMark } from "@/ui/verdict-mark";
import { Headline } from "./headline";

const WHERE: Readonly<Record<RunRecord["state"], { word: string; act: string }>> = {
  prepared: { word: "being prepared", act: "Go on preparing" },
  open: { word: "under way", act: "Carry on" },
  finished: { word: "finished", act: "Read the result" },
};

const withArticle = (noun: string): string => `${/^[aeiou]/.test(noun) ? "an" : "a"} ${noun}`;

/** One step of the bench on the sheet: its runs with what they found, and the way to the next one. */
export function ProcedureStep({ procedure, number, dossier }: { procedure: Procedure; /** Its place in the order of work; null where it is not asked. */ number: number | null; dossier: BoardDossier }) {
  const router = useRouter();
  const bench = atBench(procedure);
  const { board, samples } = dossier;
  const [chosen, setChosen] = useState<string | null>(null);
  const sample = samples.find((s) => s.id === chosen) ?? samples[0];
  const runs = dossier.runs.filter((r) => r.procedure === procedure.id);
  const findings = (id: string): readonly Finding[] => dossier.evidence.flatMap((s) => s.runs).find((r) => r.id === id)?.findings ?? [];
  const start = () =>
    void attempt(async () => {
      if (!sample) throw new Error("Add a sample first: a run speaks of one piece.");
      if (!bench) return;
      const run = await preparedRun(bench, dossier, sample);
      router.push(`/run/${await keepDraft(run, false)}/prepare`);
    });
  return (
    <Section id={procedure.id} mark={procedure.destructive ? <>{number === null ? "only if wanted" : `step ${number}`}<br />destructive, last<br />about {procedure.minutes} min</> : procedure.anyTime ? <>any time<br />about {procedure.minutes} min</> : number === null ? "from files" : <>step {number}<br />about {procedure.minutes} min</>} title={procedure.title}>
      <p className="mb-3 max-w-prose text-pencil">{procedure.summary}</p>
      {runs.length ? (
        <ul className="mb-3 divide-y divide-rule border-y border-rule">
          {runs.map((r) => (
            <li key={r.id} className="flex flex-wrap items-center justify-between gap-3 py-2">
              <div className="min-w-0">
                <Link href={`/run/${r.id}/${runPage(procedure.id, r.state)}`} className="font-medium hover:underline">
                  {r.title}
                </Link>
                <p className="text-sm text-pencil">
                  Sample {samples.find((s) => s.id === r.sampleId)?.name ?? "deleted"}, {WHERE[r.state].word}
                  {r.source.kind === "simulated" ? <SimulatedMark className="ml-2" /> : null}
                  {r.setAside ? `, set aside: ${r.setAside}` : ""}
                </p>
                <Headline procedure={procedure} findings={findings(r.id)} />
              </div>
              <Link href={`/run/${r.id}/${runPage(procedure.id, r.state)}`} className={buttonClass(r.state === "finished" ? "plain" : "main")}>
                {WHERE[r.state].act}
              </Link>
            </li>
          ))}
        </ul>
      ) : null}
      <div className="flex flex-wrap items-center gap-3">
        {bench && samples.length > 1 ? (
          <label className="inline-flex items-center gap-2 text-sm">
            Sample
            <select value={sample?.id ?? ""} onChange={(e) => setChosen(e.target.value)} className="border border-pencil/60 bg-field px-2 py-1.5">
              {samples.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </select>
          </label>
        ) : null}
        {bench ? (
          <Button look={runs.length === 0 && dossier.claims.length > 0 && !procedure.anyTime ? "main" : "plain"} onClick={start}>
            Prepare {withArticle(procedure.title.toLowerCase())}
          </Button>
        ) : null}
        {procedure.id === "rest-check" ? (
          <Link href="/cells#read" className={buttonClass()}>
            Read the cells in the drawer
          </Link>
        ) : null}
        {procedure.readings !== "answers" ? (
          <Link href={`/board/${board.id}/import?of=${procedure.id}`} className={buttonClass()} {...(procedure.readings === "trace" ? { "aria-label": `Bring the log of ${withArticle(procedure.title.toLowerCase())}` } : procedure.destructive ? { "aria-label": `Bring the readings of ${withArticle(procedure.title.toLowerCase())}` } : bench ? {} : { "aria-label": `Bring a CSV of ${procedure.title.toLowerCase()}` })}>
            {procedure.readings === "trace" ? "Bring a log" : "Bring a CSV"}
          </Link>
        ) : null}
      </div>
    </Section>
  );
}
