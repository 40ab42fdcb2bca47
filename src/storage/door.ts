import type { RunRecord, StoredRecord } from "@/core/files/records";
import { database, type Database, type JournalEntry } from "./database";
import { outdate } from "./derived";
import { announce } from "./notices";

/** A write that could not be made; nothing of it was stored. */
export class StorageError extends Error {
  constructor(
    message: string,
    readonly full: boolean,
  ) {
    super(message);
    this.name = "StorageError";
  }
}

export const now = (): string => new Date().toISOString();
export const newId = (): string => crypto.randomUUID();

function storageError(e: unknown): StorageError {
  const name = (e as DOMException | null)?.name ?? "";
  if (name === "QuotaExceededError") return new StorageError("The browser's storage is full: nothing of this change was kept. Export an archive, then free space or remove an old notebook.", true);
  return new StorageError(`The browser could not store this (${(e as Error).message || name}). Nothing of this change was kept.`, false);
}

type WriteTransaction = ReturnType<typeof openWrite>;
const openWrite = (db: Database) => db.transaction(["records", "journal", "derived"], "readwrite", { durability: "strict" });

/** Throws away what was worked out from the records that change, in the same transaction; gives the runs they are of. */
async function forgetDerived(tx: WriteTransaction, changed: readonly StoredRecord[]): Promise<string[]> {
  const runs = new Set<string>();
  const boards = new Set<string>();
  for (const r of changed) {
    if (r.kind === "run") runs.add(r.id);
    if ("runId" in r) runs.add(r.runId);
    if (r.kind === "board") boards.add(r.id);
    if ("boardId" in r) boards.add(r.boardId);
  }
  const store = tx.objectStore("records");
  const found = (await Promise.all([...runs].map((id) => store.get(id)))) as (RunRecord | undefined)[];
  for (const run of found) if (run) boards.add(run.boardId);
  const derived = tx.objectStore("derived");
  const keys = [...[...runs].flatMap((id) => [`run:${id}`, `analysis:${id}`]), ...[...boards].flatMap((id) => [`board:${id}`, `column:${id}`, `cells:${id}`])];
  outdate(keys);
  await Promise.all(keys.map((k) => derived.delete(k)));
  return [...runs];
}

/** Keeps what undoing needs. A new change ends the road that redo could have taken. */
async function keepInJournal(tx: WriteTransaction, entry: JournalEntry): Promise<void> {
  const journal = tx.objectStore("journal");
  for (let c = await journal.index("by-notebook").openCursor(entry.notebookId, "prev"); c && c.value.undone === 1; c = await c.continue()) await c.delete();
  await journal.add(entry);
}

function notify(notebookId: string, written: readonly StoredRecord[], runs: readonly string[]): void {
  announce({ notebookId, records: written, ids: written.map((r) => r.id), kinds: [...new Set(written.map((r) => r.kind))], runs });
}

/**
 * The one door through which records are written.
 *
 * Every record is checked against its schema first; then all are written in one transaction of strict durability
 * together with a journal entry, so that the whole can be undone, and the other parts and tabs are told once it is on
 * disk. Rejects with a StorageError, and has then written nothing.
 */
export async function change(label: string, records: readonly StoredRecord[], options: { journal?: boolean } = {}): Promise<void> {
  const first = records[0];
  if (!first) return;
  const { validateRecord } = await import("@/core/files/validate");
  for (const r of records) {
    const checked = validateRecord(r);
    if (!checked.ok) throw new StorageError(`internal: ${checked.error}`, false);
  }
  try {
    const tx = openWrite(await database());
    // Where a request fails first, that error is the one to say.
    tx.done.catch(() => undefined);
    const store = tx.objectStore("records");
    // Nothing here waits for another where it need not: a point has to be on disk before the screen says so.
    const before = (await Promise.all(records.map((r) => store.get(r.id)))).map((r) => r ?? null);
    const [runs] = await Promise.all([
      forgetDerived(tx, records),
      options.journal === false ? null : keepInJournal(tx, { notebookId: first.notebookId, label, at: now(), before, after: records, undone: 0 }),
      ...records.map((r) => store.put(r)),
    ]);
    await tx.done;
    notify(first.notebookId, records, runs);
  } catch (e) {
    throw storageError(e);
  }
}

/** Deletes by tombstone. */
export function remove(label: string, records: readonly StoredRecord[]): Promise<void> {
  const at = now();
  return change(label, records.map((r) => ({ ...r, deletedAt: at, updatedAt: at })));
}

async function replay(notebookId: string, pick: "undo" | "redo"): Promise<string | null> {
  try {
    const tx = openWrite(await database());
    const journal = journalOf(tx);
    const entry = await findEntry(journal, notebookId, pick);
    if (!entry) {
      await tx.done;
      return null;
    }
    const at = now();
    const store = tx.objectStore("records");
    const written: StoredRecord[] = entry.after.map((after, i) => {
      const target = pick === "undo" ? entry.before[i] : after;
      return target ? { ...target, updatedAt: at } : { ...after, deletedAt: at, updatedAt: at };
    });
    for (const r of written) await store.put(r);
    await journal.put({ ...entry, undone: pick === "undo" ? 1 : 0 });
    const runs = await forgetDerived(tx, written);
    await tx.done;
    notify(notebookId, written, runs);
    return entry.label;
  } catch (e) {
    throw storageError(e);
  }
}

const journalOf = (tx: WriteTransaction) => tx.objectStore("journal");

async function findEntry(journal: ReturnType<typeof journalOf>, notebookId: string, pick: "undo" | "redo"): Promise<JournalEntry | null> {
  const index = journal.index("by-notebook");
  let redo: JournalEntry | null = null;
  for (let c = await index.openCursor(notebookId, "prev"); c; c = await c.continue()) {
    if (c.value.undone === 0) return pick === "undo" ? c.value : redo;
    redo = c.value;
  }
  return pick === "redo" ? redo : null;
}

/** Takes back the newest change of a notebook; gives its label, or null where there is none. */
export const undo = (notebookId: string): Promise<string | null> => replay(notebookId, "undo");
/** Makes the change again that was taken back last. */
export const redo = (notebookId: string): Promise<string | null> => replay(notebookId, "redo");
