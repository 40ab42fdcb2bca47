import { fitLine, median } from "../../quantities";
import { indexAt } from "../../traces";

/**
 * The column without its single-sample spikes: a reading far from both of its neighbours, which agree with each other,
 * becomes NaN. A real step lasts, so its neighbours differ. `step` is the meter's smallest step. Gives the indices too.
 */
export function withoutSpikes(values: Float64Array, step: number): { readonly values: Float64Array; readonly spikes: readonly number[] } {
  // A log without a spike is not copied.
  let out = values;
  const spikes: number[] = [];
  for (let i = 1; i + 1 < values.length; i++) {
    const before = values[i - 1] as number;
    const here = values[i] as number;
    const after = values[i + 1] as number;
    const [up, down] = [here - before, here - after];
    // Nearly every reading lies between its neighbours, or no farther off than a few steps; NaN is passed over too.
    if (!(up * down > 0) || !(Math.abs(up) > 12 * step)) continue;
    const away = Math.min(Math.abs(up), Math.abs(down));
    const apart = Math.abs(after - before);
    if (away > Math.max(12 * step, 0.02 * Math.abs(before), 4 * apart)) {
      if (out === values) out = Float64Array.from(values);
      out[i] = NaN;
      spikes.push(i);
    }
  }
  return { values: out, spikes };
}

export { indexAt } from "../../traces";

/** Finite entries of a column within [from, to), in order. */
export function finite(values: Float64Array | undefined, from: number, to: number): Float64Array {
  if (!values) return new Float64Array();
  const [a, b] = [Math.max(0, from), Math.min(to, values.length)];
  const out = new Float64Array(Math.max(0, b - a));
  let n = 0;
  for (let i = a; i < b; i++) {
    const v = values[i] as number;
    if (v - v === 0) out[n++] = v;
  }
  return out.subarray(0, n);
}

/** The lowest (or, with −1, the highest) median of any five values that follow each other; ±∞ where there are fewer. */
export function extremeOfFive(values: Float64Array, sign: 1 | -1): number {
  let best = Infinity;
  for (let k = 2; k + 2 < values.length; k++) {
    // A median below the best so far takes three of the five below it.
    let below = 0;
    for (let j = k - 2; j <= k + 2; j++) if (sign * (values[j] as number) < best) below++;
    if (below >= 3) best = sign * median(values.subarray(k - 2, k + 3));
  }
  return sign * best;
}

export interface Edge {
  readonly value: number;
  /** Readings it is made of. */
  readonly count: number;
  /** Change a second just there. */
  readonly slope: number;
}

/** A column's value at the instant `at`, from a straight line through its last `count` readings before index `end`; null where there are none. */
export function valueBefore(time: Float64Array, values: Float64Array | undefined, end: number, at: number, count = 12): Edge | null {
  if (!values) return null;
  const t: number[] = [];
  const v: number[] = [];
  for (let i = end - 1; i >= 0 && v.length < count && end - i < 4 * count; i--) {
    if (!Number.isFinite(values[i])) continue;
    t.unshift((time[i] as number) - at);
    v.unshift(values[i] as number);
  }
  if (v.length === 0) return null;
  const fit = v.length >= 4 ? fitLine(t, v) : null;
  return fit ? { value: fit.intercept, count: v.length / 4, slope: fit.slope } : { value: median(v), count: v.length, slope: 0 };
}

/** Usual distance of the samples, s. */
export function interval(time: Float64Array): number {
  const steps: number[] = [];
  const stride = Math.max(1, Math.floor(time.length / 500));
  for (let i = stride; i < time.length; i += stride) steps.push((time[i] as number) - (time[i - 1] as number));
  return median(steps);
}

export interface Integral {
  readonly value: number;
  /** Gaps that were bridged, s each. */
  readonly bridged: readonly number[];
  /** Gaps whose sides disagree: the integral is then not known. */
  readonly open: readonly { readonly from: number; readonly to: number }[];
}

/**
 * ∫ f dt over [from, to] in s by trapezoids over the real times, f given by the samples where it is finite and constant
 * out to the two ends. A gap of more than five usual intervals is bridged only where `agree` holds for its two sides.
 */
export function integrate(time: Float64Array, f: (i: number) => number, from: number, to: number, usual: number, agree: (before: number, after: number) => boolean): Integral {
  const bridged: number[] = [];
  const open: { from: number; to: number }[] = [];
  let sum = 0;
  let last = -1;
  for (let i = indexAt(time, from); i < time.length && (time[i] as number) <= to; i++) {
    const v = f(i);
    if (!Number.isFinite(v)) continue;
    if (last < 0) sum += v * ((time[i] as number) - from);
    else {
      const step = (time[i] as number) - (time[last] as number);
      sum += ((f(last) + v) / 2) * step;
      if (step > Math.max(5 * usual, usual + 1)) {
        if (agree(last, i)) bridged.push(step);
        else open.push({ from: time[last] as number, to: time[i] as number });
      }
    }
    last = i;
  }
  if (last >= 0) sum += f(last) * (to - (time[last] as number));
  return { value: sum, bridged, open };
}

/** The highest mean of `f` over any window of `width` s within [from, to], and where that window ends; null where none fits. */
export function highestMean(time: Float64Array, f: (i: number) => number, from: number, to: number, width: number): { readonly value: number; readonly end: number } | null {
  const n = time.length;
  let best = -Infinity;
  let end = -1;
  let area = 0;
  let previous = -1;
  // The pieces of the window by where they start; those that left it are passed by `head`.
  const starts = new Float64Array(n);
  const areas = new Float64Array(n);
  let head = 0;
  let count = 0;
  for (let i = indexAt(time, from); i < n && (time[i] as number) <= to; i++) {
    const v = f(i);
    if (v - v !== 0) continue;
    const now = time[i] as number;
    if (previous >= 0) {
      const piece = ((f(previous) + v) / 2) * (now - (time[previous] as number));
      area += piece;
      starts[count] = time[previous] as number;
      areas[count++] = piece;
      while (head < count && now - (starts[head] as number) > width * 1.0001) area -= areas[head++] as number;
      const span = head < count ? now - (starts[head] as number) : 0;
      if (span >= 0.9 * width && area > best * span) {
        best = area / span;
        end = i;
      }
    }
    previous = i;
  }
  return end < 0 ? null : { value: best, end };
}
