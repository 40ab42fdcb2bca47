import { ELEMENTS, fitLine, median } from "../quantities";
import { indexAt } from "./envelope";

const { sampleAt } = ELEMENTS;

/**
 * The column without its single-sample spikes: a reading far from both of its neighbours, which agree with each other,
 * becomes NaN. A real step lasts, so its neighbours differ. `step` is the meter's smallest step. Gives the indices too.
 */
export function withoutSpikes(
  values: Float64Array,
  step: number,
): { readonly values: Float64Array; readonly spikes: readonly number[] } {
  // A log without a spike is not copied.
  let out = values;
  const spikes: number[] = [];
  const least = 12 * step;
  let before = sampleAt(values, 0);
  for (let i = 1; i + 1 < values.length; i++) {
    const here = sampleAt(values, i);
    const up = here - before;
    const last = before;
    before = here;
    // Nearly every reading is no farther from the one before than a few steps; NaN is passed over too.
    if (!(up > least || up < -least)) continue;
    const after = sampleAt(values, i + 1);
    const down = here - after;
    if (!(up * down > 0)) continue;
    const away = Math.min(Math.abs(up), Math.abs(down));
    const apart = Math.abs(after - last);
    if (away > Math.max(least, 0.02 * Math.abs(last), 4 * apart)) {
      if (out === values) out = Float64Array.from(values);
      out[i] = NaN;
      spikes.push(i);
    }
  }
  return { values: out, spikes };
}

/** The finite values of several stretches, rows [first, end), one after another. */
export function finiteWithin(
  values: Float64Array,
  stretches: readonly { readonly first: number; readonly end: number }[],
): Float64Array {
  const parts = stretches.map((s) => finite(values, s.first, s.end));
  const out = new Float64Array(parts.reduce((n, part) => n + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Finite entries of a column within [from, to), in order: a view of the column where all of them are, else a copy. Not to be altered. */
export function finite(values: Float64Array | undefined, from: number, to: number): Float64Array {
  if (!values) return new Float64Array();
  const a = Math.max(0, from);
  const b = Math.max(a, Math.min(to, values.length));
  let clean = a;
  while (clean < b && sampleAt(values, clean) - sampleAt(values, clean) === 0) clean++;
  if (clean === b) return values.subarray(a, b);
  const out = new Float64Array(b - a);
  out.set(values.subarray(a, clean));
  let n = clean - a;
  for (let i = clean + 1; i < b; i++) {
    const v = sampleAt(values, i);
    if (v - v === 0) out[n++] = v;
  }
  return out.subarray(0, n);
}

/** The lowest (or, with −1, the highest) median of any five values that follow each other; ±∞ where there are fewer. */
export function extremeOfFive(values: Float64Array, sign: 1 | -1): number {
  const n = values.length;
  let best = Infinity;
  let below = 0;
  for (let k = 0; k < n; k++) {
    // A median below the best so far takes three of the last five below it.
    if (sign * sampleAt(values, k) < best) below++;
    if (k >= 5 && sign * sampleAt(values, k - 5) < best) below--;
    if (k < 4 || below < 3) continue;
    best = sign * median(values.subarray(k - 4, k + 1));
    below = 0;
    for (let j = k - 4; j <= k; j++) if (sign * sampleAt(values, j) < best) below++;
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
export function valueBefore(
  time: Float64Array,
  values: Float64Array | undefined,
  end: number,
  at: number,
  count = 12,
): Edge | null {
  if (!values) return null;
  const t: number[] = [];
  const v: number[] = [];
  for (let i = end - 1; i >= 0 && v.length < count && end - i < 4 * count; i--) {
    if (!Number.isFinite(values[i])) continue;
    t.unshift(sampleAt(time, i) - at);
    v.unshift(sampleAt(values, i));
  }
  if (v.length === 0) return null;
  const fit = v.length >= 4 ? fitLine(t, v) : null;
  return fit
    ? { value: fit.intercept, count: v.length / 4, slope: fit.slope }
    : { value: median(v), count: v.length, slope: 0 };
}

/** Usual distance of the samples, s. */
export function interval(time: Float64Array): number {
  const steps: number[] = [];
  const stride = Math.max(1, Math.floor(time.length / 500));
  for (let i = stride; i < time.length; i += stride) steps.push(sampleAt(time, i) - sampleAt(time, i - 1));
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
 * ∫ f dt, or ∫ f·g dt, over [from, to] in s by trapezoids over the real times, given by the rows where it is finite and constant
 * out to the two ends. A gap of more than five usual intervals is bridged only where `agree` holds for its two sides. Plain
 * columns rather than a function of the row: it runs over millions.
 */
export function integrate(
  time: Float64Array,
  f: Float64Array,
  g: Float64Array | null,
  from: number,
  to: number,
  usual: number,
  agree: (before: number, after: number) => boolean,
): Integral {
  const bridged: number[] = [];
  const open: { from: number; to: number }[] = [];
  const long = Math.max(5 * usual, usual + 1);
  const first = indexAt(time, from);
  const end = firstAfter(time, to);
  let sum = 0;
  let last = -1;
  let lastTime = from;
  let before = 0;
  const other = g ?? f;
  const product = g !== null;
  for (let i = first; i < end; i++) {
    const own = sampleAt(f, i);
    const v = product ? own * sampleAt(other, i) : own;
    if (v - v !== 0) continue;
    const now = sampleAt(time, i);
    const step = now - lastTime;
    if (last < 0) before = v;
    else if (step > long) {
      if (agree(last, i)) bridged.push(step);
      else open.push({ from: lastTime, to: now });
    }
    sum += (before + v) * step;
    last = i;
    lastTime = now;
    before = v;
  }
  sum /= 2;
  if (last >= 0) sum += before * (to - lastTime);
  return { value: sum, bridged, open };
}

/** The integrals of two columns and of their product, each as `integrate` has it. */
export interface Together {
  readonly f: Integral;
  readonly g: Integral;
  readonly product: Integral;
}

/**
 * ∫ f dt, ∫ g dt and ∫ f·g dt at once: where both columns have every reading, in one pass over the rows instead of three. It runs over
 * millions, and what it gives is what `integrate` does; that is tested.
 */
export function integrateTogether(
  time: Float64Array,
  f: Float64Array,
  g: Float64Array,
  from: number,
  to: number,
  usual: number,
  agree: (before: number, after: number) => boolean,
): Together {
  const first = indexAt(time, from);
  const end = firstAfter(time, to);
  let clean = first;
  while (clean < end && sampleAt(f, clean) - sampleAt(f, clean) === 0 && sampleAt(g, clean) - sampleAt(g, clean) === 0)
    clean++;
  if (clean < end || first >= end)
    return {
      f: integrate(time, f, null, from, to, usual, agree),
      g: integrate(time, g, null, from, to, usual, agree),
      product: integrate(time, f, g, from, to, usual, agree),
    };
  const bridged: number[] = [];
  const open: { from: number; to: number }[] = [];
  const long = Math.max(5 * usual, usual + 1);
  let sumF = 0;
  let sumG = 0;
  let sumP = 0;
  let lastTime = from;
  let lastF = sampleAt(f, first);
  let lastG = sampleAt(g, first);
  for (let i = first; i < end; i++) {
    const a = sampleAt(f, i);
    const b = sampleAt(g, i);
    const now = sampleAt(time, i);
    const step = now - lastTime;
    if (step > long && i > first) {
      if (agree(i - 1, i)) bridged.push(step);
      else open.push({ from: lastTime, to: now });
    }
    sumF += (lastF + a) * step;
    sumG += (lastG + b) * step;
    sumP += (lastF * lastG + a * b) * step;
    lastTime = now;
    lastF = a;
    lastG = b;
  }
  const rest = to - lastTime;
  const of = (sum: number, last: number): Integral => ({ value: sum / 2 + last * rest, bridged, open });
  return { f: of(sumF, lastF), g: of(sumG, lastG), product: of(sumP, lastF * lastG) };
}

/** Index of the first entry after `at`. */
function firstAfter(time: Float64Array, at: number): number {
  let k = indexAt(time, at);
  while (k < time.length && sampleAt(time, k) <= at) k++;
  return k;
}

/** The highest mean of `f` over any window of `width` s within [from, to], and where that window ends; null where none fits. */
export function highestMean(
  time: Float64Array,
  f: Float64Array,
  from: number,
  to: number,
  width: number,
): { readonly value: number; readonly end: number } | null {
  const n = time.length;
  let best = -Infinity;
  let end = -1;
  let area = 0;
  let previous = -1;
  // The window's pieces lie between the finite rows from `head` on.
  let head = -1;
  const piece = (a: number, b: number): number =>
    ((sampleAt(f, a) + sampleAt(f, b)) / 2) * (sampleAt(time, b) - sampleAt(time, a));
  for (let i = indexAt(time, from); i < n && sampleAt(time, i) <= to; i++) {
    const v = sampleAt(f, i);
    if (v - v !== 0) continue;
    const now = sampleAt(time, i);
    if (head < 0) head = i;
    if (previous >= 0) {
      area += piece(previous, i);
      while (head < i && now - sampleAt(time, head) > width * 1.0001) {
        let next = head + 1;
        while (sampleAt(f, next) - sampleAt(f, next) !== 0) next++;
        area -= piece(head, next);
        head = next;
      }
      const span = now - sampleAt(time, head);
      if (span >= 0.9 * width && area > best * span) {
        best = area / span;
        end = i;
      }
    }
    previous = i;
  }
  return end < 0 ? null : { value: best, end };
}
