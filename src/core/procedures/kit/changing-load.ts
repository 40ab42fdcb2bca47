import { ELEMENTS, formatDuration, formatQuantity, quantiles } from "../../quantities";
import { finiteWithin } from "../../traces";
import type { Note } from "../../measurement";

const { sampleAt } = ELEMENTS;

/** A load counts as changing where its 95th and 5th percentiles lie further apart than this share of its mean. */
const CHANGES = 0.2;

/** A stretch of a log, rows [first, end). */
interface Stretch {
  readonly first: number;
  readonly end: number;
}

/**
 * A load that changed over the stretches of a log in which it flowed, as least, mean and most: the mean by time (trapezoids between rows, a
 * row without a reading left out). `time` in s, `amps` in A. Says nothing of a load that stayed.
 */
export function changingLoad(time: Float64Array, amps: Float64Array, stretches: readonly Stretch[]): Note[] {
  let [charge, seconds] = [0, 0];
  for (const { first, end } of stretches) {
    let before = -1;
    for (let k = first; k < end; k++) {
      const now = sampleAt(amps, k);
      if (!Number.isFinite(now)) continue;
      if (before >= 0) {
        const dt = sampleAt(time, k) - sampleAt(time, before);
        charge += ((sampleAt(amps, before) + now) / 2) * dt;
        seconds += dt;
      }
      before = k;
    }
  }
  const values = finiteWithin(amps, stretches);
  if (!(seconds > 0) || values.length < 10) return [];
  const mean = charge / seconds;
  const [least = NaN, low = NaN, high = NaN, most = NaN] = quantiles(values, [0, 0.05, 0.95, 1]);
  if (high - low <= CHANGES * Math.abs(mean)) return [];
  const a = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  return [
    {
      code: "changing-load",
      message: `The load changed over ${formatDuration(seconds)}: ${a(least)} at least, ${a(mean)} in the mean, ${a(most)} at most.`,
    },
  ];
}
