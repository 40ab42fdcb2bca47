import Papa from "papaparse";
import { err, ok, type Result } from "../quantities";
import type { Dialect } from "./dialect";
import { quoted, surelyWhole, usualCells } from "./rows";

export type { Dialect } from "./dialect";

/** A text table cut into cells, header apart; line numbers in messages count the file's own lines from 1, blank ones too. */
export interface TextTable {
  readonly dialect: Dialect;
  readonly headers: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Line of the file on which each row begins. */
  readonly lines: readonly number[];
  /** Cells that the rows have, further empty ones at their end counted. */
  readonly usual: number;
  /** The last line has no line feed where the others have one, and may be cut off. */
  readonly cutOff: boolean;
  /** It has none, but is surely whole. */
  readonly endsBare: boolean;
}

const DELIMITERS = [";", "\t", ",", "|"] as const;

/** The delimiter that cuts the first lines into the most columns of equal count; a comma where nothing does. */
export function guessDelimiter(text: string): string {
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== "").slice(0, 12);
  let best = ",";
  let bestScore = 0;
  for (const d of DELIMITERS) {
    const counts = lines.map((l) => Papa.parse<string[]>(l, { delimiter: d }).data[0]?.length ?? 1);
    const first = counts[0] ?? 1;
    const steady = counts.filter((c) => c === first).length / Math.max(1, counts.length);
    const score = (first - 1) * steady * steady;
    if (score > bestScore) {
      best = d;
      bestScore = score;
    }
  }
  return best;
}

/** Decimal comma where cells hold numbers with one comma and the comma does not cut the columns. */
export function guessDecimal(rows: readonly (readonly string[])[], delimiter: string): "." | "," {
  if (delimiter === ",") return ".";
  let comma = 0;
  let point = 0;
  for (const row of rows.slice(0, 50))
    for (const c of row) {
      if (/^\s*[+-]?\d+,\d+\s*$/.test(c)) comma++;
      if (/^\s*[+-]?\d+\.\d+\s*$/.test(c)) point++;
    }
  return comma > point ? "," : ".";
}

/**
 * Cuts a text into a table. Byte-order mark, CR LF and quoted fields are understood; empty lines are passed over, and counted.
 * Refused: an empty file, a table without a header line, a header that names a column twice.
 */
export function readTable(text: string, wanted: Partial<Dialect> = {}): Result<TextTable> {
  const body = text.replace(/^\ufeff/, "");
  if (body.trim() === "") return err("The file is empty.");
  const delimiter = wanted.delimiter ?? guessDelimiter(body);
  const parsed = Papa.parse<string[]>(body, { delimiter });
  const quote = parsed.errors.find((e) => e.type === "Quotes");
  const lines = startLines(parsed.data);
  if (quote) return err(`Line ${lines[quote.row ?? 0] ?? 1}: a quoted field is never closed.`);
  const filled = parsed.data.flatMap((row, k) => (row.some((c) => c.trim() !== "") ? [{ row, line: lines[k] as number }] : []));
  const headers = (filled[0]?.row ?? []).map((h) => h.trim());
  const problem = headProblem(headers, delimiter);
  if (problem) return err(problem);
  const rows = filled.slice(1).map((x) => x.row);
  const decimal = wanted.decimal ?? guessDecimal(rows, delimiter);
  const bare = rows.length > 1 && !/[\r\n]\s*$/.test(body);
  const last = rows[rows.length - 1] ?? [];
  const at = last.length - 1;
  const whole = bare && last.length >= headers.length && surelyWhole(last[at] ?? "", rows.slice(0, -1).filter((r) => r.length === last.length).map((r) => r[at] ?? ""));
  return ok({ dialect: { delimiter, decimal }, headers, rows, lines: filled.slice(1).map((x) => x.line), usual: usualCells(rows.map((r) => r.length), headers.length), cutOff: bare && !whole, endsBare: bare && whole });
}

/** The line on which each record begins: a quoted cell may hold line feeds of its own. */
function startLines(records: readonly (readonly string[])[]): number[] {
  const out: number[] = [];
  let line = 1;
  for (const record of records) {
    out.push(line);
    line += 1 + record.reduce((sum, c) => sum + (c.includes("\n") ? c.split("\n").length - 1 : 0), 0);
  }
  return out;
}

/** What is wrong with a header line, in words; null where nothing is. */
export function headProblem(headers: readonly string[], delimiter: string): string | null {
  if (headers.length < 2) return `Only one column was found with “${delimiter === "\t" ? "tab" : delimiter}” as the separator: choose another separator.`;
  if (headers.every((h) => /^[+-]?[\d.,]+$/.test(h))) return "Line 1 holds numbers: the first line must name the columns.";
  const seen = new Set<string>();
  for (const h of headers) {
    if (h !== "" && seen.has(h)) return `Line 1 names the column “${quoted(h)}” twice: rename one of them.`;
    seen.add(h);
  }
  return null;
}
