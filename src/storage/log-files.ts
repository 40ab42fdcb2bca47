import type { FileRecord, FurtherFile, RunRecord } from "@/core/files/records";
import type { ColumnMapping } from "@/core/files/mapping";
import type { Dialect } from "@/core/files/table";
import { besideOf, joinColumns, type TraceColumns } from "@/core/files/trace-columns";
import { FEW_ROWS, TraceReader, type TraceSummary } from "@/core/files/trace-reader";
import { decodeText } from "@/core/files/encoding";
import { ELEMENTS, err, ok, type Result } from "@/core/quantities";
import { record } from "./queries";
import { appending, content, dropTrace } from "./traces";

const { sampleAt } = ELEMENTS;

/** Rows that an import writes at a time. */
const CHUNK = 65536;
const SLICE = 4 << 20;
/** Chunks that may wait to be written. */
const BEHIND = 4;

export interface LogFile {
  readonly blob: Blob;
  readonly dialect: Dialect;
  readonly mapping: ColumnMapping;
  readonly encoding?: "utf-8" | "windows-1252";
  /** The tester said that a last line without its line feed is whole. */
  readonly lastLine?: "whole";
  readonly join: "first" | FurtherFile["join"];
  /** s on the first file's clock at which its first row stands. */
  readonly starts: number;
}

export interface StoreOptions {
  /** Told the share of the bytes that were read. */
  readonly progress?: ((share: number) => void) | undefined;
  /** Shown each chunk as it goes by; its room is filled again after that. */
  readonly see?: (columns: TraceColumns) => void;
  /** Done once all is read, while the last chunks are still being written. */
  readonly meanwhile?: (summary: TraceSummary) => Promise<void>;
}

async function read(
  file: LogFile,
  give: (columns: TraceColumns) => void,
  progress: (bytes: number) => void,
  written: () => Promise<void>,
  copied = false,
): Promise<Result<TraceSummary>> {
  const reader = new TraceReader(
    {
      dialect: file.dialect,
      mapping: file.mapping,
      chunk: CHUNK,
      copied,
      ...(file.encoding ? { encoding: file.encoding } : {}),
      ...(file.lastLine ? { lastLine: file.lastLine } : {}),
    },
    give,
  );
  // The next slice is fetched while this one is read.
  const fetch = (at: number) => file.blob.slice(at, at + SLICE).arrayBuffer();
  let next = fetch(0);
  for (let at = 0; at < file.blob.size; at += SLICE) {
    const bytes = new Uint8Array(await next);
    next = fetch(at + SLICE);
    if (!reader.feed(bytes)) break;
    progress(Math.min(SLICE, file.blob.size - at));
    await written();
  }
  const end = reader.end();
  await written();
  return end;
}

/** A log as it was stored, with s from its first row to its last. */
type StoredLog = TraceSummary & { readonly seconds: number };

/** What the files of a log come to together. */
const totalOf = (summaries: readonly TraceSummary[], rows: number, seconds: number): StoredLog => ({
  rows,
  seconds,
  origin: summaries[0]?.origin ?? 0,
  problems: summaries.flatMap((s) => s.problems),
  problemRows: summaries.reduce((s, x) => s + x.problemRows, 0),
  remarks: summaries.flatMap((s) => s.remarks),
  explanation: summaries.length === 1 ? (summaries[0]?.explanation ?? null) : null,
});

/**
 * Reads the files of a log and stores it as chunks of run `runId`, in one pass, so that its length costs no memory.
 *
 * What another logger wrote beside the first file is held and laid between the first one's rows. Where a file can't be
 * read, or has bad cells and `skipBadRows` is not set, nothing is left stored.
 */
export async function storeLog(
  runId: string,
  files: readonly LogFile[],
  skipBadRows: boolean,
  { progress, see, meanwhile }: StoreOptions = {},
): Promise<Result<StoredLog>> {
  const size = files.reduce((s, f) => s + f.blob.size, 0) || 1;
  let done = 0;
  const seen = (bytes: number) => progress?.((done += bytes) / size);
  const summaries: TraceSummary[] = [];
  const beside: { columns: TraceColumns; starts: number }[] = [];
  for (const f of files.filter((x) => x.join === "beside")) {
    const parts: TraceColumns[] = [];
    const r = await read(
      f,
      (c) => parts.push(c),
      seen,
      () => Promise.resolve(),
    );
    if (!r.ok) return r;
    summaries.push(r.value);
    beside.push({ columns: joinColumns(parts), starts: f.starts });
  }
  let [seq, rows, until] = [0, 0, -Infinity];
  const append = await appending();
  let writing: Promise<void> = Promise.resolve();
  let failed: unknown = null;
  let waiting = 0;
  for (const f of files.filter((x) => x.join !== "beside")) {
    const behind = until;
    let clash: string | null = null;
    const give = (columns: TraceColumns) => {
      const time = columns.time as Float64Array;
      if (f.join === "after") {
        if (sampleAt(time, 0) + f.starts <= behind)
          clash ??= `The continuing file starts at ${sampleAt(time, 0) + f.starts} s, before the first one ends (${behind} s). Set its start time.`;
        for (let k = 0; k < time.length; k++) time[k] = sampleAt(time, k) + f.starts;
      }
      const all = beside.reduce<TraceColumns>(
        (into, b) => ({ ...besideOf(time, b.columns, b.starts), ...into }),
        columns,
      );
      until = sampleAt(time, time.length - 1);
      const chunk = { runId, seq: seq++, from: rows, rows: time.length, until, columns: all };
      rows += time.length;
      see?.(all);
      waiting++;
      writing = Promise.all([writing, append(chunk).finally(() => waiting--)]).then(
        () => undefined,
        (e: unknown) => void (failed ??= e),
      );
    };
    // Reading goes on while earlier chunks are written, but not so far ahead that they pile up.
    const r = await read(f, give, seen, () => (waiting > BEHIND || failed ? writing : Promise.resolve()), true);
    const refusal = clash ?? (r.ok ? null : r.error);
    if (refusal !== null || failed) {
      await writing;
      await dropTrace(runId);
      if (failed) throw failed instanceof Error ? failed : new Error("The log could not be stored.");
      return err(refusal ?? "");
    }
    if (r.ok) summaries.push(r.value);
  }
  const total = totalOf(summaries, rows, until);
  const refused = total.problemRows > 0 && !skipBadRows;
  if (refused || rows < 2) {
    await writing;
    await dropTrace(runId);
    return refused ? ok(total) : err(FEW_ROWS);
  }
  await meanwhile?.(total);
  await writing;
  if (failed) {
    await dropTrace(runId);
    throw failed instanceof Error ? failed : new Error("The log could not be stored.");
  }
  return ok(total);
}

/** The bytes of an imported file as they came, wherever they stand; null where they are gone. */
export const fileBytes = async (f: FileRecord): Promise<Blob | null> => (f.apart ? content(f.id) : new Blob([f.text]));

/** The text of an imported file. */
export const fileText = async (f: FileRecord): Promise<string> =>
  f.apart
    ? decodeText(new Uint8Array((await (await content(f.id))?.arrayBuffer()) ?? new ArrayBuffer(0))).text
    : f.text;

/** Stores the log of a run whose files are here but whose chunks are not, as after an archive came in. */
export async function storeLogOf(run: Pick<RunRecord, "id" | "source">): Promise<boolean> {
  const { source } = run;
  if (source.kind !== "file") return false;
  const wanted = [
    { fileId: source.fileId, dialect: source.dialect, mapping: source.mapping, join: "first" as const, starts: 0 },
    ...(source.more ?? []),
  ];
  const files: LogFile[] = [];
  for (const { fileId, ...how } of wanted) {
    const f = await record("file", fileId);
    if (!f) return false;
    files.push({
      ...how,
      blob: (await fileBytes(f)) ?? new Blob([]),
      ...(await encodingOf(f)),
      ...(source.skipBadRows ? {} : { lastLine: "whole" as const }),
    });
  }
  return (await storeLog(run.id, files, true)).ok;
}

async function encodingOf(f: FileRecord): Promise<{ encoding?: "windows-1252" }> {
  if (!f.apart) return {};
  const head = await ((await content(f.id)) ?? new Blob([])).slice(0, 65536).arrayBuffer();
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(new Uint8Array(head), { stream: true });
    return {};
  } catch {
    return { encoding: "windows-1252" };
  }
}
