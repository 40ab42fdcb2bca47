import type { RunRecord, StoredRecord } from "@/core/files/records";
import {
  ArchiveRefused,
  fileContent,
  openArchive,
  planMerge,
  writeArchive,
  writePart,
  type ArchivedRecords,
  type ArchivePart,
  type ArchiveSource,
  type Here,
  type MergePlan,
  type OpenArchive,
} from "@/core/files/archive";
import { traceToCsv } from "@/core/files/export-trace";
import { mappingOfOpenTable } from "@/core/files/read-open-table";
import { joinColumns, type TraceColumns } from "@/core/files/trace-columns";
import { TraceReader } from "@/core/files/trace-reader";
import { readingsOf } from "@/core/procedures/catalogue";
import { err, ok, type Result } from "@/core/quantities";
import { inBundle, isRunPart } from "./bundles";
import { database, type Bundle, type Database } from "./database";
import { dropRecords } from "./drop-records";
import { fileBytes } from "./log-files";
import { Packer } from "./pack-runs";
import { apartFromRuns, ofKind, ofRun, present, record, rulesRecord, runByRun } from "./queries";
import { appending, dropContent, dropTrace, putContent, readTrace, replaceTrace, traceExtent } from "./traces";

const runsOf = async (notebookId: string): Promise<string[]> =>
  (await database()).getAllKeysFromIndex("records", "by-kind", [notebookId, "run"]);

/** What belongs to runs, as an archive takes it in. */
async function* parts(runs: readonly string[]): AsyncGenerator<ArchivedRecords> {
  for await (const batch of runByRun(runs)) yield batch.flatMap(({ bundles, apart }) => [...bundles, ...apart]);
}

/** What belongs to these runs, packed for their notebook's archive. */
export const archivePart = (runs: readonly string[]): Promise<ArchivePart> => writePart(() => parts(runs));

/** Writes a notebook's archive out of the database, a batch of records, a file and a log at a time. `written` holds what belongs to its runs; without it that is read run by run. */
export async function exportNotebook(
  notebookId: string,
  at: string,
  sheets: ReadonlyMap<string, string>,
  written: readonly ArchivePart[] | null,
): Promise<Blob> {
  const notebook = await record("notebook", notebookId);
  if (!notebook) throw new Error("No such notebook in this browser.");
  const runs = await ofKind(notebookId, "run");
  const all = await runsOf(notebookId);
  const source: ArchiveSource = {
    notebook,
    sheets,
    parts: written ?? [],
    records: async function* () {
      yield* apartFromRuns(notebookId);
      if (!written) yield* parts(all);
    },
    content: fileBytes,
    logs: runs.flatMap((r) => (r.source.kind !== "file" && readingsOf(r.procedure) === "trace" ? [r.id] : [])),
    log: async (runId) => {
      const columns = await readTrace(runId);
      return columns.time?.length ? new Blob([traceToCsv(columns)]) : null;
    },
  };
  return writeArchive(source, at);
}

/** What an archive is, before any of it is taken. */
export interface ArchiveHead {
  readonly title: string;
  readonly notebookId: string;
  readonly exportedAt: string;
  /** Bytes that it unpacks to. */
  readonly unpacked: number;
  /** Whether its notebook is in this browser, so that it is merged. */
  readonly here: boolean;
}

const opened = async <T>(file: Blob, act: (a: OpenArchive) => Promise<T>): Promise<Result<T>> => {
  const r = await openArchive(file);
  if (!r.ok) return r;
  try {
    return ok(await act(r.value));
  } catch (e) {
    if (e instanceof ArchiveRefused) return err(e.message);
    throw e;
  } finally {
    await r.value.close();
  }
};

export const archiveHead = (file: Blob): Promise<Result<ArchiveHead>> =>
  opened(file, async ({ manifest, unpacked }) => ({
    title: manifest.title,
    notebookId: manifest.notebookId,
    exportedAt: manifest.exportedAt,
    unpacked,
    here: (await record("notebook", manifest.notebookId)) !== null,
  }));

/** Reads a log of an archive and hands its columns on; refused where a row can't be read. */
async function readArchivedLog(runId: string, csv: Blob, give: (columns: TraceColumns) => void): Promise<void> {
  const reader = new TraceReader(
    {
      dialect: { delimiter: ",", decimal: "." },
      mapping: mappingOfOpenTable(await csv.slice(0, 4096).text()),
      lastLine: "whole",
      copied: true,
    },
    give,
  );
  for (let at = 0; at < csv.size; at += 1 << 22)
    if (!reader.feed(new Uint8Array(await csv.slice(at, at + (1 << 22)).arrayBuffer()))) break;
  const read = reader.end();
  if (!read.ok) throw new ArchiveRefused(`logs/${runId}.csv: ${read.error} Nothing was imported.`);
  const [bad] = read.value.problems;
  if (read.value.problemRows)
    throw new ArchiveRefused(
      `logs/${runId}.csv${bad ? `, line ${bad.line}` : ""}: a row can't be read. Nothing was imported.`,
    );
}

/** What is stored of logs and contents until the records that name them are there; `drop` leaves nothing of it. */
class Staged {
  private readonly traces: string[] = [];
  private readonly files: string[] = [];
  async log(runId: string, csv: Blob): Promise<void> {
    // A log that is here already is nobody's to overwrite.
    if (await traceExtent(runId)) return;
    this.traces.push(runId);
    let [seq, from] = [0, 0];
    let writing: Promise<void> = Promise.resolve();
    const append = await appending();
    await readArchivedLog(runId, csv, (columns) => {
      const rows = columns.time?.length ?? 0;
      const chunk = { runId, seq: seq++, from, rows, until: columns.time?.at(-1) ?? 0, columns };
      from += rows;
      writing = Promise.all([writing, append(chunk)]).then(() => undefined);
      writing.catch(() => undefined);
    });
    await writing;
  }
  /** The whole log in the place of the beginning that is here. What is here is part of it, so there is nothing to take back. */
  async longer(runId: string, csv: Blob): Promise<void> {
    const parts: TraceColumns[] = [];
    await readArchivedLog(runId, csv, (c) => parts.push(c));
    await replaceTrace(runId, joinColumns(parts));
  }
  async file(fileId: string, bytes: Blob): Promise<void> {
    const db = await database();
    if ((await db.getKey("contents", fileId)) !== undefined) return;
    this.files.push(fileId);
    await putContent(fileId, bytes);
  }
  async drop(): Promise<void> {
    await Promise.all([...this.traces.map(dropTrace), ...this.files.map(dropContent)]);
  }
}

const logOwner = (r: RunRecord): boolean => readingsOf(r.procedure) === "trace" && r.source.kind !== "file";

/** Bundles that are looked through at a time. */
const LOOKED_THROUGH = 200;

/** The ids of all that is stored. What is packed has none of its own that the database could hold against another's. */
async function storedIds(): Promise<ReadonlySet<string>> {
  const db = await database();
  const ids = new Set<string>(await db.getAllKeys("records"));
  for (let after: IDBKeyRange | undefined; ;) {
    const some = await db.getAll("bundles", after, LOOKED_THROUGH);
    const last = some.at(-1);
    if (!last) return ids;
    for (const b of some) for (const r of inBundle(b)) ids.add(r.id);
    after = IDBKeyRange.lowerBound([last.runId, last.kind, last.seq], true);
  }
}

const OF_ANOTHER = "A record of the archive has the id of one in another notebook. Nothing was imported.";

/** Writes records that come out of an archive. */
async function writeBatch(db: Database, apart: readonly StoredRecord[], bundles: readonly Bundle[]): Promise<void> {
  const tx = db.transaction(["records", "bundles"], "readwrite");
  const [records, packed] = [tx.objectStore("records"), tx.objectStore("bundles")];
  try {
    // Not `put`: what another notebook holds under that id is not written over.
    await Promise.all([...apart.map((r) => records.add(r)), ...bundles.map((b) => packed.add(b)), tx.done]);
  } catch (e) {
    throw (e as DOMException).name === "ConstraintError" ? new ArchiveRefused(OF_ANOTHER) : e;
  }
}

/**
 * Takes in an archive whose notebook is not in this browser: its records are written as they are read, the notebook itself last, so that
 * it is there whole or not at all. Gives how many records came in.
 */
export function importNew(file: Blob, progress?: (share: number) => void): Promise<Result<number>> {
  return opened(file, async (a) => {
    const staged = new Staged();
    const notebookId = a.manifest.notebookId;
    let [count, written] = [0, 0];
    const about = Math.max(1, a.unpacked);
    try {
      await dropRecords(notebookId);
      let notebook: StoredRecord | null = null;
      const db = await database();
      const taken = await storedIds();
      const packer = new Packer();
      let writing: Promise<void> = Promise.resolve();
      for await (const batch of a.records()) {
        if (batch.some((r) => taken.has(r.id))) throw new ArchiveRefused(OF_ANOTHER);
        const apart: StoredRecord[] = [];
        for (const r of batch) {
          if (!r.deletedAt) count++;
          if (r.kind === "notebook") notebook = r;
          else if (isRunPart(r)) packer.add(r);
          else apart.push(r);
        }
        // It is written while the next ones are read.
        await writing;
        writing = writeBatch(db, apart, packer.taken());
        writing.catch(() => undefined);
        for (const r of batch) if (r.kind === "file" && !r.deletedAt) await staged.file(r.id, await fileContent(a, r));
        written += batch.length;
        progress?.(Math.min(0.9, (written * 400) / about));
      }
      await writing;
      for (const runId of a.logs) {
        const run = await record("run", runId);
        if (!run || !logOwner(run))
          throw new ArchiveRefused(`logs/${runId}.csv: its run has no log of its own. Nothing was imported.`);
        await staged.log(runId, await a.log(runId));
      }
      const tx = db.transaction(["records", "bundles"], "readwrite", { durability: "strict" });
      tx.done.catch(() => undefined);
      await Promise.all(packer.end().map((b) => tx.objectStore("bundles").add(b)));
      await tx.objectStore("records").add(notebook as unknown as StoredRecord);
      await tx.done;
      return count;
    } catch (e) {
      await Promise.all([staged.drop(), dropRecords(notebookId)]);
      throw e;
    }
  });
}

function here(notebookId: string, a: OpenArchive): Here {
  return {
    records: async (refs) => {
      const records = await present([...new Map(refs.map((r) => [r.id, r])).values()]);
      for (const r of records.values())
        if (r.notebookId !== notebookId)
          throw new ArchiveRefused(
            `A record of the archive has the id of one in another notebook (${r.id.slice(0, 40)}). Nothing was imported.`,
          );
      return records;
    },
    readings: async (runId) => {
      const { points, answers } = await ofRun(runId);
      return [...points.filter((p) => p.state !== "draft"), ...answers].map((r) => r.id);
    },
    rules: () => rulesRecord(notebookId),
    rigInUse: async () =>
      (await ofKind(notebookId, "rig")).find((r) => r.inUse)?.id ?? (await ofKind(notebookId, "rig"))[0]?.id ?? null,
    log: async (runId) => {
      if (!a.logs.includes(runId)) return "same or shorter";
      const [own, theirs] = [await readTrace(runId), await (await a.log(runId)).text()];
      const mine = own.time?.length ? traceToCsv(own) : "";
      return mine.startsWith(theirs) ? "same or shorter" : theirs.startsWith(mine) ? "longer" : "apart";
    },
  };
}

/** Says what merging an archive of a notebook that is here would do; writes nothing. */
export const planImport = (file: Blob): Promise<Result<MergePlan>> =>
  opened(file, async (a) => {
    const runs = new Map<string, RunRecord>();
    const checked = async function* () {
      for await (const batch of a.records()) {
        for (const r of batch) {
          if (r.kind === "run") runs.set(r.id, r);
          if (r.kind === "file" && !r.deletedAt) await fileContent(a, r);
        }
        yield batch;
      }
    };
    const plan = await planMerge(checked(), here(a.manifest.notebookId, a));
    // Refused as a whole, whether or not the merge needs that very log.
    for (const runId of a.logs) {
      const run = runs.get(runId);
      if (!run || !logOwner(run))
        throw new ArchiveRefused(`logs/${runId}.csv: its run has no log of its own. Nothing was imported.`);
      await readArchivedLog(runId, await a.log(runId), () => undefined);
    }
    return plan;
  });

/** Stores the logs and contents that a merge's records name, before they are written. Gives what drops them again. */
export const stageContents = (
  file: Blob,
  files: readonly string[],
  runs: ReadonlyMap<string, string>,
  longer: readonly string[] = [],
): Promise<Result<{ readonly runs: readonly string[]; readonly files: readonly string[] }>> =>
  opened(file, async (a) => {
    const staged = new Staged();
    const wanted = new Set(files);
    try {
      for await (const batch of a.records())
        for (const r of batch)
          if (r.kind === "file" && wanted.has(r.id) && !r.deletedAt) await staged.file(r.id, await fileContent(a, r));
      for (const [from, to] of runs) if (a.logs.includes(from)) await staged.log(to, await a.log(from));
      for (const id of longer) await staged.longer(id, await a.log(id));
      return { runs: [...runs.values()], files };
    } catch (e) {
      await staged.drop();
      throw e;
    }
  });
