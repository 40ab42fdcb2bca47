import {
  RECORD_KINDS,
  type BoardRecord,
  type NotebookRecord,
  type RecordKind,
  type RecordOf,
  type StoredRecord,
} from "@/core/files/records";
import { database } from "./database";
import { announce } from "./notices";

const alive = <R extends StoredRecord>(list: readonly StoredRecord[]): R[] => list.filter((r) => !r.deletedAt) as R[];

/** One record, or null where it is absent or deleted. */
export async function record<K extends RecordKind>(kind: K, id: string): Promise<RecordOf<K> | null> {
  const r = await (await database()).get("records", id);
  return r && r.kind === kind && !r.deletedAt ? (r as RecordOf<K>) : null;
}

/** The oldest first: ids are random, so the store's own order means nothing. */
const byAge = <R extends StoredRecord>(list: R[]): R[] =>
  list.sort((a, b) => (a.createdAt < b.createdAt ? -1 : a.createdAt > b.createdAt ? 1 : 0));

/** All records of a kind in a notebook, deleted ones left out, the oldest first. */
export async function ofKind<K extends RecordKind>(notebookId: string, kind: K): Promise<RecordOf<K>[]> {
  return byAge(alive<RecordOf<K>>(await (await database()).getAllFromIndex("records", "by-kind", [notebookId, kind])));
}

export async function ofBoard<K extends "claim" | "sample" | "run" | "issued">(
  boardId: string,
  kind: K,
): Promise<RecordOf<K>[]> {
  return byAge(alive<RecordOf<K>>(await (await database()).getAllFromIndex("records", "by-board", [boardId, kind])));
}

/** The runs of a notebook whose board and sample are there: what was deleted is offered nowhere. Drafts are no runs. */
export async function runsOf(notebookId: string): Promise<RecordOf<"run">[]> {
  const [runs, all, samples] = await Promise.all([
    ofKind(notebookId, "run"),
    ofKind(notebookId, "board"),
    ofKind(notebookId, "sample"),
  ]);
  const there = new Set<string>([...all, ...samples].map((r) => r.id));
  return runs.filter((r) => r.state !== "prepared" && there.has(r.boardId) && there.has(r.sampleId));
}

export async function photosOf(sampleId: string): Promise<RecordOf<"photo">[]> {
  return alive<RecordOf<"photo">>(
    await (await database()).getAllFromIndex("records", "by-sample", [sampleId, "photo"]),
  );
}

/** Points, answers and annotations of a run, points in their order; withdrawn points included. */
export async function ofRun(
  runId: string,
): Promise<{ points: RecordOf<"point">[]; annotations: RecordOf<"annotation">[]; answers: RecordOf<"answer">[] }> {
  const all = alive<StoredRecord>(await (await database()).getAllFromIndex("records", "by-run", runId));
  return {
    points: (all.filter((r) => r.kind === "point") as RecordOf<"point">[]).sort((a, b) => a.sequence - b.sequence),
    annotations: all.filter((r) => r.kind === "annotation") as RecordOf<"annotation">[],
    answers: all.filter((r) => r.kind === "answer") as RecordOf<"answer">[],
  };
}

/** Every notebook, newest change first. */
export async function notebooks(): Promise<NotebookRecord[]> {
  const all = alive<NotebookRecord>(await (await database()).getAllFromIndex("records", "kind", "notebook"));
  return all.sort((a, b) => b.updatedAt.localeCompare(a.updatedAt));
}

/** Runs whose parts are read together. */
const TOGETHER = 40;

/** Everything of a notebook, tombstones included: what an archive holds. */
export async function everything(notebookId: string): Promise<StoredRecord[]> {
  const db = await database();
  return db.getAllFromIndex("records", "by-kind", IDBKeyRange.bound([notebookId], [notebookId, []]));
}

/** Kinds whose records belong to a run. */
const OF_RUNS: readonly RecordKind[] = ["point", "answer", "annotation"];

/** Everything of a notebook that belongs to no run, tombstones included, a batch at a time. */
export async function* apartFromRuns(notebookId: string): AsyncGenerator<readonly StoredRecord[]> {
  const db = await database();
  for (const kind of RECORD_KINDS) {
    if (OF_RUNS.includes(kind)) continue;
    const own = [notebookId, kind] as [string, string];
    if (kind === "run" || kind === "photo" || kind === "file") {
      const ids = await db.getAllKeysFromIndex("records", "by-kind", own);
      const size = kind === "run" ? 500 : 4;
      for (let k = 0; k < ids.length; k += size) yield [...(await present(ids.slice(k, k + size))).values()];
    } else yield await db.getAllFromIndex("records", "by-kind", own);
  }
}

/** What belongs to runs, tombstones included, run by run. */
export async function* runByRun(runs: readonly string[]): AsyncGenerator<readonly StoredRecord[]> {
  const db = await database();
  const some = (k: number) => {
    const tx = db.transaction("records");
    return Promise.all(runs.slice(k, k + TOGETHER).map((id) => tx.store.index("by-run").getAll(id)));
  };
  // The next ones are read while these are written.
  let next = some(0);
  for (let k = 0; k < runs.length; k += TOGETHER) {
    const batch = await next;
    next = some(k + TOGETHER);
    yield batch.flat();
  }
  await next;
}

/** A stretch of the store, by ids: those after the one, up to and with the other. */
export interface IdRange {
  readonly after: string;
  readonly upTo: string | null;
}

/** Least runs for which two readers at once are worth it. */
const MANY_RUNS = 200;
/** Least share of them in all that are stored from which reading everything is the faster way to what belongs to them. */
const MOSTLY = 0.9;
/** Ids are random UUIDs: as many come before it as after it. Counting them would take as long as reading some of them. */
const MIDDLE = "8";

/** The store in two halves, where reading it through is the fastest way to what belongs to a notebook's runs; null where it isn't. */
export async function halvesOf(notebookId: string): Promise<readonly [IdRange, IdRange] | null> {
  const { store } = (await database()).transaction("records");
  const [own, all] = await Promise.all([
    store.index("by-kind").count([notebookId, "run"]),
    store.index("kind").count("run"),
  ]);
  return own < MANY_RUNS || own < MOSTLY * all
    ? null
    : [
        { after: "", upTo: MIDDLE },
        { after: MIDDLE, upTo: null },
      ];
}

/** Records that are read together; among them may be photos, a few, of some megabytes each. */
const SCANNED = 500;

/** What belongs to these runs, tombstones included, in a stretch of the store, in the order in which it is stored. */
export async function* inStoredOrder(
  runs: readonly string[],
  { after, upTo }: IdRange,
): AsyncGenerator<readonly StoredRecord[]> {
  const db = await database();
  const own = new Set(runs);
  const from = (id: string) =>
    db.getAll(
      "records",
      upTo === null ? IDBKeyRange.lowerBound(id, true) : IDBKeyRange.bound(id, upTo, true, false),
      SCANNED,
    );
  let next = from(after);
  for (;;) {
    const batch = await next;
    const last = batch.at(-1);
    if (!last) return;
    // A range of nothing is refused.
    next = last.id === upTo ? Promise.resolve([]) : from(last.id);
    yield batch.filter((r) => "runId" in r && OF_RUNS.includes(r.kind) && own.has(r.runId));
  }
}

export async function present(ids: readonly string[]): Promise<Map<string, StoredRecord>> {
  const db = await database();
  const tx = db.transaction("records");
  const out = new Map<string, StoredRecord>();
  for (const r of await Promise.all(ids.map((id) => tx.store.get(id)))) if (r) out.set(r.id, r);
  return out;
}

/** The house rules in use: one of a kind, so of several that an earlier version let in the newest. */
export async function rulesRecord(notebookId: string): Promise<RecordOf<"rules"> | null> {
  const all = await ofKind(notebookId, "rules");
  return all.reduce<RecordOf<"rules"> | null>((a, b) => (a && a.updatedAt >= b.updatedAt ? a : b), null);
}

export const boards = (notebookId: string): Promise<BoardRecord[]> => ofKind(notebookId, "board");

export async function meta<T>(key: string): Promise<T | undefined> {
  return (await (await database()).get("meta", key)) as T | undefined;
}
export async function setMeta(key: string, value: unknown): Promise<void> {
  await (await database()).put("meta", value, key);
  announce({ notebookId: "", records: [], ids: [key], kinds: ["meta"], runs: [] });
}
