import Papa from "papaparse";
import { ELEMENTS, err, ok, type Result } from "../quantities";
import type { Dialect } from "./dialect";
import { columnNames, findHead, numberedNames, usualCount } from "./head-lines";
import { quoted, surelyWhole, usualFields } from "./rows";

const { nth } = ELEMENTS;

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

/** Share of the lines that have the cells of the first one, from which that one is the head. */
const ALIKE = 0.8;

/**
 * The delimiter that cuts the first lines into the most columns of equal count; a comma where nothing does. Lines are held against the
 * first one, which names the columns; only where nothing cuts most of them as it cuts that one, they are held against each other.
 */
export function guessDelimiter(text: string): string {
  const all = text.split(/\r?\n|\r/, 60).filter((l) => l.trim() !== "");
  const best = (
    usualOf: (counts: readonly number[]) => number,
    least: number,
    lines = all.slice(0, 12),
  ): string | null => {
    let choice: { d: string; score: number } | null = null;
    for (const d of DELIMITERS) {
      const counts = lines.map((l) => Papa.parse<string[]>(l, { delimiter: d }).data[0]?.length ?? 1);
      const usual = usualOf(counts);
      const steady = counts.filter((c) => c === usual).length / Math.max(1, counts.length);
      const score = (usual - 1) * steady * steady;
      if (steady >= least && score > (choice?.score ?? 0)) choice = { d, score };
    }
    return choice?.d ?? null;
  };
  const first = (counts: readonly number[]) => counts[0] ?? 1;
  return best(first, ALIKE) ?? best(usualCount, 0.5, all) ?? best(first, 0) ?? ",";
}

/** Decimal comma where more cells hold a number with one comma than with one point: cut by commas, such cells were quoted. */
export function guessDecimal(rows: readonly (readonly string[])[]): "." | "," {
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
 * Cuts a text into a table. Byte-order mark, any line ends, quoted fields, lines before the head, a line of units below it and a missing
 * head are understood; empty lines are passed over, and counted. Refused: an empty file, a table of one column, a header that names a
 * column twice.
 */
export function readTable(text: string, wanted: Partial<Dialect> = {}): Result<TextTable> {
  const plain = text.replace(/^\ufeff/, "");
  if (plain.trim() === "") return err("The file is empty.");
  const returns = !plain.includes("\n") && plain.includes("\r");
  const body = returns ? plain.replace(/\r/g, "\n") : plain;
  const delimiter = wanted.delimiter ?? guessDelimiter(body);
  // Whoever says how a file is cut says all of it; only its beginning is left to be found where nothing is said.
  const {
    skip = 0,
    headless,
    units,
  } = wanted.skip !== undefined || wanted.headless || wanted.units ? wanted : findHead(body, delimiter);
  const parsed = Papa.parse<string[]>(skip ? afterLines(body, skip) : body, { delimiter });
  const quote = parsed.errors.find((e) => e.type === "Quotes");
  const lines = startLines(parsed.data, skip);
  if (quote) return err(`Line ${lines[quote.row ?? 0] ?? 1}: a quoted field is never closed.`);
  const filled = parsed.data.flatMap((row, k) =>
    row.some((c) => c.trim() !== "") ? [{ row, line: nth(lines, k) }] : [],
  );
  const first = filled[0]?.row ?? [];
  const headers = headless ? numberedNames(first.length) : columnNames(first, units ? (filled[1]?.row ?? []) : null);
  const problem = headProblem(headers, delimiter, filled[0]?.line ?? 1);
  if (problem) return err(problem);
  const own = filled.slice(headless ? 0 : units ? 2 : 1);
  const rows = own.map((x) => x.row);
  const decimal = wanted.decimal ?? guessDecimal(rows);
  const bare = rows.length > 1 && !/[\r\n]\s*$/.test(body);
  const last = rows[rows.length - 1] ?? [];
  const at = last.length - 1;
  const whole =
    bare &&
    last.length >= headers.length &&
    surelyWhole(
      last[at] ?? "",
      rows
        .slice(0, -1)
        .filter((r) => r.length === last.length)
        .map((r) => r[at] ?? ""),
    );
  const dialect: Dialect = {
    delimiter,
    decimal,
    ...(skip ? { skip } : {}),
    ...(headless ? { headless } : {}),
    ...(units ? { units } : {}),
    ...(returns ? { ends: "CR" } : {}),
  };
  return ok({
    dialect,
    headers,
    rows,
    lines: own.map((x) => x.line),
    usual: usualFields(
      rows.map((r) => r.length),
      headers.length,
    ),
    cutOff: bare && !whole,
    endsBare: bare && whole,
  });
}

/** A text without its first so many lines. */
function afterLines(text: string, skip: number): string {
  let at = 0;
  for (let k = 0; k < skip; k++) {
    const next = text.indexOf("\n", at);
    if (next < 0) return "";
    at = next + 1;
  }
  return text.slice(at);
}

/** The line on which each record begins: a quoted cell may hold line feeds of its own. */
function startLines(records: readonly (readonly string[])[], before: number): number[] {
  const out: number[] = [];
  let line = 1 + before;
  for (const record of records) {
    out.push(line);
    line += 1 + record.reduce((sum, c) => sum + (c.includes("\n") ? c.split("\n").length - 1 : 0), 0);
  }
  return out;
}

/** What is wrong with the header on a line of the file, in words; null where nothing is. */
export function headProblem(headers: readonly string[], delimiter: string, line = 1): string | null {
  if (headers.length < 2)
    return `Only one column was found with “${delimiter === "\t" ? "tab" : delimiter}” as the separator: choose another separator.`;
  if (headers.every((h) => /^[+-]?[\d.,]+$/.test(h))) return `Line ${line} holds numbers: it must name the columns.`;
  const seen = new Set<string>();
  for (const h of headers) {
    if (h !== "" && seen.has(h)) return `Line ${line} names the column “${quoted(h)}” twice: rename one of them.`;
    seen.add(h);
  }
  return null;
}
