"use client";

import { localDay } from "@/storage";
import { createContext, Fragment, useContext, useMemo } from "react";
import { shortCode } from "@/core/cells/code";
import type { ChartSpec } from "@/core/measurement";
import { runNumbers, type PaperContent, type Sentence } from "@/core/sheet";
import { Chart } from "@/ui/chart";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import { LogPlot } from "@/ui/log-plot";
import { VerdictMark } from "@/ui/verdict-mark";
import { Wiring } from "@/ui/wiring";

/** Characters up to which a number and its unit stay on one line. */
const SHORT = 30;

/** The number of each run in the sheet's list. */
const Numbers = createContext<ReadonlyMap<string, number>>(new Map());

function Line({ sentence }: { readonly sentence: Sentence }) {
  const numbers = useContext(Numbers);
  return sentence.map((p, k) =>
    typeof p === "string" ? (
      p
    ) : (
      <Fragment key={k}>
        <Link
          href={`/run/${p.runId}/review`}
          className={`${p.text.length < SHORT ? "figures-inline " : ""}underline decoration-pencil/50 underline-offset-2`}
        >
          {p.text}
        </Link>
        {numbers.has(p.runId) ? <sup className="quiet"> {numbers.get(p.runId)}</sup> : null}
      </Fragment>
    ),
  );
}

/** A chart as on the screen: what runs over time has its hours and minutes. */
function PaperChart({ spec }: { readonly spec: ChartSpec }) {
  const until = spec.series
    .flatMap((s) => [s.fit?.at(-1)?.x ?? 0, s.points.at(-1)?.x ?? 0])
    .reduce((m, x) => Math.max(m, x), 1);
  const overTime = spec.x.unit === "s" && spec.series.every((s) => s.points.length === 0);
  return overTime ? (
    <LogPlot spec={spec} claims={[]} view={{ from: 0, to: until }} height={185} />
  ) : (
    <Chart spec={spec} height={185} />
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

type PaperClaim = PaperContent["sheet"]["claims"][number];

const claimColumns = (boardId: string): readonly DataColumn<PaperClaim>[] => [
  {
    id: "claimed",
    head: "Claimed",
    content: (c) => (
      <>
        “{c.wording}” <span className="quiet">{c.source}</span>
      </>
    ),
  },
  { id: "read", head: "Read as", content: (c) => c.understood.join(", or ") },
  { id: "measured", head: "Measured, k = 2", content: (c) => <Line sentence={c.measured} /> },
  {
    id: "verdict",
    head: "Verdict",
    content: (c) => (
      <>
        <Link href={`/board/${boardId}/claim/${c.id}`} className="whitespace-nowrap">
          <VerdictMark word={c.word} />
        </Link>
        {c.remarks?.length ? <span className="quiet block">{c.remarks.join(", ")}</span> : null}
      </>
    ),
  },
];

/** What was claimed, how it was read, what was measured, the verdict. */
function PaperClaims({ sheet, boardId }: { readonly sheet: PaperContent["sheet"]; readonly boardId: string }) {
  if (sheet.claims.length === 0) return null;
  return (
    <section aria-label="Claims">
      <h2>Claims</h2>
      <DataTable plain rows={sheet.claims} id={(c) => c.id} columns={claimColumns(boardId)} />
    </section>
  );
}

export interface PaperProps extends PaperContent {
  readonly boardId: string;
  /** With charts, wiring, runs and meters. */
  readonly all: boolean;
  /** When and for whom it was given out. */
  readonly issued?: string;
}

/** A findings sheet as it lies on A4. */
export function Paper({ sheet, charts, wiring, boardId, all, issued }: PaperProps) {
  const numbers = useMemo(() => runNumbers(sheet), [sheet]);
  return (
    <Numbers value={numbers}>
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
          <Part title="Modifications" sentences={sheet.modify.map((m) => [m])} />
          <Part title="Strengths" sentences={sheet.strengths} />
        </div>
        <PaperClaims sheet={sheet} boardId={boardId} />
        <div className="paper-columns">
          {sheet.measured.map((m) => (
            <Part key={m.about} title={m.about} sentences={m.sentences} />
          ))}
          <Part title="Open" sentences={sheet.open} />
        </div>
        {all && wiring ? (
          <section aria-label="Wiring" className="paper-wiring">
            <h2>Wiring of “{wiring.from}”</h2>
            <Wiring sketch={wiring.sketch} />
          </section>
        ) : null}
        {all && charts.length ? (
          <div className="paper-charts">
            {charts.map(({ spec }) => (
              <PaperChart key={spec.id} spec={spec} />
            ))}
          </div>
        ) : null}
        {all ? (
          <div className="paper-columns small">
            <section aria-label="Runs">
              <h2>Runs</h2>
              <ol>
                {sheet.runs.map((r) => (
                  <li key={r.id}>
                    <Link href={`/run/${r.id}/review`} className="underline decoration-pencil/50 underline-offset-2">
                      {r.text}
                    </Link>{" "}
                    <span className="quiet">{shortCode(r.id)}</span>
                  </li>
                ))}
              </ol>
            </section>
            <Part title="Meters, ±(share of the reading + counts)" sentences={sheet.meters.map((m) => [m])} />
          </div>
        ) : null}
        <footer>
          {issued ? `Issued ${issued}. ` : ""}Made {localDay(sheet.madeAt)} with the analyses {sheet.versions || "none"}
          . The app advises; the cell maker&apos;s data sheet, the local code and licensed practice decide.
        </footer>
      </article>
    </Numbers>
  );
}
