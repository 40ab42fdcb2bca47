import { ELEMENTS, err, ok, type Result } from "../quantities";
import { largestShown } from "../instruments";
import { roleUnit, type Role } from "../measurement";
import type { TraceColumns } from "./trace-columns";
import { explain, mappedLabel } from "./import-points";
import { isMappedRole, type ColumnMapping } from "./mapping";
import { BEYOND, COLUMN_UNITS, readField, readTime, type ColumnUnit } from "./numbers";
import { quoted as short, WHOLE_REMARK, wouldRead, type FieldProblem, type Explanation } from "./rows";
import { RowClock } from "./row-clock";
import { AHEAD, RowShape } from "./row-shape";
import { columnNames, numberedNames } from "./head-lines";
import { headProblem, type Dialect } from "./table";

const { byteAt, sampleAt, wholeAt } = ELEMENTS;

export interface TraceSummary {
  readonly rows: number;
  /** Time stamp of the first row in s, as the file counts: since 1970, since midnight, or since the logger's own start. */
  readonly origin: number;
  /** Cells that could not be read; their rows are not in the trace. The first thousand are kept. */
  readonly problems: readonly FieldProblem[];
  readonly problemRows: number;
  /** What was put right on the way, in words. */
  readonly remarks: readonly string[];
  /** One way to read it that makes every odd row an ordinary one. */
  readonly explanation: Explanation | null;
}

export interface TraceReaderOptions {
  readonly dialect: Dialect;
  readonly mapping: ColumnMapping;
  /** Rows given out at a time. */
  readonly chunk?: number;
  /** How the bytes spell characters. */
  readonly encoding?: "utf-8" | "windows-1252";
  /** Whether a last line without a line feed counts as whole; asked about where nothing is said. */
  readonly lastLine?: "ask" | "whole";
  /** Whoever is given rows copies them before more come: the room they stand in is filled again. */
  readonly copied?: boolean;
}

const KEPT_PROBLEMS = 1000;
/** Bytes of the end that a bare last line is held against. */
const RECENT = 4096;
export const FEW_ROWS = "The log has fewer than two rows that can be read.";
const POWERS = Float64Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
const [LF, CR, QUOTE, SPACE, PLUS, MINUS, ZERO, NINE] = [10, 13, 34, 32, 43, 45, 48, 57] as const;
const factorOf = (unit: ColumnUnit): number =>
  unit === "" || unit === "hh:mm:ss" || unit === "iso" ? 1 : COLUMN_UNITS[unit];

interface Slot {
  readonly role: Role;
  readonly header: string;
  readonly factor: number;
}

/**
 * Reads a log of any length as its bytes come, cut anywhere, and gives out columns of SI numbers.
 *
 * A plain decimal number is read from the bytes at once: an integer of up to 15 digits divided by an exact power of ten is
 * the nearest double, as a parse of the text would give. Whatever is written in another way (an exponent, a clock, a mark
 * of overload, quotes) is cut by the CSV parser and read as text.
 *
 * A row whose time can't be placed ends the reading with an error (see `RowClock`).
 */
export class TraceReader {
  private rest: Uint8Array = new Uint8Array();
  private line = 0;
  /** Lines still to come before the head. */
  private skipping: number;
  /** The head line, while that of the units is still to come. */
  private names: readonly string[] | null = null;
  private slots: readonly Slot[] | null = null;
  /** Column of the file → slot, −1 for a column that is not wanted, −2 for time. */
  private wanted = new Int32Array();
  private signs = new Float64Array();
  /** Decimal places by which each column's unit is smaller than its SI unit. */
  private shifts = new Int32Array();
  /** The largest magnitude that a meter shows of each, SI. */
  private most = new Float64Array();
  private columns: Float64Array[] = [];
  private filled = 0;
  private total = 0;
  private shape: RowShape;
  /** The file's own decimal mark was seen. */
  private ownMark = false;
  /** The end of what was read last, to hold a bare last line against. */
  private recent: Uint8Array = new Uint8Array();
  private overloads = 0;
  private readonly problems: FieldProblem[] = [];
  private problemRows = 0;
  private error: string | null = null;
  private readonly decoder: TextDecoder;
  private readonly delimiter: number;
  private readonly decimal: number;
  private readonly size: number;
  private readonly cells: Float64Array;
  private readonly clock: RowClock;
  private readonly timeUnit: ColumnUnit;
  private readonly timeFactor: number;

  constructor(
    private readonly options: TraceReaderOptions,
    private readonly give: (columns: TraceColumns, rows: number) => void,
  ) {
    this.decoder = new TextDecoder(options.encoding ?? "utf-8");
    this.skipping = options.dialect.skip ?? 0;
    this.shape = new RowShape(options.dialect.delimiter, 0);
    this.delimiter = options.dialect.delimiter.charCodeAt(0);
    this.decimal = options.dialect.decimal.charCodeAt(0);
    this.size = options.chunk ?? 65536;
    this.cells = new Float64Array(Object.keys(options.mapping).length + 1);
    this.timeUnit = options.mapping.time?.unit ?? "s";
    this.timeFactor = factorOf(this.timeUnit);
    this.clock = new RowClock(this.timeUnit);
    if (!options.mapping.time) this.error = "No column is assigned to time.";
  }

  /** Takes the next bytes; false once the log can't be read any further (`end` says why). */
  feed(given: Uint8Array): boolean {
    if (this.error) return false;
    const bytes = this.options.dialect.ends === "CR" ? given.map((c) => (c === CR ? LF : c)) : given;
    const joined = (stop: number): Uint8Array => {
      const out = new Uint8Array(this.rest.length + stop);
      out.set(this.rest);
      out.set(bytes.subarray(0, stop), this.rest.length);
      return out;
    };
    let all = bytes;
    let from = 0;
    if (this.rest.length) {
      // The record that was cut in two is read by itself, so that the many after it need not be moved; one that has line feeds in it can't.
      const line = bytes.indexOf(LF) + 1;
      const first = line > 0 ? joined(line) : null;
      if (first && this.take(first, first.length) === first.length) from = line;
      else all = joined(bytes.length);
    }
    if (this.error) return false;
    const end = all.lastIndexOf(LF) + 1;
    const used = end > from ? this.take(all, end, from) : from;
    if (end > 0) this.recent = all.slice(Math.max(0, end - RECENT), end);
    this.rest = all.slice(used);
    return this.error === null;
  }

  /** What was read, or why it could not be. */
  end(): Result<TraceSummary> {
    if (!this.error && this.rest.length) {
      const closed = new Uint8Array(this.rest.length + 1);
      closed.set(this.rest);
      closed[this.rest.length] = LF;
      if (this.options.lastLine !== "whole" && this.total + this.problemRows > 0)
        this.shape.judgeBare(
          this.decoder
            .decode(this.recent)
            .split("\n")
            .slice(1, -1)
            .map((l) => l.replace(/\r$/, "")),
          this.decoder.decode(this.rest),
        );
      if (this.take(closed, closed.length) < closed.length && !this.error)
        this.error = `Line ${this.line + 1}: a quoted field is never closed.`;
    }
    if (this.error) return err(this.error);
    if (!this.slots) return err("The file is empty.");
    const last = this.wanted[this.wanted.length - 1] ?? -1;
    const refusal = this.shape.refusal(
      this.problems.find((x) => x.odd),
      this.total,
      this.problemRows,
      last >= 0 ? (this.slots[last] as Slot).header : null,
    );
    if (refusal) return err(refusal);
    if (this.total < 2 && this.problemRows === 0) return err(FEW_ROWS);
    this.flush();
    return ok({
      rows: this.total,
      origin: this.clock.origin,
      problems: this.problems,
      problemRows: this.problemRows,
      explanation:
        this.problemRows > this.problems.length ? null : explain(this.problems, this.options.dialect, this.ownMark),
      remarks: [
        ...(this.shape.bare === "whole" ? [WHOLE_REMARK] : []),
        ...this.clock.remarks(),
        ...(this.overloads
          ? [`${this.overloads} overload ${this.overloads === 1 ? "mark counts" : "marks count"} as no reading.`]
          : []),
      ],
    });
  }

  /** Reads the whole records of `b` up to `end`; gives where the first one begins that is not whole. */
  private take(b: Uint8Array, end: number, from = 0): number {
    let p = from;
    while (p < end && !this.error) {
      if (!this.slots) {
        const next = this.beginning(b, p, end);
        if (next < 0) return p;
        p = next;
        continue;
      }
      // Rows of plain numbers go by at once; whatever else stands in a row has it read with care.
      p = this.plainRows(b, p, end);
      if (p >= end) break;
      const next = this.record(b, p, end);
      if (next < 0) return p;
      p = next;
    }
    return this.error ? end : p;
  }

  /** What shape the rows have, by the next few records as far as they are here. */
  private lookAhead(b: Uint8Array, from: number, end: number): void {
    const out: string[][] = [];
    for (let p = from; p < end && out.length < AHEAD;) {
      const stop = recordEnd(b, p, end);
      if (stop < 0) break;
      const row = this.shape.cut(this.text(b, p, stop));
      if (row.some((c) => c.trim() !== "")) out.push(row);
      p = stop + 1;
    }
    this.shape.learn(out);
  }

  /** Takes rows from `p` on as long as they are plain ones; gives where the first other row begins. */
  private plainRows(b: Uint8Array, from: number, end: number): number {
    if (
      this.timeUnit === "hh:mm:ss" ||
      this.timeUnit === "iso" ||
      this.total === 0 ||
      this.decimal === this.delimiter ||
      !this.shape.plain
    )
      return from;
    let p = from;
    while (p < end) {
      const next = this.plainRow(b, p);
      if (next < 0) break;
      p = next;
    }
    return p;
  }

  /**
   * Takes a row from `p` if it is what nearly all are: as many fields as the head has, each wanted one a plain number of at
   * most nine digits, the time after the one before. Gives where the next one begins, or −1 where it is not, with nothing taken.
   * What it takes it reads as `record` would; that is tested.
   */
  private plainRow(b: Uint8Array, from: number): number {
    const { delimiter, decimal, wanted, cells, signs, shifts } = this;
    const final = wanted.length - 1;
    let p = from;
    let time = NaN;
    for (let column = 0; column <= final; column++) {
      const slot = wholeAt(wanted, column);
      let c = byteAt(b, p);
      if (slot === -1) {
        while (c !== delimiter && c !== LF && c !== QUOTE) c = byteAt(b, ++p);
      } else {
        const negative = c === MINUS;
        if (negative) c = byteAt(b, ++p);
        const first = p;
        let whole = 0;
        let point = -1;
        for (;;) {
          const digit = c - ZERO;
          if (digit >= 0 && digit <= 9) whole = (whole * 10 + digit) | 0;
          else if (c === decimal && point < 0) point = p;
          else break;
          c = byteAt(b, ++p);
        }
        const decimals = point < 0 ? 0 : p - point - 1;
        const digits = p - first - (point < 0 ? 0 : 1);
        if (digits < 1 || digits > 9) return -1;
        if (point >= 0) this.ownMark = true;
        const sign = negative ? -1 : 1;
        if (slot >= 0) {
          // One division: a reading in mA is the double nearest to it in A.
          cells[slot] = sign * sampleAt(signs, slot) * (whole / sampleAt(POWERS, decimals + wholeAt(shifts, slot)));
          if (Math.abs(sampleAt(cells, slot)) > sampleAt(this.most, slot)) return -1;
        } else time = sign * (whole / sampleAt(POWERS, decimals)) * this.timeFactor;
        if (c === CR && column === final) c = byteAt(b, ++p);
      }
      if (c !== (column === final ? LF : delimiter)) return -1;
      p++;
    }
    if (!this.clock.follows(time)) return -1;
    this.shape.sawFull();
    this.line++;
    this.keep(time);
    return p;
  }

  private text(b: Uint8Array, from: number, to: number): string {
    return this.decoder.decode(b.subarray(from, to > from && b[to - 1] === CR ? to - 1 : to));
  }

  /** Takes one line of what stands before the readings; gives where the next one begins, −1 where it is not whole. */
  private beginning(b: Uint8Array, from: number, end: number): number {
    if (this.skipping > 0) {
      const stop = b.indexOf(LF, from);
      if (stop < 0 || stop >= end) return -1;
      this.skipping--;
      this.line++;
      return stop + 1;
    }
    const stop = recordEnd(b, from, end);
    if (stop < 0) return -1;
    const text = this.text(b, from, stop).replace(/^\ufeff/, "");
    const next = this.options.dialect.headless && text.trim() !== "" ? from : stop + 1;
    if (next > from) this.line += 1 + count(text, "\n");
    if (text.trim() === "") return next;
    const cells = this.shape.cut(text);
    if (this.options.dialect.units && !this.names) this.names = cells;
    else
      this.head(
        next === from ? numberedNames(cells.length) : columnNames(this.names ?? cells, this.names ? cells : null),
      );
    if (this.slots) this.lookAhead(b, next, end);
    return next;
  }

  private head(headers: readonly string[]): void {
    const problem = headProblem(headers, this.options.dialect.delimiter, this.line);
    if (problem) {
      this.error = problem;
      return;
    }
    const slots: Slot[] = [];
    this.wanted = new Int32Array(headers.length).fill(-1);
    for (const [role, spec] of Object.entries(this.options.mapping)) {
      if (!isMappedRole(role) || !spec) continue;
      const index = headers.indexOf(spec.header);
      if (index < 0) {
        this.error = `The file has no column “${spec.header}” (wanted for ${mappedLabel(role).toLowerCase()}). It has: ${short(headers.join(", "))}.`;
        return;
      }
      if (role === "time") this.wanted[index] = -2;
      else if (role !== "setVoltage" && role !== "setLoad") {
        this.wanted[index] = slots.length;
        slots.push({ role, header: spec.header, factor: (spec.sign ?? 1) * factorOf(spec.unit) });
      }
    }
    if (slots.length === 0) {
      this.error = "No column is assigned to a quantity.";
      return;
    }
    this.slots = slots;
    this.shape = new RowShape(this.options.dialect.delimiter, headers.length);
    this.signs = Float64Array.from(slots, (x) => Math.sign(x.factor));
    this.shifts = Int32Array.from(slots, (x) => Math.round(-Math.log10(Math.abs(x.factor))));
    this.most = Float64Array.from(slots, (x) => largestShown(roleUnit(x.role)));
    this.fresh();
  }

  private fresh(): void {
    // Whoever said that it copies what it is given lets the same room be filled again.
    if (!this.options.copied || this.columns.length === 0)
      this.columns = Array.from({ length: (this.slots?.length ?? 0) + 1 }, () => new Float64Array(this.size));
    this.filled = 0;
  }

  /** One record from `p`; gives where the next begins, or −1 where this one is not whole. */
  private record(b: Uint8Array, p: number, end: number): number {
    const { delimiter, decimal, wanted, cells, signs, shifts, timeFactor } = this;
    const begin = p;
    let column = 0;
    let time = NaN;
    let timed = false;
    let blank = true;
    cells.fill(NaN);
    let bad: FieldProblem | null = null;
    for (;;) {
      const slot = column < wanted.length ? wholeAt(wanted, column) : -1;
      let c = byteAt(b, p);
      if (c === QUOTE) return this.quoted(b, begin, end);
      const from = p;
      if (slot === -1) {
        while (c !== delimiter && c !== LF) c = byteAt(b, ++p);
        if (p > from && !(c === LF && p === from + 1 && b[from] === CR)) blank = false;
      } else {
        // A plain number: sign, up to 15 digits with at most one decimal sign, spaces around.
        while (c === SPACE) c = byteAt(b, ++p);
        let negative = false;
        if (c === MINUS || c === PLUS) {
          negative = c === MINUS;
          c = byteAt(b, ++p);
        }
        let mantissa = 0;
        let digits = 0;
        let decimals = -1;
        for (;;) {
          if (c >= ZERO && c <= NINE) {
            mantissa = mantissa * 10 + (c - ZERO);
            digits++;
            if (decimals >= 0) decimals++;
          } else if (c === decimal && decimals < 0 && decimal !== delimiter) decimals = 0;
          else break;
          c = byteAt(b, ++p);
        }
        while (c === SPACE || (c === CR && b[p + 1] === LF)) c = byteAt(b, ++p);
        let value = NaN;
        if (digits > 0 && digits <= 15 && (c === delimiter || c === LF)) {
          const places = Math.max(0, decimals);
          const sign = negative ? -1 : 1;
          if (decimals >= 0) this.ownMark = true;
          blank = false;
          value = sign * (mantissa / sampleAt(POWERS, places));
          if (slot >= 0) {
            cells[slot] = sign * sampleAt(signs, slot) * (mantissa / sampleAt(POWERS, places + wholeAt(shifts, slot)));
            if (Math.abs(sampleAt(cells, slot)) > sampleAt(this.most, slot))
              bad ??= { ...this.wrong(b, from, p, slot), expected: BEYOND };
          } else {
            time = value * timeFactor;
            if (this.timeUnit === "hh:mm:ss" || this.timeUnit === "iso") bad ??= this.wrong(b, from, p, slot);
          }
        } else {
          while (c !== delimiter && c !== LF) c = byteAt(b, ++p);
          const cell = this.text(b, from, p);
          if (cell.trim() !== "") blank = false;
          const problem = slot === -2 ? this.readTimeField(cell) : this.readSlot(cell, slot);
          if (typeof problem === "number") time = problem;
          else if (problem) bad ??= problem;
        }
        if (slot === -2) timed = true;
      }
      column++;
      if (c === LF) break;
      p++;
    }
    this.line++;
    if (!blank) this.ended(b, begin, p, column, time, timed, bad);
    return p + 1;
  }

  /** A record that ended at `p`: its shape, its time, what of it could not be read. */
  private ended(
    b: Uint8Array,
    begin: number,
    p: number,
    column: number,
    time: number,
    timed: boolean,
    problem: FieldProblem | null,
  ): void {
    this.shape.saw(
      column === this.wanted.length
        ? p > begin && b[p - 1] !== this.delimiter && !(b[p - 1] === CR && b[p - 2] === this.delimiter)
        : null,
      this.line,
    );
    const bad = this.shape.oddity(column, this.line, () => this.text(b, begin, p), this.would) ?? problem;
    this.row(time, bad ?? (timed ? null : this.timeless()));
  }

  private timeless(): FieldProblem {
    return {
      line: this.line,
      column: this.options.mapping.time?.header ?? "",
      value: "",
      expected: `a time in ${this.timeUnit || "s"}`,
    };
  }

  private wrong(b: Uint8Array, from: number, to: number, slot: number): FieldProblem {
    const header =
      slot === -2 ? (this.options.mapping.time?.header ?? "") : ((this.slots as readonly Slot[])[slot] as Slot).header;
    return {
      line: this.line + 1,
      column: header,
      value: short(this.text(b, from, to)),
      expected: `a time in ${this.timeUnit}`,
    };
  }

  private readTimeField(cell: string): number | FieldProblem {
    const t = cell.length > 40 ? null : readTime(cell, this.timeUnit, this.options.dialect.decimal);
    return (
      t ?? {
        line: this.line + 1,
        column: this.options.mapping.time?.header ?? "",
        value: short(cell),
        expected: `a time in ${this.timeUnit || "s"}`,
      }
    );
  }

  private readSlot(cell: string, slot: number): FieldProblem | null {
    const s = (this.slots as readonly Slot[])[slot] as Slot;
    const read =
      cell.length > 60 && cell.trim().length > 60
        ? err("a number, nothing, or OL")
        : readField(cell, this.options.dialect.decimal, s.factor, this.most[slot]);
    if (!read.ok) return { line: this.line + 1, column: s.header, value: short(cell), expected: read.error };
    if (read.value.status === "overload") this.overloads++;
    this.cells[slot] = read.value.value ?? NaN;
    return null;
  }

  /** What a row would have been read as. */
  private readonly would = (row: readonly string[]): string =>
    wouldRead(
      [...this.wanted].flatMap((slot, column) =>
        slot === -1
          ? []
          : [
              [
                slot === -2
                  ? (this.options.mapping.time?.header ?? "")
                  : ((this.slots as readonly Slot[])[slot] as Slot).header,
                row[column] ?? "",
              ] as const,
            ],
      ),
    );

  /** A record with quotes in it, by the CSV parser. */
  private quoted(b: Uint8Array, begin: number, end: number): number {
    const stop = recordEnd(b, begin, end);
    if (stop < 0) return -1;
    const text = this.text(b, begin, stop);
    const row = this.shape.cut(text);
    this.cells.fill(NaN);
    let time = NaN;
    let bad: FieldProblem | null = null;
    this.wanted.forEach((slot, column) => {
      if (slot === -1) return;
      const problem = slot === -2 ? this.readTimeField(row[column] ?? "") : this.readSlot(row[column] ?? "", slot);
      if (typeof problem === "number") time = problem;
      else if (problem) bad ??= problem;
    });
    this.line += 1 + count(text, "\n");
    if (row.some((c) => c.trim() !== "")) {
      this.shape.saw(row.length === this.wanted.length ? (row[row.length - 1] ?? "").trim() !== "" : null, this.line);
      this.row(time, this.shape.oddity(row.length, this.line, () => text, this.would) ?? bad);
    }
    return stop + 1;
  }

  private row(raw: number, bad: FieldProblem | null): void {
    if (bad || !Number.isFinite(raw)) {
      this.problemRows++;
      if (bad && this.problems.length < KEPT_PROBLEMS) this.problems.push(bad);
      return;
    }
    const t = this.clock.at(raw, this.line);
    if (typeof t === "number") this.keep(t);
    else if (t !== null) this.error = t;
  }

  /** The cells as the next row of the columns. */
  private keep(t: number): void {
    const { columns, cells } = this;
    const at = this.filled;
    (columns[0] as Float64Array)[at] = t - this.clock.origin;
    for (let k = 1; k < columns.length; k++) (columns[k] as Float64Array)[at] = sampleAt(cells, k - 1);
    this.total++;
    if (++this.filled === this.size) this.flush();
  }

  private flush(): void {
    const rows = this.filled;
    if (rows === 0) return;
    const of = (k: number) =>
      rows === this.size ? (this.columns[k] as Float64Array) : (this.columns[k] as Float64Array).slice(0, rows);
    this.give(
      Object.fromEntries([["time", of(0)], ...(this.slots as readonly Slot[]).map((s, k) => [s.role, of(k + 1)])]),
      rows,
    );
    this.fresh();
  }
}

/** Where a record ends: the next line feed outside quotes; −1 where there is none before `end`. */
function recordEnd(b: Uint8Array, from: number, end: number): number {
  let inside = false;
  for (let p = from; p < end; p++) {
    if (b[p] === QUOTE) inside = !inside;
    else if (b[p] === LF && !inside) return p;
  }
  return -1;
}

const count = (text: string, of: string): number => text.split(of).length - 1;
