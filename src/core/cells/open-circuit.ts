import type { Chemistry } from "./chemistry";
import { ELEMENTS } from "../quantities";

const { nth, sampleAt } = ELEMENTS;

/** Open-circuit volts over the state of charge, knots of a smooth curve. */
const KNOTS: Readonly<Record<Chemistry, readonly (readonly [soc: number, volts: number])[]>> = {
  "lithium-ion": [
    [-0.02, 2.0],
    [0, 2.75],
    [0.01, 2.98],
    [0.03, 3.2],
    [0.06, 3.35],
    [0.1, 3.45],
    [0.2, 3.57],
    [0.3, 3.62],
    [0.4, 3.67],
    [0.5, 3.74],
    [0.6, 3.83],
    [0.7, 3.92],
    [0.8, 4.02],
    [0.9, 4.11],
    [1, 4.21],
    [1.05, 4.28],
  ],
  "iron-phosphate": [
    [-0.02, 1.8],
    [0, 2.5],
    [0.02, 2.95],
    [0.05, 3.12],
    [0.1, 3.2],
    [0.2, 3.25],
    [0.4, 3.285],
    [0.6, 3.305],
    [0.8, 3.335],
    [0.93, 3.36],
    [0.98, 3.42],
    [1, 3.6],
    [1.02, 3.75],
  ],
};

const TABLE = 512;
const [LOW, HIGH] = [-0.02, 1.05];

/** Monotone cubic through the knots (Fritsch and Carlson), sampled finely enough that straight lines between do. */
function tabulate(knots: readonly (readonly [number, number])[]): Float64Array {
  const n = knots.length;
  const x = knots.map((k) => k[0]);
  const y = knots.map((k) => k[1]);
  const secant = (i: number) => (nth(y, i + 1) - nth(y, i)) / (nth(x, i + 1) - nth(x, i));
  const slope = x.map((_, i) => {
    if (i === 0) return secant(0);
    if (i === n - 1) return secant(n - 2);
    const [a, b] = [secant(i - 1), secant(i)];
    return a * b <= 0 ? 0 : (2 * a * b) / (a + b);
  });
  return Float64Array.from({ length: TABLE + 1 }, (_, k) => {
    const s = LOW + ((HIGH - LOW) * k) / TABLE;
    let i = 0;
    while (i < n - 2 && s > nth(x, i + 1)) i++;
    const h = nth(x, i + 1) - nth(x, i);
    const t = (s - nth(x, i)) / h;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * nth(y, i) +
      (t3 - 2 * t2 + t) * h * nth(slope, i) +
      (-2 * t3 + 3 * t2) * nth(y, i + 1) +
      (t3 - t2) * h * nth(slope, i + 1)
    );
  });
}
const TABLES: Readonly<Record<Chemistry, Float64Array>> = {
  "lithium-ion": tabulate(KNOTS["lithium-ion"]),
  "iron-phosphate": tabulate(KNOTS["iron-phosphate"]),
};

/** Open-circuit volts at a state of charge (1 is full); held at the ends of the curve. */
export function openCircuit(chemistry: Chemistry, soc: number): number {
  const at = Math.min(TABLE, Math.max(0, ((soc - LOW) / (HIGH - LOW)) * TABLE));
  const i = Math.min(TABLE - 1, Math.floor(at));
  const t = TABLES[chemistry];
  return sampleAt(t, i) + (sampleAt(t, i + 1) - sampleAt(t, i)) * (at - i);
}

/** State of charge at which a rested cell shows so many volts, by bisection; the inverse of `openCircuit`. */
export function stateOfCharge(chemistry: Chemistry, volts: number): number {
  let [low, high] = [LOW, HIGH];
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    if (openCircuit(chemistry, middle) < volts) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
