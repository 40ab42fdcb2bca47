/** Preferred numbers of IEC 60063. */
const E24 = [
  1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
];
const E12 = E24.filter((_, i) => i % 2 === 0);
/** E96 follows the rounded geometric series; E24 and E12 are historical and do not. */
const E96 = Array.from({ length: 96 }, (_, i) => Number((10 ** (i / 96)).toFixed(2)));

export type SeriesName = "E12" | "E24" | "E96";
const SERIES: Readonly<Record<SeriesName, readonly number[]>> = { E12, E24, E96 };

/** The values of a series within [low, high], ascending, in Ω. Empty where low > high or low ≤ 0. */
export function seriesValues(name: SeriesName, low: number, high: number): number[] {
  if (!(low > 0) || !(high >= low)) return [];
  const values: number[] = [];
  for (let decade = Math.floor(Math.log10(low)); decade <= Math.ceil(Math.log10(high)); decade++) {
    for (const m of SERIES[name]) {
      const v = Number((m * 10 ** decade).toPrecision(3));
      if (v >= low * (1 - 1e-12) && v <= high * (1 + 1e-12)) values.push(v);
    }
  }
  return values;
}

/** The value of a series nearest to `target` (Ω, positive) on a logarithmic scale. Worked: 5000 in E24 is 5100. */
export function nearestStandard(name: SeriesName, target: number): number {
  if (!(target > 0) || !Number.isFinite(target))
    throw new RangeError(`nearestStandard: target ${target} must be positive`);
  const near = seriesValues(name, target / 2, target * 2);
  return near.reduce((best, v) => (Math.abs(Math.log(v / target)) < Math.abs(Math.log(best / target)) ? v : best));
}
