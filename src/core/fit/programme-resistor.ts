import { fitLine, nearestStandard, type SeriesName } from "../quantities";

/** How a charger's current follows its programme resistor: I = K ÷ (R + offset). */
export interface Programme {
  /** V: amperes × ohms. */
  readonly k: number;
  /** Ω inside the charger, in series with the resistor. */
  readonly offset: number;
  /** Relative tolerance of K. */
  readonly tolerance: number;
  /** Currents that the charger can be set to, A. */
  readonly range?: { readonly low: number; readonly high: number };
}

/** Current that a resistor sets, A. Worked: K = 870 V, R = 1.74 kΩ gives 0.5 A. */
export const programmedCurrent = (p: Pick<Programme, "k" | "offset">, ohms: number): number => p.k / (ohms + p.offset);

/**
 * K and offset from measured pairs: 1/I = (R + offset)/K is a straight line in R. Two pairs or more with different
 * resistors; null otherwise, or where the line does not rise. The tolerance is the largest relative misfit, at least 1 %.
 * Worked: (1.74 kΩ, 0.5 A) and (8.7 kΩ, 0.1 A) give K = 870 V and no offset.
 */
export function fitProgramme(pairs: readonly { readonly ohms: number; readonly amps: number }[]): Programme | null {
  const line = fitLine(
    pairs.map((p) => p.ohms),
    pairs.map((p) => 1 / p.amps),
  );
  if (!line || !(line.slope > 0)) return null;
  const k = 1 / line.slope;
  const offset = line.intercept / line.slope;
  const misfit = pairs.reduce((most, p) => Math.max(most, Math.abs(k / (p.ohms + offset) / p.amps - 1)), 0);
  return { k, offset, tolerance: Math.max(0.01, misfit) };
}

export interface ProgrammeChoice {
  /** As it is built: `2.7 kΩ`, or two parts. */
  readonly parts: readonly number[];
  readonly join: "single" | "series" | "parallel";
  readonly ohms: number;
  readonly amps: number;
  /** Over the tolerances of resistor and K, A. */
  readonly low: number;
  readonly high: number;
  /** Why it should not be taken as it is. */
  readonly doubt: string | null;
}

const together = (a: number, b: number, join: "series" | "parallel"): number =>
  join === "series" ? a + b : (a * b) / (a + b);

/**
 * Resistors that set a current nearest to `target` A: the nearest value of a series, and from a drawer of resistors (Ω)
 * the best single one and the best pair, in series or parallel, nearest first. `tolerance` is the resistors' own.
 */
export function chooseProgramme(
  target: number,
  p: Programme,
  series: SeriesName,
  drawer: readonly number[],
  tolerance = 0.01,
): ProgrammeChoice[] {
  const wanted = p.k / target - p.offset;
  const spread = (parts: readonly number[], join: ProgrammeChoice["join"]): ProgrammeChoice => {
    const [a = 0, b = 0] = parts;
    const ohms = join === "single" ? a : together(a, b, join);
    const amps = programmedCurrent(p, ohms);
    const low = (p.k * (1 - p.tolerance)) / (ohms * (1 + tolerance) + p.offset);
    const high = (p.k * (1 + p.tolerance)) / (ohms * (1 - tolerance) + p.offset);
    const doubt =
      p.range && amps < p.range.low
        ? "below the charger's range: may be inaccurate"
        : p.range && amps > p.range.high
          ? "above the charger's range"
          : amps < 0.1
            ? "many chargers are inaccurate below 100 mA: measure it"
            : null;
    return { parts, join, ohms, amps, low, high, doubt };
  };
  if (!(wanted > 0)) return [];
  const choices = [spread([nearestStandard(series, wanted)], "single")];
  const away = (c: ProgrammeChoice) => Math.abs(Math.log(c.amps / target));
  const best = (list: ProgrammeChoice[]) =>
    list.reduce<ProgrammeChoice | null>((b, c) => (b && away(b) <= away(c) ? b : c), null);
  const own = best(drawer.map((r) => spread([r], "single")));
  const pairs: ProgrammeChoice[] = [];
  drawer.forEach((a, i) =>
    drawer.slice(i + 1).forEach((b) => pairs.push(spread([a, b], "series"), spread([a, b], "parallel"))),
  );
  const two = best(pairs);
  for (const c of [own, two]) if (c) choices.push(c);
  return choices.sort((a, b) => away(a) - away(b));
}
