/** What shape a log's rows have, and which of them don't have it. */
import Papa from "papaparse";
import {
  CUT_OFF,
  emptyLast,
  fits,
  mostlyOdd,
  oddRow,
  surelyWhole,
  tailOf,
  usualFields,
  type FieldProblem,
  type Tail,
} from "./rows";

/** Records that are looked at for their number of cells. */
export const AHEAD = 24;
/** Odd rows up to which each is named by itself, however short the file. */
const FEW = 3;

/** A last line without a line feed: none, one that may be cut off, one that is surely whole. */
export type BareLine = "no" | "doubtful" | "whole";

/** Holds each row of a log against the head and the rows around it. */
export class RowShape {
  bare: BareLine = "no";
  /** Cells that the rows have. */
  private usual = 0;
  private tail: Tail = { decimals: new Set(), empty: false };
  private odd = 0;
  /** The last column has held anything; the line of the first row. */
  private filledLast = false;
  private firstRow = 0;

  constructor(
    private readonly delimiter: string,
    /** Cells of the head. */
    private readonly head: number,
  ) {}

  /** The cells of one record. */
  cut(record: string): string[] {
    return Papa.parse<string[]>(record, { delimiter: this.delimiter }).data[0] ?? [];
  }

  /** Learns what the rows look like from the first few of them. */
  learn(rows: readonly (readonly string[])[]): void {
    this.usual = usualFields(
      rows.map((r) => r.length),
      this.head,
    );
    this.tail = tailOf(rows.filter((r) => r.length === this.usual).map((r) => r[this.head - 1] ?? ""));
  }

  /** Whether rows have exactly the cells of the head, so that a row needs no look if it does. */
  get plain(): boolean {
    return this.usual === this.head && this.bare === "no";
  }

  /** Judges a last line without a line feed by the lines before it. */
  judgeBare(before: readonly string[], line: string): void {
    const last = this.cut(line);
    const alike = before
      .map((l) => this.cut(l))
      .filter((r) => r.length === last.length)
      .map((r) => r[r.length - 1] ?? "");
    this.bare = last.length >= this.head && surelyWhole(last[last.length - 1] ?? "", alike) ? "whole" : "doubtful";
  }

  /** A row with as many cells as the head, all of them there. */
  sawFull(): void {
    this.filledLast = true;
  }

  /** Whether the last column of a row of the head's shape holds anything; null for a row of another shape. */
  saw(filled: boolean | null, line: number): void {
    if (filled) this.filledLast = true;
    else if (filled === false && !this.tail.empty) this.tail = { ...this.tail, empty: true };
    if (this.firstRow === 0) this.firstRow = line;
  }

  /** What is odd about a row of so many cells; null where nothing is. `would` tells what its cells would be read as. */
  oddity(
    cells: number,
    line: number,
    text: () => string,
    would: (row: readonly string[]) => string,
  ): FieldProblem | null {
    if (cells === this.head && this.usual === this.head && this.bare !== "doubtful") return null;
    const row = this.cut(text());
    const fine = fits(row, this.usual, this.head, this.tail);
    if (fine && this.bare !== "doubtful") return null;
    if (!fine) this.odd++;
    return {
      line,
      column: "",
      value: "",
      expected: "",
      odd: fine ? CUT_OFF : oddRow(row.length, this.usual, this.head, would(row)),
    };
  }

  /** Why none of the rows can be trusted; null where they can. `last` is the head's last column, where it is wanted. */
  refusal(first: FieldProblem | undefined, rows: number, problemRows: number, last: string | null): string | null {
    if (first && this.odd > FEW && this.odd > rows) return mostlyOdd(first, this.odd, rows + problemRows);
    if (last !== null && rows + problemRows > 1 && this.usual === this.head && !this.filledLast)
      return emptyLast(last, this.firstRow);
    return null;
  }
}
