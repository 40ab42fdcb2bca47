import type { Accuracy } from "../instruments";
import type { Random } from "./random";

/** A meter with its own fixed gain and offset error inside the stated accuracy, noise, and a smallest step. */
export interface Meter {
  readonly accuracy: Accuracy;
  readonly gainError: number;
  readonly offsetError: number;
}

/** Draws a meter: its errors are rectangular within the accuracy and stay with it. */
export function drawMeter(accuracy: Accuracy, random: Random): Meter {
  return {
    accuracy,
    gainError: random.between(-1, 1) * accuracy.gain,
    offsetError: random.between(-1, 1) * accuracy.counts * accuracy.resolution,
  };
}

/** What the meter shows: gain, offset, a third of a step of noise, rounded to its resolution. */
export function showReading(meter: Meter, truth: number, random: Random): number {
  const { resolution } = meter.accuracy;
  const raw = truth * (1 + meter.gainError) + meter.offsetError + (resolution / 3) * random.normal();
  return resolution > 0 ? Number((Math.round(raw / resolution) * resolution).toPrecision(9)) : raw;
}
