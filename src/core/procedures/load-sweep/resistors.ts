import { ELEMENTS } from "../../quantities";

const { nth, sampleAt } = ELEMENTS;
/** Load resistors at hand: which ones, singly or two or three together, come nearest to a load current. */

export interface LoadResistor {
  readonly ohms: number;
  readonly watts: number;
}

export type Arrangement = "single" | "series" | "parallel" | "series-parallel";

export interface LoadChoice {
  /** The current aimed at, in A. */
  readonly target: number;
  readonly ohms: number;
  /** Nominal output ÷ ohms, in A. */
  readonly amps: number;
  readonly arrangement: Arrangement;
  /** Written out: `10 Ω`, `10 Ω + 4.7 Ω`, `10 Ω ∥ 22 Ω`, `(10 Ω ∥ 22 Ω) + 4.7 Ω`. */
  readonly text: string;
  /** Heat in the hardest-driven piece ÷ its rating; at most 0.5 is the rule. */
  readonly strain: number;
  /** Whether every piece stands the heat with a factor of two in hand. */
  readonly cool: boolean;
}

interface Combination {
  readonly ohms: number;
  readonly pieces: readonly number[];
  readonly arrangement: Arrangement;
}

const written = (ohms: number): string => `${Number(ohms.toPrecision(4))} Ω`;

/** Heat ÷ rating of the hardest-driven piece of an arrangement at `volts`; absent pieces are −1. */
function strainOf(
  kind: Arrangement,
  volts: number,
  ohms: number,
  resistors: readonly LoadResistor[],
  a: number,
  b: number,
  c: number,
): number {
  const amps = volts / ohms;
  const A = resistors[a] as LoadResistor;
  const B = b >= 0 ? (resistors[b] as LoadResistor) : null;
  const C = c >= 0 ? (resistors[c] as LoadResistor) : null;
  const inSeries = (p: LoadResistor | null) => (p ? (amps * amps * p.ohms) / p.watts : 0);
  const across = (p: LoadResistor | null, v: number) => (p ? (v * v) / p.ohms / p.watts : 0);
  if (kind === "parallel") return Math.max(across(A, volts), across(B, volts), across(C, volts));
  if (kind === "series-parallel" && B && C) {
    // The first two in parallel, the third in series with them.
    const pair = volts - amps * C.ohms;
    return Math.max(across(A, pair), across(B, pair), inSeries(C));
  }
  return Math.max(inSeries(A), inSeries(B), inSeries(C));
}

function arrangementText(kind: Arrangement, r: readonly number[]): string {
  const t = r.map(written);
  if (kind === "series") return t.join(" + ");
  if (kind === "parallel") return t.join(" ∥ ");
  if (kind === "series-parallel") return `(${t[0]} ∥ ${t[1]}) + ${t[2]}`;
  return t[0] ?? "";
}

const ohmsOf = (kind: Arrangement, r: readonly number[]): number => {
  if (kind === "parallel") return 1 / r.reduce((s, x) => s + 1 / x, 0);
  if (kind === "series-parallel") return (nth(r, 0) * nth(r, 1)) / (nth(r, 0) + nth(r, 1)) + nth(r, 2);
  return r.reduce((s, x) => s + x, 0);
};

/** A cool choice this near (relative) wins over a nearer hot one, or one at most so much farther away. */
const COOL_WITHIN = 0.1;
const COOL_FACTOR = 1.5;
/** Relative miss that one piece fewer is worth. */
const PIECE_COST = 0.002;

/** Index of the first of ascending values that is above a limit. */
function firstAbove(values: Float64Array, limit: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sampleAt(values, middle) > limit) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** A combination of pieces as the choice for a target. */
function choiceOf(c: Combination, target: number, volts: number, resistors: readonly LoadResistor[]): LoadChoice {
  const values = c.pieces.map((piece) => (resistors[piece] as LoadResistor).ohms);
  const [p = -1, q = -1, t3 = -1] = c.pieces;
  const strain = strainOf(c.arrangement, volts, c.ohms, resistors, p, q, t3);
  return {
    target,
    ohms: ohmsOf(c.arrangement, values),
    amps: volts / c.ohms,
    arrangement: c.arrangement,
    text: arrangementText(c.arrangement, values),
    strain,
    cool: strain <= 0.5,
  };
}

type Offer = (kind: Arrangement, ohms: number, a: number, b?: number, c?: number) => void;

/** Offers one, two and three resistors in every way that they can be joined; tells before each pair that a third is added to. */
function everyArrangement(ohms: readonly number[], offer: Offer, nextPair: () => void): void {
  const n = ohms.length;
  const r = (i: number) => nth(ohms, i);
  for (let a = 0; a < n; a++) offer("single", r(a), a);
  for (let a = 0; a < n; a++)
    for (let b = a + 1; b < n; b++) {
      offer("series", r(a) + r(b), a, b);
      offer("parallel", (r(a) * r(b)) / (r(a) + r(b)), a, b);
    }
  for (let a = 0; a < n; a++)
    for (let b = a + 1; b < n; b++) {
      nextPair();
      const pair = (r(a) * r(b)) / (r(a) + r(b));
      for (let c = 0; c < n; c++) {
        if (c === a || c === b) continue;
        offer("series-parallel", pair + r(c), a, b, c);
        if (c > b) {
          offer("series", r(a) + r(b) + r(c), a, b, c);
          offer("parallel", (pair * r(c)) / (pair + r(c)), a, b, c);
        }
      }
    }
}

/**
 * Chooses for each target (A, positive) the arrangement of up to three pieces whose current at `volts` is nearest.
 *
 * Every single piece, pair and triple of the resistors is tried (each piece once; triples all in series, all in parallel,
 * or a parallel pair with the third in series). Pieces that stand the heat with a factor of two win over a nearer hot
 * choice as long as one lies within 10 % of the target. Fewer pieces win a tie. Cost grows with the cube of the
 * resistors: 60 pieces, 30 targets are some 0.2 million arrangements.
 */
export function chooseLoads(
  targets: readonly number[],
  volts: number,
  resistors: readonly LoadResistor[],
): LoadChoice[] {
  if (!(volts > 0)) throw new RangeError(`chooseLoads: volts ${volts} must be positive`);
  const order = targets
    .map((t, i) => ({ t, i }))
    .filter((x) => x.t > 0)
    .sort((a, b) => volts / a.t - volts / b.t);
  const wanted = order.map((x) => Math.log(volts / x.t));
  const count = wanted.length;
  const logs = Float64Array.from(wanted);
  // The nearest of all and the nearest that stays cool, a slot a target; the first is never farther than the second.
  const anyMiss = new Float64Array(count).fill(Infinity);
  const coolMiss = new Float64Array(count).fill(Infinity);
  const anyBest = new Array<Combination | null>(count).fill(null);
  const coolBest = new Array<Combination | null>(count).fill(null);

  // Below this resistance not even the three strongest pieces together stay cool.
  const strongest = resistors
    .map((p) => p.watts)
    .sort((a, b) => b - a)
    .slice(0, 3);
  const coolFrom = (volts * volts) / (0.5 * strongest.reduce((a, b) => a + b, 0)) - 1e-9;
  // What may still win a slot: the rule below never takes a cool choice farther than this. Slots ascend, so that only
  // those within reach of an arrangement are looked at.
  const bound = new Float64Array(count).fill(Infinity);
  let reach = Infinity;
  const offer: Offer = (kind, ohms, a, b = -1, c = -1) => {
    const log = Math.log(ohms);
    const more = c >= 0 ? 2 * PIECE_COST : b >= 0 ? PIECE_COST : 0;
    let made: Combination | null = null;
    let cool: boolean | null = null;
    for (let k = firstAbove(logs, log - reach); k < count && sampleAt(logs, k) < log + reach; k++) {
      const miss = Math.abs(log - sampleAt(logs, k)) + more;
      if (miss >= sampleAt(bound, k)) continue;
      const nearest = miss < sampleAt(anyMiss, k);
      cool ??= ohms >= coolFrom && strainOf(kind, volts, ohms, resistors, a, b, c) <= 0.5;
      if (!nearest && !cool) continue;
      made ??= { ohms, pieces: [a, b, c].filter((i) => i >= 0), arrangement: kind };
      if (nearest) {
        anyBest[k] = made;
        anyMiss[k] = miss;
      }
      if (cool && miss < sampleAt(coolMiss, k)) {
        coolBest[k] = made;
        coolMiss[k] = miss;
      }
      bound[k] = Math.max(
        sampleAt(anyMiss, k),
        Math.min(sampleAt(coolMiss, k), Math.max(COOL_WITHIN, COOL_FACTOR * sampleAt(anyMiss, k))),
      );
    }
  };
  everyArrangement(
    resistors.map((p) => p.ohms),
    offer,
    () => (reach = bound.reduce((x, y) => Math.max(x, y), 0)),
  );
  const choices: (LoadChoice | null)[] = targets.map(() => null);
  order.forEach(({ t, i }, k) => {
    const [cool, any, coolAway, anyAway] = [
      coolBest[k] ?? null,
      anyBest[k] ?? null,
      sampleAt(coolMiss, k),
      sampleAt(anyMiss, k),
    ];
    const c = cool && (coolAway <= COOL_WITHIN || coolAway <= anyAway * COOL_FACTOR) ? cool : (any ?? cool);
    if (!c) return;
    choices[i] = choiceOf(c, t, volts, resistors);
  });
  return choices.filter((x): x is LoadChoice => x !== null);
}
