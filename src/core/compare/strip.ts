import { ticks } from "d3-array";
import { highest, lowest } from "../quantities";

/** A scale along a strip: the values at its two ends, and where it is labelled. */
export interface StripScale {
  readonly low: number;
  readonly high: number;
  readonly ticks: readonly number[];
}

/**
 * A scale that holds these values, `fixed` ones certainly and the rest up to `most` widths of the fixed span beyond it: one board that is far
 * off must not press the others together; it is drawn at the edge with an arrow. Values that are not finite are passed over.
 */
export function stripScale(values: readonly number[], fixed: readonly number[] = [], most = Infinity): StripScale {
  const finite = values.filter(Number.isFinite);
  const [f0, f1] = [lowest(fixed), highest(fixed)];
  const span = fixed.length ? Math.max(f1 - f0, Math.abs(f1) / 2 || 1) : Infinity;
  let low = finite.reduce((m, v) => Math.min(m, v), fixed.length ? f0 : Infinity);
  let high = finite.reduce((m, v) => Math.max(m, v), fixed.length ? f1 : -Infinity);
  if (fixed.length) [low, high] = [Math.max(low, f0 - most * span), Math.min(high, f1 + most * span)];
  if (!(low <= high)) return { low: 0, high: 1, ticks: [0, 1] };
  const pad = high > low ? 0.06 * (high - low) : Math.abs(high) * 0.05 || 1;
  [low, high] = [low - pad, high + pad];
  return { low, high, ticks: ticks(low, high, 6) };
}

/** Where a value stands on a scale, 0 to 1; what is beyond an end is at that end, and `beyond` says on which side. */
export function onStrip(scale: StripScale, value: number): { readonly at: number; readonly beyond: -1 | 0 | 1 } {
  const at = (value - scale.low) / (scale.high - scale.low);
  return at < 0 ? { at: 0, beyond: -1 } : at > 1 ? { at: 1, beyond: 1 } : { at, beyond: 0 };
}

/** Lanes for labels that stand right of their marks, so that none covers another: `from` and `width` in px, in the order given; gives each its lane from 0 on. */
export function lanes(labels: readonly { readonly from: number; readonly width: number }[], gap = 6): number[] {
  const ends: number[] = [];
  const order = labels.map((_, k) => k).sort((a, b) => (labels[a]?.from ?? 0) - (labels[b]?.from ?? 0));
  const out = new Array<number>(labels.length).fill(0);
  for (const k of order) {
    const { from, width } = labels[k] as (typeof labels)[number];
    let lane = ends.findIndex((e) => e + gap <= from);
    if (lane < 0) lane = ends.push(-Infinity) - 1;
    ends[lane] = from + width;
    out[k] = lane;
  }
  return out;
}

/** How many of the values fall into each of `bins` equal stretches of a scale; what is beyond an end counts in the last one there. */
export function density(scale: StripScale, values: readonly number[], bins: number): Uint32Array {
  const out = new Uint32Array(bins);
  for (const v of values) {
    if (Number.isNaN(v)) continue;
    const k = Math.min(bins - 1, Math.floor(onStrip(scale, v).at * bins));
    out[k] = (out[k] ?? 0) + 1;
  }
  return out;
}
