/** Where a file's rows are odd: cells that can't be read, rows of another shape than the head, a last line that may be cut off. */
import type { Dialect } from "./dialect";

/** A cell or a row that could not be read: where it stands, what it holds, what was expected. */
export interface FieldProblem {
  /** Line of the file, counted from 1; blank lines and those inside quotes count. */
  readonly line: number;
  readonly column: string;
  readonly value: string;
  readonly expected: string;
  /** What is odd about the row as a whole, as a sentence; `column` and `expected` say nothing then. */
  readonly odd?: string;
}

/** Characters of a file that a message quotes. */
export const QUOTED = 80;
export const quoted = (text: string): string =>
  text.trim().length > QUOTED ? `${text.trim().slice(0, QUOTED)}…` : text.trim();

export const describeProblem = (p: FieldProblem): string =>
  p.odd
    ? `Line ${p.line}: ${p.odd}`
    : `Line ${p.line}, column “${p.column}”: “${quoted(p.value)}” is not ${p.expected}.`;

/** One way to read a file that makes all of its odd rows ordinary ones. */
export interface Explanation {
  readonly text: string;
  readonly dialect?: Partial<Dialect>;
  readonly lastLine?: "whole";
}

/** Cells that the rows of a table have: those of the head, or more where every row ends with further separators. */
export function usualFields(counts: readonly number[], head: number): number {
  const tally = new Map<number, number>();
  for (const c of counts) if (c >= head) tally.set(c, (tally.get(c) ?? 0) + 1);
  let best = head;
  // Only where most rows have it is another count the usual one.
  for (const [count, rows] of tally) if (rows > counts.length / 2) best = count;
  return best;
}

/** What the last column of the head looks like in the rows: how many decimals, and whether it is ever empty. */
export interface Tail {
  readonly decimals: ReadonlySet<number>;
  readonly empty: boolean;
}
export const tailOf = (last: readonly string[]): Tail => ({
  decimals: new Set(last.filter((c) => c.trim() !== "").map(decimalsOf)),
  empty: last.some((c) => c.trim() === ""),
});

/**
 * Whether a row has the shape of the others: as many cells, or further ones at its end that are empty. Those pass only where the last
 * column of the head is sure to be where it should: never empty elsewhere, and written as elsewhere. Else a cell may have come between.
 */
export function fits(row: readonly string[], usual: number, head: number, tail: Tail): boolean {
  if (row.length < usual || row.slice(head).some((c) => c.trim() !== "")) return false;
  if (row.length === usual) return true;
  const last = row[head - 1] ?? "";
  return !tail.empty && last.trim() !== "" && tail.decimals.has(decimalsOf(last));
}

/** What is odd about a row of `count` cells, as a sentence. `would` says what it would be read as. */
export function oddRow(count: number, usual: number, head: number, would: string): string {
  const cells = (n: number) => `${n} ${n === 1 ? "cell" : "cells"}`;
  return `it has ${cells(count)} where the head has ${head}${usual > head ? ` and the other rows ${usual}` : ""}${would ? `; it would have been read as ${would}` : ""}.`;
}

/** A last column that is empty in every row, while all rows have as many cells as the head: rows that end with a separator and lack a cell look so. */
export const emptyLast = (header: string, line: number): string =>
  `Line ${line}: from here on every row ends with an empty cell under “${quoted(header)}”. A cell may be missing in each of them, and all would be read one column off. If that column is really empty, assign nothing to it.`;

/** Most rows have another shape than the head: then none of them can be trusted, not even those that happen to fit. */
export const mostlyOdd = (first: FieldProblem, odd: number, rows: number): string =>
  `${describeProblem(first)} So have ${odd} of ${rows} rows: a column is missing or too many, and no row can be trusted. Mend the head or the rows.`;

/** What a row would be read as, for a message: its first few wanted cells. */
export const wouldRead = (cells: readonly (readonly [header: string, text: string])[]): string =>
  cells
    .filter(([, text]) => text.trim() !== "")
    .slice(0, 4)
    .map(([header, text]) => `${quoted(header)} ${quoted(text)}`)
    .join(", ");

const decimalsOf = (text: string): number => /[.,](\d+)\s*$/.exec(text)?.[1]?.length ?? 0;

/**
 * Whether the last cell of a line without a line feed is surely whole: all the rows before write that column with the same number of
 * decimals, at least one, and so does this one. `rows` are the last cells of those rows.
 */
export function surelyWhole(last: string, rows: readonly string[]): boolean {
  const places = decimalsOf(last);
  return places > 0 && rows.length > 0 && rows.every((r) => decimalsOf(r) === places);
}
export const CUT_OFF = "it has no line feed at its end where the others have one: it may be cut off.";
export const LAST_WHOLE: Explanation = {
  text: "The last line is whole; only its line feed is missing.",
  lastLine: "whole",
};
export const WHOLE_REMARK =
  "The last line has no line feed; it has every cell and digit that the others have, and counts.";

/** A number with one separator of which nobody can know whether it is the other decimal mark or groups thousands. */
export const isOtherMark = (text: string, decimal: "." | ","): boolean =>
  (decimal === "." ? /^\s*[+-]?\d+,\d+\s*$/ : /^\s*[+-]?\d+\.\d+\s*$/).test(text);
export const otherMark = (decimal: "." | ","): Explanation =>
  decimal === "."
    ? { text: "The file writes a decimal comma.", dialect: { decimal: "," } }
    : { text: "The file writes a decimal point.", dialect: { decimal: "." } };
