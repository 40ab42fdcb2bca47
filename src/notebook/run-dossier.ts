import type { AnnotationRecord, AnswerRecord, PointRecord, RunRecord, StoredRecord } from "@/core/files/records";
import {
  withReadings,
  type Answer,
  type Corrections,
  type Point,
  type Readings,
  type Role,
  type TraceEvent,
} from "@/core/measurement";
import { readingsOf } from "@/core/procedures/catalogue";
import { ofRun, record } from "@/storage/queries";
import { readTrace, traceExtent, type TraceExtent } from "@/storage/traces";
import { numeric } from "@/core/quantities";
import type { Compute, RunDossier } from "./compute";

export type { RunDossier } from "./compute";

export const toPoint = (p: PointRecord): Point => ({
  id: p.id,
  sequence: p.sequence,
  settings: p.settings,
  cells: p.cells,
  ...(p.dwell !== undefined ? { dwell: p.dwell } : {}),
});

export function correctionsOf(annotations: readonly AnnotationRecord[]): Corrections {
  const conditions = annotations.filter((a) => a.what === "condition" && a.value !== undefined);
  return {
    ...(conditions.length
      ? { conditions: Object.fromEntries(conditions.map((a) => [a.target, numeric(a.value)])) }
      : {}),
    leftOut: new Map(annotations.filter((a) => a.what === "left-out").map((a) => [a.target, a.text])),
    recoveries: new Map(
      annotations.flatMap((a) => (a.what === "recovery" && a.recovery ? [[a.target, a.recovery] as const] : [])),
    ),
    closed: new Set(annotations.filter((a) => a.what === "closed").map((a) => a.target)),
    boundaries: new Map(
      annotations.flatMap((a) =>
        a.what === "boundary" && a.time !== undefined ? [[a.target, { time: a.time, why: a.text }] as const] : [],
      ),
    ),
  };
}

const marksOf = (annotations: readonly AnnotationRecord[]): TraceEvent[] =>
  annotations
    .flatMap((a) => (a.what === "mark" && a.time !== undefined ? [{ time: a.time, what: a.text, kind: a.target }] : []))
    .sort((a, b) => a.time - b.time);

/** A run's records, held so that a change is taken over without reading the rest again. */
export class RunFollower {
  private run: RunRecord | null = null;
  private readonly points = new Map<string, PointRecord>();
  private readonly annotations = new Map<string, AnnotationRecord>();
  private readonly answers = new Map<string, AnswerRecord>();
  private fromFile: readonly Point[] = [];
  private log: TraceExtent | null = null;
  private last: RunDossier | null = null;
  private readonly corrected = new Map<
    string,
    { readonly from: Point; readonly layers: readonly AnnotationRecord[]; readonly point: Point }
  >();

  constructor(
    private readonly compute: Compute,
    readonly runId: string,
  ) {}

  /** Reads the run whole. The readings of an imported run come from its file through its mapping, each time anew; its record is `known` where it has just been read. */
  async read(known?: RunRecord): Promise<RunDossier | null> {
    this.run = known ?? (await record("run", this.runId));
    this.points.clear();
    this.annotations.clear();
    this.answers.clear();
    if (!this.run) return null;
    const { points, annotations, answers } = await ofRun(this.runId);
    for (const a of answers) this.answers.set(a.id, a);
    for (const p of points) this.points.set(p.id, p);
    for (const a of annotations) this.annotations.set(a.id, a);
    if (readingsOf(this.run.procedure) === "trace") this.log = await logOf(this.compute, this.run);
    else if (this.run.source.kind === "file") this.fromFile = await filePoints(this.run.source);
    return this.dossier();
  }

  /** Takes over records that were written; anything that isn't of this run is passed over. */
  async take(written: readonly StoredRecord[]): Promise<RunDossier | null> {
    if (!this.run || (this.run.source.kind === "file" && !this.log)) return this.read();
    for (const r of written) {
      if (r.kind === "run" && r.id === this.runId) this.run = r.deletedAt ? null : r;
      else if (r.kind === "point" && r.runId === this.runId) put(this.points, r);
      else if (r.kind === "annotation" && r.runId === this.runId) put(this.annotations, r);
      else if (r.kind === "answer" && r.runId === this.runId) put(this.answers, r);
    }
    return this.dossier();
  }

  /** What did not change keeps its identity, so that nothing is worked out again for a half-typed value. */
  private dossier(): RunDossier | null {
    if (!this.run) return null;
    const all = [...this.points.values()].sort((a, b) => a.sequence - b.sequence);
    const annotations = [...this.annotations.values()];
    const read = this.run.source.kind === "file" ? this.fromFile : all.filter((p) => p.state === "taken").map(pointOf);
    const points = correctedPoints(read, annotations, this.corrected);
    const same = this.last;
    const layers = same && sameItems(same.annotations, annotations) ? same : null;
    this.last = {
      run: this.run,
      points: same && sameItems(same.points, points) ? same.points : points,
      answers: [...this.answers.values()].sort((a, b) => a.takenAt.localeCompare(b.takenAt)).map(answerOf),
      log: this.log,
      marks: layers?.marks ?? marksOf(annotations),
      draft: all.find((p) => p.state === "draft") ?? null,
      withdrawn: all.filter((p) => p.state === "withdrawn"),
      annotations: layers?.annotations ?? annotations,
      corrections: layers?.corrections ?? correctionsOf(annotations),
    };
    return this.last;
  }
}

export const answerOf = (a: AnswerRecord): Answer => ({
  id: a.id,
  item: a.item,
  word: a.word,
  at: a.takenAt,
  ...(a.volts !== undefined ? { volts: a.volts } : {}),
});

function put<R extends PointRecord | AnnotationRecord | AnswerRecord>(into: Map<string, R>, r: R): void {
  if (r.deletedAt) into.delete(r.id);
  else into.set(r.id, r);
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** Points with the readings that were corrected; one whose layers are the same keeps its identity. */
function correctedPoints(
  points: readonly Point[],
  annotations: readonly AnnotationRecord[],
  known: Map<string, { readonly from: Point; readonly layers: readonly AnnotationRecord[]; readonly point: Point }>,
): readonly Point[] {
  const layers = new Map<string, AnnotationRecord[]>();
  for (const a of annotations)
    if (a.what === "reading" && a.role) layers.set(a.target, [...(layers.get(a.target) ?? []), a]);
  if (layers.size === 0) return points;
  return points.map((from) => {
    const own = layers.get(from.id)?.sort((a, b) => a.createdAt.localeCompare(b.createdAt));
    if (!own) return from;
    const there = known.get(from.id);
    if (there && there.from === from && sameItems(there.layers, own)) return there.point;
    const point = withReadings(
      from,
      own.map((a) => ({ role: a.role as Role, value: a.value ?? null, why: a.text })),
    );
    known.set(from.id, { from, layers: own, point });
    return point;
  });
}

const pointCache = new WeakMap<PointRecord, Point>();
function pointOf(r: PointRecord): Point {
  const point = pointCache.get(r) ?? toPoint(r);
  pointCache.set(r, point);
  return point;
}

/** Reads a run whole, once, whose record has just been read. */
export const dossierOf = (compute: Compute, run: RunRecord): Promise<RunDossier | null> =>
  new RunFollower(compute, run.id).read(run);

/** Reads a run whole, once. */
export const runDossier = (compute: Compute, runId: string): Promise<RunDossier | null> =>
  new RunFollower(compute, runId).read();

/** What an analysis takes: the log, read whole, or the points. */
export async function readingsIn(
  d: Pick<RunDossier, "run" | "points" | "answers" | "log" | "marks">,
): Promise<Readings> {
  if (readingsOf(d.run.procedure) === "answers") return { kind: "answers", answers: d.answers };
  if (readingsOf(d.run.procedure) !== "trace") return { kind: "points", points: d.points };
  return { kind: "trace", trace: { columns: await readTrace(d.run.id), events: d.marks } };
}

const storing = new Map<string, Promise<boolean>>();
const alone = <T>(name: string, act: () => Promise<T>): Promise<T> =>
  typeof navigator === "undefined" || !navigator.locks ? act() : navigator.locks.request(name, act);

async function logOf(compute: Compute, run: RunRecord): Promise<TraceExtent | null> {
  const there = await traceExtent(run.id);
  if (run.source.kind !== "file") return there;
  if (there && !storing.has(run.id)) return there;
  // Whoever asks meanwhile waits for the one who stores it, here and in other tabs: a chunk is written once.
  const under =
    storing.get(run.id) ??
    alone(
      `nimbus-store-${run.id}`,
      async () => (await traceExtent(run.id)) !== null || (await compute.storeLog(run)),
    ).finally(() => storing.delete(run.id));
  storing.set(run.id, under);
  return (await under) ? traceExtent(run.id) : null;
}

async function filePoints(source: Extract<RunRecord["source"], { kind: "file" }>): Promise<readonly Point[]> {
  const file = await record("file", source.fileId);
  if (!file) return [];
  const { pointsFromFile } = await import("@/core/files/import-points");
  const { fileText } = await import("@/storage/log-files");
  const r = pointsFromFile(
    await fileText(file),
    source.dialect,
    source.mapping,
    file.id,
    source.skipBadRows ? "ask" : "whole",
  );
  return r.ok ? r.value.points : [];
}
