"use client";

import Link from "next/link";
import { useEffect, useState } from "react";
import { procedure, type ChartSpec } from "@/core/procedures";
import { findingsSheet, sheetMarkdown, type FindingsSheet, type Sentence, type SheetRun } from "@/core/sheet";
import { download, fileName } from "@/session/download";
import { boardDossier, logAnalysis, now, runDossier, useLive, type BoardDossier } from "@/storage";
import { analysePoints } from "@/storage/analysis";
import { Button, buttonClass } from "@/ui/button";
import { Charts, chartsAhead } from "@/ui/chart";
import { Quiet } from "@/ui/section";
import { VerdictMark } from "@/ui/verdict-mark";

chartsAhead();

/** Procedures whose first curve a sheet shows, most telling first, and how many. */
const DRAWN = ["load-sweep", "charge-cycle", "heat-soak", "pack-charge", "solar-input", "threshold-ramp"];
const CHARTS = 2;
/** Characters up to which a number and its unit stay on one line. */
const SHORT = 30;

interface Loaded {
  readonly dossier: BoardDossier;
  readonly sheet: FindingsSheet;
  readonly charts: readonly { readonly spec: ChartSpec; readonly from: string }[];
}

async function load(id: string): Promise<Loaded | null> {
  const dossier = await boardDossier(id);
  if (!dossier) return null;
  const found = new Map(dossier.evidence.flatMap((s) => s.runs).map((r) => [r.id as string, r.findings]));
  const finished = dossier.runs.filter((r) => r.state === "finished");
  const runs = finished.map((r): SheetRun => {
    const p = procedure(r.procedure);
    return {
      id: r.id, title: r.title, procedure: r.procedure, procedureTitle: p?.title ?? r.procedure, version: p?.version ?? 0, startUtc: r.startUtc, source: r.source.kind, setAside: r.setAside ?? null, modifiedFunctions: r.pinned.modifiedFunctions, setup: r.setup,
      sampleName: dossier.samples.find((s) => s.id === r.sampleId)?.name ?? "deleted", findings: found.get(r.id) ?? [],
    };
  });
  const { board } = dossier;
  const sheet = findingsSheet({
    title: board.title, note: board.note, functions: board.functions, claims: dossier.claims, verdicts: dossier.verdicts, runs, madeAt: now(),
    samples: dossier.samples.map((s) => ({ name: s.name, configuration: s.configuration, note: s.note, modifications: s.modifications.map((m) => `${m.date} ${m.text}`) })),
  });
  const charts: { spec: ChartSpec; from: string }[] = [];
  for (const kind of DRAWN) {
    const newest = finished.filter((r) => r.procedure === kind && !r.setAside).sort((a, b) => b.startUtc.localeCompare(a.startUtc))[0];
    const d = newest && charts.length < CHARTS ? await runDossier(newest.id) : null;
    const spec = d ? (d.log ? await logAnalysis(d) : analysePoints(d)).charts[0] : undefined;
    // On paper there are no boundaries to move.
    if (spec && newest) charts.push({ spec: { ...spec, handles: [] }, from: newest.title });
  }
  return { dossier, sheet, charts };
}

/** A board's findings on paper: what it is, what was claimed, measured and judged, and what follows. */
export function SheetPage({ id }: { readonly id: string }) {
  const live = useLive(`sheet-${id}`, () => load(id));
  const title = live.state === "ready" ? live.value?.sheet.title : undefined;
  useEffect(() => {
    if (title) document.title = `${title}, findings · Nimbus Bench`;
  }, [title]);
  if (live.state === "loading") return <Quiet>Writing the sheet …</Quiet>;
  if (live.state === "failed") return <Quiet>The sheet can&apos;t be written: {live.message}</Quiet>;
  if (!live.value) return <Quiet>There is no such board in this browser.</Quiet>;
  return <Sheet {...live.value} />;
}

function Line({ sentence }: { readonly sentence: Sentence }) {
  return sentence.map((p, k) =>
    typeof p === "string" ? (
      p
    ) : (
      <Link key={k} href={`/run/${p.runId}/review`} className={`${p.text.length < SHORT ? "figures-inline " : ""}underline decoration-pencil/50 underline-offset-2`}>
        {p.text}
      </Link>
    ),
  );
}

function Part({ title, sentences }: { readonly title: string; readonly sentences: readonly Sentence[] }) {
  if (sentences.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <ul>
        {sentences.map((s, k) => (
          <li key={k}>
            <Line sentence={s} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Sheet({ dossier, sheet, charts }: Loaded) {
  const { board } = dossier;
  const [all, setAll] = useState(true);
  const save = () => download(fileName(`${sheet.title} findings`, "md"), sheetMarkdown(sheet, (run) => `${location.origin}/run/${run}/review`), "text/markdown");
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-center gap-3 px-1 text-sm">
        <Link href={`/board/${board.id}`} className={buttonClass("bare")}>
          Back to the board
        </Link>
        <label className="inline-flex items-center gap-2">
          <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} className="size-4 accent-(--copper)" />
          with charts, runs and meters
        </label>
        <span className="ml-auto flex gap-2">
          <Button onClick={save}>Save as Markdown</Button>
          <Button look="main" onClick={() => window.print()}>
            Print
          </Button>
        </span>
      </div>
      <article className="paper">
        <header>
          <h1>{sheet.title}</h1>
          <p>{[sheet.what, sheet.note].filter(Boolean).join(". ")}</p>
          <ul className="plain">
            {sheet.samples.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
          <p className="lead" data-testid="summary">
            {sheet.summary}
          </p>
        </header>
        <div className="paper-columns">
          <Part title="Fit for" sentences={sheet.fitFor} />
          <Part title="Weaknesses" sentences={sheet.weaknesses} />
          <Part title="What to modify" sentences={sheet.modify.map((m) => [m])} />
          <Part title="Strengths" sentences={sheet.strengths} />
        </div>
        {sheet.claims.length ? (
          <section aria-label="Claims">
            <h2>Claims</h2>
            <div className="overflow-x-auto">
              <table>
                <thead>
                  <tr>
                    <th>Said</th>
                    <th>Understood as</th>
                    <th>Measured, k = 2</th>
                    <th>Verdict</th>
                  </tr>
                </thead>
                <tbody>
                  {sheet.claims.map((c) => (
                    <tr key={c.id}>
                      <td>
                        “{c.wording}” <span className="quiet">{c.source}</span>
                      </td>
                      <td>{c.understood.join(", or ")}</td>
                      <td>
                        <Line sentence={c.measured} />
                      </td>
                      <td>
                        <Link href={`/board/${board.id}/claim/${c.id}`} className="whitespace-nowrap">
                          <VerdictMark word={c.word} />
                        </Link>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </section>
        ) : null}
        <div className="paper-columns">
          {sheet.measured.map((m) => (
            <Part key={m.about} title={m.about} sentences={m.sentences} />
          ))}
          <Part title="Open" sentences={sheet.open} />
        </div>
        {all && charts.length ? (
          <div className="paper-charts">
            <Charts charts={charts.map(({ spec }) => ({ spec, height: 200 }))} />
          </div>
        ) : null}
        {all ? (
          <div className="paper-columns small">
            <Part title="Runs" sentences={sheet.runs.map((r) => [{ text: r.text, runId: r.id }])} />
            <Part title="Meters" sentences={sheet.meters.map((m) => [m])} />
          </div>
        ) : null}
        <footer>
          Made {sheet.madeAt.slice(0, 10)} with the analyses {sheet.versions || "none"}. The app advises; the cell maker&apos;s data sheet, the local code and licensed practice decide.
        </footer>
      </article>
    </>
  );
}
