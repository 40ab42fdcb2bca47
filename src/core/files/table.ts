import Papa from "papaparse";
import { err, ok, type Result } from "../quantities";

export interface Dialect {
  readonly delimiter: string;
  readonly decimal: "." | ",";
}

/** A text table cut into cells, header apart; row numbers in messages count the file's own lines from 1. */
export interface TextTable {
  readonly dialect: Dialect;
  readonly headers: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Line of the file on which row 0 stands. */
  readonly firstLine: number;
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
 * Cuts a text into a table. Byte-order mark, CR LF and quoted fields are understood; empty lines are passed over.
 * Refused: an empty file, a table without a header line, a header that names a column twice.
 */
export function readTable(text: string, wanted: Partial<Dialect> = {}): Result<TextTable> {
  const body = text.replace(/^\ufeff/, "");
  if (body.trim() === "") return err("The file is empty.");
  const delimiter = wanted.delimiter ?? guessDelimiter(body);
  const parsed = Papa.parse<string[]>(body, { delimiter, skipEmptyLines: "greedy" });
  const quote = parsed.errors.find((e) => e.type === "Quotes");
  if (quote) return err(`Line ${(quote.row ?? 0) + 1}: a quoted field is never closed.`);
  const [head, ...rows] = parsed.data;
  const headers = (head ?? []).map((h) => h.trim());
  const problem = headProblem(headers, delimiter);
  if (problem) return err(problem);
  const decimal = wanted.decimal ?? guessDecimal(rows, delimiter);
  return ok({ dialect: { delimiter, decimal }, headers, rows, firstLine: 2 });
}

/** What is wrong with a header line, in words; null where nothing is. */
export function headProblem(headers: readonly string[], delimiter: string): string | null {
  if (headers.length < 2) return `Only one column was found with “${delimiter === "\t" ? "tab" : delimiter}” as the separator: choose another one.`;
  if (headers.every((h) => /^[+-]?[\d.,]+$/.test(h))) return "Line 1 holds numbers: the first line must name the columns.";
  const twice = headers.find((h, i) => h !== "" && headers.indexOf(h) !== i);
  return twice === undefined ? null : `Line 1 names the column “${twice}” twice: rename one of them.`;
}
