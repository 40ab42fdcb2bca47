/** Where the head of a text table stands: loggers write their serial number before it, their units below it, or nothing at all. */
import Papa from "papaparse";
import type { Dialect } from "./dialect";
import { readClock, readIso } from "./numbers";

/** Lines in which a head is looked for. */
const LOOKED = 100;
/** Rows below a head that are held against it. */
const BELOW = 3;

const UNIT = /^[([]?\s*(s|sec|ms|[µuμ]s|min|h|d|hh:mm:ss|m?V|[mµuμ]?A|°?C|degC|m?Wh?|m?Ah|%|Ω|ohm|-|–)\s*[)\]]?$/;
const isNumber = (cell: string): boolean =>
  /^[+\-−]?[\d.,' ]*\d[\d.,]*(e[+-]?\d+)?$/i.test(cell.trim()) || readClock(cell) !== null || readIso(cell) !== null;
/** What a reading that is missing is written as. */
const isNothing = (cell: string): boolean => /^(|-+|–|ol|o\.l|nan|n\/?a|null)$/i.test(cell.trim());

type Row = readonly string[];
const filled = (row: Row): string[] => row.map((c) => c.trim()).filter((c) => c !== "");
/** Whether a row is one of readings: half of what it holds are numbers or moments, the rest may be words. */
const isReadings = (row: Row): boolean => {
  const cells = filled(row);
  return cells.length > 0 && cells.filter((c) => isNumber(c) || isNothing(c)).length >= cells.length / 2;
};
/** Whether a row names columns: hardly a number in it. */
const isHead = (row: Row): boolean => {
  const cells = filled(row);
  return cells.length >= 2 && cells.filter(isNumber).length <= cells.length / 4;
};
const isUnits = (row: Row): boolean => {
  const cells = filled(row);
  return cells.length >= 2 && cells.every((c) => UNIT.test(c));
};

/** The count that most rows have; that of the later ones where two are as common. */
export function usualCount(counts: readonly number[]): number {
  const tally = new Map<number, number>();
  for (const c of counts) tally.set(c, (tally.get(c) ?? 0) + 1);
  return [...tally].reduce((a, b) => (b[1] >= a[1] ? b : a), [1, 0])[0];
}

/** Where the head of a text stands whose cells are cut by `delimiter`. Nothing is said of an ordinary file: its first line names the columns. */
export function findHead(text: string, delimiter: string): Pick<Dialect, "skip" | "headless" | "units"> {
  const cut = (l: string): string[] => Papa.parse<string[]>(l.replace(/\r$/, ""), { delimiter }).data[0] ?? [];
  const lines = text.split("\n", LOOKED);
  // An ordinary file is told from its first two lines.
  const [head, below] = lines.filter((l) => l.trim() !== "");
  if (head !== undefined && below !== undefined) {
    const [a, b] = [cut(head), cut(below)];
    if (a.length > 1 && a.length === b.length && isHead(a) && isReadings(b)) return {};
  }
  const rows = lines.map(cut);
  const written = rows.flatMap((row, at) => (filled(row).length ? [{ row, at }] : []));
  const usual = usualCount(written.map((w) => w.row.length));
  for (const [k, { row, at }] of written.entries()) {
    const below = written.slice(k + 1, k + 1 + BELOW).map((w) => w.row);
    if (below.length === 0 || row.length < 2) continue;
    const skip = at > 0 && written[0]?.at !== at ? { skip: at } : {};
    // An ordinary head may be shorter than its rows, which end in further separators; one below other lines may not.
    if (k > 0 && row.length !== usual) continue;
    if (
      isHead(row) &&
      !isUnits(row) &&
      below.length > 1 &&
      isUnits(below[0] as Row) &&
      (below[0] as Row).length === row.length &&
      isReadings(below[1] as Row)
    )
      return { ...skip, units: true };
    if (isHead(row) && isReadings(below[0] as Row)) return skip;
    // An odd row straight below a head of the usual width is that row's fault.
    if (isHead(row) && k === 0 && row.length === usual && below.some(isReadings)) return {};
    if (
      isReadings(row) &&
      !isHead(row) &&
      row.length === usual &&
      below.every((b) => b.length === usual && isReadings(b)) &&
      filled(row).every((c) => isNumber(c) || isNothing(c))
    )
      return { ...skip, headless: true };
  }
  return {};
}

/** The names of a table's columns, from its head line and, where it has one, the line of units below it. */
export const columnNames = (head: Row, units: Row | null): string[] =>
  head.map((h, i) =>
    units && (units[i] ?? "").trim() !== ""
      ? `${h.trim()} (${(units[i] as string).trim().replace(/^[([]\s*|\s*[)\]]$/g, "")})`
      : h.trim(),
  );

/** What columns without a head are called. */
export const numberedNames = (cells: number): string[] => Array.from({ length: cells }, (_, k) => `Column ${k + 1}`);
