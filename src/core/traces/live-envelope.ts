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
    if (n === 0 || (this.rows[n - 1] as number) >= this.size) {
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
    this.rows[n - 1] = (this.rows[n - 1] as number) + 1;
    this.widen(2 * n - 2, time, value);
  }

  /** Takes a reading into the stretch whose pair stands at `at`. */
  private widen(at: number, time: number, value: number): void {
    const { x, y } = this;
    if (Number.isNaN(value)) return;
    const [a, b] = [y[at] as number, y[at + 1] as number];
    if (Number.isNaN(a)) {
      x[at] = x[at + 1] = time;
      y[at] = y[at + 1] = value;
      return;
    }
    const [low, high] = a <= b ? [at, at + 1] : [at + 1, at];
    if (value >= (y[low] as number) && value <= (y[high] as number)) return;
    // The other end stays; the new one is the later of the two.
    const keep = value < (y[low] as number) ? high : low;
    [x[at], y[at]] = [x[keep] as number, y[keep] as number];
    [x[at + 1], y[at + 1]] = [time, value];
  }

  private halve(): void {
    const { rows, x, y } = this;
    for (let k = 0; k < PAIRS / 2; k++) {
      const [from, into] = [4 * k, 2 * k];
      rows[k] = (rows[2 * k] as number) + (rows[2 * k + 1] as number);
      for (const j of [0, 1]) [x[into + j], y[into + j]] = [x[from + j] as number, y[from + j] as number];
      this.widen(into, x[from + 2] as number, y[from + 2] as number);
      this.widen(into, x[from + 3] as number, y[from + 3] as number);
    }
    rows.length = PAIRS / 2;
    x.length = y.length = PAIRS;
    this.size *= 2;
  }

  /** What is held, in order; stretches without a reading are left out. */
  curve(): { x: Float64Array; y: Float64Array } {
    const keep = [...this.y.keys()].filter((k) => !Number.isNaN(this.y[k]));
    return { x: Float64Array.from(keep, (k) => this.x[k] as number), y: Float64Array.from(keep, (k) => this.y[k] as number) };
  }
}
