import type { Accuracy } from "../instruments";
import { meterSource } from "../instruments";
import { ELEMENTS, fitLine, rectangular, uncertain, type Uncertain, type ErrorSource } from "../quantities";

const { nth } = ELEMENTS;

/** Days of settling after a charge that are left out where later readings allow it. */
const SETTLING = 1;

export interface RestReading {
  /** Days since the first reading. */
  readonly days: number;
  readonly volts: number;
}

export interface RestDrop {
  /** V a day, positive when falling; null where the readings are too few or too close in time. */
  readonly rate: Uncertain | null;
  /** Indices of the readings it rests on. */
  readonly used: readonly number[];
  /** False: some of the settling after the charge is in it. */
  readonly settled: boolean;
}

/**
 * How fast a cell's rest voltage falls: the slope of a straight line through its readings (least squares), those of the first day left
 * out where two later ones stand at least half a day apart. What is left of doubt: the meter's own steps and noise or, where it is
 * larger, the scatter about the line, both over the spread of the days (JCGM 100, H.3), and the meter's gain. Its offset is gone.
 */
export function restDrop(readings: readonly RestReading[], meter?: Accuracy): RestDrop {
  const all = readings.map((_, k) => k);
  const later = all.filter((k) => (readings[k] as RestReading).days >= SETTLING);
  const span = (list: readonly number[]) =>
    list.length > 1
      ? (readings[nth(list, list.length - 1)] as RestReading).days - (readings[nth(list, 0)] as RestReading).days
      : 0;
  const settled = later.length >= 2 && span(later) >= 0.5;
  const used = settled ? later : all;
  const days = used.map((k) => (readings[k] as RestReading).days);
  const line =
    span(used) > 0.02
      ? fitLine(
          days,
          used.map((k) => (readings[k] as RestReading).volts),
        )
      : null;
  if (!line) return { rate: null, used, settled };
  const mean = days.reduce((s, d) => s + d, 0) / days.length;
  const square = days.reduce((s, d) => s + (d - mean) ** 2, 0);
  const own = meter ? Math.hypot(rectangular(meter.resolution / 2), meter.resolution / 2) : 0;
  const seen = used.length > 2 ? line.scatter * Math.sqrt(used.length / (used.length - 2)) : 0;
  return {
    rate: uncertain(-line.slope, [
      [meterSource("cellVoltage", "own", "slope"), Math.max(own, seen) / Math.sqrt(square)],
      ...(meter
        ? ([[meterSource("cellVoltage", "gain"), rectangular(meter.gain * line.slope)]] as [ErrorSource, number][])
        : []),
    ]),
    used,
    settled,
  };
}
