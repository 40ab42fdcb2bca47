import type { ChartSeries, ChartSpec } from "../measurement";

/** A run with what it draws. */
export interface CurveSource {
  readonly runId: string;
  readonly board: string;
  readonly sample: string;
  readonly title: string;
  readonly simulated?: boolean;
  readonly charts: readonly ChartSpec[];
}

/** Charts of several runs that show the same thing against the same thing. */
export interface CurveKind {
  readonly key: string;
  readonly title: string;
  /** How many of the runs draw it. */
  readonly runs: number;
  readonly overTime: boolean;
}

/** One curve of one run. */
export interface Curve {
  readonly id: string;
  readonly runId: string;
  readonly label: string;
  /** What it is within its run: `battery 3.6 V`. */
  readonly of: string;
  readonly series: ChartSeries;
}

const keyOf = (c: ChartSpec): string => [c.id.replace(/-.*$/, ""), c.x.label, c.x.unit, c.y.label, c.y.unit].join("|");

/** The kinds that any of the runs draws, those that most of them share first. */
export function curveKinds(sources: readonly CurveSource[]): CurveKind[] {
  const kinds = new Map<string, CurveKind & { readonly order: number }>();
  for (const s of sources)
    for (const key of new Set(s.charts.map(keyOf))) {
      const c = s.charts.find((x) => keyOf(x) === key) as ChartSpec;
      const there = kinds.get(key);
      kinds.set(
        key,
        there
          ? { ...there, runs: there.runs + 1 }
          : {
              key,
              title: c.namesX ? c.title : `${c.title.replace(/,.*$/, "")} against ${c.x.label.toLowerCase()}`,
              runs: 1,
              overTime: c.x.unit === "s",
              order: kinds.size,
            },
      );
    }
  return [...kinds.values()]
    .sort((a, b) => b.runs - a.runs || a.order - b.order)
    .map(({ key, title, runs, overTime }) => ({ key, title, runs, overTime }));
}

/** s at which what a log is about begins: the start of its charge, else its first row. */
const beginning = (c: ChartSpec): number =>
  c.x.unit === "s" ? (c.handles?.find((h) => h.id === "start")?.at ?? 0) : 0;

function moved(s: ChartSeries, by: number): ChartSeries {
  if (by === 0) return s;
  const shift = <P extends { readonly x: number }>(points: readonly P[]) =>
    points.map((p) => ({ ...p, x: p.x - by })).filter((p) => p.x >= 0);
  return { ...s, points: shift(s.points), ...(s.fit ? { fit: shift(s.fit) } : {}) };
}

/** Every curve of a kind, named so that two runs are told apart: by what differs of board, sample, run and series. */
export function curvesOf(sources: readonly CurveSource[], key: string): Curve[] {
  const drawn = sources.flatMap((s) => s.charts.filter((c) => keyOf(c) === key).map((c) => ({ s, c })));
  const apart = (of: (s: CurveSource) => string) => new Set(drawn.map(({ s }) => of(s))).size > 1;
  const [boards, samples] = [apart((s) => s.board), apart((s) => `${s.board} ${s.sample}`)];
  const label = (s: CurveSource, x: ChartSeries, several: boolean): string => {
    const twin = drawn.some((d) => d.s.runId !== s.runId && d.s.board === s.board && d.s.sample === s.sample);
    return [
      boards ? s.board : "",
      samples && (!boards || drawn.some((d) => d.s.board === s.board && d.s.sample !== s.sample))
        ? `sample ${s.sample}`
        : "",
      twin || (!boards && !samples) ? s.title : "",
      several ? x.label : "",
      s.simulated ? "simulated" : "",
    ]
      .filter(Boolean)
      .join(", ");
  };
  return drawn.flatMap(({ s, c }) =>
    c.series.map((x) => ({
      id: `${s.runId} ${c.id} ${x.id}`,
      runId: s.runId,
      label: label(s, x, c.series.length > 1 || drawn.some((d) => d.c.series.length > 1)),
      of: x.label,
      series: moved({ ...x, id: `${s.runId}-${x.id}` }, beginning(c)),
    })),
  );
}

/** Curves laid over each other as one chart. Logs are counted from where what they are about begins. */
export function laidOver(sources: readonly CurveSource[], key: string, curves: readonly Curve[]): ChartSpec | null {
  const first = sources.flatMap((s) => s.charts).find((c) => keyOf(c) === key);
  if (!first || curves.length === 0) return null;
  const fromStart = sources.some((s) => s.charts.some((c) => keyOf(c) === key && beginning(c) > 0));
  return {
    id: `${first.id}-over`,
    title: first.title.replace(/,.*$/, ""),
    x: fromStart ? { ...first.x, label: "Time from the start of the charge" } : first.x,
    y: first.y,
    series: curves.map((c, k) => ({ ...c.series, tone: k, label: c.label })),
    claims: [],
  };
}
