import { bisectLeft, range, ticks, tickStep } from "d3-array";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { ELEMENTS, highest, lowest, unitSymbol, type Unit } from "@/core/quantities";
import type { ChartSeries, ChartSpec } from "@/core/measurement";

const { nth } = ELEMENTS;

export interface ClaimLine {
  readonly axis: "x" | "y";
  readonly at: number;
  readonly label: string;
}

export interface PlotProps {
  readonly spec: ChartSpec;
  readonly claims?: readonly ClaimLine[];
  readonly height?: number;
  /** A point that is being asked about, drawn larger. */
  readonly marked?: string | undefined;
  onPick?(id: string): void;
  /** Said once the curves stand. */
  onDrawn?(): void;
}

/** Most points that a series draws; more than the plot has pixels show nothing. */
const MOST = 400;

/** Thins a line by keeping the lowest and highest of each stretch, so that no spike is lost. */
export function thin<T extends { readonly y: number }>(points: readonly T[], most = MOST): readonly T[] {
  if (points.length <= most) return points;
  const size = points.length / (most / 2);
  const out: T[] = [];
  for (let k = 0; k < most / 2; k++) {
    const slice = points.slice(Math.floor(k * size), Math.floor((k + 1) * size));
    if (slice.length === 0) continue;
    let low = 0;
    let high = 0;
    slice.forEach((p, i) => {
      if (p.y < (slice[low] as T).y) low = i;
      if (p.y > (slice[high] as T).y) high = i;
    });
    for (const i of [...new Set([Math.min(low, high), Math.max(low, high)])]) out.push(slice[i] as T);
  }
  return out;
}

/** A value so near an end of its axis, as a share of a step, would be drawn half outside the frame. */
const NEAR_END = 0.15;

/** Round axis limits and ticks, about `count` of them, that hold every value; an end near a value moves on by a step. */
export function axis(values: readonly number[], count = 5): { low: number; high: number; ticks: number[] } {
  const finite = values.filter(Number.isFinite);
  if (finite.length === 0) return { low: 0, high: 1, ticks: [0, 0.5, 1] };
  let low = lowest(finite);
  let high = highest(finite);
  if (high - low < 1e-9) {
    low -= Math.abs(low) * 0.05 || 0.5;
    high += Math.abs(high) * 0.05 || 0.5;
  }
  const room = NEAR_END * tickStep(low, high, count);
  const round = scaleLinear()
    .domain([low === 0 ? 0 : low - room, high === 0 ? 0 : high + room])
    .nice(count);
  const [first = low, last = high] = round.domain();
  return { low: first, high: last, ticks: round.ticks(count) };
}

/** One unit for all ticks of an axis: amps, volts and watts below one in thousandths, ratios in per cent. */
export function axisScale(
  unit: Unit,
  a: { readonly low: number; readonly high: number },
): { readonly unit: string; readonly tick: (v: number) => string } {
  const small =
    (unit === "A" || unit === "V" || unit === "W" || unit === "Ω") && Math.max(Math.abs(a.low), Math.abs(a.high)) < 1;
  const scale = unit === "1" ? 100 : small ? 1000 : 1;
  return {
    unit: small ? `m${unit}` : unitSymbol(unit),
    tick: (v) => String(Number((v * scale).toPrecision(6))).replace("-", "\u2212"),
  };
}

/** Steps of a time axis, s: what clocks count in. */
const CLOCK = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 10800, 21600, 43200, 86400];
const DAY = 86400;
/** Below so many seconds a tick, time is counted in tenths and less. */
const FINE = 0.5;

/** An axis of time in s on round seconds, minutes or hours; it begins and ends where it is told to. */
export function timeAxis(from: number, to: number, count = 9): { low: number; high: number; ticks: number[] } {
  const least = (to - from) / count;
  // What is asked of `ticks` is a mean: it may give half as many again.
  if (least < FINE) return { low: from, high: to, ticks: ticks(from, to, (2 * count) / 3) };
  const step = CLOCK[bisectLeft(CLOCK, least)] ?? DAY * Math.ceil(least / DAY);
  return { low: from, high: to, ticks: range(step * Math.ceil(from / step - 1e-9), to * (1 + 1e-12) + 1e-9, step) };
}

/**
 * How a time axis over so many seconds is written: hours and minutes, with seconds where the ticks are closer, or minutes and
 * seconds below an hour, ms or µs below a second. Worked: 5400 s on an axis of hours is `1:30`.
 */
export function clockScale(
  low: number,
  high: number,
  ticks: readonly number[],
): { readonly unit: string; readonly tick: (seconds: number) => string } {
  const step = ticks.length > 1 ? nth(ticks, 1) - nth(ticks, 0) : 60;
  // What an oscilloscope wrote is over before a clock moves.
  const brief = high < 1e-3 ? 1e-6 : high < 1 ? 1e-3 : null;
  if (brief) return { unit: brief === 1e-6 ? "µs" : "ms", tick: (s) => String(Number((s / brief).toPrecision(6))) };
  const two = (v: number) => String(v).padStart(2, "0");
  const digits = step < 1 ? Math.min(3, Math.ceil(-Math.log10(step) - 1e-9)) : 0;
  const seconds = (s: number) =>
    digits ? (s % 60).toFixed(digits).padStart(3 + digits, "0") : two(Math.round(s % 60));
  if (high < 3600)
    return { unit: digits ? "m:ss.s" : "m:ss", tick: (s) => `${Math.floor(s / 60 + 1e-9)}:${seconds(s)}` };
  if (step >= 60)
    return { unit: "h:mm", tick: (s) => `${Math.floor(s / 3600 + 1e-9)}:${two(Math.round((s % 3600) / 60) % 60)}` };
  return {
    unit: "h:mm:ss",
    tick: (s) => `${Math.floor(s / 3600 + 1e-9)}:${two(Math.floor((s % 3600) / 60 + 1e-9))}:${seconds(s)}`,
  };
}

export const pointsToDraw = (s: ChartSeries): ChartSeries["points"] => thin([...s.points].sort((a, b) => a.x - b.x));

/** Least share of the largest value that a log's vertical axis spans: closer up there is only the noise of the meter. */
const LEAST_SPAN = 0.01;

/** The vertical axis of a log's curves: what is shown of them, with some room, and the claims. */
export function logAxis(
  curves: readonly { readonly y: ArrayLike<number> }[],
  also: readonly number[],
): { low: number; high: number; ticks: number[] } {
  let [low, high] = [Infinity, -Infinity];
  const take = (v: number) => {
    if (v < low) low = v;
    if (v > high) high = v;
  };
  for (const c of curves) for (let k = 0; k < c.y.length; k++) take(nth(c.y, k));
  also.forEach(take);
  if (!Number.isFinite(low)) return axis([]);
  // A reading a hair off zero is zero with an offset; it must not open a negative half of the axis.
  if (Math.abs(low) < 0.02 * high) low = 0;
  const least = LEAST_SPAN * Math.max(Math.abs(low), Math.abs(high));
  if (high - low < least) [low, high] = [(low + high - least) / 2, (low + high + least) / 2];
  return axis([low, high], 5);
}

/** Numbers of a log's column as they are drawn. */
export type LogColumn = readonly number[] | Float32Array | Float64Array;

/** A line through readings as an SVG path, in tenths of a pixel. */
export function linePath(x: LogColumn, y: LogColumn, across: (v: number) => number, up: (v: number) => number): string {
  const path = line<unknown>()
    .x((_, k) => across(nth(x, k)))
    .y((_, k) => up(nth(y, k)))
    .digits(1);
  return path(x) ?? "";
}
