import type { Finding } from "../procedures";

/** Share of the truths that the stated intervals must hold, and the widest that their median may be, in observed 95 % errors. */
const HELD = 0.9;
const WIDEST = 1.5;

export interface Scored {
  readonly name: string;
  readonly of: number;
  readonly missing: number;
  /** Share of the intervals that hold their truth. */
  readonly held: number;
  /** Median interval ÷ observed 95 % error. */
  readonly width: number;
  readonly good: boolean;
}

/** Counts, over many random benches, how findings compare with what was truly there. */
export class Score {
  private readonly rows = new Map<string, { held: number; of: number; missing: number; errors: number[]; widths: number[] }>();
  private row(name: string) {
    const r = this.rows.get(name) ?? { held: 0, of: 0, missing: 0, errors: [], widths: [] };
    this.rows.set(name, r);
    return r;
  }
  add(name: string, f: Finding | undefined, truth: number): void {
    const r = this.row(name);
    r.of++;
    if (!f || f.bound) {
      r.missing++;
      return;
    }
    const error = Math.abs((f.value as number) - truth);
    const u = f.expandedUncertainty ?? 0;
    r.errors.push(error);
    r.widths.push(u);
    if (error <= u) r.held++;
  }
  /** Every quantity: found nearly always, held often enough, and not by being vague. */
  results(missing = 0.02): Scored[] {
    return [...this.rows].map(([name, r]) => {
      const sorted = [...r.errors].sort((a, b) => a - b);
      const usual = sorted[Math.floor(0.95 * (sorted.length - 1))] ?? NaN;
      const width = [...r.widths].sort((a, b) => a - b)[r.widths.length >> 1] ?? NaN;
      const held = r.held / Math.max(1, r.errors.length);
      return { name, of: r.of, missing: r.missing, held, width: width / usual, good: held >= HELD && width <= WIDEST * usual && r.missing <= missing * r.of };
    });
  }
}
