import { ELEMENTS, lowest, median } from "../quantities";

const { nth, sampleAt } = ELEMENTS;

/** A step in a column: the time half way up it in s, and its height. */
export interface Step {
  readonly time: number;
  readonly height: number;
}

/** Readings either side of a step whose medians are compared. */
const SIDE = 4;

/**
 * The largest steps of a column, largest first: where the medians of the readings before and after differ most. A step that
 * is not at least `least` times the usual difference is none.
 */
export function largestSteps(time: Float64Array, values: Float64Array, most = 8, least = 8): Step[] {
  const at: number[] = [];
  for (let k = 0; k < values.length; k++) if (Number.isFinite(values[k])) at.push(k);
  const jump = new Float64Array(at.length);
  const side = (from: number): number => median(at.slice(from, from + SIDE).map((k) => sampleAt(values, k)));
  // Only where neighbours differ can there be a step; the medians are worked out there alone.
  const raw = Float64Array.from(at, (k, i) =>
    i === 0 ? 0 : Math.abs(sampleAt(values, k) - sampleAt(values, nth(at, i - 1))),
  );
  const usual = median(raw) || 1e-12;
  for (let i = SIDE; i + SIDE <= at.length; i++)
    if (sampleAt(raw, i) > least * usual) jump[i] = side(i) - side(i - SIDE);
  const order = [...jump.keys()]
    .filter((i) => Math.abs(sampleAt(jump, i)) > least * usual)
    .sort((a, b) => Math.abs(sampleAt(jump, b)) - Math.abs(sampleAt(jump, a)));
  const taken: number[] = [];
  for (const i of order) {
    if (taken.length >= most) break;
    if (taken.every((t) => Math.abs(t - i) > SIDE)) taken.push(i);
  }
  return taken.map((i) => ({
    time: (sampleAt(time, nth(at, i - 1)) + sampleAt(time, nth(at, i))) / 2,
    height: sampleAt(jump, i),
  }));
}

/**
 * How far the second clock is behind the first, s: second time + offset = first time. The steps that both loggers saw fall on
 * each other; of all offsets that lay one step of each upon the other, the one that matches most steps within `tolerance` s
 * wins. Null where either has no step.
 */
export function alignOnSteps(
  first: readonly Step[],
  second: readonly Step[],
  tolerance: number,
): { readonly offset: number; readonly matched: number } | null {
  let best: { offset: number; matched: number; height: number } | null = null;
  for (const a of first)
    for (const b of second) {
      const offset = a.time - b.time;
      const pairs = second.flatMap((s) => {
        const near = first.filter(
          (f) => Math.abs(f.time - s.time - offset) <= tolerance && f.height * s.height > 0 === a.height * b.height > 0,
        );
        return near.length
          ? [
              {
                away: (near[0] as Step).time - s.time,
                height: lowest([s.height, ...near.map((f) => f.height)].map(Math.abs)),
              },
            ]
          : [];
      });
      const height = pairs.reduce((s, p) => s + p.height, 0);
      if (!best || pairs.length > best.matched || (pairs.length === best.matched && height > best.height))
        best = {
          offset: pairs.reduce((s, p) => s + p.away, 0) / Math.max(1, pairs.length),
          matched: pairs.length,
          height,
        };
    }
  return best && { offset: best.offset, matched: best.matched };
}
