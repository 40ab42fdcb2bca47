import { ELEMENTS } from "../quantities";

const { sampleAt } = ELEMENTS;
/** Most points of a curve: twice as many as a wide plot has pixels show nothing more. */
const MOST = 1600;

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

/**
 * A column between two times, thinned by keeping the lowest and highest of each stretch in the order they came, so that no
 * spike and no step is lost. One row before and one after stay, so that the line reaches the edges. NaN is left out.
 */
export function envelope(
  time: Float64Array,
  values: Float64Array,
  from = -Infinity,
  to = Infinity,
  most = MOST,
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
    for (let k = at; k < stop; k++) {
      const v = sampleAt(values, k);
      if (v < lowest) {
        lowest = v;
        low = k;
      }
      if (v > highest) {
        highest = v;
        high = k;
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
