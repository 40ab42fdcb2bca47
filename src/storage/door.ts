import type { StoredRecord } from "@/core/files/records";
import { sameValue, threeWay, withMine, type Clash } from "@/core/files/three-way";
import { database, NewerVersion, WRITTEN, type Database, type JournalEntry, type WriteTransaction } from "./database";
import { runsOfParts, unpackRuns } from "./bundles";
import { STORAGE_FULL } from "./full";
import { forgetDerived } from "./derived";
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

/** A field that was changed elsewhere while it was being changed here. */
export interface FieldClash extends Clash {
  readonly record: StoredRecord;
}

/** An edit that meets another one of the same field: nothing was stored, and whoever asked decides which of the two stays. */
export class EditClash extends Error {
  constructor(
    readonly clashes: readonly FieldClash[],
    /** Makes the edit after all, with what is here where the two differ. */
    readonly insist: () => Promise<Act | null>,
  ) {
    super("This was changed elsewhere. Nothing was stored.");
    this.name = "EditClash";
  }
}

export const now = (): string => new Date().toISOString();
export const newId = (): string => crypto.randomUUID();

/** An edit of a record that is there: what is stored is the difference of the two, laid onto what is there by then. */
export interface Edit {
  readonly from: StoredRecord;
  readonly to: StoredRecord;
}
/** An edit of a record: `from` is it as whoever edits it has seen it. */
export const edit = <R extends StoredRecord>(from: R, to: R): Edit => ({ from, to });

interface Removal {
  readonly gone: StoredRecord;
}
/** A record that is new, an edit of one, or its deletion. */
export type Item = StoredRecord | Edit | Removal;

/** What a change can be undone by. */
export interface Act {
  readonly notebookId: string;
  readonly seq: number;
  readonly label: string;
}

/** What the browser says of a write, in words. */
export function storageError(e: unknown): Error {
  if (e instanceof EditClash || e instanceof StorageError) return e;
  if (e instanceof NewerVersion) return new StorageError(`${e.message} Nothing of this change is stored.`, false);
  const name = (e as DOMException | null)?.name ?? "";
  if (name === "QuotaExceededError") return new StorageError(STORAGE_FULL, true);
  return new StorageError(
    `The browser could not store this (${(e as Error).message || name}). Nothing of this change is stored.`,
    false,
  );
}

const openWrite = (db: Database): WriteTransaction =>
  db.transaction([...WRITTEN], "readwrite", { durability: "strict" });
const passAny = { validateRecord: (value: StoredRecord) => ({ ok: true as const, value }) };
const checking = (before: boolean) =>
  Promise.all([before ? passAny : import("@/core/files/validate"), import("@/core/files/versions")]);

/** A photo's bytes never change, so that history needs no second copy of them. */
const slim = <R extends StoredRecord | null>(r: R): R => (r?.kind === "photo" ? { ...r, bytes: new Uint8Array() } : r);

/** Keeps what undoing needs. A new change ends the road that redo could have taken. */
async function keepInJournal(tx: WriteTransaction, entry: JournalEntry): Promise<number> {
  const journal = tx.objectStore("journal");
  for (
    let c = await journal.index("by-notebook").openCursor(entry.notebookId, "prev");
    c && c.value.undone === 1;
    c = await c.continue()
  )
    await c.delete();
  return journal.add({ ...entry, before: entry.before.map(slim), after: entry.after.map(slim) });
}

function notify(notebookId: string, written: readonly StoredRecord[], runs: readonly string[]): void {
  announce({
    notebookId,
    records: written,
    ids: written.map((r) => r.id),
    kinds: [...new Set(written.map((r) => r.kind))],
    runs,
  });
}

const recordOf = (i: Item): StoredRecord =>
  "gone" in i ? i.gone : "from" in i && "to" in i ? (i as Edit).to : (i as StoredRecord);
const isEdit = (i: Item): i is Edit => "to" in i && "from" in i && !("kind" in i);

/** Records that one writer alone writes, and only ever whole: readings, and what is laid over them. */
const WHOLE: ReadonlySet<string> = new Set(["point", "answer"]);

export interface ChangeOptions {
  /** False: it is not to be undone, as what is half typed. */
  readonly journal?: boolean;
  /** Where a field was changed elsewhere meanwhile, what is here goes before. */
  readonly insist?: boolean;
  /** The records were checked when the application was built: what checks them need not be fetched. */
  readonly checkedBefore?: boolean;
}

/**
 * The one door through which records are written.
 *
 * A new record is written as it is; of an edit only what it changes, onto what is there by now, so that what another part or tab has
 * changed meanwhile stays; a field that both changed is an EditClash. Every record is checked against its schema; all are written in one
 * transaction of strict durability together with a journal entry, so that the whole can be undone, and the other parts and tabs are told
 * once it is on disk. Rejects with a StorageError or an EditClash, and has then written nothing. Gives what undoes it, or null where
 * nothing was to be written or undone.
 */
export async function change(label: string, items: readonly Item[], options: ChangeOptions = {}): Promise<Act | null> {
  const first = items[0];
  if (!first) return null;
  const { notebookId } = recordOf(first);
  const [{ validateRecord }, { withLineage }] = await checking(options.checkedBefore ?? false);
  const at = now();
  try {
    const tx = openWrite(await database());
    // Where a request fails first, that error is the one to say.
    tx.done.catch(() => undefined);
    const store = tx.objectStore("records");
    // Nothing here waits for another where it need not: a point has to be on disk before the screen says so.
    const read = () => Promise.all(items.map((i) => store.get(recordOf(i).id)));
    const [apart, unpacked] = await Promise.all([read(), unpackRuns(tx, runsOfParts(items.map(recordOf)))]);
    const there = unpacked ? await read() : apart;
    const [before, after] = [[] as (StoredRecord | null)[], [] as StoredRecord[]];
    const clashes: FieldClash[] = [];
    items.forEach((item, i) => {
      const had = there[i] ?? null;
      const next = merged(item, had, at, options.insist ?? false, clashes);
      if (!next) return;
      before.push(had);
      after.push(withLineage(next, had));
    });
    if (clashes.length) {
      tx.abort();
      throw new EditClash(clashes, () => change(label, items, { ...options, insist: true }));
    }
    for (const r of after) {
      const checked = validateRecord(r);
      if (checked.ok) continue;
      tx.abort();
      throw new StorageError(`internal: ${checked.error}`, false);
    }
    if (after.length === 0) {
      await tx.done;
      return null;
    }
    const [runs, seq] = await Promise.all([
      forgetDerived(tx, after),
      options.journal === false ? null : keepInJournal(tx, { notebookId, label, at, before, after, undone: 0 }),
      ...after.map((r) => store.put(r)),
    ]);
    await tx.done;
    notify(notebookId, after, runs);
    return typeof seq === "number" ? { notebookId, seq, label } : null;
  } catch (e) {
    throw storageError(e);
  }
}

/** What an item makes of what is there; null where nothing is left to do. */
function merged(
  item: Item,
  there: StoredRecord | null,
  at: string,
  insist: boolean,
  clashes: FieldClash[],
): StoredRecord | null {
  if ("gone" in item) return there?.deletedAt ? null : { ...(there ?? item.gone), deletedAt: at, updatedAt: at };
  if (!isEdit(item)) {
    const r = item as StoredRecord;
    if (there && !WHOLE.has(r.kind) && !sameValue(there, r))
      throw new StorageError(
        `internal: the ${r.kind} ${r.id} is there already; a change of it has to say what it was changed from`,
        false,
      );
    return r;
  }
  const { from, to } = item;
  if (sameValue({ ...from, updatedAt: "" }, { ...to, updatedAt: "" })) return null;
  if (!there || (there.deletedAt && !from.deletedAt)) {
    if (insist) return { ...to, updatedAt: at };
    clashes.push({ record: from, path: [], base: from, mine: to, theirs: null });
    return null;
  }
  const three = threeWay<StoredRecord>(from, to, there);
  if (three.clashes.length && !insist) {
    clashes.push(...three.clashes.map((c) => ({ ...c, record: there })));
    return null;
  }
  const next = insist ? withMine(three) : three.value;
  const lineage = [...new Set([...(there.lineage ?? []), ...(to.lineage ?? [])])];
  return { ...next, updatedAt: at, ...(lineage.length ? { lineage } : {}) };
}

/** Deletes by tombstone. */
export const remove = (label: string, records: readonly StoredRecord[]): Promise<Act | null> =>
  change(
    label,
    records.map((gone) => ({ gone })),
  );

/** What undoing, or redoing, an entry makes of what is there now; the first thing that stands in its way otherwise. */
function reversed(
  entry: JournalEntry,
  pick: "undo" | "redo",
  there: readonly (StoredRecord | undefined)[],
  at: string,
): readonly StoredRecord[] | { readonly blocked: StoredRecord } {
  const out: StoredRecord[] = [];
  for (const [i, after] of entry.after.entries()) {
    const before = entry.before[i] ?? null;
    const current = there[i];
    const [from, to] =
      pick === "undo" ? [after, before ?? { ...after, deletedAt: at }] : [before ?? { ...after, deletedAt: at }, after];
    if (!current) {
      out.push({ ...to, updatedAt: at });
      continue;
    }
    // What was made by the act, or unmade by undoing it, goes or comes whole, unless it was changed since.
    const plain = (r: StoredRecord) =>
      slim({ ...r, updatedAt: "", deletedAt: "", lineage: undefined } as unknown as StoredRecord);
    const bytes = current?.kind === "photo" ? { bytes: current.bytes } : {};
    if (!before || from.deletedAt || to.deletedAt) {
      if (!sameValue(plain(current), plain(from)) || Boolean(current.deletedAt) !== Boolean(from.deletedAt))
        return { blocked: current };
      const { deletedAt: _gone, ...rest } = to;
      void _gone;
      out.push({
        ...rest,
        ...bytes,
        ...(to.deletedAt ? { deletedAt: to.deletedAt } : {}),
        updatedAt: at,
      } as StoredRecord);
      continue;
    }
    const three = threeWay<StoredRecord>(from, to, current);
    if (three.clashes.length) return { blocked: current };
    out.push({ ...three.value, updatedAt: at });
  }
  return out;
}

const titleOf = (r: StoredRecord): string =>
  "title" in r && r.title ? `“${r.title}”` : "name" in r && r.name ? `“${r.name}”` : `a ${r.kind}`;

/** What undoing or redoing gave: the label of the act, or what stands in its way. */
export type Replayed = { readonly done: string } | { readonly blocked: string } | null;

async function replay(notebookId: string, pick: "undo" | "redo", seq?: number): Promise<Replayed> {
  const [, { withLineage }] = await checking(false);
  try {
    const tx = openWrite(await database());
    tx.done.catch(() => undefined);
    const journal = journalOf(tx);
    const newest = await findEntry(journal, notebookId, pick);
    const entry = seq === undefined ? newest : ((await journal.get(seq)) ?? null);
    if (!entry || (seq !== undefined && entry.undone === 1)) {
      await tx.done;
      return seq === undefined
        ? null
        : { blocked: entry ? "It was undone already." : "It is too long ago: its history was cleared." };
    }
    const at = now();
    const store = tx.objectStore("records");
    await unpackRuns(tx, [
      ...runsOfParts(entry.after),
      ...entry.after.flatMap((r) => (r.kind === "run" ? [r.id] : [])),
    ]);
    const there = await Promise.all(entry.after.map((r) => store.get(r.id)));
    const back = reversed(entry, pick, there, at);
    if ("blocked" in back) {
      await tx.done;
      return { blocked: `Can't ${pick} “${entry.label}”: ${titleOf(back.blocked)} was changed since.` };
    }
    // Something that is in use by now is not taken back from under its users.
    const gone = new Set(back.flatMap((r, i) => (r.deletedAt && !there[i]?.deletedAt ? [r.id as string] : [])));
    const user = await inUse(tx, gone, new Set(back.map((r) => r.id as string)));
    if (user) {
      await tx.done;
      return { blocked: `Can't ${pick} “${entry.label}”: ${titleOf(user)} was added to it since.` };
    }
    const written = back.map((r, i) => withLineage(r, there[i]));
    for (const r of written) await store.put(r);
    if (seq === undefined || newest?.seq === seq) await journal.put({ ...entry, undone: pick === "undo" ? 1 : 0 });
    // An older act is undone by a new one.
    else
      await keepInJournal(tx, {
        notebookId,
        label: `undo: ${entry.label}`,
        at,
        before: there.map((r) => r ?? null),
        after: written,
        undone: 0,
      });
    const runs = await forgetDerived(tx, written);
    await tx.done;
    notify(notebookId, written, runs);
    return { done: entry.label };
  } catch (e) {
    throw storageError(e);
  }
}

const journalOf = (tx: WriteTransaction) => tx.objectStore("journal");

/** A living record that hangs on one of `gone` and isn't itself among `own`. */
async function inUse(
  tx: WriteTransaction,
  gone: ReadonlySet<string>,
  own: ReadonlySet<string>,
): Promise<StoredRecord | null> {
  const store = tx.objectStore("records");
  for (const id of gone) {
    const parts = [
      ...(await store.index("by-board").getAll(IDBKeyRange.bound([id], [id, []]))),
      ...(await store.index("by-run").getAll(id)),
      ...(await store.index("by-sample").getAll(IDBKeyRange.bound([id], [id, []]))),
    ];
    const user = parts.find((r) => !r.deletedAt && !own.has(r.id));
    if (user) return user;
  }
  return null;
}

async function findEntry(
  journal: ReturnType<typeof journalOf>,
  notebookId: string,
  pick: "undo" | "redo",
): Promise<JournalEntry | null> {
  const index = journal.index("by-notebook");
  let redo: JournalEntry | null = null;
  for (let c = await index.openCursor(notebookId, "prev"); c; c = await c.continue()) {
    if (c.value.undone === 0) return pick === "undo" ? c.value : redo;
    redo = c.value;
  }
  return pick === "redo" ? redo : null;
}

/** Takes back the newest change of a notebook, as far as nothing that was changed since stands in its way; null where there is none. */
export const undo = (notebookId: string): Promise<Replayed> => replay(notebookId, "undo");
/** Makes the change again that was taken back last. */
export const redo = (notebookId: string): Promise<Replayed> => replay(notebookId, "redo");
/** Takes back one act, whatever happened since; says so where it can't any more. */
export const undoAct = (act: Act): Promise<Replayed> => replay(act.notebookId, "undo", act.seq);
