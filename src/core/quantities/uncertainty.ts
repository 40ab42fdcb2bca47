/**
 * Uncertainty carried per error source (JCGM 100:2008, 5.1 and F.1.2).
 *
 * A number's standard uncertainty is kept as signed first-order contributions, one per independent source. Gain and
 * offset of one meter range are shared by every reading taken with it and so carry the same source name; noise and
 * resolution belong to one reading. Sums by source make correlations come out by themselves: a difference of two
 * readings of one range loses the offset, a mean of many loses only the independent part.
 */

/**
 * Where an error comes from: what a meter's gain and offset do to all its readings, what is a reading's own (noise, resolution, scatter),
 * what leads take away, what a model or a stated figure leaves open, and what lies between two samples.
 */
export type ErrorKind = "gain" | "offset" | "own" | "lead" | "model" | "sampling";

/** One source of error. Two with the same kind, role and id are the same error. */
export interface ErrorSource {
  readonly kind: ErrorKind;
  /** What its meter reads. */
  readonly role?: string;
  /** Which of several of its kind: a reading, or what it is in words. */
  readonly id?: string;
}

/** Whether two are the same error. */
export const sameSource = (a: ErrorSource, b: ErrorSource): boolean =>
  a.kind === b.kind && a.role === b.role && a.id === b.id;

/** What noise and scatter leave, by what it is in words. */
export const scatter = (id: string): ErrorSource => ({ kind: "own", id });
/** What stated leads leave. */
export const leads = (id: string): ErrorSource => ({ kind: "lead", id });
/** What a model, a curve or a figure that somebody stated leaves. */
export const model = (id: string): ErrorSource => ({ kind: "model", id });
/** What lies between two samples, two steps or two looks. */
export const sampling = (id = ""): ErrorSource => ({ kind: "sampling", ...(id ? { id } : {}) });

/** A source as the key of a map; one-to-one, since neither kinds nor roles hold a bar. */
declare const key: unique symbol;
type SourceKey = string & { readonly [key]: true };
const keyOf = ({ kind, role = "", id = "" }: ErrorSource): SourceKey => `${kind}|${role}|${id}` as SourceKey;
function sourceOf(of: SourceKey): ErrorSource {
  const first = of.indexOf("|");
  const second = of.indexOf("|", first + 1);
  const [kind, role, id] = [of.slice(0, first) as ErrorKind, of.slice(first + 1, second), of.slice(second + 1)];
  // Written out: this is asked for every source of every result.
  if (role) return id ? { kind, role, id } : { kind, role };
  return id ? { kind, id } : { kind };
}

export interface Uncertain {
  readonly value: number;
  /** Source → sensitivity × standard uncertainty, signed, in the unit of `value`. */
  readonly parts: ReadonlyMap<SourceKey, number>;
}

const NONE: ReadonlyMap<SourceKey, number> = new Map();

/** What one source contributes, signed; 0 where it contributes nothing. */
export const partOf = (x: Uncertain, source: ErrorSource): number => x.parts.get(keyOf(source)) ?? 0;

/** A number known exactly. */
export const exact = (value: number): Uncertain => ({ value, parts: NONE });

/**
 * A number with the given signed contributions by source. What is given of one source more than once adds up with its sign, as in 5.2.2:
 * both come from the same error. Worked: 2 mV and 3 mV of one meter's gain make 5 mV, 3 mV and −3 mV nothing.
 */
export function uncertain(value: number, parts: Iterable<readonly [ErrorSource, number]>): Uncertain {
  const sums = new Map<SourceKey, number>();
  for (const [source, u] of parts) {
    const of = keyOf(source);
    sums.set(of, (sums.get(of) ?? 0) + u);
  }
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
  let only: ReadonlyMap<SourceKey, number> = NONE;
  let parts: Map<SourceKey, number> | null = null;
  for (const [derivative, x] of terms) {
    if (derivative === 0 || x.parts.size === 0) continue;
    // An analysis comes through here some thousand times: what is only handed on is not copied, and what is new not looked up.
    if (parts) for (const [source, u] of x.parts) parts.set(source, (parts.get(source) ?? 0) + derivative * u);
    else if (only === NONE && derivative === 1) only = x.parts;
    else {
      parts = new Map(only);
      if (only === NONE) for (const [source, u] of x.parts) parts.set(source, derivative * u);
      else for (const [source, u] of x.parts) parts.set(source, (parts.get(source) ?? 0) + derivative * u);
    }
  }
  return { value, parts: parts ?? only };
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

/** Power xⁿ of a number above 0: ∂/∂x = n·xⁿ⁻¹. Worked: (2 ± 0.1)³ = 8 ± 1.2. */
export const power = (x: Uncertain, n: number): Uncertain => propagate(x.value ** n, [[n * x.value ** (n - 1), x]]);

/** Adds an independent contribution (a definition's or a model's own uncertainty). */
export function withPart(x: Uncertain, source: ErrorSource, u: number): Uncertain {
  const parts = new Map(x.parts);
  const own = keyOf(source);
  parts.set(own, Math.hypot(parts.get(own) ?? 0, u));
  return { value: x.value, parts };
}

/** The number without what sources of one kind contribute: a difference of two readings of one meter has lost its offset. */
export const withoutKind = (x: Uncertain, kind: ErrorKind): Uncertain => ({
  value: x.value,
  parts: new Map([...x.parts].filter(([source]) => sourceOf(source).kind !== kind)),
});

/** Standard uncertainty that meters' own noise and resolution leave, apart from all else. */
export function ownUncertainty(x: Uncertain): number {
  let sum = 0;
  // A meter's: their keys name its role.
  for (const [of, u] of x.parts) if (of.startsWith("own|") && of[4] !== "|") sum += u * u;
  return Math.sqrt(sum);
}

/** Standard uncertainty of a − b, with what both have in common taken out; the difference itself is not made. */
export function uncertaintyOfDifference(a: Uncertain, b: Uncertain): number {
  let sum = 0;
  for (const [source, u] of a.parts) sum += (u - (b.parts.get(source) ?? 0)) ** 2;
  for (const [source, u] of b.parts) if (!a.parts.has(source)) sum += u * u;
  return Math.sqrt(sum);
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
  readonly source: ErrorSource;
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
    .map(([of, u]) => ({ source: sourceOf(of), u: Math.abs(u), share: (u * u) / total }))
    .sort((a, b) => b.u - a.u);
}
