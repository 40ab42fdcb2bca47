import { exact, fromResolution, rectangular, uncertain, type Uncertain } from "../quantities";

/** What an instrument's data sheet says of a range: ±(gain × reading + counts × resolution), in the reading's unit. */
export interface Accuracy {
  /** Share of the reading, 0.0005 for 0.05 %. */
  readonly gain: number;
  /** Multiples of the resolution. */
  readonly counts: number;
  /** Smallest step shown, in V, A or °C. */
  readonly resolution: number;
}

/** Half width of the stated accuracy at a reading, in the reading's unit. Worked: 0.05 % + 2 × 1 mV at 5 V is 4.5 mV. */
export const accuracyAt = (a: Accuracy, value: number): number => a.gain * Math.abs(value) + a.counts * a.resolution;

/** Names of the error sources of one meter: gain and offset are shared by all its readings, noise is each one's own. */
export const sourceName = (role: string, kind: "gain" | "offset" | "own", reading = ""): string =>
  kind === "own" ? `${role}|own|${reading}` : `${role}|${kind}`;

/**
 * A reading with its error sources.
 *
 * Gain and offset shares are rectangular (JCGM 100, 4.3.7) and common to the meter named by `role`. Resolution and
 * about half a step of noise are the reading's own; `readingId` keeps them apart. Without an accuracy the reading is
 * taken as exact, which callers must say.
 */
export function readingOf(value: number, role: string, readingId: string, accuracy: Accuracy | undefined): Uncertain {
  if (!accuracy) return exact(value);
  return uncertain(value, [
    [sourceName(role, "gain"), rectangular(1) * accuracy.gain * value],
    [sourceName(role, "offset"), rectangular(accuracy.counts * accuracy.resolution)],
    [sourceName(role, "own", readingId), Math.hypot(fromResolution(accuracy.resolution), accuracy.resolution / 2)],
  ]);
}
