import {
  RECORD_KINDS,
  type BoardRecord,
  type NotebookRecord,
  type RecordKind,
  type RecordOf,
  type StoredRecord,
} from "@/core/files/records";
import { bundlesOf, inBundle, PART_KINDS, storedParts, type StoredParts } from "./bundles";
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
  const { bundles, apart } = await storedParts((await database()).transaction(["records", "bundles"]), runId);
  const all = alive<StoredRecord>([...bundles.flatMap(inBundle), ...apart]);
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
  const tx = (await database()).transaction(["records", "bundles"]);
  const [bundles, apart] = await Promise.all([
    tx.objectStore("bundles").index("by-notebook").getAll(notebookId),
    tx
      .objectStore("records")
      .index("by-kind")
      .getAll(IDBKeyRange.bound([notebookId], [notebookId, []])),
  ]);
  return [...apart, ...bundles.flatMap(inBundle)];
}

/** Everything of a notebook that belongs to no run, tombstones included, a batch at a time. */
export async function* apartFromRuns(notebookId: string): AsyncGenerator<readonly StoredRecord[]> {
  const db = await database();
  for (const kind of RECORD_KINDS) {
    if ((PART_KINDS as readonly RecordKind[]).includes(kind)) continue;
    const own = [notebookId, kind] as [string, string];
    if (kind === "run" || kind === "photo" || kind === "file") {
      const ids = await db.getAllKeysFromIndex("records", "by-kind", own);
      const size = kind === "run" ? 500 : 4;
      for (let k = 0; k < ids.length; k += size)
        yield [...(await present(ids.slice(k, k + size).map((id) => ({ id })))).values()];
    } else yield await db.getAllFromIndex("records", "by-kind", own);
  }
}

/** What belongs to runs, tombstones included, run by run; packed as it is where it is packed. */
export async function* runByRun(runs: readonly string[]): AsyncGenerator<readonly StoredParts[]> {
  const db = await database();
  const together = (k: number) => {
    const tx = db.transaction(["records", "bundles"]);
    return Promise.all(runs.slice(k, k + TOGETHER).map((id) => storedParts(tx, id)));
  };
  // The next ones are read while these are written.
  let next = together(0);
  for (let k = 0; k < runs.length; k += TOGETHER) {
    const batch = await next;
    next = together(k + TOGETHER);
    yield batch;
  }
  await next;
}

/** Least runs for which two readers at once are worth it. */
const MANY_RUNS = 200;

/** The runs of a notebook in two halves, deleted ones included; null where there are so few that one reader is as fast. */
export async function halvesOf(notebookId: string): Promise<readonly [readonly string[], readonly string[]] | null> {
  const runs = await (await database()).getAllKeysFromIndex("records", "by-kind", [notebookId, "run"]);
  const half = Math.ceil(runs.length / 2);
  return runs.length < MANY_RUNS ? null : [runs.slice(0, half), runs.slice(half)];
}

/** What is here of these records, deleted ones included, by id; what belongs to a run is looked for under its run. */
export async function present(
  records: readonly { readonly id: string; readonly runId?: string }[],
): Promise<Map<string, StoredRecord>> {
  const tx = (await database()).transaction(["records", "bundles"]);
  const [store, bundles] = [tx.objectStore("records"), tx.objectStore("bundles")];
  const [packed, apart] = await Promise.all([
    Promise.all([...new Set(records.flatMap((r) => r.runId ?? []))].map((id) => bundles.getAll(bundlesOf(id)))),
    Promise.all(records.map((r) => store.get(r.id))),
  ]);
  const wanted = new Set(records.map((r) => r.id));
  const there = [...packed.flat().flatMap(inBundle), ...apart];
  return new Map(there.flatMap((r) => (r && wanted.has(r.id) ? [[r.id as string, r] as const] : [])));
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
