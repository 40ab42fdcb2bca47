import type { ColumnUnit } from "./numbers";

const DAY = 86400;
/** A clock that is set for summer time, s; samples farther apart than this don't show it. */
const HOUR = 3600;
const SHORT_STEP = 600;

/**
 * The time stamps of a log as they come, in s: which row takes which time.
 *
 * A time of day that runs back past midnight goes on the next day, and one that jumps by an hour where a row was due has
 * been set for summer time: that hour does not count. A repeated stamp is dropped and counted. A time that runs back
 * otherwise is an error, as nobody can know where its row belongs.
 */
export class RowClock {
  /** Stamp of the first row; NaN before it. */
  origin = NaN;
  repeats = 0;
  private last = -Infinity;
  private lastRaw = -Infinity;
  private days = 0;
  private step = NaN;
  /** s by which the clock was set on or back meanwhile, and the lines where: above zero where on, below where back. */
  private shifted = 0;
  private readonly shifts: number[] = [];
  private readonly ofDay: boolean;

  constructor(unit: ColumnUnit) {
    this.ofDay = unit === "hh:mm:ss";
  }

  /** Takes the stamp of a row that follows the one before, on a clock that has no days; false where it doesn't follow. */
  follows(time: number): boolean {
    if (!(time > this.last)) return false;
    this.last = time;
    this.lastRaw = time;
    return true;
  }

  /** The time of the row at `line`; null where it repeats the one before, a text where it can't be placed. */
  at(raw: number, line: number): number | null | string {
    if (this.ofDay && raw < this.lastRaw - DAY / 2) this.days++;
    this.lastRaw = raw;
    const t = this.steady(raw + this.days * DAY, line);
    if (t === this.last) {
      this.repeats++;
      return null;
    }
    if (Number.isNaN(this.origin)) this.origin = t;
    if (t < this.last) {
      const ago = (x: number) => `${Number((x - this.origin).toPrecision(9))} s`;
      return `Line ${line}: the time runs back, from ${ago(this.last)} to ${ago(t)} after the first row. Sort the file by time, or cut it where the log was started anew.`;
    }
    this.last = t;
    return t;
  }

  /** What was put right, in words. */
  remarks(): string[] {
    const many = (one: string, more: string) => (this.repeats === 1 ? one : more);
    return [
      ...(this.repeats
        ? [
            `${this.repeats} ${many("row repeats", "rows repeat")} the time stamp before ${many("it", "them")} and ${many("was", "were")} dropped.`,
          ]
        : []),
      ...(this.shifts.length
        ? [
            `The clock was set ${this.shifts.map((s) => (s > 0 ? "ahead" : "back")).join(" and ")} by an hour at line ${this.shifts.map(Math.abs).join(" and ")}, as for summer time. That hour is not counted.`,
          ]
        : []),
    ];
  }

  /** A time of day without the hour by which its clock was set on or back for summer time. */
  private steady(clock: number, line: number): number {
    const t = clock - this.shifted;
    const step = t - this.last;
    // Elapsed time begins at nothing, and has no summer.
    if (this.ofDay && this.origin > 0 && this.step < SHORT_STEP)
      for (const hour of [HOUR, -HOUR])
        if (Math.abs(step - hour - this.step) <= Math.max(2, this.step)) {
          this.shifted += hour;
          this.shifts.push(hour > 0 ? line : -line);
          return clock - this.shifted;
        }
    if (step > 0) this.step = step;
    return t;
  }
}
