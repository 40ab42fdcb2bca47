import { highest } from "../quantities";
import { operatingPoint, type Converter, type Stop } from "./operating-point";
import type { Source } from "./source";

/** A part of a load's cycle: W at the module's output, or nothing with its output off, for a share of the time. */
export interface LoadPhase {
  /** 0 to 1; the shares of a load add up to 1. */
  readonly share: number;
  /** W at the output; null: the output is off, and the module draws its standby current. */
  readonly power: number | null;
}

/** A load of one power for a share of the time; asleep for the rest: less power, or 0 for an output that is off. */
export const dutyPhases = (load: {
  readonly power: number;
  readonly duty: number;
  readonly sleepPower: number;
}): LoadPhase[] => [
  { share: load.duty, power: load.power },
  ...(load.duty < 1 ? [{ share: 1 - load.duty, power: load.sleepPower > 0 ? load.sleepPower : null }] : []),
];

/** The highest power of a load, W: the part that can stop it. */
export const highestPhase = (phases: readonly LoadPhase[]): number => highest([0, ...phases.map((p) => p.power ?? 0)]);

/** How a battery gets on with a load. */
export type RunTime =
  | { readonly holds: false; readonly endedBy: Stop; readonly highestPowerAtHalf: number }
  | {
      readonly holds: true;
      readonly endedBy: Stop;
      readonly highestPowerAtHalf: number;
      /** s from the top of the window to the end. */
      readonly seconds: number;
      /** State of charge at the end. */
      readonly endSoc: number;
      /** A from the battery under the load, when full and at the end. */
      readonly startCurrent: number;
      readonly endCurrent: number;
    };

const HALVINGS = 200;
/** Steps between two bends of the open-circuit curve; the integrand is smooth there. */
const STEPS = 24;
const HOUR = 3600;

/** The highest number of [low, high] that holds, where whatever lies below one that holds does too; low where none does. */
export function highestThat(holds: (x: number) => boolean, low: number, high: number): number {
  if (holds(high)) return high;
  let [a, b] = [low, high];
  for (let k = 0; k < HALVINGS && b - a > 1e-15 * Math.max(1, b); k++) {
    const middle = (a + b) / 2;
    if (holds(middle)) a = middle;
    else b = middle;
  }
  return a;
}

/** W at the output that stop for no reason at a state of charge; 0 where the module holds nothing. */
export function highestPower(source: Source, module: Converter, soc: number): number {
  const most = (source.openCircuit(soc) ** 2 / (4 * Math.max(source.resistance, 1e-6))) * 2;
  return highestThat((power) => operatingPoint(source, module, power, soc).stop === null, 0, most);
}

/** A that leave the cells in the mean over a load's cycle, self-discharge included. */
export function meanCurrent(source: Source, module: Converter, phases: readonly LoadPhase[], soc: number): number {
  const drawn = (p: LoadPhase): number =>
    p.power === null ? module.standbyCurrent : operatingPoint(source, module, p.power, soc).current;
  return phases.reduce((sum, p) => sum + (p.share > 0 ? p.share * drawn(p) : 0), source.selfDischarge);
}

/** ∫ f over [low, high] by Simpson's rule, in pieces between the bends, where f is smooth. */
export function integrate(f: (x: number) => number, low: number, high: number, bends: readonly number[]): number {
  const edges = [low, ...bends.filter((b) => b > low && b < high), high];
  let sum = 0;
  for (const [k, b] of edges.slice(1).entries()) {
    const a = edges[k] ?? low;
    const h = (b - a) / STEPS;
    for (let i = 0; i < STEPS; i += 2) sum += (h / 3) * (f(a + i * h) + 4 * f(a + (i + 1) * h) + f(a + (i + 2) * h));
  }
  return sum;
}

/** States of charge between which a battery is used, 0 to 1. */
export interface SocWindow {
  readonly high: number;
  readonly low: number;
}
const WHOLE: SocWindow = { high: 1, low: 0 };

/**
 * Run time from the top of the window (full where none is given): ∫ capacity·dSoC ÷ mean current, down to the state of charge at which the load first stops (found by
 * bisection). Only its highest power can stop it; what it takes for the rest can't. Open-circuit voltage must rise with the state of charge.
 * Source: the constant-power sums of the module's input, capacity by Simpson's rule.
 */
export function runTime(
  source: Source,
  module: Converter,
  phases: readonly LoadPhase[],
  window: SocWindow = WHOLE,
): RunTime {
  const power = highestPhase(phases);
  const at = (soc: number) => operatingPoint(source, module, power, soc);
  const highestPowerAtHalf = highestPower(source, module, 0.5);
  const full = at(window.high);
  if (full.stop !== null) return { holds: false, endedBy: full.stop, highestPowerAtHalf };
  // Seen from the top: the share that is out when it stops.
  const endSoc = window.high - highestThat((out) => at(window.high - out).stop === null, 0, window.high - window.low);
  const end = at(endSoc);
  // Just beyond the end stands what stopped it.
  const endedBy =
    endSoc <= window.low + 1e-12
      ? window.low > 0
        ? "window"
        : "empty"
      : (at(Math.max(0, endSoc - 1e-9)).stop ?? "empty");
  const seconds =
    source.capacity *
    HOUR *
    integrate((soc) => 1 / meanCurrent(source, module, phases, soc), endSoc, window.high, source.bends);
  return {
    holds: true,
    endedBy,
    highestPowerAtHalf,
    seconds,
    endSoc,
    startCurrent: full.current,
    endCurrent: end.current,
  };
}
