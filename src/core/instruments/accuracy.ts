import {
  exact,
  formatQuantity,
  fromResolution,
  rectangular,
  uncertain,
  type ErrorSource,
  type Uncertain,
  type Unit,
} from "../quantities";

/** What an instrument's data sheet says of a range: ±(gain × reading + counts × resolution), in the reading's unit. */
export interface Accuracy {
  /** Share of the reading, 0.0005 for 0.05 %. */
  readonly gain: number;
  /** Multiples of the resolution. */
  readonly counts: number;
  /** Smallest step shown, in V, A or °C. */
  readonly resolution: number;
  /** Nobody stated it: an ordinary handheld meter's was applied. */
  readonly assumed?: true;
  /** The role whose meter's accuracy stands in, where this one's own is not stated. */
  readonly like?: string;
}

/** The largest magnitude that a meter of a bench shows of a quantity, in its unit: what lies beyond was never read off one. */
const LARGEST_SHOWN: Readonly<Record<string, number>> = { V: 2000, A: 500, "°C": 1500, Ω: 1e9 };
export const largestShown = (unit: Unit): number => LARGEST_SHOWN[unit] ?? Infinity;

/** Counts that an ordinary handheld meter shows in a range before it changes to the next. */
const DISPLAY_COUNTS = 6000;

/**
 * What an ordinary handheld meter may be taken to hold, ±(0.5 % + 3 counts), in the range in which a display of 6000 counts shows `largest`
 * (in V or A; a temperature is shown to 1 °C). An assumption, and marked as one. Worked: 5.08 V is shown in the 6 V range in steps of 1 mV, ±28.4 mV.
 */
export function ordinaryAccuracy(largest: number, unit: "V" | "A" | "°C" | "Ω"): Accuracy {
  const range = Math.max(Math.abs(largest), 1e-6) / (DISPLAY_COUNTS / 1000);
  const resolution = unit === "°C" ? 1 : Number(`1e${Math.ceil(Math.log10(range) - 1e-9) - 3}`);
  return { gain: 0.005, counts: 3, resolution, assumed: true };
}

/** Steps of an oscilloscope's converter over its screen, of which a waveform of some size fills three quarters. */
const SCREEN_STEPS = 256;
/**
 * What an ordinary oscilloscope of 8 bits may be taken to hold, ±(3 % + 1 step), set so that `largest` (V from the middle) fills three quarters of
 * its screen. An assumption, and marked as one. Worked: ±30 mV fill 60 of 80 mV, in steps of 0.3 mV.
 */
export const oscilloscopeAccuracy = (largest: number): Accuracy => ({
  gain: 0.03,
  counts: 1,
  resolution: Number(((2 * Math.max(largest, 1e-6)) / 0.75 / SCREEN_STEPS).toPrecision(1)),
  assumed: true,
});

/** An accuracy as a data sheet writes it: `±(0.05 % + 2 × 1 mV)`. */
export const accuracyText = (a: Accuracy, unit: Unit): string =>
  `±(${formatQuantity(a.gain, "1")} + ${a.counts} × ${formatQuantity(a.resolution, unit)})`;

/** Half width of the stated accuracy at a reading, in the reading's unit. Worked: 0.05 % + 2 × 1 mV at 5 V is 4.5 mV. */
export const accuracyAt = (a: Accuracy, value: number): number => a.gain * Math.abs(value) + a.counts * a.resolution;

/** The error sources of one meter: gain and offset are shared by all its readings, noise is each one's own. */
export const meterSource = (role: string, kind: "gain" | "offset" | "own", reading = ""): ErrorSource => ({
  kind,
  role,
  ...(reading ? { id: reading } : {}),
});

/**
 * A reading with its error sources.
 *
 * Gain and offset shares are rectangular (JCGM 100, 4.3.7) and common to the meter named by `role`. Resolution and
 * about half a step of noise are the reading's own; `readingId` keeps them apart. Without an accuracy the reading carries
 * no uncertainty; findings that rest on it lose theirs (procedures/kit/accuracies.ts).
 */
export function readingOf(value: number, role: string, readingId: string, accuracy: Accuracy | undefined): Uncertain {
  if (!accuracy) return exact(value);
  return uncertain(value, [
    [meterSource(role, "gain"), rectangular(1) * accuracy.gain * value],
    [meterSource(role, "offset"), rectangular(accuracy.counts * accuracy.resolution)],
    [meterSource(role, "own", readingId), Math.hypot(fromResolution(accuracy.resolution), accuracy.resolution / 2)],
  ]);
}
