import { ELEMENTS } from "./elements";

const { nth, sampleAt } = ELEMENTS;
let scratch = new Float64Array(64);

/** Median of finite numbers; NaN for an empty list. Does not alter its argument. Takes time in proportion to the length. */
export function median(values: ArrayLike<number>): number {
  const n = values.length;
  if (n === 0) return NaN;
  // Room is let go in proportion: a long log's median must not hold twice the log.
  if (n > scratch.length) scratch = new Float64Array(n + (n >> 3));
  const v = scratch;
  for (let k = 0; k < n; k++) v[k] = nth(values, k);
  const mid = n >> 1;
  const upper = select(v, n, mid);
  if (n % 2) return upper;
  let lower = -Infinity;
  for (let k = 0; k < mid; k++) if (sampleAt(v, k) > lower) lower = sampleAt(v, k);
  return (lower + upper) / 2;
}

/** The k-th smallest of the first n entries; those before it in `v` are then not larger (Hoare's selection, with a sort for the last few). */
function select(v: Float64Array, n: number, k: number): number {
  let low = 0;
  let high = n - 1;
  while (high - low > 24) {
    const pivot = sampleAt(v, (low + high) >> 1);
    let i = low;
    let j = high;
    while (i <= j) {
      while (sampleAt(v, i) < pivot) i++;
      while (sampleAt(v, j) > pivot) j--;
      if (i > j) break;
      const t = sampleAt(v, i);
      v[i++] = sampleAt(v, j);
      v[j--] = t;
    }
    if (k <= j) high = j;
    else if (k >= i) low = i;
    else return sampleAt(v, k);
  }
  for (let i = low + 1; i <= high; i++) {
    const t = sampleAt(v, i);
    let j = i - 1;
    for (; j >= low && sampleAt(v, j) > t; j--) v[j + 1] = sampleAt(v, j);
    v[j + 1] = t;
  }
  return sampleAt(v, k);
}

/** The p-quantile (0 to 1) by linear interpolation between order statistics; NaN for an empty list. */
export function quantile(values: readonly number[], p: number): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const position = Math.min(1, Math.max(0, p)) * (sorted.length - 1);
  const low = Math.floor(position);
  const a = nth(sorted, low);
  const b = nth(sorted, Math.min(low + 1, sorted.length - 1));
  return a + (b - a) * (position - low);
}

/**
 * Standard normal distribution function Φ(z), from the error function by the rational approximation 7.1.26 of
 * Abramowitz and Stegun; absolute error below 1.5·10⁻⁷.
 * Worked: Φ(1.96) = 0.9750.
 */
export function normalCdf(z: number): number {
  if (Number.isNaN(z)) return NaN;
  if (z > 8) return 1;
  if (z < -8) return 0;
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const tail = 0.5 * poly * Math.exp(-x * x);
  return z >= 0 ? 1 - tail : tail;
}

export interface PolynomialFit {
  /** c[0] + c[1]·x + c[2]·x² … */
  readonly coefficients: readonly number[];
  /** Each observed y less the fitted one. */
  readonly residuals: readonly number[];
  /**
   * Row j gives ∂c[j]/∂y[i]: the fit is linear in y, so the readings' error sources pass through it exactly.
   */
  readonly sensitivity: readonly (readonly number[])[];
}

/**
 * Least squares polynomial of the given degree by the normal equations, weights optional.
 *
 * x and y have the same length n; needs at least degree + 1 distinct x, else null (as for any non-finite entry).
 * x is scaled internally so that milliamps and amperes are conditioned alike.
 */
export function fitPolynomial(
  x: readonly number[],
  y: readonly number[],
  degree: number,
  weights?: readonly number[],
): PolynomialFit | null {
  const n = x.length;
  const m = degree + 1;
  if (n !== y.length || (weights && weights.length !== n))
    throw new RangeError(`fitPolynomial: lengths differ (${n}, ${y.length})`);
  if (![...x, ...y, ...(weights ?? [])].every(Number.isFinite)) return null;
  if (new Set(x).size < m) return null;
  const xs = x.reduce((most, v) => Math.max(most, Math.abs(v)), 0) || 1;
  const basis = x.map((xi) => Array.from({ length: m }, (_, j) => (xi / xs) ** j));
  const w = weights ?? x.map(() => 1);
  const normal = Array.from({ length: m }, (_, r) =>
    Array.from({ length: m }, (_, c) => basis.reduce((s, b, i) => s + nth(w, i) * nth(b, r) * nth(b, c), 0)),
  );
  const inverse = invert(normal);
  if (!inverse) return null;
  const sensitivity = inverse.map((row, j) =>
    basis.map((b, i) => (row.reduce((s, v, c) => s + v * nth(b, c), 0) * nth(w, i)) / xs ** j),
  );
  const coefficients = sensitivity.map((row) => row.reduce((s, v, i) => s + v * nth(y, i), 0));
  const residuals = x.map((xi, i) => nth(y, i) - coefficients.reduce((s, c, j) => s + c * xi ** j, 0));
  return { coefficients, residuals, sensitivity };
}

export interface LineFit {
  readonly intercept: number;
  readonly slope: number;
  /** Root mean square of the residuals. */
  readonly scatter: number;
}

/**
 * Straight line y = intercept + slope·x by least squares, for as many points as a log may have. Null for fewer than two
 * different x or any non-finite entry. Worked: (0, 1), (1, 3), (2, 5) gives intercept 1, slope 2, scatter 0.
 */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): LineFit | null {
  const n = x.length;
  if (n !== y.length) throw new RangeError(`fitLine: lengths differ (${n}, ${y.length})`);
  let [mx, my] = [0, 0];
  for (let k = 0; k < n; k++) {
    mx += nth(x, k);
    my += nth(y, k);
  }
  mx /= n;
  my /= n;
  let [xx, xy] = [0, 0];
  for (let k = 0; k < n; k++) {
    const d = nth(x, k) - mx;
    xx += d * d;
    xy += d * (nth(y, k) - my);
  }
  const slope = xy / xx;
  if (!Number.isFinite(slope)) return null;
  const intercept = my - slope * mx;
  let squares = 0;
  for (let k = 0; k < n; k++) squares += (nth(y, k) - intercept - slope * nth(x, k)) ** 2;
  return { intercept, slope, scatter: Math.sqrt(squares / n) };
}

/** Inverse by Gauss-Jordan with partial pivoting; null where the matrix is singular to working precision. */
export function invert(a: readonly (readonly number[])[]): number[][] | null {
  const n = a.length;
  const m = a.map((row, i) => [...row, ...Array.from({ length: n }, (_, j) => (i === j ? 1 : 0))]);
  for (let c = 0; c < n; c++) {
    let p = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[p]![c]!)) p = r;
    const pivot = m[p]![c]!;
    if (Math.abs(pivot) < 1e-14) return null;
    [m[c], m[p]] = [m[p]!, m[c]!];
    m[c] = m[c]!.map((v) => v / pivot);
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const k = m[r]![c]!;
      if (k !== 0) m[r] = m[r]!.map((v, j) => v - k * m[c]![j]!);
    }
  }
  return m.map((row) => row.slice(n));
}

/** The highest and the lowest of a list, NaN passed over; ∓∞ where there is none. Spreading a long log into Math.max overflows the stack. */
export const highest = (values: ArrayLike<number>): number => extreme(values, 1);
export const lowest = (values: ArrayLike<number>): number => -extreme(values, -1);
function extreme(values: ArrayLike<number>, sign: 1 | -1): number {
  let best = -Infinity;
  for (let k = 0; k < values.length; k++) if (sign * nth(values, k) > best) best = sign * nth(values, k);
  return best;
}

/** t for a coverage of 95.45 % by degrees of freedom (JCGM 100, Table G.2). */
const STUDENT: readonly (readonly [freedom: number, t: number])[] = [
  [1, 13.97],
  [2, 4.53],
  [3, 3.31],
  [4, 2.87],
  [5, 2.65],
  [6, 2.52],
  [7, 2.43],
  [8, 2.37],
  [9, 2.32],
  [10, 2.28],
  [15, 2.18],
  [20, 2.13],
  [30, 2.09],
  [50, 2.05],
  [100, 2.025],
];

/**
 * Student's t for 95.45 % with `freedom` degrees of freedom, at least 1: what k = 2 has to be where a standard deviation comes from few
 * repeats (JCGM 100, G.3). Interpolated in 1/freedom. Worked: three repeats have 2 degrees of freedom and t = 4.53; very many 2.
 */
export function studentT(freedom: number): number {
  if (!(freedom >= 1)) throw new RangeError(`studentT: ${freedom} degrees of freedom`);
  const above = STUDENT.find(([f]) => f >= freedom);
  const below = [...STUDENT].reverse().find(([f]) => f <= freedom) as (typeof STUDENT)[number];
  const [f1, t1] = above ?? [Infinity, 2];
  const [f0, t0] = below;
  return f0 === f1 ? t0 : t1 + ((t0 - t1) * (1 / freedom - 1 / f1)) / (1 / f0 - 1 / f1);
}

/** Standard uncertainty that the scatter of repeats leaves in their mean, widened so that k = 2 covers 95 %: s/√n · t/2; 0 for a single one. */
export function scatterOfMean(values: readonly number[]): number {
  const n = values.length;
  if (n < 2) return 0;
  const mean = values.reduce((s, v) => s + v, 0) / n;
  const s = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
  return ((s / Math.sqrt(n)) * studentT(n - 1)) / 2;
}
