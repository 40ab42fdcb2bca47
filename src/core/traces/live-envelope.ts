import { ELEMENTS } from "../quantities";

const { nth } = ELEMENTS;
/** Most pairs of lowest and highest that are held. */
const PAIRS = 800;

/**
 * A growing column thinned as it comes, in memory that does not grow: stretches of rows, each with its lowest and highest in
 * the order they came. Whenever there are too many stretches, two neighbours become one.
 */
export class LiveEnvelope {
  /** Rows of a full stretch. */
  private size = 1;
  private readonly rows: number[] = [];
  private readonly x: number[] = [];
  private readonly y: number[] = [];

  push(time: number, value: number): void {
    const n = this.rows.length;
    if (n === 0 || nth(this.rows, n - 1) >= this.size) {
      if (n === PAIRS) {
        this.halve();
        this.push(time, value);
        return;
      }
      this.rows.push(1);
      this.x.push(time, time);
      this.y.push(value, value);
      return;
    }
    this.rows[n - 1] = nth(this.rows, n - 1) + 1;
    this.widen(2 * n - 2, time, value);
  }

  /** Takes a reading into the stretch whose pair stands at `at`. */
  private widen(at: number, time: number, value: number): void {
    const { x, y } = this;
    if (Number.isNaN(value)) return;
    const [a, b] = [nth(y, at), nth(y, at + 1)];
    if (Number.isNaN(a)) {
      x[at] = x[at + 1] = time;
      y[at] = y[at + 1] = value;
      return;
    }
    const [low, high] = a <= b ? [at, at + 1] : [at + 1, at];
    if (value >= nth(y, low) && value <= nth(y, high)) return;
    // The other end stays; the new one is the later of the two.
    const keep = value < nth(y, low) ? high : low;
    [x[at], y[at]] = [nth(x, keep), nth(y, keep)];
    [x[at + 1], y[at + 1]] = [time, value];
  }

  private halve(): void {
    const { rows, x, y } = this;
    for (let k = 0; k < PAIRS / 2; k++) {
      const [from, into] = [4 * k, 2 * k];
      rows[k] = nth(rows, 2 * k) + nth(rows, 2 * k + 1);
      for (const j of [0, 1]) [x[into + j], y[into + j]] = [nth(x, from + j), nth(y, from + j)];
      this.widen(into, nth(x, from + 2), nth(y, from + 2));
      this.widen(into, nth(x, from + 3), nth(y, from + 3));
    }
    rows.length = PAIRS / 2;
    x.length = y.length = PAIRS;
    this.size *= 2;
  }

  /** What is held, in order; stretches without a reading are left out. */
  curve(): { x: Float64Array; y: Float64Array } {
    const keep = [...this.y.keys()].filter((k) => !Number.isNaN(this.y[k]));
    return { x: Float64Array.from(keep, (k) => nth(this.x, k)), y: Float64Array.from(keep, (k) => nth(this.y, k)) };
  }
}
