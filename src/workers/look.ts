import { decodeText, encodingOf, notTable } from "@/core/files/encoding";
import { importPoints } from "@/core/files/import-points";
import { lackingRoles, missingRoles } from "@/core/files/read-log";
import { describeProblem, type FieldProblem } from "@/core/files/rows";
import type { ColumnMapping } from "@/core/files/mapping";
import { readTable, type TextTable } from "@/core/files/table";
import type { TraceColumns } from "@/core/files/trace-columns";
import { FEW_ROWS, TraceReader, type TraceSummary } from "@/core/files/trace-reader";
import { assumedSetup, guessFromColumns, guessTable, possibleMappings, type LogGuess } from "@/core/guess";
import { accuraciesFor, NO_CORRECTIONS, type Readings } from "@/core/measurement";
import { analyseReadings, procedure, type Procedure } from "@/core/procedures";
import { largestRead } from "@/core/procedures/kit/accuracies";
import { ok, type Result } from "@/core/quantities";
import { Growing } from "./growing";
import { holdLog } from "./open-log";
import type { Look, Tasks } from "./protocol";

type Ask = Tasks["log-look"]["ask"];

/** Bytes up to which a file is read as a table for its guess; a longer one is guessed from its columns as a log. */
const WHOLE = 20e6;
/** Bytes that show how a longer one is written. */
const HEAD = 1 << 18;
const SLICE = 4 << 20;
/** Rows of a table that are shown. */
const SHOWN = 50;

interface Log {
  readonly columns: TraceColumns;
  readonly summary: TraceSummary;
}

/** A log's columns, held nowhere but here. */
async function readLog(
  file: Blob,
  table: TextTable,
  mapping: ColumnMapping,
  encoding: "utf-8" | "windows-1252",
  ask: Ask,
  progress?: (share: number) => void,
): Promise<Result<Log>> {
  const growing = new Growing(Math.max(1000, table.rows.length));
  const reader = new TraceReader(
    { dialect: table.dialect, mapping, encoding, ...(ask.odd === "whole" ? { lastLine: "whole" as const } : {}) },
    (c) => growing.add(c),
  );
  for (let at = 0; at < file.size; at += SLICE) {
    if (!reader.feed(new Uint8Array(await file.slice(at, at + SLICE).arrayBuffer()))) break;
    progress?.(Math.min(1, (at + SLICE) / file.size));
  }
  const end = reader.end();
  return end.ok ? ok({ columns: growing.whole(), summary: end.value }) : end;
}

/** The table of a file, whole where it is short; with its text. */
async function tableOf(ask: Ask): Promise<
  | {
      readonly table: TextTable;
      readonly file: Blob;
      readonly encoding: "utf-8" | "windows-1252";
      readonly whole: boolean;
    }
  | { readonly error: string }
> {
  const { file } = ask;
  if (file.size === 0) return { error: "The file is empty." };
  const whole = file.size <= WHOLE;
  const bytes = new Uint8Array(await file.slice(0, whole ? file.size : HEAD).arrayBuffer());
  const strange = notTable(bytes);
  if (strange) return { error: strange };
  const spelt = encodingOf(bytes, whole);
  const { text } = decodeText(bytes);
  const t = readTable(whole ? text : text.slice(0, text.lastIndexOf("\n") + 1) || text, ask.dialect);
  if (!t.ok) return { error: t.error };
  // What the log's reader can't take as it comes is written anew in UTF-8.
  const wide = spelt === "utf-16le" || spelt === "utf-16be";
  return {
    table: t.value,
    file: wide ? new Blob([decodeText(new Uint8Array(await file.arrayBuffer())).text]) : file,
    encoding: spelt === "windows-1252" ? spelt : "utf-8",
    whole,
  };
}

const shown = (table: TextTable): TextTable => ({
  ...table,
  rows: table.rows.slice(0, SHOWN),
  lines: table.lines.slice(0, SHOWN),
});

/** What a file most likely is and what it gives, read but not stored: its log is held here as `id` for the charts. */
export async function look(ask: Ask, progress?: (share: number) => void): Promise<Tasks["log-look"]["give"]> {
  const opened = await tableOf(ask);
  if ("error" in opened) return opened;
  const { table, file, encoding, whole } = opened;
  const rows = whole ? table.rows.length : Math.round((table.rows.length * file.size) / HEAD);
  let guess: LogGuess;
  let log: Result<Log> | null = null;
  if (whole) guess = guessTable(table);
  else {
    const columns = possibleMappings(table)[0] ?? {};
    log = columns.time ? await readLog(file, table, columns, encoding, ask, progress) : null;
    guess = { columns, ...guessFromColumns(log?.ok ? log.value.columns : {}) };
  }
  const columns = ask.mapping ?? guess.columns;
  // Columns that were put right may make another procedure likely.
  const likely = ask.mapping && whole ? guessTable(table, ask.mapping) : guess;
  const base = {
    table: shown(table),
    columns,
    rows,
    whole,
    encoding,
    guess: { procedure: likely.procedure, alternatives: likely.alternatives, likeness: likely.likeness },
  };
  const p = procedure(ask.procedure ?? likely.procedure ?? "");
  if (!p) return { ...base, procedure: null, result: null };
  if (missingRoles(p, Object.keys(columns)))
    return { ...base, procedure: p.id, result: { kind: "lacking", text: lackingRoles(p, Object.keys(columns)) ?? "" } };
  return {
    ...base,
    procedure: p.id,
    result:
      p.readings === "points"
        ? ofPoints(p, table, columns, ask)
        : await ofLog(p, ask.mapping || !log ? await readLog(file, table, columns, encoding, ask, progress) : log, ask),
  };
}

const odd = (
  problems: readonly FieldProblem[],
  bad: number,
  good: number,
  explanation: TraceSummary["explanation"],
): Look => ({ kind: "odd", problems: problems.slice(0, SHOWN).map(describeProblem), bad, good, explanation });

function ofPoints(p: Procedure, table: TextTable, columns: ColumnMapping, ask: Ask): Look {
  const read = importPoints(table, columns, ask.id, ask.odd === "whole" ? "whole" : "ask");
  if (!read.ok) return { kind: "failed", text: read.error };
  const { points, problems, explanation, remarks } = read.value;
  const bad = new Set(problems.map((x) => x.line)).size;
  if (bad && ask.odd !== "skip") return odd(problems, bad, points.length, explanation);
  if (points.length === 0) return { kind: "failed", text: "No row can be read with these columns." };
  return worked(p, { kind: "points", points }, ask, remarks, points.length, 0);
}

async function ofLog(p: Procedure, log: Result<Log>, ask: Ask): Promise<Look> {
  if (!log.ok) return { kind: "failed", text: log.error };
  const { columns, summary } = log.value;
  if (summary.problemRows && ask.odd !== "skip")
    return odd(summary.problems, summary.problemRows, summary.rows, summary.explanation);
  if (summary.rows < 2) return { kind: "failed", text: FEW_ROWS };
  holdLog(ask.id, summary.rows, columns);
  return worked(
    p,
    { kind: "trace", trace: { columns, events: [] } },
    ask,
    summary.remarks,
    summary.rows,
    columns.time?.[summary.rows - 1] ?? 0,
  );
}

function worked(
  p: Procedure,
  readings: Readings,
  ask: Ask,
  remarks: readonly string[],
  rows: number,
  seconds: number,
): Look {
  // The notebook's own meters stand in where nobody said otherwise, for what the log holds.
  const meters = { ...accuraciesFor([...largestRead(readings).keys()], ask.bench.instruments), ...ask.instruments };
  const { setup, assumed } = assumedSetup(p, readings, ask.conditions, ask.bench.regulationBand, meters);
  return {
    kind: "read",
    analysis: analyseReadings(p, readings, setup, NO_CORRECTIONS),
    setup,
    assumed,
    remarks,
    rows,
    seconds,
  };
}
