import { fitPolynomial, median } from "../../quantities";

/**
 * The column without its single-sample spikes: a reading far from both of its neighbours, which agree with each other,
 * becomes NaN. A real step lasts, so its neighbours differ. `step` is the meter's smallest step. Gives the indices too.
 */
export function withoutSpikes(values: Float64Array, step: number): { readonly values: Float64Array; readonly spikes: readonly number[] } {
  const out = Float64Array.from(values);
  const spikes: number[] = [];
  for (let i = 1; i + 1 < values.length; i++) {
    const [before, here, after] = [values[i - 1] as number, values[i] as number, values[i + 1] as number];
    if (!Number.isFinite(before + here + after)) continue;
    const away = Math.min(Math.abs(here - before), Math.abs(here - after));
    const apart = Math.abs(after - before);
    if (away > Math.max(12 * step, 0.02 * Math.abs(before), 4 * apart)) {
      out[i] = NaN;
      spikes.push(i);
    }
  }
  return { values: out, spikes };
}

/** Index of the first entry at or after `time` in an ascending column; its length where there is none. */
export function indexAt(time: Float64Array, at: number): number {
  let low = 0;
  let high = time.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((time[middle] as number) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Finite entries of a column within [from, to), in order. */
export function finite(values: Float64Array | undefined, from: number, to: number): number[] {
  const out: number[] = [];
  if (values) for (let i = Math.max(0, from); i < Math.min(to, values.length); i++) if (Number.isFinite(values[i])) out.push(values[i] as number);
  return out;
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
  const fit = v.length >= 4 ? fitPolynomial(t, v, 1) : null;
  return fit ? { value: fit.coefficients[0] as number, count: v.length / 4, slope: fit.coefficients[1] as number } : { value: median(v), count: v.length, slope: 0 };
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
  let best: { value: number; end: number } | null = null;
  let area = 0;
  let tail = indexAt(time, from);
  let previous = -1;
  const areas: { start: number; area: number; dt: number }[] = [];
  let head = 0;
  for (let i = tail; i < time.length && (time[i] as number) <= to; i++) {
    const v = f(i);
    if (!Number.isFinite(v)) continue;
    if (previous >= 0) {
      const dt = (time[i] as number) - (time[previous] as number);
      const piece = ((f(previous) + v) / 2) * dt;
      area += piece;
      areas.push({ start: time[previous] as number, area: piece, dt });
      while (head < areas.length && (time[i] as number) - (areas[head] as { start: number }).start > width * 1.0001) area -= (areas[head++] as { area: number }).area;
      const span = head < areas.length ? (time[i] as number) - (areas[head] as { start: number }).start : 0;
      if (span >= 0.9 * width && (!best || area / span > best.value)) best = { value: area / span, end: i };
    }
    previous = i;
    tail = i;
  }
  return best;
}
