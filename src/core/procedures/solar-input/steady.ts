/** A stretch in which the light held steady: rows [first, end). */
export interface SteadyWindow {
  readonly first: number;
  readonly end: number;
  readonly from: number;
  readonly to: number;
}

/** Input power within 3 % for 10 s. */
export const STEADY = { share: 0.03, seconds: 10 } as const;
/** s over which readings are averaged first, so that a meter's last digit breaks no window. */
const MEAN = 1;
/** Longest gap inside a window, s. */
const GAP = 15;

/**
 * Finds steady windows in a panel's power as it comes: means over a second, a window as long as its highest and lowest mean stay
 * within 3 % of each other, kept where it lasts 10 s. What it says of a log cut anywhere holds for the whole log up to there.
 */
export class SteadyFinder {
  readonly windows: SteadyWindow[] = [];
  private open: { first: number; from: number; to: number; end: number; low: number; high: number } | null = null;
  private mean = { first: 0, from: NaN, sum: 0, count: 0, last: NaN };

  /** `least` W under which a panel gives nothing worth a window. */
  constructor(private readonly least: number) {}

  push(row: number, time: number, watts: number): void {
    if (watts - watts !== 0) return;
    const { mean } = this;
    if (mean.count > 0 && time - mean.from >= MEAN) this.flush(row);
    if (this.mean.count === 0) this.mean = { first: row, from: time, sum: 0, count: 0, last: time };
    this.mean.sum += watts;
    this.mean.count++;
    this.mean.last = time;
  }

  private flush(row: number): void {
    const { first, from, sum, count, last } = this.mean;
    this.mean = { first: row, from: NaN, sum: 0, count: 0, last: NaN };
    const value = sum / count;
    const { open } = this;
    if (open) {
      const [low, high] = [Math.min(open.low, value), Math.max(open.high, value)];
      if (value >= this.least && from - open.to <= GAP && high - low <= STEADY.share * high) {
        this.open = { ...open, low, high, to: last, end: row };
        return;
      }
      this.close();
    }
    if (value >= this.least) this.open = { first, from, to: last, end: row, low: value, high: value };
  }

  private close(): void {
    const { open } = this;
    this.open = null;
    if (open && open.to - open.from >= STEADY.seconds)
      this.windows.push({ first: open.first, end: open.end, from: open.from, to: open.to });
  }

  /** s of steady light so far, the window under way counted in. */
  get seconds(): number {
    const now = this.open ? this.open.to - this.open.from : 0;
    return this.windows.reduce((s, w) => s + w.to - w.from, 0) + (now >= STEADY.seconds ? now : 0);
  }

  /** Ends the log: the window under way is kept where it is long enough. */
  finish(row: number): readonly SteadyWindow[] {
    if (this.mean.count > 0) this.flush(row);
    this.close();
    return this.windows;
  }
}
