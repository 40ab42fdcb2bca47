import { CholeskyDecomposition, Matrix } from "ml-matrix";
import { ELEMENTS, invert, median } from "../quantities";

const { nth, sampleAt } = ELEMENTS;

/** Rows of a log of something that warms up: columns of equal length without gaps, s, °C and W. */
export interface WarmingReadings {
  readonly time: Float64Array;
  readonly part: Float64Array;
  readonly ambient: Float64Array;
  readonly power: Float64Array;
}

export interface WarmingPriors {
  /** K by which the two thermometers may differ, and by which the board may still have been warm at the first row: standard deviations. */
  readonly offset: number;
  readonly start: number;
  /** K by which it may have been warm after a rest that was logged: taken where the readings do not speak against it. */
  readonly rested?: number;
  /** K of scatter of one reading. */
  readonly noise: number;
}

/** A fitted warming: T = ambient followed with the board's lag + offset + two exponentials driven by the power. */
export interface Warming {
  /** s: of the board against the air, and of the part against its board; the second is null where none shows. */
  readonly tau: number;
  readonly quickTau: number | null;
  /** K/W: the board's, the part's against it. */
  readonly slow: number;
  readonly quick: number;
  /** K that the part reads above the ambient thermometer with no power. */
  readonly offset: number;
  /** W at the end of the log. */
  readonly power: number;
  /** K above ambient that it settles at, offset left out, and K still to come at the end of the log. */
  readonly rise: number;
  readonly left: number;
  /** Standard uncertainties from scatter and extrapolation: s, K/W, K of offset + rise, K of the rise alone. */
  readonly u: { readonly tau: number; readonly resistance: number; readonly steady: number; readonly rise: number };
  /** The fitted temperature over the log. */
  readonly curve: readonly { readonly x: number; readonly y: number }[];
}

interface Bins {
  readonly n: number;
  readonly start: Float64Array;
  readonly middle: Float64Array;
  readonly end: Float64Array;
  readonly part: Float64Array;
  readonly ambient: Float64Array;
  readonly power: Float64Array;
  readonly weight: Float64Array;
}

/** Bins grow with the time since the power came on: what happens later happens slower. */
const GROWTH = 0.08;
/** Readings in a bin that count as independent of each other, and K below which no mean is trusted. */
const INDEPENDENT = 35;
const FLOOR = 0.005;
/** ln s: small boards take minutes, give or take a factor of three; only a short log leans on it. */
const USUAL = { slow: Math.log(450), spread: 1.1 };

/** First row at which the power is on: above half of the highest. */
export function powerOn(power: Float64Array): number {
  let most = 0;
  for (let k = 0; k < power.length; k++) if (sampleAt(power, k) > most) most = sampleAt(power, k);
  const first = power.findIndex((p) => p > most / 2);
  return first < 0 ? 0 : first;
}

function binned(r: WarmingReadings, noise: number): Bins {
  const { time } = r;
  const n = time.length;
  const on = powerOn(r.power);
  const t0 = sampleAt(time, 0);
  const tOn = sampleAt(time, on);
  const usual = (sampleAt(time, n - 1) - t0) / Math.max(1, n - 1);
  const rows: number[][] = [];
  const half = 0.5 * sampleAt(r.power, on);
  const powered = (k: number) => sampleAt(r.power, k) > half;
  // The last moment at which the power went on or off: what happens later happens slower.
  let since = tOn;
  let i = 0;
  while (i < n) {
    if (i > on && powered(i) !== powered(i - 1)) since = sampleAt(time, i);
    const t = sampleAt(time, i);
    const width = i < on ? Math.max(usual, (tOn - t0) / 5) : Math.max(usual, GROWTH * (t - since));
    let j = i;
    let at = 0;
    let part = 0;
    let ambient = 0;
    let power = 0;
    while (j < n && (j === i || (sampleAt(time, j) - t < width && j !== on && (i < on || powered(j) === powered(i))))) {
      at += sampleAt(time, j);
      part += sampleAt(r.part, j);
      ambient += sampleAt(r.ambient, j);
      power += sampleAt(r.power, j);
      j++;
    }
    const edge = (k: number) =>
      k <= 0 ? t0 : k >= n ? sampleAt(time, n - 1) : (sampleAt(time, k - 1) + sampleAt(time, k)) / 2;
    const c = j - i;
    rows.push([
      edge(i),
      at / c,
      edge(j),
      part / c,
      ambient / c,
      power / c,
      1 / (noise ** 2 / Math.min(c, INDEPENDENT) + FLOOR ** 2),
    ]);
    i = j;
  }
  const column = (k: number) => Float64Array.from(rows, (x) => nth(x, k));
  return {
    n: rows.length,
    start: column(0),
    middle: column(1),
    end: column(2),
    part: column(3),
    ambient: column(4),
    power: column(5),
    weight: column(6),
  };
}

/** What is left of a difference at each bin's middle, and at its end, after the time since its start. */
interface Lag {
  readonly half: Float64Array;
  readonly whole: Float64Array;
}
function lag(b: Bins, tau: number): Lag {
  const [half, whole] = [new Float64Array(b.n), new Float64Array(b.n)];
  for (let k = 0; k < b.n; k++) {
    const s = sampleAt(b.start, k);
    half[k] = Math.exp((s - sampleAt(b.middle, k)) / tau);
    whole[k] = Math.exp((s - sampleAt(b.end, k)) / tau);
  }
  return { half, whole };
}

/** What follows `drive` with that lag, at each bin's middle. */
function response(drive: Float64Array, { half, whole }: Lag, first: number): Float64Array {
  const n = drive.length;
  const out = new Float64Array(n);
  let y = first;
  for (let k = 0; k < n; k++) {
    const u = sampleAt(drive, k);
    out[k] = u + (y - u) * sampleAt(half, k);
    y = u + (y - u) * sampleAt(whole, k);
  }
  return out;
}

interface Solved {
  readonly cost: number;
  /** offset, warmth left at the start, K/W slow, K/W quick. */
  readonly x: readonly number[];
}

/** Columns that hang on the board's time constant alone, and their weighted products with each other and with the target. */
interface Slow {
  readonly target: Float64Array;
  readonly columns: readonly Float64Array[];
  /** Σ w·target², and a row a column: with the columns from its own on, then with the target. */
  readonly yy: number;
  readonly products: readonly (readonly number[])[];
}

class Problem {
  private readonly slows = new Map<number, Slow>();
  private readonly quicks = new Map<number, { readonly column: Float64Array; readonly square: number }>();
  private readonly ambient0: number;
  private readonly ones: Float64Array;
  private readonly zeros: Float64Array;
  readonly ridge: readonly number[];

  constructor(
    readonly b: Bins,
    p: WarmingPriors,
  ) {
    this.ones = new Float64Array(b.n).fill(1);
    this.zeros = new Float64Array(b.n);
    this.ambient0 = b.ambient.subarray(0, Math.min(3, b.n)).reduce((s, v) => s + v, 0) / Math.min(3, b.n);
    this.ridge = [1 / p.offset ** 2, 1 / p.start ** 2, 1e-9, 1e-9];
  }

  /** Σ w·x·y over the bins. */
  private product(x: Float64Array, y: Float64Array): number {
    const { weight, n } = this.b;
    let s = 0;
    for (let k = 0; k < n; k++) s += sampleAt(weight, k) * sampleAt(x, k) * sampleAt(y, k);
    return s;
  }

  slow(tau: number): Slow {
    let cached = this.slows.get(tau);
    if (!cached) {
      const { b } = this;
      const l = lag(b, tau);
      const target = response(b.ambient, l, this.ambient0);
      for (let k = 0; k < b.n; k++) target[k] = sampleAt(b.part, k) - sampleAt(target, k);
      const columns = [this.ones, response(this.zeros, l, 1), response(b.power, l, 0)];
      cached = {
        target,
        columns,
        yy: this.product(target, target),
        products: columns.map((c, i) => [...columns.slice(i), target].map((other) => this.product(c, other))),
      };
      this.slows.set(tau, cached);
    }
    return cached;
  }
  private quick(tau: number): { readonly column: Float64Array; readonly square: number } {
    let cached = this.quicks.get(tau);
    if (!cached) {
      const column = response(this.b.power, lag(this.b, tau), 0);
      this.quicks.set(tau, (cached = { column, square: this.product(column, column) }));
    }
    return cached;
  }
  columns(tau: number, quickTau: number | null): readonly Float64Array[] {
    const { columns } = this.slow(tau);
    return quickTau === null ? columns : [...columns, this.quick(quickTau).column];
  }

  solve(tau: number, quickTau: number | null): Solved {
    const { target, columns, yy, products } = this.slow(tau);
    const slow = columns.length;
    const m = quickTau === null ? slow : slow + 1;
    const a = Matrix.zeros(m, m);
    const right = new Array<number>(m).fill(0);
    const put = (i: number, j: number, v: number): void => void a.set(i, j, v).set(j, i, v);
    products.forEach((row, i) => {
      for (let j = i; j < slow; j++) put(i, j, nth(row, j - i));
      right[i] = nth(row, slow - i);
    });
    if (quickTau !== null) {
      const { column, square } = this.quick(quickTau);
      columns.forEach((c, i) => put(i, slow, this.product(c, column)));
      put(slow, slow, square);
      right[slow] = this.product(column, target);
    }
    for (let i = 0; i < m; i++) a.set(i, i, a.get(i, i) + nth(this.ridge, i));
    const x = solveNormal(a, right);
    if (!x || nth(x, 2) < 0 || (m > 3 && nth(x, 3) < 0)) return { cost: Infinity, x: [0, 0, 0, 0] };
    const prior = ((Math.log(tau) - USUAL.slow) / USUAL.spread) ** 2;
    return { cost: yy - x.reduce((s, v, i) => s + v * nth(right, i), 0) + prior, x: m > 3 ? x : [...x, 0] };
  }
}

/** The solution of normal equations, by Cholesky's decomposition; null where they have none to working precision. */
function solveNormal(a: Matrix, right: readonly number[]): number[] | null {
  const parts = new CholeskyDecomposition(a);
  return parts.isPositiveDefinite() ? parts.solve(Matrix.columnVector([...right])).to1DArray() : null;
}

/** What a board that was still warm has to gain over one at rest: three standard deviations. */
const WARM = 9;
/** What a second exponential has to gain for its two parameters. */
const EARNED = 6;

/** The pair of time constants that fits best so far. */
class Search {
  cost = Infinity;
  x: readonly number[] = [];
  tau = NaN;
  quickTau: number | null = null;

  constructor(
    private readonly p: Problem,
    private readonly penalty: number,
  ) {}

  offer(tau: number, quickTau: number | null): boolean {
    if (quickTau !== null && quickTau > tau / 4) return false;
    const s = this.p.solve(tau, quickTau);
    const cost = s.cost + this.penalty;
    if (!(cost < this.cost - 1e-9)) return false;
    [this.cost, this.x, this.tau, this.quickTau] = [cost, s.x, tau, quickTau];
    return true;
  }

  /** Moves either time constant, and both together, by ever smaller ratios. */
  refine(usual: number): void {
    if (!Number.isFinite(this.cost)) return;
    for (let step = 1.35; step > 1.0015; step = Math.sqrt(step))
      for (let moved = true, k = 0; moved && k < 4; k++) {
        const { tau, quickTau } = this;
        moved = [this.offer(tau * step, quickTau), this.offer(tau / step, quickTau)].some(Boolean);
        if (this.quickTau === null) continue;
        const [q, t] = [this.quickTau, this.tau];
        moved =
          [
            this.offer(t, q * step),
            this.offer(t, Math.max(0.5 * usual, q / step)),
            this.offer(t * step, q / step),
            this.offer(t / step, q * step),
          ].some(Boolean) || moved;
      }
  }
}

/**
 * Fits a warming by least squares: for each pair of time constants the rest is linear (variable projection); the pair is
 * searched on a grid of ratios and then closer. T = F_τ[ambient] + offset + left·e^(−t/τ) + R_slow·F_τ[P] + R_quick·F_quick[P],
 * where F is a first-order lag. Null for fewer than eight readings, or where nothing warms.
 *
 * Worked: 38 K/W in all, 0.7 W, τ = 650 s and ambient 22 °C settle at 48.6 °C; after 1000 s some 5 K are left.
 */
export function fitWarming(r: WarmingReadings, priors: WarmingPriors): Warming | null {
  if (r.time.length < 8) return null;
  const b = binned(r, priors.noise);
  const free = searched(r, new Problem(b, priors));
  const pinned = priors.rested === undefined ? null : searched(r, new Problem(b, { ...priors, start: priors.rested }));
  // A rest before the load pins the start, unless the readings fit clearly better with a board that was still warm.
  const pair = pinned && free && pinned.best.cost <= free.best.cost + WARM ? pinned : free;
  return pair && described(pair.p, pair.best, r);
}

/** The pair of time constants that fits best; null where nothing warms. */
function searched(r: WarmingReadings, p: Problem): { readonly p: Problem; readonly best: Search } | null {
  const { b } = p;
  const length = sampleAt(b.end, b.n - 1) - sampleAt(b.start, 0);
  const usual = length / r.time.length;
  const longest = Math.max(2000, 4 * length);
  const least = Math.max(20, 3 * usual);
  // One exponential and two are searched apart: a coarse grid with two would hide a good single one.
  const alone = new Search(p, 0);
  for (let tau = least; tau < longest; tau *= 1.35) alone.offer(tau, null);
  alone.refine(usual);
  // A quick one has several valleys: each beginning is followed down by itself.
  let best = alone;
  for (let quick = Math.max(1, usual); quick < Math.min(120, length / 4); quick *= 4) {
    const both = new Search(p, EARNED);
    for (let tau = least; tau < longest; tau *= 1.8) both.offer(tau, quick);
    both.refine(usual);
    if (both.cost < best.cost) best = both;
  }
  return Number.isFinite(best.cost) ? { p, best } : null;
}

/** JᵀWJ of least squares over the bins, with what is known beforehand on its diagonal. */
function normalMatrix(b: Problem["b"], jacobian: readonly Float64Array[], own: readonly number[]): number[][] {
  const m = jacobian.length;
  return Array.from({ length: m }, (_, i) =>
    Array.from({ length: m }, (_, j) => {
      let s = i === j ? nth(own, i) : 0;
      const [ci, cj] = [jacobian[i] as Float64Array, jacobian[j] as Float64Array];
      for (let k = 0; k < b.n; k++) s += sampleAt(b.weight, k) * sampleAt(ci, k) * sampleAt(cj, k);
      return s;
    }),
  );
}

function described(
  p: Problem,
  best: {
    readonly cost: number;
    readonly x: readonly number[];
    readonly tau: number;
    readonly quickTau: number | null;
  },
  r: WarmingReadings,
): Warming | null {
  const { b } = p;
  const [offset = 0, left0 = 0, slow = 0, quick = 0] = best.x;
  const { tau, quickTau } = best;
  const model = (t: number, q: number | null): Float64Array => {
    const { target } = p.slow(t);
    const columns = p.columns(t, q);
    return b.part.map(
      (v, k) => v - sampleAt(target, k) + columns.reduce((s, c, i) => s + nth(best.x, i) * sampleAt(c, k), 0),
    );
  };
  const at = model(tau, quickTau);
  const shift = 1.01;
  const jacobian = [
    ...p.columns(tau, quickTau),
    model(tau * shift, quickTau).map((v, k) => (v - sampleAt(at, k)) / Math.log(shift)),
    ...(quickTau === null ? [] : [model(tau, quickTau * shift).map((v, k) => (v - sampleAt(at, k)) / Math.log(shift))]),
  ];
  const m = jacobian.length;
  const linear = quickTau === null ? 3 : 4;
  const own = [...p.ridge.slice(0, linear), 1 / USUAL.spread ** 2, ...(quickTau === null ? [] : [2])];
  const normal = normalMatrix(b, jacobian, own);
  const inverse = invert(normal);
  if (!inverse) return null;
  let squares = 0;
  for (let k = 0; k < b.n; k++) squares += sampleAt(b.weight, k) * (sampleAt(b.part, k) - sampleAt(at, k)) ** 2;
  // Scatter that is seen stands before scatter that was guessed; of few bins it is no less than guessed.
  const scale = Math.max(b.n - m > 20 ? 0.5 : 1, squares / Math.max(1, b.n - m));
  const spread = (g: readonly number[]): number =>
    Math.sqrt(
      Math.max(
        0,
        scale * g.reduce((s, gi, i) => s + gi * g.reduce((q, gj, j) => q + gj * nth(inverse[i] as number[], j), 0), 0),
      ),
    );
  const on = powerOn(r.power);
  const power = median(r.power.subarray(Math.max(on, Math.floor((2 * r.power.length) / 3))));
  const resist = (by: number): number[] => [
    0,
    0,
    by,
    ...(quickTau === null ? [] : [by]),
    0,
    ...(quickTau === null ? [] : [0]),
  ];
  const steady = resist(power);
  steady[0] = 1;
  const rise = (slow + quick) * power;
  const columns = p.columns(tau, quickTau);
  const last = b.n - 1;
  const reached =
    slow * sampleAt(columns[2] as Float64Array, last) +
    (quickTau === null ? 0 : quick * sampleAt(columns[3] as Float64Array, last)) +
    left0 * sampleAt(columns[1] as Float64Array, last);
  const log = new Array<number>(m).fill(0);
  log[linear] = tau;
  return {
    tau,
    quickTau,
    slow,
    quick,
    offset,
    power,
    rise,
    left: rise - reached,
    u: { tau: spread(log), resistance: spread(resist(1)), steady: spread(steady), rise: spread(resist(power)) },
    curve: Array.from(at, (y, k) => ({ x: sampleAt(b.middle, k), y })),
  };
}
