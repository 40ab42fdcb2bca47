import type { AnnotationRecord, PointRecord, RunRecord, StoredRecord } from "@/core/files/records";
import type { Corrections, Point, Readings, Trace } from "@/core/procedures";
import { readingsOf } from "@/core/procedures/versions";
import { ofRun, record } from "./queries";

/** A run with its readings and the layers over them. */
export interface RunDossier {
  readonly run: RunRecord;
  readonly points: readonly Point[];
  /** A log over time; null for a run of points. */
  readonly trace: Trace | null;
  /** The stored points of a run that was typed or simulated, drafts and withdrawn ones apart. */
  readonly draft: PointRecord | null;
  readonly withdrawn: readonly PointRecord[];
  readonly annotations: readonly AnnotationRecord[];
  readonly corrections: Corrections;
}

export const toPoint = (p: PointRecord): Point => ({
  id: p.id,
  sequence: p.sequence,
  settings: p.settings,
  cells: p.cells,
  ...(p.dwell !== undefined ? { dwell: p.dwell } : {}),
});

export function correctionsOf(annotations: readonly AnnotationRecord[]): Corrections {
  return {
    leftOut: new Map(annotations.filter((a) => a.what === "left-out").map((a) => [a.target, a.text])),
    recoveries: new Map(annotations.flatMap((a) => (a.what === "recovery" && a.recovery ? [[a.target, a.recovery] as const] : []))),
    closed: new Set(annotations.filter((a) => a.what === "closed").map((a) => a.target)),
  };
}

/** A run's records, held so that a change is taken over without reading the rest again. */
export class RunFollower {
  private run: RunRecord | null = null;
  private readonly points = new Map<string, PointRecord>();
  private readonly annotations = new Map<string, AnnotationRecord>();
  private fromFile: { readonly points: readonly Point[]; readonly trace: Trace | null } = { points: [], trace: null };
  private last: RunDossier | null = null;

  constructor(readonly runId: string) {}

  /** Reads the run whole. The readings of an imported run come from its file through its mapping, each time anew. */
  async read(): Promise<RunDossier | null> {
    this.run = await record("run", this.runId);
    this.points.clear();
    this.annotations.clear();
    if (!this.run) return null;
    const { points, annotations } = await ofRun(this.runId);
    for (const p of points) this.points.set(p.id, p);
    for (const a of annotations) this.annotations.set(a.id, a);
    if (this.run.source.kind === "file") this.fromFile = await fileReadings(this.run.procedure, this.run.source);
    return this.dossier();
  }

  /** Takes over records that were written; anything that isn't of this run is passed over. */
  async take(written: readonly StoredRecord[]): Promise<RunDossier | null> {
    if (!this.run || this.run.source.kind === "file") return this.read();
    for (const r of written) {
      if (r.kind === "run" && r.id === this.runId) this.run = r.deletedAt ? null : r;
      else if (r.kind === "point" && r.runId === this.runId) put(this.points, r);
      else if (r.kind === "annotation" && r.runId === this.runId) put(this.annotations, r);
    }
    return this.dossier();
  }

  /** What did not change keeps its identity, so that nothing is worked out again for a half-typed value. */
  private dossier(): RunDossier | null {
    if (!this.run) return null;
    const all = [...this.points.values()].sort((a, b) => a.sequence - b.sequence);
    const points = this.run.source.kind === "file" ? this.fromFile.points : all.filter((p) => p.state === "taken").map(pointOf);
    const annotations = [...this.annotations.values()];
    const same = this.last;
    const layers = same && sameItems(same.annotations, annotations) ? same : null;
    this.last = {
      run: this.run,
      points: same && sameItems(same.points, points) ? same.points : points,
      trace: this.fromFile.trace,
      draft: all.find((p) => p.state === "draft") ?? null,
      withdrawn: all.filter((p) => p.state === "withdrawn"),
      annotations: layers?.annotations ?? annotations,
      corrections: layers?.corrections ?? correctionsOf(annotations),
    };
    return this.last;
  }
}

function put<R extends PointRecord | AnnotationRecord>(into: Map<string, R>, r: R): void {
  if (r.deletedAt) into.delete(r.id);
  else into.set(r.id, r);
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean => a.length === b.length && a.every((x, i) => x === b[i]);

const known = new WeakMap<PointRecord, Point>();
function pointOf(r: PointRecord): Point {
  const point = known.get(r) ?? toPoint(r);
  known.set(r, point);
  return point;
}

/** Reads a run whole, once. */
export const runDossier = (runId: string): Promise<RunDossier | null> => new RunFollower(runId).read();

/** What an analysis takes: the log, or the points. */
export const readingsIn = (d: Pick<RunDossier, "points" | "trace">): Readings => (d.trace ? { kind: "trace", trace: d.trace } : { kind: "points", points: d.points });

type FileSource = Extract<RunRecord["source"], { kind: "file" }>;
/** Cuts a log's text, wherever that is best done: a long log would hold up the page. */
export type TraceReader = (text: string, source: FileSource) => Promise<Trace | null>;
let readTrace: TraceReader = async (text, source) => {
  const { traceFromFile } = await import("@/core/files/import-trace");
  const r = traceFromFile(text, source.dialect, source.mapping);
  return r.ok ? r.value.trace : null;
};
export function readTracesWith(reader: TraceReader): void {
  readTrace = reader;
}

async function fileReadings(procedure: string, source: FileSource): Promise<{ points: readonly Point[]; trace: Trace | null }> {
  const file = await record("file", source.fileId);
  if (!file) return { points: [], trace: null };
  if (readingsOf(procedure) === "trace") return { points: [], trace: await readTrace(file.text, source) };
  const { pointsFromFile } = await import("@/core/files/import-points");
  const r = pointsFromFile(file.text, source.dialect, source.mapping, file.id);
  return { points: r.ok ? r.value.points : [], trace: null };
}
