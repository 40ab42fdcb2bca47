"use client";

import { compute } from "@/workers/compute";
import { Link } from "@/ui/link";
import { useEffect, useMemo, useState } from "react";
import { characteristic } from "@/core/characteristics";
import { formatLimit } from "@/core/claims";
import { formatDuration, formatQuantity, calendarDay } from "@/core/quantities";
import { procedure, type Procedure } from "@/core/procedures";
import { roleLabel, roleUnit, type Analysis, type ChartSpec, type Role } from "@/core/measurement";
import { assumedInstruments } from "@/core/procedures/catalogue";
import { movedText } from "@/core/verdicts/moved";
import type { BoardRecord, ClaimRecord } from "@/core/files/records";
import { attempt, notify } from "@/browser/notify";
import { assumeOrdinaryMeters, logAnalysis, resultsOf, runDossier, type RunDossier } from "@/notebook";
import { ofBoard, record, useLive } from "@/storage";
import { analysePoints } from "@/notebook/analysis";
import { Button } from "@/ui/button";
import { Charts, chartsAhead, type ClaimLine } from "@/ui/chart";
import { Quiet, Section } from "@/ui/section";
import { CompareRuns } from "./compare-runs";
import { LogCurves } from "./log-curves";
import { LogMarks } from "./log-marks";
import { NotStatedList } from "./not-stated";
import { AnswersTable } from "./answers-table";
import { Answer } from "./answer";
import { findingsAsTable, FindingsTable } from "./findings-table";
import { ResultList } from "./result-list";
import { useVerdicts } from "./use-verdicts";
import { numbersOfPoints, PointNumbers } from "./point-numbers";
import { PointsTable } from "./points-table";
import { TakeOver } from "./take-over";
import { RunActs } from "./run-acts";

chartsAhead();

interface Loaded {
  readonly d: RunDossier;
  readonly board: BoardRecord;
  readonly claims: readonly ClaimRecord[];
  readonly analysis: Analysis;
}

/** A run read at a desk: charts with the claims drawn in, findings with their uncertainty, every point. */
export function ReviewPage({ id }: { id: string }) {
  const live = useLive<Loaded | null>(`review-${id}`, async () => {
    const d = await runDossier(compute, id);
    const board = d ? await record("board", d.run.boardId) : null;
    return d && board
      ? {
          d,
          board,
          claims: await ofBoard(board.id, "claim"),
          analysis: d.log ? await logAnalysis(compute, d) : analysePoints(d),
        }
      : null;
  });
  if (live.state === "loading") return <Quiet>Working out the result …</Quiet>;
  if (live.state === "failed") return <Quiet>The run can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  return (
    <PointNumbers value={numbersOfPoints(live.value.d.points)}>
      <Review {...live.value} />
    </PointNumbers>
  );
}

/** The claims on what a chart shows, as lines along its axes. */
function claimLines(spec: ChartSpec, claims: readonly ClaimRecord[]): ClaimLine[] {
  const out = new Map<string, ClaimLine>();
  for (const { characteristic: name, axis } of spec.claims)
    for (const claim of claims)
      for (const r of claim.readings) {
        if (r.characteristic !== name) continue;
        const l = r.limit;
        const values =
          l.kind === "nominal"
            ? [l.nominal]
            : l.kind === "at-least"
              ? [l.low]
              : l.kind === "at-most"
                ? [l.high]
                : l.kind === "from-to"
                  ? [l.low, l.high]
                  : [];
        for (const at of values) {
          const label = `claim: ${formatLimit(l, characteristic(name)?.unit ?? "")}`;
          out.set(`${axis}${at}`, { axis, at, label });
        }
      }
  return [...out.values()];
}

/** What an earlier version of the analysis gave otherwise, from the same readings; worked out beside the page. */
function Moved({ run }: { readonly run: RunDossier["run"] }) {
  const live = useLive(
    `moved-${run.id}`,
    async () => (await resultsOf(compute, run)).moved ?? [],
    (n) => n.kinds.includes("derived") || n.runs.includes(run.id),
  );
  if (live.state !== "ready" || live.value.length === 0) return null;
  return (
    <details className="mb-3">
      <summary className="cursor-pointer font-medium">
        {live.value.length} {live.value.length === 1 ? "result" : "results"} changed by a better analysis of the same
        readings
      </summary>
      <ul className="pl-4 text-sm">
        {live.value.map((m) => (
          <li key={movedText(m)}>{movedText(m)}</li>
        ))}
      </ul>
    </details>
  );
}

/** A count with its thousands apart, so that no sign can be taken for a decimal one. */
const grouped = (n: number): string => String(n).replace(/\B(?=(\d{3})+$)/g, "\u202f");

/** How the readings were taken, and under which conditions. */
function factsOf(run: RunDossier["run"]): string[] {
  const c = run.setup.conditions;
  return [
    c.nominalOutput ? `nominal output ${formatQuantity(c.nominalOutput, "V")}` : "",
    c.programmedCurrent ? `programmed for ${formatQuantity(c.programmedCurrent, "A")}` : "",
    c.cellCapacity ? `cell of ${formatQuantity(c.cellCapacity, "Ah")}` : "",
    c.ambientTemperature !== undefined ? `ambient ${formatQuantity(c.ambientTemperature, "°C")}` : "",
    c.supplyCurrentLimit ? `supply limit ${formatQuantity(c.supplyCurrentLimit, "A")}` : "",
    c.inputLeadResistance ? `battery leads ${formatQuantity(c.inputLeadResistance, "Ω")} corrected` : "",
    c.outputLeadResistance ? `load leads ${formatQuantity(c.outputLeadResistance, "Ω")} corrected` : "",
    ...Object.entries(run.setup.offsets ?? {}).map(
      ([role, v]) =>
        `${roleLabel(role as Role).toLowerCase()} corrected by ${formatQuantity(-(v ?? 0), roleUnit(role as Role), { digits: 2 })}`,
    ),
    run.pinned.configuration,
  ].filter(Boolean);
}

/** The point that is pointed at, by the address or by a click on what came of it. */
function useMarkedPoint(): { readonly marked: string | undefined; show(id: string): void } {
  const [marked, setMarked] = useState<string | undefined>(() =>
    location.hash.startsWith("#point-") ? decodeURIComponent(location.hash.slice(7)) : undefined,
  );
  useEffect(() => {
    // An address that names a point leads to its row.
    if (location.hash.startsWith("#point-"))
      document.getElementById(decodeURIComponent(location.hash.slice(1)))?.scrollIntoView({ block: "center" });
  }, []);
  const show = (id: string) => {
    setMarked(id);
    // Past the router: it takes a changed address for the end of the way here, and would scroll back to the top.
    History.prototype.replaceState.call(history, history.state, "", `#point-${encodeURIComponent(id)}`);
    document.getElementById(`point-${id}`)?.scrollIntoView({ block: "center" });
  };
  return { marked, show };
}

interface ReviewPartProps extends Loaded {
  readonly p: Procedure;
  readonly verdicts: ReturnType<typeof useVerdicts>;
  readonly marked: string | undefined;
  show(id: string): void;
  /** A log's results stand beside its curves; what has a column a battery voltage or a channel takes the whole width. */
  readonly beside: boolean;
}

function Review(loaded: Loaded) {
  const { d, board, analysis } = loaded;
  const { run } = d;
  const p = procedure(run.procedure);
  const verdicts = useVerdicts(board.id, run.id);
  const { marked, show } = useMarkedPoint();
  useEffect(() => {
    document.title = `${run.title} · Nimbus Bench`;
  }, [run.title]);
  if (!p) return <Quiet>This version has no procedure “{run.procedure}”.</Quiet>;
  const beside =
    d.log !== null &&
    analysis.findings.length > 0 &&
    !analysis.findings.some((f) => f.conditions.battery !== undefined || f.conditions.channel !== undefined);
  const part: ReviewPartProps = { ...loaded, p, verdicts, marked, show, beside };
  return (
    <div className="sheet">
      <ReviewHead {...part} />
      <Curves {...part} />
      <Results {...part} />
      {p.readings === "trace" && d.log && (p.marks?.length || d.marks.length) ? (
        <Section mark="marks" title="Marks">
          <LogMarks d={d} procedure={p} />
        </Section>
      ) : null}
      {p.readings === "trace" && d.log ? (
        <Section mark="before and after" title="Compared with another run">
          <CompareRuns d={d} analysis={analysis} />
        </Section>
      ) : null}
      {p.readings === "answers" ? (
        <Section mark="answers" title="Answers">
          <AnswersTable d={d} procedure={p} marked={marked} />
        </Section>
      ) : null}
      {p.readings === "points" ? (
        <Section mark="readings" title="Points">
          <PointsTable d={d} procedure={p} marked={marked} onMark={show} />
        </Section>
      ) : null}
    </div>
  );
}

function ReviewHead({ d, board, p, analysis, verdicts }: ReviewPartProps) {
  const { run } = d;
  const facts = factsOf(run);
  return (
    <Section
      level={1}
      mark="result"
      title={run.title}
      aside={
        <Link href={`/board/${board.id}`} className="underline underline-offset-4">
          Board {board.title}
        </Link>
      }
    >
      <p className="text-pencil">
        {run.source.kind === "simulated"
          ? "Simulated bench"
          : run.source.kind === "file"
            ? "Imported from a file"
            : "Typed by hand"}
        ,{" "}
        {d.log
          ? `${grouped(d.log.rows)} rows over ${formatDuration(d.log.seconds)}`
          : p.readings === "answers"
            ? `${d.answers.length} answers`
            : `${d.points.length} points`}
        {facts.length ? `, ${facts.join(", ")}` : ""}.{run.state === "open" ? " In progress." : ""}
        {run.startAssumed ? ` Recorded on ${calendarDay(run.startUtc, run.zone)}, assumed from the file’s date.` : ""}
      </p>
      <Answer procedure={p} analysis={analysis} verdicts={verdicts} />
      {run.setAside ? <p className="mt-1 font-medium">Set aside: {run.setAside}. It judges no claim.</p> : null}
      <RunActs d={d} analysis={analysis} procedure={p} />
    </Section>
  );
}

const CopyTable = ({ analysis }: { readonly analysis: Analysis }) => (
  <Button
    className="no-print"
    onClick={() =>
      void attempt(() =>
        navigator.clipboard.writeText(findingsAsTable(analysis.findings)).then(() => notify("Results copied.")),
      )
    }
  >
    Copy table
  </Button>
);

/** A log's curves with its results beside them; what was drawn over something else than time below. */
function Curves({ d, board, claims, analysis, p, verdicts, marked, show, beside }: ReviewPartProps) {
  const { run } = d;
  const charts = useMemo(
    () => analysis.charts.map((spec) => ({ spec, claims: claimLines(spec, claims) })),
    [analysis, claims],
  );
  const checklist = p.readings === "answers";
  const apart = d.log
    ? analysis.charts.filter((c) => c.x.unit !== "s")
    : d.points.length || checklist
      ? analysis.charts
      : [];
  if (analysis.charts.length === 0 && (d.points.length > 0 || checklist)) return null;
  return (
    <Section
      mark={beside ? "results" : "curves"}
      title={beside ? "Results" : "Curves"}
      {...(beside ? { aside: <CopyTable analysis={analysis} /> } : {})}
    >
      {d.points.length === 0 && !d.log && !checklist ? (
        <p className="text-pencil">{p.readings === "trace" ? "No readings yet." : "No points yet."}</p>
      ) : null}
      {d.log ? (
        <div className={beside ? "grid gap-x-6 gap-y-4 min-[1100px]:grid-cols-[minmax(0,1fr)_23rem]" : ""}>
          <div className="min-w-0">
            <LogCurves log={{ id: run.id, ...d.log }} run={d} charts={charts.filter((c) => c.spec.x.unit === "s")} />
          </div>
          {beside ? (
            <div className="min-w-0 min-[1100px]:order-last">
              <Moved run={run} />
              <ResultList findings={analysis.findings} verdicts={verdicts} boardId={board.id} onPoint={show} />
            </div>
          ) : null}
        </div>
      ) : null}
      <div className="space-y-8">
        {apart.length ? (
          <Charts charts={apart.map((spec) => ({ spec, claims: claimLines(spec, claims), marked, onPick: show }))} />
        ) : null}
      </div>
    </Section>
  );
}

/** Results that have columns of their own, what is not stated, notes. */
function Results({ d, p, analysis, show, beside }: ReviewPartProps) {
  const { run } = d;
  return (
    <Section
      mark={beside ? "notes" : "results"}
      title={beside ? "Notes" : "Results"}
      {...(beside ? {} : { aside: <CopyTable analysis={analysis} /> })}
    >
      {beside ? null : (
        <>
          <Moved run={run} />
          <FindingsTable findings={analysis.findings} onPoint={show} />
        </>
      )}
      {analysis.findings.some((f) => f.unstated?.length) ? (
        <Button className="no-print mt-2" onClick={() => void attempt(() => assumeOrdinaryMeters(compute, run.id))}>
          Assume {assumedInstruments(run.procedure)}
        </Button>
      ) : null}
      <NotStatedList d={d} procedure={p} notStated={analysis.notStated ?? []} />
      {analysis.correction ? <TakeOver notebookId={run.notebookId} correction={analysis.correction} /> : null}
      {analysis.notes.length ? (
        <>
          {beside ? null : <h3 className="mt-4 font-semibold">Notes</h3>}
          <ul className="list-disc space-y-0.5 pl-5 text-sm">
            {analysis.notes.map((n, i) => (
              <li key={n.code + i}>
                {n.message}{" "}
                {n.points?.[0] ? (
                  <button
                    type="button"
                    className="underline underline-offset-4"
                    onClick={() => show(n.points?.[0] ?? "")}
                  >
                    see the point
                  </button>
                ) : null}
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </Section>
  );
}
