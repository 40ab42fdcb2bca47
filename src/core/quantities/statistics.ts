import { quantile as quantileOf, quantileSorted } from "d3-array";
import { errorFunction, median as medianOf, sampleStandardDeviation } from "simple-statistics";

/** Median of finite numbers; NaN for an empty list. Does not alter its argument. Takes time in proportion to the length. */
export function median(values: number[] | readonly number[] | Float64Array): number {
  // The package copies by `slice`, which a typed array has too: half the time and room of a list made of it.
  return values.length === 0 ? NaN : medianOf(values as number[]);
}

/** The p-quantile (0 to 1) by linear interpolation between order statistics; NaN for an empty list. */
export const quantile = (values: readonly number[], p: number): number => quantileOf(values, p) ?? NaN;

/** Several quantiles of as many finite numbers as a log may have, sorted once. Does not alter its argument; NaN for an empty list. */
export function quantiles(values: Float64Array, shares: readonly number[]): number[] {
  const sorted = values.slice().sort();
  return shares.map((p) => quantileSorted(sorted as unknown as number[], p) ?? NaN);
}

/**
 * Standard normal distribution function Φ(z), infinite z included, from simple-statistics' error function (a Chebyshev fit of its
 * complement); absolute error below 1.2·10⁻⁷.
 * Worked: Φ(1.96) = 0.9750.
 */
export const normalCdf = (z: number): number => (1 + errorFunction(z / Math.SQRT2)) / 2;

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
  return ((sampleStandardDeviation([...values]) / Math.sqrt(n)) * studentT(n - 1)) / 2;
}
