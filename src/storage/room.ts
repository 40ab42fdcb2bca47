import type { PhotoRecord, StoredRecord } from "@/core/files/records";
import { dropRecords } from "./drop-records";
import { database } from "./database";
import { boardKeys, runKeys, tellOutdated } from "./derived";
import { announceNotebook } from "./notices";
import { meta, record, setMeta } from "./queries";

/** Bytes that a notebook takes, by what they are. Logs and records are estimated from their numbers; the rest is counted. */
export interface NotebookSize {
  readonly photos: number;
  readonly files: number;
  readonly logs: number;
  readonly history: number;
  readonly records: number;
}

/** Bytes of a stored record that holds neither a photo nor a file, in the mean. */
const RECORD_BYTES = 700;

/** Bytes that a bundle of records takes on disk, in the mean: the browser compresses it to a tenth. */
const BUNDLE_BYTES = 5000;

export const totalSize = (s: NotebookSize): number => s.photos + s.files + s.logs + s.history + s.records;

export async function notebookSize(notebookId: string): Promise<NotebookSize> {
  const db = await database();
  const all = IDBKeyRange.bound([notebookId], [notebookId, []]);
  const own = (kind: string) => [notebookId, kind] as [string, string];
  let [photos, files, logs] = [0, 0, 0];
  for (
    let c = await db.transaction("records").store.index("by-kind").openCursor(own("photo"));
    c;
    c = await c.continue()
  )
    photos += (c.value as PhotoRecord).bytes.length;
  for (const id of await db.getAllKeysFromIndex("records", "by-kind", own("file")))
    files += (await db.get("contents", id))?.size ?? 0;
  const runs = new Set(await db.getAllKeysFromIndex("records", "by-kind", own("run")));
  const chunks = new Map<string, number>();
  for (const [runId] of await db.getAllKeys("chunks"))
    if (runs.has(runId)) chunks.set(runId, (chunks.get(runId) ?? 0) + 1);
  for (const [id, count] of chunks) {
    const [first] = await db.getAll("chunks", IDBKeyRange.bound([id], [id, []]), 1);
    if (first) logs += count * first.rows * Object.keys(first.columns).length * 8;
  }
  let history = 0;
  for (
    let c = await db.transaction("journal").store.index("by-notebook").openCursor(notebookId);
    c;
    c = await c.continue()
  )
    history += 200 + (c.value.after.length + c.value.before.filter(Boolean).length) * RECORD_BYTES;
  const apart = await db.countFromIndex("records", "by-kind", all);
  const bundles = await db.countFromIndex("bundles", "by-notebook", notebookId);
  return { photos, files, logs, history, records: RECORD_BYTES * apart + BUNDLE_BYTES * bundles };
}

/** Removes a notebook with everything in it, for good. What a crash leaves of it is swept away later. */
export async function removeNotebook(notebookId: string): Promise<void> {
  const db = await database();
  const runs = await db.getAllKeysFromIndex("records", "by-kind", [notebookId, "run"]);
  const files = await db.getAllKeysFromIndex("records", "by-kind", [notebookId, "file"]);
  const boards = await db.getAllKeysFromIndex("records", "by-kind", [notebookId, "board"]);
  // First of all the notebook itself: from here on nobody sees any of it.
  await db.delete("records", notebookId);
  announceNotebook(notebookId);
  const tx = db.transaction(["chunks", "contents", "derived", "meta"], "readwrite");
  for (const id of runs) void tx.objectStore("chunks").delete(IDBKeyRange.bound([id], [id, []]));
  for (const id of files) void tx.objectStore("contents").delete(id);
  for (const key of [...runs.flatMap(runKeys), ...boards.flatMap(boardKeys)])
    void tx.objectStore("derived").delete(key);
  void tx.objectStore("meta").delete(`archived:${notebookId}`);
  // All of it, so that no id of the notebook stays there.
  await Promise.all([tellOutdated(tx.objectStore("derived"), "all"), tx.done]);
  await dropJournal(notebookId);
  await dropRecords(notebookId);
}

async function dropJournal(notebookId: string): Promise<void> {
  const tx = (await database()).transaction("journal", "readwrite");
  for (const key of await tx.store.index("by-notebook").getAllKeys(notebookId)) void tx.store.delete(key);
  await tx.done;
}

/** How long changes can be undone, and how many of them. */
export interface Horizon {
  readonly days: number;
  readonly most: number;
}
export const USUAL_HORIZON: Horizon = { days: 30, most: 20_000 };
const HORIZON = "history-horizon";
export const horizon = async (): Promise<Horizon> => (await meta<Horizon>(HORIZON)) ?? USUAL_HORIZON;
export const setHorizon = (h: Horizon): Promise<void> => setMeta(HORIZON, h);

const DAY = 86_400_000;

/**
 * Forgets the changes beyond the horizon, and with them the contents of photos and files that were deleted before it: their tombstones
 * stay, and so do the versions that every record remembers. Gives how many changes were forgotten.
 */
export async function compactHistory(notebookId: string, at: number, { days, most }: Horizon): Promise<number> {
  const db = await database();
  const tx = db.transaction(["journal", "records", "contents"], "readwrite");
  const journal = tx.objectStore("journal");
  const keys = await journal.index("by-notebook").getAllKeys(notebookId);
  const since = new Date(at - days * DAY).toISOString();
  let forgotten = 0;
  let oldest: string | null = null;
  for (const [k, key] of keys.entries()) {
    const beyond = k < keys.length - most;
    if (!beyond) {
      const entry = await journal.get(key);
      if (!entry || entry.at >= since) {
        oldest = entry?.at ?? null;
        break;
      }
    }
    await journal.delete(key);
    forgotten++;
  }
  // What was deleted while its deletion can still be undone keeps its content.
  const firstKept = oldest ?? new Date(at).toISOString();
  const gone = (r: StoredRecord | undefined): boolean => Boolean(r?.deletedAt && r.deletedAt < firstKept);
  const records = tx.objectStore("records");
  for (const id of await records.index("by-kind").getAllKeys([notebookId, "photo"])) {
    const r = await records.get(id);
    if (r?.kind === "photo" && gone(r) && r.bytes.length) await records.put({ ...r, bytes: new Uint8Array() });
  }
  for (const id of await records.index("by-kind").getAllKeys([notebookId, "file"])) {
    const r = await records.get(id);
    if (r?.kind !== "file" || !gone(r)) continue;
    await tx.objectStore("contents").delete(id);
    if (r.text) await records.put({ ...r, text: "" });
  }
  await tx.done;
  return forgotten;
}

/** Forgets what lies beyond the horizon in every notebook; said once a while, when nothing else is to be done. */
export async function compactAll(at: number): Promise<void> {
  const h = await horizon();
  for (const n of await (await database()).getAllKeysFromIndex("records", "kind", "notebook"))
    if (await record("notebook", n)) await compactHistory(n, at, h);
}
