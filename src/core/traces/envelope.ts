import { ELEMENTS } from "../quantities";

const { sampleAt, wholeAt } = ELEMENTS;
/** Most points of a curve that is kept: twice as many as a wide plot has pixels show nothing more. */
const MOST = 1600;
/** … of one that is drawn anew at every step of a zoom: two for each pixel of a plot on a result's page, which is at most 600 px wide. */
export const MOST_MOVING = 1200;

/** Index of the first entry at or after `time` in an ascending column; its length where there is none. */
export function indexAt(time: Float64Array, at: number): number {
  let low = 0;
  let high = time.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sampleAt(time, middle) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Rows between two times, one before and one after among them: [first, end). */
export const rowsBetween = (time: Float64Array, from: number, to: number): [number, number] => [
  Math.max(0, indexAt(time, from) - 1),
  Math.min(time.length, indexAt(time, to) + 2),
];

/** Rows of a block. */
const BLOCK = 16;

/** The row of the lowest and of the highest value of each block of a column; −1 where it has none. */
export interface Extremes {
  readonly low: Int32Array;
  readonly high: Int32Array;
}

/** What a column that is looked at often is thinned by: found once, it spares reading most rows again. */
export function extremesOf(values: Float64Array): Extremes {
  const blocks = Math.ceil(values.length / BLOCK);
  const [low, high] = [new Int32Array(blocks).fill(-1), new Int32Array(blocks).fill(-1)];
  for (let b = 0; b < blocks; b++) {
    let [lowest, highest] = [Infinity, -Infinity];
    const stop = Math.min(values.length, (b + 1) * BLOCK);
    for (let k = b * BLOCK; k < stop; k++) {
      const v = sampleAt(values, k);
      if (v < lowest) {
        lowest = v;
        low[b] = k;
      }
      if (v > highest) {
        highest = v;
        high[b] = k;
      }
    }
  }
  return { low, high };
}

/**
 * A column between two times, thinned by keeping the lowest and highest of each stretch in the order they came, so that no
 * spike and no step is lost. One row before and one after stay, so that the line reaches the edges. NaN is left out. The column's
 * `extremes`, where they are known, change only how long it takes.
 */
export function envelope(
  time: Float64Array,
  values: Float64Array,
  from = -Infinity,
  to = Infinity,
  most = MOST,
  extremes?: Extremes,
): { x: Float64Array; y: Float64Array } {
  const [first, end] = rowsBetween(time, from, to);
  const size = Math.max(1, Math.ceil((2 * (end - first)) / most));
  const x = new Float64Array(Math.min(end - first, 2 * Math.ceil((end - first) / size)));
  const y = new Float64Array(x.length);
  let n = 0;
  for (let at = first; at < end; at += size) {
    const stop = Math.min(end, at + size);
    let low = -1;
    let high = -1;
    let [lowest, highest] = [Infinity, -Infinity];
    for (let k = at; k < stop;) {
      // Of a whole block two rows count.
      const block = extremes && k % BLOCK === 0 && k + BLOCK <= stop ? k / BLOCK : -1;
      const l = extremes && block >= 0 ? wholeAt(extremes.low, block) : k;
      const h = extremes && block >= 0 ? wholeAt(extremes.high, block) : k;
      k += block >= 0 ? BLOCK : 1;
      if (l < 0 || h < 0) continue;
      if (sampleAt(values, l) < lowest) {
        lowest = sampleAt(values, l);
        low = l;
      }
      if (sampleAt(values, h) > highest) {
        highest = sampleAt(values, h);
        high = h;
      }
    }
    if (low < 0) continue;
    const [a, b] = low < high ? [low, high] : [high, low];
    x[n] = sampleAt(time, a);
    y[n++] = sampleAt(values, a);
    if (b === a) continue;
    x[n] = sampleAt(time, b);
    y[n++] = sampleAt(values, b);
  }
  return { x: x.slice(0, n), y: y.slice(0, n) };
}
