import { err, ok, type Result } from "../quantities";
import type { LoadPhase } from "./run-time";
import type { AddedProtection } from "./safeguards";

/** How a load draws: so many A, W or Ω. */
export const DRAWS = ["current", "power", "resistance"] as const;
export type Draw = (typeof DRAWS)[number];

/** A part of a load's cycle. */
export interface LoadStep {
  readonly draw: Draw;
  /** A, W or Ω; 0 A or 0 W with the output on is no load. */
  readonly value: number;
  readonly seconds: number;
  /** The output is switched off meanwhile: the module draws its standby current. */
  readonly off?: boolean;
}

/** How a load, a board and a cell are joined. */
export interface LoadWiring {
  /** Ω of leads, contacts and fuse between cell and board, there and back. */
  readonly resistance: number;
  /** A that the thinnest wire carries. */
  readonly ampacity: number;
  /** A of the fuse at the cell; absent: none. */
  readonly fuse?: number;
  /** A protection board that is put between cell and board. */
  readonly added?: AddedProtection;
  /** A jumper that bypasses the board's own protection is closed. */
  readonly jumper: boolean;
  /** What hangs on the bare cell. */
  readonly taps: readonly string[];
}

export const PLAIN_WIRING: LoadWiring = { resistance: 0.05, ampacity: 5, jumper: false, taps: [] };

/** What is to be run: what it asks of an output, in a cycle that repeats. */
export interface Load {
  readonly title: string;
  readonly note: string;
  /** V that it is made for. */
  readonly voltage: number;
  /** V below which it stops working. */
  readonly lowest: number;
  readonly steps: readonly LoadStep[];
  /** A that it draws in its first moments; absent where it starts as it works. */
  readonly surge?: number;
  /** Efficiencies of converters between module and load, 0 to 1; with one, the module's output voltage is free. */
  readonly converters: readonly number[];
  readonly wiring: LoadWiring;
  /** What it did in use. */
  readonly used?: readonly UseReport[];
}

/** What it did in use, held against what was predicted. */
export interface UseReport {
  readonly boardId: string;
  readonly date: string;
  readonly seconds: number;
  /** Why it ended, in the user's words. */
  readonly ended: string;
}

/** W at the load's own terminals in a step, at V there. A resistance takes V²/R. */
const powerOf = (s: LoadStep, volts: number): number =>
  s.draw === "power" ? s.value : s.draw === "current" ? s.value * volts : s.value > 0 ? (volts * volts) / s.value : 0;

/**
 * What a load takes at a module's output of so many V, as shares of its cycle; converters in between multiply. Refused where the output
 * does not suit the load. Worked: 180 mA at 5 V for 10 min and 2 mA for 50 min: 0.9 W for a sixth of the time, 10 mW for the rest.
 */
export function phasesAt(load: Load, output: number): Result<LoadPhase[]> {
  const whole = load.steps.reduce((s, x) => s + x.seconds, 0);
  if (!(whole > 0)) return err("The load has no step that takes time.");
  const efficiency = load.converters.reduce((e, x) => e * x, 1);
  const direct = load.converters.length === 0;
  if (direct && output < load.lowest)
    return err(`Its output of ${output.toFixed(2)} V is below the ${load.lowest} V that the load needs.`);
  if (direct && output > 1.1 * load.voltage)
    return err(
      `Its output of ${output.toFixed(2)} V is more than a tenth above the ${load.voltage} V that the load is made for.`,
    );
  const volts = direct ? output : load.voltage;
  return ok(
    load.steps.map((s) => ({ share: s.seconds / whole, power: s.off ? null : powerOf(s, volts) / efficiency })),
  );
}

/** Draws, the hardest to start into first: at the same current in band, each takes no less below it than the next. */
const HARDEST: readonly Draw[] = ["power", "current", "resistance"];

/** Draws that are at least as hard to start into as one: a start into any of them is a start into it. */
export const asHard = (draw: Draw): readonly Draw[] => HARDEST.slice(0, HARDEST.indexOf(draw) + 1);

/** How a load draws as it starts: behind a converter as constant power; else as its hardest step, a surge as a current. */
export function startingDraw(load: Load): Draw {
  if (load.converters.length > 0) return "power";
  const draws = new Set<Draw>([
    ...load.steps.filter((s) => !s.off).map((s) => s.draw),
    ...(load.surge ? ["current" as const] : []),
  ]);
  return HARDEST.find((d) => draws.has(d)) ?? "current";
}

/** The highest current that a load draws from an output of so many V, its first moments included, A. */
export function highestCurrent(load: Load, output: number): number {
  const efficiency = load.converters.reduce((e, x) => e * x, 1);
  const volts = load.converters.length === 0 ? output : load.voltage;
  const working = load.steps.reduce((m, s) => Math.max(m, s.off ? 0 : powerOf(s, volts)), 0);
  return Math.max(working, (load.surge ?? 0) * volts) / efficiency / output;
}
