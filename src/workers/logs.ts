import { blobSum } from "@/core/files/versions";
import { guessMapping } from "@/core/files/mapping";
import { readTable } from "@/core/files/table";
import { traceToCsv } from "@/core/files/export-trace";
import { joinColumns, type TraceColumns } from "@/core/files/trace-columns";
import { TraceReader } from "@/core/files/trace-reader";
import { loadProcedure } from "@/core/procedures/catalogue";
import { analyseReadings } from "@/core/procedures/kit/offsets";
import { NO_CORRECTIONS, type Analysis, type Role } from "@/core/measurement";
import { ok, type Result } from "@/core/quantities";
import { alignOnSteps, envelope, largestSteps, MOST_MOVING } from "@/core/traces";
import { storeLog, storeLogOf } from "@/storage/log-files";
import { appending, dropContent, dropTrace, putContent, readTrace } from "@/storage/traces";
import { Growing } from "./growing";
import { drawnColumn, holdLog, openLog } from "./open-log";
import type { AlignedLog, Tasks } from "./protocol";

export { storeLogOf };

const HEAD = 1 << 18;
export async function head({ file, dialect, procedure }: Tasks["log-head"]["ask"]): Promise<Tasks["log-head"]["give"]> {
  if (file.size === 0) return { error: "The file is empty." };
  const bytes = new Uint8Array(await file.slice(0, HEAD).arrayBuffer());
  const whole = file.size <= HEAD;
  let encoding: "utf-8" | "windows-1252" = "utf-8";
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes, { stream: !whole });
  } catch {
    encoding = "windows-1252";
    text = new TextDecoder(encoding).decode(bytes);
  }
  const cut = whole ? text : text.slice(0, text.lastIndexOf("\n") + 1) || text;
  const t = readTable(cut, dialect);
  if (!t.ok) return { error: t.error };
  // Once this is answered: fetching code holds a worker up.
  if (procedure) setTimeout(() => void Promise.all([loadProcedure(procedure), appending()]).catch(() => undefined));
  const rows = whole ? t.value.rows.length : Math.round((t.value.rows.length * file.size) / Math.max(1, cut.length));
  return {
    table: { ...t.value, rows: t.value.rows.slice(0, 50) },
    mapping: guessMapping(t.value),
    rows,
    whole,
    encoding,
  };
}

/** The SHA-256 of each file. */
export const sums = ({ blobs }: Tasks["file-sums"]["ask"]): Promise<Tasks["file-sums"]["give"]> =>
  Promise.all(blobs.map(blobSum));

/** Reads and stores a log, its files beside it, and analyses it meanwhile; where it can't be read, nothing of it stays. */
export async function importLog(
  { runId, files, skipBadRows, rows: about, procedure, setup }: Tasks["log-import"]["ask"],
  progress?: (share: number) => void,
): Promise<Tasks["log-import"]["give"]> {
  const undo = () => Promise.all([dropTrace(runId), ...files.map((f) => dropContent(f.fileId))]);
  try {
    const growing = new Growing(Math.ceil(1.02 * about) + 100);
    // What analyses it is loaded while it is read.
    const analysing = loadProcedure(procedure);
    let lastShare = 0;
    let analysis: Analysis | null = null;
    let aside: Promise<unknown> = Promise.resolve();
    const read = await storeLog(runId, files, skipBadRows, {
      progress: (share) => {
        if (share < 1 && share - lastShare < 0.01) return;
        lastShare = share;
        progress?.(share);
      },
      see: (chunk) => growing.add(chunk),
      meanwhile: async ({ rows }) => {
        // The files are kept, and the last chunks written, while the analysis goes on: all of it outside this thread.
        aside = Promise.all(files.map((f) => putContent(f.fileId, f.blob)));
        aside.catch(() => undefined);
        const columns = growing.whole();
        holdLog(runId, rows, columns);
        const p = await analysing;
        analysis = p
          ? analyseReadings(p, { kind: "trace", trace: { columns, events: [] } }, setup, NO_CORRECTIONS)
          : null;
      },
    });
    if (!read.ok) {
      await undo();
      return { error: read.error };
    }
    const { rows, seconds, problems, problemRows, remarks, explanation } = read.value;
    if (problemRows && !skipBadRows) await undo();
    await aside;
    return { rows, seconds, problems, problemRows, remarks, explanation, analysis };
  } catch (e) {
    await undo().catch(() => undefined);
    throw e;
  }
}

async function columnsOf({ blob, ...how }: AlignedLog): Promise<Result<TraceColumns>> {
  const parts: TraceColumns[] = [];
  const reader = new TraceReader(how, (c) => parts.push(c));
  reader.feed(new Uint8Array(await blob.arrayBuffer()));
  const end = reader.end();
  return end.ok ? ok(joinColumns(parts)) : end;
}

export async function align({ first, second }: Tasks["log-align"]["ask"]): Promise<Tasks["log-align"]["give"]> {
  const [a, b] = [await columnsOf(first), await columnsOf(second)];
  if (!a.ok) return { error: a.error };
  if (!b.ok) return { error: b.error };
  const steps = (c: TraceColumns) =>
    (Object.keys(c) as Role[])
      .filter((r) => r.endsWith("Current") || r.endsWith("Voltage"))
      .map((r) => largestSteps(c.time as Float64Array, c[r] as Float64Array));
  const usual = (c: TraceColumns) => (c.time?.at(-1) ?? 0) / Math.max(1, (c.time?.length ?? 1) - 1);
  const tolerance = usual(a.value) + usual(b.value);
  let best: ReturnType<typeof alignOnSteps> = null;
  for (const x of steps(a.value))
    for (const y of steps(b.value)) {
      const r = alignOnSteps(x, y, tolerance);
      if (r && (!best || r.matched > best.matched)) best = r;
    }
  return best
    ? { starts: best.offset, matched: best.matched }
    : { error: "The two files have no common step in a current or a voltage. Enter the start time." };
}

export async function curves({
  runId,
  rows,
  roles,
  from,
  to,
}: Tasks["log-curves"]["ask"]): Promise<Tasks["log-curves"]["give"]> {
  const columns = await openLog(runId, rows);
  const { time } = columns;
  if (!time) return {};
  return Object.fromEntries(
    roles.flatMap((role) => {
      const drawn = drawnColumn(role);
      return drawn ? [[role, envelope(time, drawn.values, from, to, MOST_MOVING, drawn.extremes)]] : [];
    }),
  );
}

/** Missing readings are passed over; a column of nothing else is absent. */
export async function figures({
  runId,
  rows,
  roles,
}: Tasks["log-figures"]["ask"]): Promise<Tasks["log-figures"]["give"]> {
  const columns = await openLog(runId, rows);
  return Object.fromEntries(
    roles.flatMap((role) => {
      let [largest, newest] = [-1, NaN];
      for (const v of columns[role] ?? []) {
        if (!Number.isFinite(v)) continue;
        largest = Math.max(largest, Math.abs(v));
        newest = v;
      }
      return largest < 0 ? [] : [[role, { largest, newest }]];
    }),
  );
}

export async function csv(runId: string): Promise<string> {
  return traceToCsv(await readTrace(runId));
}
