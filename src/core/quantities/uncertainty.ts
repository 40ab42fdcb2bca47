/**
 * Uncertainty carried per error source (JCGM 100:2008, 5.1 and F.1.2).
 *
 * A number's standard uncertainty is kept as signed first-order contributions, one per independent source. Gain and
 * offset of one meter range are shared by every reading taken with it and so carry the same source name; noise and
 * resolution belong to one reading. Sums by source make correlations come out by themselves: a difference of two
 * readings of one range loses the offset, a mean of many loses only the independent part.
 */
export interface Uncertain {
  readonly value: number;
  /** Source → sensitivity × standard uncertainty, signed, in the unit of `value`. */
  readonly parts: ReadonlyMap<string, number>;
}

const NONE: ReadonlyMap<string, number> = new Map();

/** A number known exactly. */
export const exact = (value: number): Uncertain => ({ value, parts: NONE });

/**
 * A number with the given signed contributions by source. What is given of one source more than once adds up with its sign, as in 5.2.2:
 * both come from the same error. Worked: 2 mV and 3 mV of one meter's gain make 5 mV, 3 mV and −3 mV nothing.
 */
export function uncertain(value: number, parts: Iterable<readonly [string, number]>): Uncertain {
  const sums = new Map<string, number>();
  for (const [source, u] of parts) sums.set(source, (sums.get(source) ?? 0) + u);
  return { value, parts: sums };
}

/** Standard uncertainty of a rectangular distribution of half width `a` (JCGM 100, 4.3.7): a/√3. */
export const rectangular = (halfWidth: number): number => Math.abs(halfWidth) / Math.sqrt(3);

/** Standard uncertainty that resolution leaves in one reading: half a step, rectangular. */
export const fromResolution = (step: number): number => rectangular(step / 2);

/**
 * First-order propagation: `value` = f(x₁ … xₙ) with the partial derivatives ∂f/∂xᵢ at the estimates.
 * JCGM 100, 5.1.2 and, because sources are summed before squaring, 5.2.2.
 */
export function propagate(value: number, terms: readonly (readonly [derivative: number, x: Uncertain])[]): Uncertain {
  if (terms.every(([, x]) => x.parts.size === 0)) return exact(value);
  const parts = new Map<string, number>();
  for (const [derivative, x] of terms) {
    if (derivative === 0) continue;
    for (const [source, u] of x.parts) parts.set(source, (parts.get(source) ?? 0) + derivative * u);
  }
  return { value, parts };
}

export const add = (a: Uncertain, b: Uncertain): Uncertain =>
  propagate(a.value + b.value, [
    [1, a],
    [1, b],
  ]);
export const subtract = (a: Uncertain, b: Uncertain): Uncertain =>
  propagate(a.value - b.value, [
    [1, a],
    [-1, b],
  ]);
export const scale = (a: Uncertain, k: number): Uncertain => propagate(k * a.value, [[k, a]]);
export const multiply = (a: Uncertain, b: Uncertain): Uncertain =>
  propagate(a.value * b.value, [
    [b.value, a],
    [a.value, b],
  ]);
/** Quotient; the caller decides what a zero divisor means, here it gives a non-finite value. */
export const divide = (a: Uncertain, b: Uncertain): Uncertain =>
  propagate(a.value / b.value, [
    [1 / b.value, a],
    [-a.value / (b.value * b.value), b],
  ]);

/** Adds an independent contribution (a definition's or a model's own uncertainty). */
export function withPart(x: Uncertain, source: string, u: number): Uncertain {
  const parts = new Map(x.parts);
  parts.set(source, Math.hypot(parts.get(source) ?? 0, u));
  return { value: x.value, parts };
}

/** Combined standard uncertainty u_c: root of the sum of squares over sources. */
export function standardUncertainty(x: Uncertain): number {
  let sum = 0;
  for (const u of x.parts.values()) sum += u * u;
  return Math.sqrt(sum);
}

/** Expanded uncertainty U = k·u_c, k = 2 unless said otherwise. */
export const expandedUncertainty = (x: Uncertain, k = 2): number => k * standardUncertainty(x);

export interface SourceShare {
  readonly source: string;
  /** Standard uncertainty from this source, unsigned. */
  readonly u: number;
  /** Share of the variance, 0 to 1. */
  readonly share: number;
}

/** The budget, largest first. Empty for an exact number. */
export function budget(x: Uncertain): SourceShare[] {
  const total = standardUncertainty(x) ** 2;
  if (total === 0) return [];
  return [...x.parts]
    .map(([source, u]) => ({ source, u: Math.abs(u), share: (u * u) / total }))
    .sort((a, b) => b.u - a.u);
}
