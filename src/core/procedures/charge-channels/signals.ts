import { formatQuantity } from "../../quantities";
import type { Role, Point } from "../../measurement";

/** One channel's done signal in one charge; null where it was not read. */
export interface Signal {
  readonly id: string;
  readonly channel: number;
  readonly repeat: number;
  /** s since the charge began. */
  readonly time: number | null;
  readonly volts: number | null;
  readonly amps: number | null;
}

export const readingOf = (p: Point, role: Role): number | null => {
  const c = p.cells[role];
  return c?.status === "ok" ? c.value : null;
};

/** The done signals of a table; rows that name no channel are none. A row without a charge's number belongs to the first. */
export function signals(points: readonly Point[]): Signal[] {
  return points.flatMap((p) => {
    const channel = readingOf(p, "channel");
    return channel === null
      ? []
      : [
          {
            id: p.id,
            channel,
            repeat: readingOf(p, "repeat") ?? 1,
            time: readingOf(p, "time"),
            volts: readingOf(p, "cellVoltage"),
            amps: readingOf(p, "cellCurrent"),
          },
        ];
  });
}

/** Charge that flows between two limits, Ah. */
export interface ChargeBounds {
  readonly low: number;
  readonly high: number;
}

/** A signal with all that a charge between signals needs. */
export interface WholeSignal extends Signal {
  readonly time: number;
  readonly amps: number;
}

export const isWhole = (s: Signal): s is WholeSignal => s.time !== null && s.amps !== null;

/**
 * Charge that still flows after a signal until the last one, Ah. The current only falls from one signal to the next, so that it lies
 * between Σ I at the end of each stretch · Δt and Σ I at its beginning · Δt.
 *
 * `run` holds the signals of one charge in the order of their times. Worked: 0.9 A, 0.5 A and 0.1 A an hour apart: 0.6 to 1.4 Ah after the first.
 */
export function chargeAfter(run: readonly WholeSignal[], from: number): ChargeBounds {
  let low = 0;
  let high = 0;
  for (let k = from; k + 1 < run.length; k++) {
    const [a, b] = [run[k] as WholeSignal, run[k + 1] as WholeSignal];
    const hours = (b.time - a.time) / 3600;
    low += hours * Math.min(a.amps, b.amps);
    high += hours * Math.max(a.amps, b.amps);
  }
  return { low, high };
}

/** `0.60 to 1.4 Ah`, or one figure where the two are alike. */
export function boundsText({ low, high }: ChargeBounds): string {
  const [a, b] = [formatQuantity(low, "Ah", { digits: 2 }), formatQuantity(high, "Ah", { digits: 2 })];
  return a === b ? a : `${a} to ${b}`;
}
