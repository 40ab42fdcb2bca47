import { traceToCsv } from "@/core/files/export-trace";
import type { TraceColumns } from "@/core/files/trace-columns";
import type { LiveEvent, LiveState, LiveWatch, LogRow, LogValues, Role, TraceEvent } from "@/core/measurement";
import type { StopRule } from "@/core/procedures";
import { ELEMENTS, formatDuration, numeric } from "@/core/quantities";
import { LiveEnvelope } from "@/core/traces";
import type { TraceChunk } from "@/storage/traces";

const { sampleAt } = ELEMENTS;

/** What a live log says to its page, and to other tabs that look on. */
export type LiveNews =
  | { readonly kind: "status"; readonly status: LiveStatus }
  | {
      readonly kind: "event";
      readonly event: LiveEvent;
      /** It was recognised before, and the log was left since. */ readonly past?: true;
    }
  /** Something was done that the log has to know; said anew after a log was taken up again. */
  | { readonly kind: "mark"; readonly mark: TraceEvent }
  /** A stretch in which nothing was read: asleep, frozen, or closed. */
  | { readonly kind: "unwatched"; readonly from: number; readonly until: number }
  /** The log could not be written; what was read is held and tried again. */
  | {
      readonly kind: "trouble";
      readonly message: string | null;
      /** Rows and bytes that are held in memory. */ readonly held?: { readonly rows: number; readonly bytes: number };
    };

export interface LiveStatus {
  readonly rows: number;
  readonly row: LogValues;
  readonly state: LiveState;
  readonly curves: Readonly<Partial<Record<Role, { readonly x: Float64Array; readonly y: Float64Array }>>>;
  readonly lights: readonly number[];
  /** s since the last reading. */
  readonly silent: number;
  readonly pace: number;
  /** Rows that are on disk. */
  readonly kept: number;
}

/** Readings that come by themselves, numbered. */
export interface LogSource {
  sample(k: number): LogRow;
  lights(): readonly number[];
  /** Does something to a simulated bench from its moment `at` on, s; gives what is to be marked. */
  disturb?(what: string, at: number): TraceEvent | null;
  /** Nothing more is to be read: its guide has come to the end. */
  readonly done?: boolean;
  /** What was done so far, oldest first, where a guide drives the bench. */
  marks?(): readonly TraceEvent[];
}

export interface LiveLogOptions {
  readonly runId: string;
  readonly watch: LiveWatch;
  readonly rules: readonly StopRule[];
  /** Null where a person types the readings. */
  readonly source: LogSource | null;
  /** s between samples of the source. */
  readonly every: number;
  /** Milliseconds on a clock that nobody sets: it only goes on. */
  clock(): number;
  /** Milliseconds since 1970, on the computer's own clock; the other one where nothing is said. */
  wall?(): number;
  store(chunk: TraceChunk): Promise<void>;
  tell(news: LiveNews): void;
}

/** ms without a turn after which nobody watched: timers come ten times a second. */
const ASLEEP = 5000;
/** ms by which the computer's clock may differ from the steady one before its being set is said. */
const SET = 5000;
/** s between two openings from which the log says that nobody watched. */
const CLOSED = 1;
/** ms between writes. */
const WRITE = 400;
const SHOW = 250;
/** Samples taken in one turn; a bench that is hurried beyond that runs as fast as it can. */
const TURN = 6000;
/** ms without a typed reading before the log is said to have stalled. */
const STALLED = 15 * 60_000;

/**
 * A log as it is taken: samples, stop rules and storing, apart from any page. It is driven by `turn` some ten times a
 * second, and knows time only from the clock it is given.
 */
export class LiveLog {
  private rows = 0;
  private marked = 0;
  private seq = 0;
  private kept = 0;
  private buffer: LogRow[] = [];
  private number = 0;
  private row: LogValues = {};
  private readonly curves = new Map<Role, LiveEnvelope>();
  private readonly met = new Set<StopRule>();
  private pace = 1;
  /** Bench seconds at the wall time `anchorAt`. */
  private anchor = 0;
  private anchorAt: number;
  private lastTurn: number;
  /** The computer's clock less the steady one, ms. */
  private apart: number;
  private lastRead: number;
  private lastWrite = 0;
  private lastShow = -Infinity;
  private stalled = false;
  private writing: Promise<void> | null = null;
  private troubled = false;

  constructor(private readonly o: LiveLogOptions) {
    this.anchorAt = this.lastTurn = this.lastRead = o.clock();
    this.apart = this.wall() - this.anchorAt;
  }

  private wall(): number {
    return this.o.wall?.() ?? this.o.clock();
  }

  /** Takes up a log that was left: what is stored is followed again, and the time since counts as not watched. */
  resume(stored: TraceColumns, chunks: number, writtenAt: number | undefined): void {
    const roles = Object.keys(stored) as Role[];
    const time = stored.time ?? new Float64Array();
    for (let k = 0; k < time.length; k++) {
      const row: { time: number } & Partial<Record<Role, number>> = { time: sampleAt(time, k) };
      for (const role of roles) {
        const v = sampleAt(stored[role] as Float64Array, k);
        if (!Number.isNaN(v)) row[role] = v;
      }
      this.take(row, false);
    }
    this.buffer = [];
    this.seq = chunks;
    this.kept = time.length;
    if (time.length === 0) return;
    const now = (this.lastTurn = this.o.clock());
    const last = this.row.time ?? 0;
    // Between two openings only the computer's clock tells; one that was set back meanwhile says nothing of how long it was.
    const wall = this.wall();
    if (writtenAt !== undefined && wall < writtenAt - SET) this.tellClock(last, wall - writtenAt);
    const away = Math.max(0, wall - (writtenAt ?? wall)) / 1000;
    this.anchor = last + away;
    this.anchorAt = now;
    this.number = Math.floor(this.anchor / this.o.every) + 1;
    if (away > Math.max(CLOSED, 3 * this.o.every)) this.o.tell({ kind: "unwatched", from: last, until: this.anchor });
  }

  /** Seconds of the bench's clock since the first sample. */
  private now(): number {
    return this.anchor + (this.pace * (this.o.clock() - this.anchorAt)) / 1000;
  }

  setPace(pace: number): void {
    this.anchor = this.now();
    this.anchorAt = this.o.clock();
    this.pace = Math.min(3600, Math.max(1, pace));
  }

  /** A reading that was typed: it stands at the time it was given. */
  type(values: LogValues): void {
    const time = Math.max(this.now(), (this.row.time ?? -1) + 1e-3);
    this.take({ ...values, time: Number(time.toFixed(3)) }, true);
    void this.write();
    this.show();
  }

  /** One turn: the samples that are due, what they say, and from time to time a write. */
  turn(): void {
    const clock = this.o.clock();
    const gap = clock - this.lastTurn;
    if (this.o.source && gap > ASLEEP && this.rows > 0) this.wake(clock, gap);
    this.lastTurn = clock;
    this.watchClock(clock);
    if (this.o.source) this.sampleUp(this.now());
    else this.listen(clock);
    if (clock - this.lastWrite >= WRITE) void this.write();
    if (clock - this.lastShow >= SHOW) this.show();
  }

  /** The computer's clock that is set on or back changes nothing of the log, and is said. */
  private watchClock(clock: number): void {
    const apart = this.wall() - clock;
    const by = apart - this.apart;
    if (Math.abs(by) < SET) return;
    this.apart = apart;
    if (this.rows > 0) this.tellClock(this.row.time ?? 0, by);
  }

  private tellClock(time: number, by: number): void {
    this.o.tell({
      kind: "event",
      event: {
        kind: "clock",
        time,
        message: `The computer's clock was set ${by > 0 ? "ahead" : "back"} by ${formatDuration(Math.abs(by) / 1000)}. The log keeps its own time: nothing changes.`,
      },
    });
  }

  /** After a sleep the bench stands where real time took it; what passed meanwhile was not read. */
  private wake(clock: number, gap: number): void {
    const from = this.row.time ?? 0;
    this.anchor = Math.max(from, this.anchor + (this.pace * (clock - gap - this.anchorAt)) / 1000) + gap / 1000;
    this.anchorAt = clock;
    this.number = Math.max(this.number, Math.floor(this.anchor / this.o.every) + 1);
    this.o.tell({ kind: "unwatched", from, until: this.anchor });
  }

  private sampleUp(to: number): void {
    const source = this.o.source as LogSource;
    let left = TURN;
    while (!source.done && this.number * this.o.every <= to && left-- > 0)
      this.take(source.sample(this.number++), true);
    // Where the turn was too short the bench's clock waits, so that no sample is passed over.
    if (left < 0) {
      this.anchor = this.number * this.o.every;
      this.anchorAt = this.o.clock();
    }
  }

  private listen(clock: number): void {
    // The time goes on whether or not somebody types.
    if (this.rows > 0) for (const event of this.stops({ time: this.now() })) this.o.tell({ kind: "event", event });
    if (this.rows === 0 || this.stalled || clock - this.lastRead < STALLED) return;
    this.stalled = true;
    this.o.tell({
      kind: "event",
      event: {
        kind: "stalled",
        time: this.row.time ?? 0,
        message: "No reading has come for a quarter of an hour: is the charge still watched?",
      },
    });
  }

  private take(row: LogRow, live: boolean): void {
    this.rows++;
    this.row = row;
    this.lastRead = this.o.clock();
    this.stalled = false;
    if (live) this.buffer.push(row);
    for (const role of Object.keys(row) as Role[]) {
      if (role === "time") continue;
      let curve = this.curves.get(role);
      if (!curve) this.curves.set(role, (curve = new LiveEnvelope()));
      curve.push(row.time, numeric(row[role]));
    }
    const events = [...this.o.watch.push(row), ...this.stops(row)];
    if (live) this.tellMarks();
    // What was recognised before a reload is listed again, and rings no bell.
    for (const event of events) this.o.tell({ kind: "event", event, ...(live ? {} : { past: true }) });
  }

  /** Marks of the bench's own guide, or of the one that leads whoever types. */
  private tellMarks(): void {
    const marks = this.o.source?.marks?.() ?? this.o.watch.marks?.() ?? [];
    while (this.marked < marks.length) this.o.tell({ kind: "mark", mark: marks[this.marked++] as TraceEvent });
  }

  private stops(row: LogRow): LiveEvent[] {
    return this.o.rules.flatMap((rule) => {
      const v = row[rule.role];
      if (
        v === undefined ||
        this.met.has(rule) ||
        !((rule.above !== undefined && v > rule.above) || (rule.below !== undefined && v < rule.below))
      )
        return [];
      this.met.add(rule);
      return [
        {
          kind: rule.role.endsWith("emperature") ? ("hot" as const) : ("stop-rule" as const),
          time: row.time,
          message: rule.why,
          act: rule.act,
        },
      ];
    });
  }

  /** Does something to the simulated bench, from its next sample on, and marks it. */
  disturb(what: string): void {
    const mark = this.o.source?.disturb?.(what, Math.max(this.now(), this.number * this.o.every));
    if (mark) this.o.tell({ kind: "mark", mark });
  }

  /** A stop rule that was met is watched again. */
  clearStops(): void {
    this.met.clear();
  }

  private show(): void {
    this.lastShow = this.o.clock();
    this.o.tell({
      kind: "status",
      status: {
        rows: this.rows,
        row: this.row,
        state: this.o.watch.state(),
        curves: Object.fromEntries([...this.curves].map(([role, c]) => [role, c.curve()])),
        lights: this.o.source?.lights() ?? [],
        silent: (this.o.clock() - this.lastRead) / 1000,
        pace: this.pace,
        kept: this.kept,
      },
    });
  }

  /** What is not on disk yet, as a table for a file. */
  heldCsv(): string {
    const roles = ["time", ...this.curves.keys()] as Role[];
    return traceToCsv(
      Object.fromEntries(roles.map((role) => [role, Float64Array.from(this.buffer, (r) => r[role] ?? NaN)])),
    );
  }

  /** Writes what was read since the last write; true once all of it is on disk. */
  async write(): Promise<boolean> {
    this.lastWrite = this.o.clock();
    while (this.writing) await this.writing;
    if (this.buffer.length === 0) return true;
    const rows = this.buffer;
    this.buffer = [];
    const roles = ["time", ...this.curves.keys()] as Role[];
    const columns: TraceColumns = Object.fromEntries(
      roles.map((role) => [role, Float64Array.from(rows, (r) => r[role] ?? NaN)]),
    );
    const chunk: TraceChunk = {
      runId: this.o.runId,
      seq: this.seq,
      from: this.kept,
      rows: rows.length,
      until: rows[rows.length - 1]?.time ?? 0,
      at: this.wall(),
      columns,
    };
    this.writing = this.o
      .store(chunk)
      .then(
        () => {
          this.seq++;
          this.kept += rows.length;
          if (this.troubled) this.o.tell({ kind: "trouble", message: null });
          this.troubled = false;
        },
        (e: unknown) => {
          this.buffer = [...rows, ...this.buffer];
          this.troubled = true;
          const held = { rows: this.buffer.length, bytes: this.buffer.length * roles.length * 8 };
          this.o.tell({
            kind: "trouble",
            held,
            message: `The log can't be written (${(e as Error).name === "QuotaExceededError" ? "the browser's storage is full" : (e as Error).message || (e as Error).name}). ${held.rows} ${held.rows === 1 ? "row is" : "rows are"} held in memory (${Math.max(1, Math.round(held.bytes / 1000))} kB) and tried again. Free some space or save them to a file; keep this tab open.`,
          });
        },
      )
      .finally(() => {
        this.writing = null;
      });
    await this.writing;
    return this.buffer.length === 0;
  }
}
