import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction } from "idb";
import type { StoredRecord } from "@/core/files/records";
import type { TraceColumns } from "@/core/files/trace-columns";

/** One entry of the journal: what a change replaced and what it wrote, enough to undo and redo it. */
export interface JournalEntry {
  readonly seq?: number;
  readonly notebookId: string;
  readonly label: string;
  readonly at: string;
  /** The records as they were; null where there was none. Same order as `after`. */
  readonly before: readonly (StoredRecord | null)[];
  readonly after: readonly StoredRecord[];
  readonly undone: 0 | 1;
}

/** A disposable result; losing all of them changes nothing but the time to work them out again. */
export interface DerivedEntry {
  readonly key: string;
  /** Versions and rules it was worked out with; another stamp is as good as absent. */
  readonly stamp: string;
  readonly value: unknown;
}

/** A stretch of a log: columns of equal length, SI. Written once, never altered; a log is its chunks in order. */
export interface TraceChunk {
  readonly runId: string;
  readonly seq: number;
  /** Number of its first row in the log. */
  readonly from: number;
  readonly rows: number;
  /** s of its last row. */
  readonly until: number;
  /** Milliseconds since 1970 at which it was written, for a log that is taken live. */
  readonly at?: number;
  readonly columns: TraceColumns;
}

/** Kinds whose records belong to a run. */
export type PartKind = "point" | "answer" | "annotation";

/** Records of one kind that belong to one run, packed as one value. A run's bundles are all there is of it, or there are none. */
export interface Bundle {
  readonly runId: string;
  readonly kind: PartKind;
  /** Tells the bundles of one run apart. */
  readonly seq: number;
  readonly notebookId: string;
  /** Records in it. */
  readonly count: number;
  /** They as they stand in an archive: JSON with its keys in order, a comma and a line feed between two, in UTF-8. */
  readonly lines: Uint8Array<ArrayBuffer>;
}

export interface DatabaseSchema extends DBSchema {
  chunks: { key: [string, number]; value: TraceChunk };
  /** Contents of imported logs, as bytes, by the id of their file record. */
  contents: { key: string; value: Blob };
  records: {
    key: string;
    value: StoredRecord;
    indexes: {
      kind: string;
      "by-kind": [string, string];
      "by-board": [string, string];
      "by-run": string;
      "by-sample": [string, string];
    };
  };
  bundles: { key: [string, string, number]; value: Bundle; indexes: { "by-notebook": string } };
  journal: { key: number; value: JournalEntry; indexes: { "by-notebook": string } };
  derived: { key: string; value: DerivedEntry };
  meta: { key: string; value: unknown };
}

export type Database = IDBPDatabase<DatabaseSchema>;
/** What a change of records writes in. */
export const WRITTEN = ["records", "bundles", "journal", "derived"] as const;
export type WriteTransaction = IDBPTransaction<DatabaseSchema, (typeof WRITTEN)[number][], "readwrite">;
export const DATABASE_NAME = "nimbus-bench";
export const DATABASE_VERSION = 3;

/** The data has the layout of a newer version of the application, which another tab has loaded. */
export class NewerVersion extends Error {
  constructor() {
    super("A newer version of Nimbus Bench has been used in this browser since. Reload this page to continue.");
    this.name = "NewerVersion";
  }
}

let opening: Promise<Database> | null = null;

/** Opens the browser's database once. Another tab that needs a newer layout makes this one close; from then on it rejects with `NewerVersion`. */
export function database(): Promise<Database> {
  opening ??= openDB<DatabaseSchema>(DATABASE_NAME, DATABASE_VERSION, {
    upgrade(db, had) {
      if (had < 1) {
        const records = db.createObjectStore("records", { keyPath: "id" });
        records.createIndex("kind", "kind");
        records.createIndex("by-kind", ["notebookId", "kind"]);
        records.createIndex("by-board", ["boardId", "kind"]);
        records.createIndex("by-run", "runId");
        records.createIndex("by-sample", ["sampleId", "kind"]);
        const journal = db.createObjectStore("journal", { keyPath: "seq", autoIncrement: true });
        journal.createIndex("by-notebook", "notebookId");
        db.createObjectStore("derived", { keyPath: "key" });
        db.createObjectStore("meta");
      }
      if (had < 2) {
        db.createObjectStore("chunks", { keyPath: ["runId", "seq"] });
        db.createObjectStore("contents");
      }
      if (had < 3) {
        const bundles = db.createObjectStore("bundles", { keyPath: ["runId", "kind", "seq"] });
        bundles.createIndex("by-notebook", "notebookId");
      }
    },
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      opening = null;
    },
    terminated() {
      opening = null;
    },
  }).catch((e: unknown) => {
    opening = null;
    throw (e as DOMException).name === "VersionError" ? new NewerVersion() : e;
  });
  return opening;
}

/** Closes the connection; tests use it to start anew. */
export async function closeDatabase(): Promise<void> {
  if (!opening) return;
  (await opening).close();
  opening = null;
}
