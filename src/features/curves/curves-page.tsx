"use client";

import { compute } from "@/workers/compute";
import { Checkbox } from "@/ui/checkbox";
import { Link } from "@/ui/link";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { curveKinds, curvesOf, laidOver, type Curve, type CurveKind, type CurveSource } from "@/core/compare";
import type { RunRecord } from "@/core/files/records";
import { datedTitle } from "@/core/files/run-name";
import { useSession } from "@/browser/context";
import { logAnalysis, runDossier } from "@/notebook";
import { boards, ofKind, useLive, runsOf } from "@/storage";
import { Chart, chartsAhead } from "@/ui/chart";
import { LogPlot } from "@/ui/log-plot";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/quantity-field";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";

chartsAhead();

/** As many as can be told apart by colour, dash and mark. */
const MOST = 8;
/** Runs listed at once; the rest is found by typing. */
const LISTED = 40;

interface Listed {
  readonly run: RunRecord;
  readonly board: string;
  readonly sample: string;
}

async function sourceOf({ run, board, sample }: Listed): Promise<CurveSource> {
  const d = await runDossier(compute, run.id);
  const played = run.source.kind === "simulated" ? { simulated: true } : {};
  if (!d) return { runId: run.id, board, sample, title: run.title, ...played, charts: [] };
  const analysis = d.log ? await logAnalysis(compute, d) : (await import("@/notebook/analysis")).analysePoints(d);
  return { runId: run.id, board, sample, title: run.title, ...played, charts: analysis.charts };
}

/** Curves of any runs laid over each other. The address names the runs and the kind, so that it can be kept and sent on. */
export function CurvesPage() {
  const { notebook } = useSession();
  const live = useLive(
    `curves-${notebook.id}`,
    async () => {
      const [runs, list, samples] = await Promise.all([
        runsOf(notebook.id),
        boards(notebook.id),
        ofKind(notebook.id, "sample"),
      ]);
      const [titles, names] = [
        new Map(list.map((b) => [b.id as string, b.title])),
        new Map(samples.map((s) => [s.id as string, s.name])),
      ];
      return runs
        .filter((r) => r.state === "finished" && titles.has(r.boardId))
        .map((run): Listed => ({ run, board: titles.get(run.boardId) ?? "", sample: names.get(run.sampleId) ?? "" }))
        .sort(
          (a, b) =>
            a.board.localeCompare(b.board, "en", { numeric: true }) || a.run.startUtc.localeCompare(b.run.startUtc),
        );
    },
    (n) => n.kinds.includes("run") || n.kinds.includes("board"),
  );
  useEffect(() => {
    document.title = "Overlaid curves · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The runs can&apos;t be loaded: {live.message}</Quiet>;
  return <Curves runs={live.value} />;
}

function Curves({ runs }: { readonly runs: readonly Listed[] }) {
  const asked = useSearchParams();
  const [ticked, setTicked] = useState<readonly string[]>(() => (asked.get("runs") ?? "").split(",").filter(Boolean));
  const [kind, setKind] = useState(asked.get("kind"));
  const chosen = useMemo(() => ticked.filter((id) => runs.some((r) => r.run.id === id)), [ticked, runs]);
  const [text, setText] = useState("");
  const [hidden, setHidden] = useState<ReadonlySet<string> | null>(null);
  const go = (patch: { readonly runs?: readonly string[]; readonly kind?: string }) => {
    if (patch.runs) setTicked(patch.runs);
    if (patch.kind) setKind(patch.kind);
    const q = new URLSearchParams({
      runs: (patch.runs ?? chosen).join(","),
      ...((patch.kind ?? kind) ? { kind: patch.kind ?? kind ?? "" } : {}),
    });
    window.history.replaceState(null, "", `/curves?${q}`);
  };
  const sources = useLive(`sources-${chosen.join()}`, () =>
    Promise.all(chosen.flatMap((id) => runs.find((r) => r.run.id === id) ?? []).map(sourceOf)),
  );
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const matching = runs.filter((r) =>
    words.every((w) => `${r.board} ${r.sample} ${r.run.title} ${r.run.procedure}`.toLowerCase().includes(w)),
  );
  // What is ticked stays in sight though other words are typed; what is in sight keeps its place when it is ticked.
  const listed = [
    ...runs.filter((r) => chosen.includes(r.run.id) && !matching.includes(r)),
    ...matching.filter((r, k) => k < LISTED || chosen.includes(r.run.id)),
  ];
  const ready = sources.state === "ready" ? sources.value : null;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="curves"
        title="Overlaid curves"
        aside={
          <Link href="/compare" className="underline underline-offset-4">
            Comparison
          </Link>
        }
      >
        <div className="grid gap-x-6 min-[1000px]:grid-cols-[19rem_minmax(0,1fr)]">
          <div>
            <TextField label="Find runs: board, sample or procedure" text={text} onText={setText} wide />
            <fieldset className="mb-4 max-h-[28rem] overflow-y-auto border-y border-rule" tabIndex={0}>
              <legend className="sr-only">Runs to overlay</legend>
              {listed.map(({ run, board, sample }) => (
                <Checkbox
                  key={run.id}
                  className="flex border-b border-rule/60 py-1 text-sm last:border-b-0"
                  checked={chosen.includes(run.id)}
                  onChecked={(on) => go({ runs: on ? [...chosen, run.id] : chosen.filter((id) => id !== run.id) })}
                >
                  <span className="font-medium">{board}</span> {sample ? `sample ${sample}: ` : ""}
                  <span className="text-pencil">{datedTitle(run)}</span>
                </Checkbox>
              ))}
              {listed.length === 0 ? (
                <p className="py-2 text-pencil">{runs.length ? "No run matches." : "No finished runs yet."}</p>
              ) : null}
            </fieldset>
            {matching.length > LISTED ? (
              <p className="mb-3 text-sm text-pencil">{matching.length - LISTED} more. Type to narrow the list.</p>
            ) : null}
          </div>
          <div className="min-w-0">
            {chosen.length === 0 ? (
              <p className="max-w-prose py-6 text-pencil">
                Select two or more runs of one kind: load sweeps, charges or heat soaks.
              </p>
            ) : sources.state === "failed" ? (
              <p role="alert">These curves can&apos;t be drawn: {sources.message}</p>
            ) : ready ? (
              <Overlay
                sources={ready}
                wanted={kind}
                hidden={hidden}
                onHidden={setHidden}
                onKind={(k) => go({ kind: k })}
                onRun={(id) => go({ runs: chosen.filter((x) => x !== id) })}
              />
            ) : (
              <Quiet>Loading the curves …</Quiet>
            )}
          </div>
        </div>
      </Section>
    </div>
  );
}

/** Several runs with several curves each: at first those of the name that most of them share, such as one battery voltage. */
function hiddenAtFirst(all: readonly Curve[], runs: number): ReadonlySet<string> {
  const names = [...new Set(all.map((c) => c.of))];
  if (runs < 2 || names.length < 2 || all.length <= 4) return new Set();
  const count = (name: string) => all.filter((c) => c.of === name).length;
  const most = names.reduce((a, b) => (count(b) > count(a) ? b : a));
  return new Set(all.filter((c) => c.of !== most).map((c) => c.id));
}

interface OverlayProps {
  readonly sources: readonly CurveSource[];
  readonly wanted: string | null;
  /** Null until somebody chose: then those of one kind are shown where several runs draw many. */
  readonly hidden: ReadonlySet<string> | null;
  onHidden(h: ReadonlySet<string>): void;
  onKind(key: string): void;
  onRun(id: string): void;
}

function Overlay({ sources, wanted, hidden: chosen, onHidden, onKind, onRun }: OverlayProps) {
  const kinds = useMemo(() => curveKinds(sources), [sources]);
  const kind: CurveKind | undefined = kinds.find((k) => k.key === wanted) ?? kinds[0];
  const all = useMemo(() => (kind ? curvesOf(sources, kind.key) : []), [sources, kind]);
  const hidden = useMemo(() => chosen ?? hiddenAtFirst(all, sources.length), [chosen, all, sources]);
  const shown = useMemo(() => all.filter((c) => !hidden.has(c.id)).slice(0, MOST), [all, hidden]);
  const spec = useMemo(() => (kind ? laidOver(sources, kind.key, shown) : null), [sources, kind, shown]);
  const until = useMemo(
    () =>
      (spec?.series ?? [])
        .flatMap((s) => [s.fit?.at(-1)?.x ?? 0, s.points.at(-1)?.x ?? 0])
        .reduce((m, x) => Math.max(m, x), 1),
    [spec],
  );
  const view = useMemo(() => ({ from: 0, to: until }), [until]);
  const names = [...new Set(all.map((c) => c.of))];
  if (!kind) return <p className="py-6 text-pencil">These runs have no curves.</p>;
  const absent = sources.filter((s) => !all.some((c) => c.runId === s.runId));
  return (
    <>
      <p className="mb-3">
        <Select
          label="Curve"
          value={kind.key}
          onValue={onKind}
          choices={kinds.map((k) => ({ value: k.key, label: `${k.title} (${k.runs} of ${sources.length})` }))}
        />
      </p>
      {spec ? (
        kind.overTime && spec.series.every((s) => s.points.length === 0) ? (
          <LogPlot spec={spec} claims={[]} view={view} height={400} />
        ) : (
          <Chart spec={spec} height={400} />
        )
      ) : (
        <p className="py-6 text-pencil">All curves are hidden. Select one below.</p>
      )}
      {absent.length ? (
        <p className="mt-2 text-sm text-pencil">
          No such curve: {absent.map((s) => `${s.board}, ${s.title}`).join("; ")}.
        </p>
      ) : null}
      {names.length > 1 && names.length < all.length ? (
        <p className="mt-3 flex flex-wrap items-center gap-2 text-sm">
          Sample
          {names.map((n) => (
            <Button key={n} onClick={() => onHidden(new Set(all.filter((c) => c.of !== n).map((c) => c.id)))}>
              {n}
            </Button>
          ))}
          <Button look="bare" onClick={() => onHidden(new Set())}>
            all
          </Button>
        </p>
      ) : null}
      <fieldset className="mt-3 grid gap-x-6 border-t border-rule pt-2 min-[700px]:grid-cols-2">
        <legend className="sr-only">Curves shown</legend>
        {all.map((c) => (
          <span key={c.id} className="flex items-baseline gap-2 text-sm">
            <Checkbox
              checked={!hidden.has(c.id)}
              onChecked={(on) => onHidden(new Set(on ? [...hidden].filter((x) => x !== c.id) : [...hidden, c.id]))}
            >
              {c.label}
            </Checkbox>
            <Link
              href={`/run/${c.runId}/review`}
              className="whitespace-nowrap text-pencil underline underline-offset-4"
            >
              its run
            </Link>
            <Button look="bare" onClick={() => onRun(c.runId)} aria-label={`Hide the run of ${c.label}`}>
              hide
            </Button>
          </span>
        ))}
      </fieldset>
      {all.length - hidden.size > MOST ? (
        <p className="mt-2 text-sm text-pencil">The first {MOST} are drawn; more can&apos;t be told apart.</p>
      ) : null}
    </>
  );
}
