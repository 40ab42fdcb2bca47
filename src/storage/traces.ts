import { joinColumns, type TraceColumns } from "@/core/files/trace-columns";
import { database, type TraceChunk } from "./database";
import { dropRecords } from "./drop-records";

export type { TraceChunk } from "./database";

/** Rows of a chunk once its run has ended. */
const COMPACT = 10_000;

const whole = (runId: string): IDBKeyRange => IDBKeyRange.bound([runId], [runId, []]);

/** How long a log is. */
export interface TraceExtent {
  readonly rows: number;
  /** s from the first row to the last. */
  readonly seconds: number;
  readonly chunks: number;
  /** When its last chunk was written, ms since 1970; for a log that is taken live. */
  readonly at?: number;
}

/** Writes a stretch of a log; it is on disk when this resolves. */
export const appendChunk = async (chunk: TraceChunk): Promise<void> => (await appending())(chunk);

/** What writes chunks from now on: each is copied before the call returns, and on disk when what it gives resolves. */
export async function appending(): Promise<(chunk: TraceChunk) => Promise<void>> {
  const db = await database();
  return async (chunk) => {
    const tx = db.transaction("chunks", "readwrite", { durability: "strict" });
    tx.done.catch(() => undefined);
    await tx.store.add(chunk);
    await tx.done;
  };
}

/** The extent of a log from its last chunk; null where nothing is stored. */
export async function traceExtent(runId: string): Promise<TraceExtent | null> {
  const cursor = await (await database()).transaction("chunks").store.openCursor(whole(runId), "prev");
  if (!cursor) return null;
  const { from, rows, until, seq, at } = cursor.value;
  return { rows: from + rows, seconds: until, chunks: seq + 1, ...(at === undefined ? {} : { at }) };
}

/** A log's columns in one piece, from chunk `seq` on. */
export async function readTrace(runId: string, seq = 0): Promise<TraceColumns> {
  const chunks = await (await database()).getAll("chunks", IDBKeyRange.bound([runId, seq], [runId, []]));
  return joinColumns(chunks.map((c) => c.columns));
}

/** Throws a log away: an import that was cancelled leaves nothing behind. */
export async function dropTrace(runId: string): Promise<void> {
  await (await database()).delete("chunks", whole(runId));
}

/** Writes a log's many small chunks as few large ones; all of it or nothing. */
export async function compactTrace(runId: string, size = COMPACT): Promise<void> {
  const db = await database();
  const chunks = await db.getAll("chunks", whole(runId));
  if (chunks.length <= 1 || chunks.every((c, k) => c.rows === size || k === chunks.length - 1)) return;
  await replaceTrace(runId, joinColumns(chunks.map((c) => c.columns)), size);
}

/** Puts a log in the place of what is stored of it; all of it or nothing. */
export async function replaceTrace(runId: string, all: TraceColumns, size = COMPACT): Promise<void> {
  const tx = (await database()).transaction("chunks", "readwrite", { durability: "strict" });
  tx.done.catch(() => undefined);
  void tx.store.delete(whole(runId));
  for (const c of chunked(runId, all, size)) void tx.store.add(c);
  await tx.done;
}

/** Columns as the chunks they are stored in. */
export function* chunked(runId: string, all: TraceColumns, size = COMPACT): Generator<TraceChunk> {
  const rows = all.time?.length ?? 0;
  for (let from = 0, seq = 0; from < rows; from += size, seq++) {
    const to = Math.min(rows, from + size);
    const columns = Object.fromEntries(
      Object.entries(all).map(([role, v]) => [role, (v as Float64Array).slice(from, to)]),
    ) as TraceColumns;
    yield { runId, seq, from, rows: to - from, until: all.time?.[to - 1] ?? 0, columns };
  }
}

export async function putContent(fileId: string, content: Blob): Promise<void> {
  await (await database()).put("contents", content, fileId);
}
export async function content(fileId: string): Promise<Blob | null> {
  return (await (await database()).get("contents", fileId)) ?? null;
}
export async function dropContent(fileId: string): Promise<void> {
  await (await database()).delete("contents", fileId);
}

const COMING = "nimbus-log-coming";

/** While `act` stores a log whose run is only written down afterwards, no sweep takes it away. */
export const whileLogComes = <T>(act: () => Promise<T>): Promise<T> =>
  typeof navigator === "undefined" || !navigator.locks
    ? act()
    : navigator.locks.request(COMING, { mode: "shared" }, act);

/** Sweeps orphans unless a log is just coming in, here or in another tab. */
export async function sweepWhenQuiet(): Promise<void> {
  await navigator.locks.request(COMING, { ifAvailable: true }, async (lock) => {
    if (lock) await sweepOrphans();
  });
}

/** Removes chunks and contents whose record never came to be, as after a crash in the middle of an import. */
export async function sweepOrphans(): Promise<void> {
  const db = await database();
  // A notebook that never came to be, or that was being removed: its own record is the last to come and the first to go.
  const kinds = db.transaction("records").store.index("by-kind");
  const lost: string[] = [];
  for (let c = await kinds.openKeyCursor(); c; c = await c.continue([c.key[0], []] as unknown as [string, string]))
    if (!(await kinds.objectStore.getKey(c.key[0]))) lost.push(c.key[0]);
  for (const id of lost) await dropRecords(id);
  const tx = db.transaction(["chunks", "contents", "records"], "readwrite");
  const chunks = tx.objectStore("chunks");
  for (let c = await chunks.openKeyCursor(); c;) {
    const [runId] = c.key;
    if (!(await tx.objectStore("records").getKey(runId))) await chunks.delete(whole(runId));
    c = await chunks.openKeyCursor(IDBKeyRange.lowerBound([runId, []], true));
  }
  for (const id of await tx.objectStore("contents").getAllKeys())
    if (!(await tx.objectStore("records").getKey(id))) await tx.objectStore("contents").delete(id);
  await tx.done;
}
