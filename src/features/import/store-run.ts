import { describeProblem, headerKey, type ColumnMapping, type Explanation, type TextTable } from "@/core/files";
import type { BoardRecord, FileRecord, FurtherFile, RunId, RunRecord, SampleRecord } from "@/core/files/records";
import type { Procedure } from "@/core/procedures";
import type { RunSetup } from "@/core/measurement";
import { freeName, importedAs, keepLogAnalysis, namingIn, pinnedOn, runTitlesOf, withMetersOn } from "@/notebook";
import {
  change,
  dropContent,
  dropTrace,
  newId,
  now,
  putContent,
  setMeta,
  sweepWhenQuiet,
  whileLogComes,
  type Item,
  localDay,
  localZone,
} from "@/storage";
import { computing, readingLogs } from "@/workers/client";

/** ms after which what an ended worker had begun to write is there or never will be. */
const SETTLED = 2000;

/** How odd rows are taken: asked about first, skipped, or a bare last line read as whole. */
export type Odd = "ask" | "skip" | "whole";

export interface FileToStore {
  readonly name: string;
  readonly file: File;
  readonly table: Pick<TextTable, "dialect" | "headers">;
  readonly mapping: ColumnMapping;
  readonly encoding: "utf-8" | "windows-1252";
  readonly join: "first" | FurtherFile["join"];
  readonly starts: number;
}

export interface RunToStore {
  readonly board: Pick<BoardRecord, "id" | "notebookId">;
  readonly sample: SampleRecord;
  readonly procedure: Procedure;
  /** The first one, then those that go on with it or stand beside it. */
  readonly files: readonly [FileToStore, ...FileToStore[]];
  /** A table of points, as text; empty for a log. */
  readonly text: string;
  /** About how many rows it has. */
  readonly rows: number;
  readonly odd: Odd;
  readonly setup: RunSetup;
  /** When the first reading was taken, ISO UTC; empty where nothing is known. */
  readonly start: string;
  readonly startAssumed: boolean;
  /** What is stored in the same act. */
  readonly beside?: readonly Item[];
  /** Stored though the same bytes were imported before. */
  readonly again: boolean;
}

export type StoredRun =
  | {
      readonly kind: "stored";
      readonly run: RunRecord;
      readonly rows: number;
      readonly bad: number;
      readonly remarks: readonly string[];
    }
  | {
      readonly kind: "odd";
      readonly problems: readonly string[];
      readonly bad: number;
      readonly points: number;
      readonly explanation: Explanation | null;
    }
  /** A run that came from the same bytes. */
  | { readonly kind: "twin"; readonly run: RunRecord };

const dropLog = (runId: string, files: readonly { readonly fileId: string }[]) =>
  Promise.all([dropTrace(runId), ...files.map((f) => dropContent(f.fileId))]);
const sums = new WeakMap<Blob, Promise<string>>();
/** The SHA-256 of a file as it came, worked out once; `signal` gives it up, as a long one keeps its worker busy for seconds. */
function sumOf(file: Blob, signal?: AbortSignal): Promise<string> {
  const known = sums.get(file);
  if (known) return known;
  const sum = computing()
    .ask("file-sums", { blobs: [file] }, signal)
    .then(([first = ""]) => first);
  sums.set(file, sum);
  sum.catch(() => sums.delete(file));
  return sum;
}

/** Bytes up to which a file is summed while its columns are still being looked at; a longer one would keep the worker busy for seconds. */
const SUMMED_AHEAD = 100e6;
/** Has a file summed that will probably be imported. */
export function sumAhead(file: Blob): void {
  if (file.size <= SUMMED_AHEAD) sumOf(file).catch(() => undefined);
}

/** Reads and stores the log of a run that is only then recorded. */
async function readLog(runId: string, r: RunToStore, signal: AbortSignal, progress: (share: number) => void) {
  const files = r.files.map((f, k) => ({
    blob: f.file,
    fileId: newId() as string,
    dialect: f.table.dialect,
    mapping: f.mapping,
    encoding: f.encoding,
    join: f.join,
    starts: f.starts,
    ...(k === 0 && r.odd === "whole" ? { lastLine: "whole" as const } : {}),
  }));
  try {
    const sha256 = Promise.all(files.map((f) => sumOf(f.blob, signal)));
    sha256.catch(() => undefined);
    const read = await readingLogs().ask(
      "log-import",
      { runId, files, skipBadRows: r.odd === "skip", rows: r.rows, procedure: r.procedure.id, setup: r.setup },
      signal,
      progress,
    );
    if ("error" in read) throw new Error(`${r.files[0].name}: ${read.error} Nothing was imported.`);
    return { ...read, files, sha256: await sha256 };
  } catch (e) {
    // A worker that was ended in the middle may have left a part behind, and what it had just handed on may still come to be.
    await dropLog(runId, files);
    setTimeout(() => void sweepWhenQuiet().catch(() => undefined), SETTLED);
    throw e;
  }
}

/** The files beside the first one, as a run names them. */
function furtherFiles(files: Awaited<ReturnType<typeof readLog>>["files"] | undefined): FurtherFile[] {
  return (files ?? []).map(({ fileId: id, dialect: d, mapping: m, join, starts }) => ({
    fileId: id,
    dialect: d,
    mapping: m,
    join: join as FurtherFile["join"],
    starts,
  }));
}

interface Stored {
  readonly fileId: string;
  readonly base: Pick<RunRecord, "notebookId" | "createdAt" | "updatedAt">;
  readonly start: string;
  readonly setup: RunRecord["setup"];
  readonly further: readonly FurtherFile[];
}

/** The run that the files are read as. */
function runOf(runId: RunId, r: RunToStore, { fileId, base, start, setup, further }: Stored): RunRecord {
  const [first] = r.files;
  return {
    kind: "run",
    id: runId,
    ...base,
    boardId: r.board.id,
    sampleId: r.sample.id,
    procedure: r.procedure.id,
    title: `${r.procedure.title} from ${first.name}`,
    startUtc: start,
    ...(r.startAssumed ? { startAssumed: true } : {}),
    zone: localZone(),
    state: "finished",
    setup,
    pinned: pinnedOn(r.sample, localDay(start)),
    source: {
      kind: "file",
      fileId,
      dialect: first.table.dialect,
      mapping: first.mapping,
      skipBadRows: r.odd === "skip",
      ...(further.length ? { more: further } : {}),
    },
  };
}

/** The file that a run was read from; its bytes are stored apart. */
const fileRecord = (
  id: string,
  name: string,
  sha256: string,
  base: Pick<FileRecord, "notebookId" | "createdAt" | "updatedAt">,
): FileRecord => ({ kind: "file", id, ...base, name, sha256, text: "", apart: true });

/**
 * Reads files as a run and stores all of it, or nothing: odd rows are told, not taken, unless asked for, and so is a run of the same bytes.
 * Throws with words where a file can't be read or the storage is full.
 */
export const storeRun = (
  runId: RunId,
  r: RunToStore,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<StoredRun> =>
  whileLogComes(async () => {
    const { board, procedure: p } = r;
    const [first] = r.files;
    const { dialect } = first.table;
    const read = p.readings === "trace" ? await readLog(runId, r, signal, progress) : null;
    const fileId = read?.files[0]?.fileId ?? newId();
    const asked =
      read ??
      (await computing().ask(
        "points",
        {
          text: r.text,
          dialect,
          mapping: first.mapping,
          fileId,
          ...(r.odd === "whole" ? { lastLine: "whole" as const } : {}),
        },
        signal,
      ));
    if ("error" in asked) throw new Error(`${first.name}: ${asked.error} Nothing was imported.`);
    const rows = "rows" in asked ? asked.rows : asked.points.length;
    const bad = "problemRows" in asked ? asked.problemRows : new Set(asked.problems.map((x) => x.line)).size;
    if (bad && r.odd !== "skip")
      return {
        kind: "odd",
        problems: asked.problems.map(describeProblem),
        bad,
        points: rows,
        explanation: asked.explanation,
      };
    if (rows === 0) throw new Error(`${first.name}: no row can be read with these columns. Nothing was imported.`);
    const at = now();
    const base = { notebookId: board.notebookId, createdAt: at, updatedAt: at };
    const start = r.start || at;
    const files = read
      ? read.files.map((f, k) => fileRecord(f.fileId, (r.files[k] as FileToStore).name, read.sha256[k] as string, base))
      : [fileRecord(fileId, first.name, await sumOf(first.file), base)];
    const [setup, twin] = await Promise.all([
      // A log of an earlier day was read with the meters as they were then.
      withMetersOn(r.setup, board.notebookId, localDay(start)),
      r.again
        ? null
        : importedAs(
            board.notebookId,
            files.map((f) => f.sha256),
          ),
    ]);
    if (twin) {
      if (read) await dropLog(runId, read.files);
      return { kind: "twin", run: twin };
    }
    if (!read) await putContent(fileId, first.file);
    const run = runOf(runId, r, { fileId, base, start, setup, further: furtherFiles(read?.files.slice(1)) });
    await namingIn(board.notebookId, async () =>
      change(`import ${first.name}`, [
        ...files,
        { ...run, title: freeName(run.title, await runTitlesOf(board.id)) },
        ...(r.beside ?? []),
      ]),
    ).catch(async (e: unknown) => {
      if (read) await dropLog(runId, read.files);
      else await dropContent(fileId);
      throw e;
    });
    // Not waited for: whoever reads it next stands in the same queue behind it.
    if (read?.analysis) keepLogAnalysis(run, read.rows, read.analysis);
    void setMeta(`mapping:${headerKey(first.table.headers)}`, first.mapping);
    return { kind: "stored", run, rows, bad, remarks: asked.remarks };
  });
