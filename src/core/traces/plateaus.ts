import { ELEMENTS, median } from "../quantities";
import { finite } from "./signal";

const { sampleAt } = ELEMENTS;

/** A stretch of samples that stand at one level: rows [first, end). */
export interface Plateau {
  readonly first: number;
  readonly end: number;
  readonly from: number;
  readonly to: number;
  /** Median of the stretch. */
  readonly value: number;
}

/**
 * A column cut where its level changes by more than `step` (in the column's unit) or 3 % of it. Samples on the way from one level
 * to the next make plateaus of their own that are shorter than `least` samples and left out.
 */
export function plateaus(time: Float64Array, values: Float64Array, step: number, least = 2): Plateau[] {
  const out: Plateau[] = [];
  let first = -1;
  let sum = 0;
  let count = 0;
  const close = (end: number) => {
    if (first >= 0 && count >= least)
      out.push({
        first,
        end,
        from: sampleAt(time, first),
        to: sampleAt(time, end - 1),
        value: median(finite(values, first, end)),
      });
  };
  for (let k = 0; k < time.length; k++) {
    const v = sampleAt(values, k);
    if (v - v !== 0) continue;
    const mean = count ? sum / count : v;
    if (count && Math.abs(v - mean) > step + 0.03 * Math.abs(mean)) {
      close(k);
      first = -1;
      sum = 0;
      count = 0;
    }
    if (first < 0) first = k;
    sum += v;
    count++;
  }
  close(time.length);
  return out;
}
