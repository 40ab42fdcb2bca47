import type { RunRecord, StoredRecord } from "@/core/files/records";
import { highest } from "@/core/quantities/extremes";
import { database, WRITTEN, type DerivedEntry, type WriteTransaction } from "./database";
import { announce, listen } from "./notices";

/*
 * What is worked out from records is kept so that it need not be worked out again. It is written in the background: whoever worked
 * something out goes on at once. A record that changes meanwhile deletes what was kept of it; so that a result of the old readings is
 * not kept after that, every result says since when it was being worked out.
 */

let clock = 0;
/** Changes that this page has made or was told of. */
let changes = 0;
/** Nothing that was begun before is kept. */
let floor = 0;
/** When a key was last deleted for a change. */
const outdatedAt = new Map<string, number>();
const waiting = new Map<string, { readonly entry: DerivedEntry; readonly since: number }>();
let writing: Promise<void> | null = null;
let watching = false;

/** Changes that the database had told of when this page last looked. What begins now reads them and all before. */
let seen = 0;
/** How many that were when a moment of the clock was first handed out. */
const seenAt = new Map<number, number>();
let looked: Promise<void> | null = null;

function seeing(count: number): void {
  if (count <= seen) return;
  seen = count;
  clock++;
}

/** Says that something is about to be read and worked out; the answer is handed to `keep` with the result. */
export async function workBegins(): Promise<number> {
  looked ??= changesSoFar().then(seeing);
  await looked.catch((e: unknown) => {
    looked = null;
    throw e;
  });
  if (!watching && typeof window !== "undefined") {
    watching = true;
    // Another tab deletes for itself what it changes; what is being worked out here may be older than that.
    listen((_, elsewhere) => {
      if (!elsewhere) return;
      changes++;
      floor = ++clock;
      void changesSoFar().then(seeing, () => undefined);
    });
  }
  if (!seenAt.has(clock)) seenAt.set(clock, seen);
  return clock;
}

/** Says that records under these keys change; called inside the transaction that deletes what was kept under them. */
export function outdate(keys: readonly string[]): void {
  changes++;
  clock++;
  for (const k of keys) {
    outdatedAt.set(k, clock);
    waiting.delete(k);
  }
}

/** Changes that this page knows of: what is being worked out is good for whoever asks while they stay the same. */
export const changesHere = (): number => changes;

const stillGood = (key: string, since: number): boolean => since >= floor && since >= (outdatedAt.get(key) ?? 0);

/** What was kept under a key, under whatever stamp: an older version's, say, to tell what has moved since. */
export async function keptEntry(key: string): Promise<DerivedEntry | undefined> {
  const soon = waiting.get(key);
  return soon && stillGood(key, soon.since) ? soon.entry : (await database()).get("derived", key);
}

/** What was kept under each of these keys, in their order, read in one go. */
export async function keptEntries(keys: readonly string[]): Promise<(DerivedEntry | undefined)[]> {
  const { store } = (await database()).transaction("derived");
  return Promise.all(
    keys.map((key) => {
      const soon = waiting.get(key);
      return soon && stillGood(key, soon.since) ? soon.entry : store.get(key);
    }),
  );
}

/** All that was kept under keys that begin so, with this stamp; read in one go, so that a thousand are there at once. */
export async function keptUnder<T>(prefix: `${string}:`, stamp: string): Promise<(readonly [key: string, value: T])[]> {
  const found = await (await database()).getAll("derived", IDBKeyRange.bound(prefix, `${prefix}\uffff`));
  return found.flatMap((k) => (k.stamp === stamp ? [[k.key.slice(prefix.length), k.value as T] as const] : []));
}

/** What was kept under a key with this stamp; undefined where there is none. */
export async function keptValue<T>(key: string, stamp: string): Promise<T | undefined> {
  const newest = await keptEntry(key);
  return newest?.stamp === stamp ? (newest.value as T) : undefined;
}

/** Keeps a result that was being worked out since `since`, together with what comes while others are being written; a failure costs only the time to work it out again. */
export function keep(entries: readonly DerivedEntry[], since: number): void {
  for (const entry of entries) if (stillGood(entry.key, since)) waiting.set(entry.key, { entry, since });
  writing ??= write().finally(() => {
    writing = null;
    if (waiting.size) keep([], clock);
  });
}

async function write(): Promise<void> {
  const batch = [...waiting];
  if (!batch.length) return;
  try {
    const tx = (await database()).transaction("derived", "readwrite");
    // Once the first answer is here no change is half way: those before this transaction have said what they outdate, those of other
    // tabs in the database.
    const outdated = outdatedIn(await tx.store.get(OUTDATED));
    await Promise.all([
      ...batch.flatMap(([key, { entry, since }]) =>
        stillGood(key, since) && upToDate(outdated, key, seenAt.get(since) ?? 0) ? [tx.store.put(entry)] : [],
      ),
      tx.done,
    ]);
    seeing(outdated.count);
  } catch {
    // Full, or the database closed: it is worked out again when it is wanted.
  }
  for (const [key, w] of batch) if (waiting.get(key) === w) waiting.delete(key);
}

/** Resolves when all that was to be kept is written. */
export async function derivedWritten(): Promise<void> {
  while (writing) await writing;
}

/*
 * A worker can't be told in time what a page changes. So each change says in the database itself what it outdates, in its own transaction;
 * whoever writes what was worked out elsewhere looks there, in the transaction that writes.
 */

/** Key under which it stands; nothing else has a key without a colon. */
const OUTDATED = "outdated";
/** The last changes that are told one by one, and the most keys that one of them is told by: beyond it outdates all that was begun before. */
const CHANGES_TOLD = 40;
const KEYS_TOLD = 300;

interface Outdated {
  /** Changes counted from the first. */
  readonly count: number;
  /** Nothing that was begun after fewer changes than these is good. */
  readonly floor: number;
  readonly told: readonly { readonly change: number; readonly keys: readonly string[] }[];
}
const NEVER: Outdated = { count: 0, floor: 0, told: [] };

/** As much of the store as is needed, whatever else its transaction spans. */
interface DerivedStore {
  get(key: string): Promise<DerivedEntry | undefined>;
  put(entry: DerivedEntry): Promise<string>;
  readonly transaction: { readonly done: Promise<void> };
}
const outdatedIn = (entry: DerivedEntry | undefined): Outdated => (entry?.value as Outdated | undefined) ?? NEVER;

/** Whether nothing that was told after so many changes outdates a key. */
const upToDate = ({ floor, told }: Outdated, key: string, since: number): boolean =>
  since >= floor && !told.some((t) => t.change > since && t.keys.includes(key));

/**
 * Says in the database that what was being worked out under these keys, or all that was, is out of date; in the transaction that deletes it.
 */
export async function tellOutdated(store: DerivedStore, keys: readonly string[] | "all"): Promise<void> {
  const last = outdatedIn(await store.get(OUTDATED));
  const count = last.count + 1;
  const told =
    keys === "all" || keys.length > KEYS_TOLD ? [] : [...last.told, { change: count, keys }].slice(-CHANGES_TOLD);
  const floor = told.length ? highest([last.floor, (told[0]?.change ?? 1) - 1]) : count;
  // What this page begins once that is on disk reads what it has changed.
  store.transaction.done.then(
    () => seeing(count),
    () => undefined,
  );
  await store.put({ key: OUTDATED, stamp: "", value: { count, floor, told } satisfies Outdated });
}

/** Changes so far: read before anything is worked out that another thread than the page will write. */
export const changesSoFar = async (): Promise<number> =>
  outdatedIn(await (await database()).get("derived", OUTDATED)).count;

/** Writes what was being worked out since so many changes, but what a change outdated meanwhile. */
export async function writeKept(entries: readonly DerivedEntry[], since: number): Promise<void> {
  if (entries.length === 0) return;
  const tx = (await database()).transaction("derived", "readwrite");
  const { floor, told } = outdatedIn(await tx.store.get(OUTDATED));
  const gone = new Set(told.flatMap((t) => (t.change > since ? t.keys : [])));
  await Promise.all([...entries.flatMap((e) => (since < floor || gone.has(e.key) ? [] : [tx.store.put(e)])), tx.done]);
}

/** Keys under which results of a run, and of a board, are kept. */
export const runKeys = (id: string): string[] => [`run:${id}`, `analysis:${id}`];
export const boardKeys = (id: string): string[] =>
  ["board", "column", "cells", "candidate", "outcomes"].map((kept) => `${kept}:${id}`);

/** Throws away what was worked out from runs whose log changed while their record did not. */
export async function forgetRuns(ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const tx = (await database()).transaction([...WRITTEN], "readwrite");
  const runs = (await Promise.all(ids.map((id) => tx.objectStore("records").get(id)))).flatMap((r) => (r ? [r] : []));
  await forgetDerived(tx, runs);
  await tx.done;
  for (const notebookId of new Set(runs.map((r) => r.notebookId)))
    announce({ notebookId, records: [], ids, kinds: ["run"], runs: ids });
}

/** Throws away what was worked out from the records that change, in the same transaction; gives the runs they are of. */
export async function forgetDerived(tx: WriteTransaction, changed: readonly StoredRecord[]): Promise<string[]> {
  const runs = new Set<string>();
  const boards = new Set<string>();
  for (const r of changed) {
    if (r.kind === "run") runs.add(r.id);
    if ("runId" in r) runs.add(r.runId);
    if (r.kind === "board") boards.add(r.id);
    if ("boardId" in r) boards.add(r.boardId);
  }
  const store = tx.objectStore("records");
  const records = (await Promise.all([...runs].map((id) => store.get(id)))) as (RunRecord | undefined)[];
  for (const run of records) if (run) boards.add(run.boardId);
  const derived = tx.objectStore("derived");
  const keys = [...[...runs].flatMap(runKeys), ...[...boards].flatMap(boardKeys)];
  outdate(keys);
  await Promise.all([...keys.map((k) => derived.delete(k)), keys.length ? tellOutdated(derived, keys) : null]);
  return [...runs];
}
