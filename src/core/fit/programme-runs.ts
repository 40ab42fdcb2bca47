import { fitLine, highest, rectangular } from "../quantities";
import type { Programme } from "./programme-resistor";

/** A charge with a known resistor: Ω, its relative tolerance (half width), A that it charged with and their standard uncertainty. */
export interface ProgrammedRun {
  readonly ohms: number;
  readonly tolerance: number;
  readonly amps: number;
  readonly u: number;
}

/** K and the resistance inside, from a board's own charges, with expanded uncertainties (k = 2). */
export interface MeasuredProgramme extends Programme {
  readonly kU: number;
  readonly offsetU: number;
  /** Charges, and different resistors, that it rests on. */
  readonly runs: number;
  readonly resistors: number;
}

/** Resistors that differ by less than this share are one. */
const SAME = 0.005;
const ROUNDS = 30;
/** K is never taken as known better than this. */
const LEAST_TOLERANCE = 0.005;

interface Group {
  readonly ohms: number;
  readonly amps: number;
  /** Standard uncertainties of both. */
  readonly uOhms: number;
  readonly uAmps: number;
}

/** One resistor's charges as one: the meter's errors and the resistor's own are shared by them, so that many are no surer than the surest. */
function grouped(runs: readonly ProgrammedRun[]): Group[] {
  const groups: ProgrammedRun[][] = [];
  for (const r of [...runs].sort((a, b) => a.ohms - b.ohms)) {
    const last = groups.at(-1);
    if (last?.[0] && Math.abs(r.ohms / last[0].ohms - 1) <= SAME) last.push(r);
    else groups.push([r]);
  }
  return groups.map((g) => {
    const mean = (f: (r: ProgrammedRun) => number): number => g.reduce((s, r) => s + f(r), 0) / g.length;
    const amps = mean((r) => r.amps);
    const scatter =
      g.length > 1 ? Math.sqrt(g.reduce((s, r) => s + (r.amps - amps) ** 2, 0) / (g.length - 1) / g.length) : 0;
    return {
      ohms: mean((r) => r.ohms),
      amps,
      uOhms: rectangular(mean((r) => r.tolerance * r.ohms)),
      uAmps: Math.hypot(
        g.reduce((m, r) => Math.min(m, r.u), Infinity),
        scatter,
      ),
    };
  });
}

const tolerance = (k: number, uK: number): number => Math.max(LEAST_TOLERANCE, (2 * uK) / k);

/** K alone, where no resistance inside shows: the weighted mean of I × R. */
function withoutOffset(groups: readonly Group[]): { readonly k: number; readonly uK: number } {
  const parts = groups.map((g) => ({
    k: g.amps * g.ohms,
    u: g.amps * g.ohms * Math.hypot(g.uAmps / g.amps, g.uOhms / g.ohms),
  }));
  const weight = parts.reduce((s, p) => s + 1 / p.u ** 2, 0);
  return { k: parts.reduce((s, p) => s + p.k / p.u ** 2, 0) / weight, uK: Math.sqrt(1 / weight) };
}

/**
 * K and the resistance inside a charger from all its charges, errors in both: 1/I = (R + offset)/K is a straight line in R, fitted with
 * weights 1/(u²(1/I) + u²(R)/K²) until they agree (York's effective variance). With one resistor, or where the line would ask for less
 * than no resistance inside, K alone. Null without a charge, or where more resistance would mean more current.
 * Worked: 0.5 A at 1.74 kΩ and 0.1 A at 8.7 kΩ give 870 V and nothing inside.
 */
export function programmeOfRuns(runs: readonly ProgrammedRun[]): MeasuredProgramme | null {
  const groups = grouped(runs.filter((r) => r.ohms > 0 && r.amps > 0 && r.u > 0));
  if (groups.length === 0) return null;
  const about = { runs: runs.length, resistors: groups.length };
  const alone = (): MeasuredProgramme => {
    const { k, uK } = withoutOffset(groups);
    return { ...about, k, kU: 2 * uK, offset: 0, offsetU: 0, tolerance: tolerance(k, uK) };
  };
  const first = fitLine(
    groups.map((g) => g.ohms),
    groups.map((g) => 1 / g.amps),
  );
  if (groups.length < 2 || !first) return alone();
  if (!(first.slope > 0)) return null;
  let slope = first.slope;
  let [intercept, s0, s1, s2] = [first.intercept, 0, 0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const weighted = groups.map((g) => ({
      x: g.ohms,
      y: 1 / g.amps,
      w: 1 / ((g.uAmps / g.amps ** 2) ** 2 + (slope * g.uOhms) ** 2),
    }));
    const sum = (f: (p: (typeof weighted)[number]) => number): number => weighted.reduce((s, p) => s + p.w * f(p), 0);
    [s0, s1, s2] = [sum(() => 1), sum((p) => p.x), sum((p) => p.x * p.x)];
    const d = s0 * s2 - s1 * s1;
    const next = (s0 * sum((p) => p.x * p.y) - s1 * sum((p) => p.y)) / d;
    intercept = (s2 * sum((p) => p.y) - s1 * sum((p) => p.x * p.y)) / d;
    const moved = Math.abs(next / slope - 1);
    slope = next;
    if (moved < 1e-12) break;
  }
  if (!(slope > 0)) return null;
  const [k, offset] = [1 / slope, intercept / slope];
  if (offset < 0) return alone();
  const d = s0 * s2 - s1 * s1;
  const [varSlope, varIntercept, both] = [s0 / d, s2 / d, -s1 / d];
  const uK = Math.sqrt(varSlope) * k * k;
  const uOffset = k * Math.sqrt(Math.max(0, varIntercept + offset ** 2 * varSlope - 2 * offset * both));
  // What more than two resistors leave over shows in the tolerance.
  const misfit = highest(groups.map((g) => Math.abs(k / (g.ohms + offset) / g.amps - 1)));
  return { ...about, k, kU: 2 * uK, offset, offsetU: 2 * uOffset, tolerance: Math.max(tolerance(k, uK), misfit) };
}
