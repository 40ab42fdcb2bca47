import { limitBounds, type Limit } from "../claims";
import type { Finding, HouseRules } from "../measurement";
import { meterName } from "../procedures/kit/accuracies";
import { formatQuantity, fromTo, listed, normalCdf, numeric, type Unit } from "../quantities";

export const VERDICT_WORDS = [
  "meets",
  "misses",
  "too close to call",
  "not fairly tested",
  "not measured",
  "claim unclear",
] as const;
export type VerdictWord = (typeof VERDICT_WORDS)[number];

/** What lies between two numbers; infinite on an open side. */
interface Interval {
  readonly low: number;
  readonly high: number;
}

export interface FindingVerdict {
  readonly word: VerdictWord;
  /** The measured interval, infinite on the open side of a bound; null for words. */
  readonly interval: Interval | null;
  readonly limits: Interval | null;
  /** Probability that the quantity conforms (JCGM 106, 7.2); null where it can't be given. */
  readonly probability: number | null;
  /** Why, in sentences. */
  readonly why: readonly string[];
  /** What would settle a close call, or make the test fair. */
  readonly settle: readonly string[];
  /** Codes of what made the test unfair; empty where the word is not “not fairly tested”. */
  readonly unfair: readonly string[];
}

/** The unfairness of a measurement whose meters' accuracy nobody stated. */
export const ACCURACY_UNSTATED = "accuracy-unstated";

/** The interval that holds the quantity with the house's coverage: value ± U, or the bracket widened by U. */
export function findingInterval(f: Finding, coverage: number): { low: number; high: number } | null {
  if (typeof f.value !== "number" || f.unstated?.length) return null;
  const u = ((f.expandedUncertainty ?? 0) / 2) * coverage;
  if (f.bracket) return { low: f.bracket.low - u, high: f.bracket.high + u };
  return {
    low: f.bound === "at-most" ? -Infinity : f.value - u,
    high: f.bound === "at-least" ? Infinity : f.value + u,
  };
}

/**
 * How values about an interval are written: with four digits, or more where the interval is so narrow that its ends and a limit
 * between them would look alike. Worked: of 4.1887 V to 4.1953 V four digits leave a limit of 4.1895 V no place.
 */
export function writtenFor(
  interval: { readonly low: number; readonly high: number },
  unit: Unit,
): (v: number) => string {
  const half = (interval.high - interval.low) / 2;
  return (v) => {
    const four = formatQuantity(v, unit, { digits: 4 });
    if (!(half > 0) || !Number.isFinite(half)) return four;
    const fine = formatQuantity(v, unit, { uncertainty: half });
    return fine.length > four.length ? fine : four;
  };
}

/**
 * Probability that a quantity lies within [low, high]: normal about the value with the standard uncertainty; for a
 * bracket the mean of that over the bracket (any place in it is as likely). Null for a one-sided bound, of which no
 * distribution is known.
 */
export function conformityProbability(f: Finding, low: number, high: number): number | null {
  if (typeof f.value !== "number" || f.bound || f.unstated?.length) return null;
  const u = (f.expandedUncertainty ?? 0) / 2;
  const at = (v: number): number => {
    if (u === 0) return v >= low && v <= high ? 1 : 0;
    return normalCdf((high - v) / u) - normalCdf((low - v) / u);
  };
  if (!f.bracket) return at(f.value);
  const n = 200;
  const { low: a, high: b } = f.bracket;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += at(a + ((i + 0.5) / n) * (b - a));
  return sum / n;
}

/**
 * Judges one finding against one limit with the guarded rule of JCGM 106: it meets when the whole interval lies inside,
 * misses when the whole lies outside, and is too close to call otherwise. A claim beyond a bound is not measured.
 * Nothing is rounded. Unfairness voids only a verdict that it could have caused.
 */
export function judgeFinding(f: Finding, limit: Limit, unit: Unit, rules: HouseRules): FindingVerdict {
  if (limit.kind === "yes-no" || limit.kind === "one-of") return judgeWord(f, limit);
  if (f.unstated?.length) return withoutUncertainty(f, f.unstated, limit, rules);
  const interval = findingInterval(f, rules.coverage);
  const bounds = limitBounds(limit, rules.houseTolerance);
  if (!interval || !bounds)
    return {
      word: "not measured",
      interval,
      limits: bounds,
      probability: null,
      why: [`The run gives “${f.value}”, which can't be compared with a number.`],
      settle: [],
      unfair: [],
    };
  const { low, high } = interval;
  const q = writtenFor(interval, unit);
  const text = (i: Interval) =>
    i.low === -Infinity
      ? `at most ${q(i.high)}`
      : i.high === Infinity
        ? `at least ${q(i.low)}`
        : fromTo(q(i.low), q(i.high));
  const why: string[] = [];
  if (bounds.houseTolerance !== undefined)
    why.push(
      `The claim is a bare number; the house tolerance of ±${formatQuantity(bounds.houseTolerance, "1")} is ours, not the maker's.`,
    );
  const base = {
    interval,
    limits: { low: bounds.low, high: bounds.high },
    probability: conformityProbability(f, bounds.low, bounds.high),
    settle: [] as string[],
    unfair: [],
  };

  const side = decidedSide(f, bounds, { low, high }, base.probability, rules);
  if (side === "inside")
    return flattered(f, bounds, {
      ...base,
      word: "meets",
      why: [
        ...why,
        `Measured ${text(interval)}, ${low >= bounds.low && high <= bounds.high ? "all of it" : LESS[rules.guard]} inside ${text(bounds)}.`,
      ],
    });
  if (side === "below")
    return voided(f, "misses", "low", {
      ...base,
      why: [
        ...why,
        `Measured ${text(interval)}, ${high < bounds.low ? "all of it" : LESS[rules.guard]} below ${q(bounds.low)}.`,
      ],
    });
  if (side === "above")
    return voided(f, "misses", "high", {
      ...base,
      why: [
        ...why,
        `Measured ${text(interval)}, ${low > bounds.high ? "all of it" : LESS[rules.guard]} above ${q(bounds.high)}.`,
      ],
    });
  return undecided(f, bounds, { base, why, text, q, unit });
}

/** What neither lies within the limits nor beyond one of them: a bound that stopped before the claim, or an interval across a limit. */
function undecided(
  f: Finding,
  bounds: Interval,
  said: {
    readonly base: Omit<FindingVerdict, "word" | "why"> & { readonly interval: Interval };
    readonly why: readonly string[];
    readonly text: (i: Interval) => string;
    readonly q: (v: number) => string;
    readonly unit: Unit;
  },
): FindingVerdict {
  const { base, why, text, q, unit } = said;
  const { interval } = base;
  const { low, high } = interval;
  if (f.bound) {
    const v = numeric(f.value);
    const beyond =
      f.bound === "at-least"
        ? v + (v - low === Infinity ? 0 : v - low) < bounds.low || bounds.high < Infinity
        : v < bounds.low || bounds.low > -Infinity;
    if (beyond)
      return voided(f, "not measured", f.bound === "at-least" ? "low" : "high", {
        ...base,
        why: [
          ...why,
          `The run shows ${f.bound === "at-least" ? "at least" : "at most"} ${q(v)} and stopped there. The claim is beyond.`,
        ],
        settle: ["Continue the run past the claim."],
      });
  }
  const below = low < bounds.low;
  const above = high > bounds.high;
  return voided(f, "too close to call", below && above ? "either" : below ? "low" : "high", {
    ...base,
    why: [
      ...why,
      `Measured ${text(interval)}, which reaches across ${below ? q(bounds.low) : ""}${below && above ? " and " : ""}${above ? q(bounds.high) : ""}.`,
    ],
    settle: whatWouldSettle(f, unit),
  });
}

/** A word is met where it is among those that were claimed, whatever its case. */
function judgeWord(f: Finding, limit: Extract<Limit, { readonly kind: "yes-no" | "one-of" }>): FindingVerdict {
  const wanted =
    limit.kind === "yes-no" ? [limit.value ? "yes" : "no"] : limit.words.map((w) => w.trim().toLowerCase());
  const meets = wanted.includes(String(f.value).trim().toLowerCase());
  return voided(f, meets ? "meets" : "misses", "either", {
    interval: null,
    limits: null,
    probability: null,
    why: [`Measured “${f.value}”; claimed “${wanted.join(" or ")}”.`],
    settle: [],
    unfair: [],
  });
}

/** A number without an uncertainty is held against no limit. */
function withoutUncertainty(
  f: Finding,
  unstated: NonNullable<Finding["unstated"]>,
  limit: Limit,
  rules: HouseRules,
): FindingVerdict {
  const bounds = limitBounds(limit, rules.houseTolerance);
  const meters = `${listed(unstated.map(meterName))} meter${unstated.length > 1 ? "s" : ""}`;
  return {
    word: "not fairly tested",
    interval: null,
    limits: bounds && { low: bounds.low, high: bounds.high },
    probability: null,
    why: [`The accuracy of the ${meters} is not stated.`, ...f.unfair.map((u) => u.message)],
    settle: [
      `State the accuracy of the ${meters}, or assume an ordinary handheld meter's.`,
      ...f.unfair.map((u) => u.remedy),
    ],
    unfair: [ACCURACY_UNSTATED, ...f.unfair.map((u) => u.code)],
  };
}

/** What a laxer rule than the whole interval calls by. */
const LESS: Readonly<Record<HouseRules["guard"], string>> = {
  "whole interval": "all of it",
  probable: "95 % of its probability",
  estimate: "the value itself",
};

/**
 * On which side of the limits a measurement is called, null where it is not: by its whole interval (JCGM 106, 8.3.2, guarded on both
 * sides with w = U), by 95 % of its probability, or by its value (8.2.1, simple acceptance). A bound, of which no distribution is known,
 * is always called by its interval, and a bracket by all of it.
 */
function decidedSide(
  f: Finding,
  bounds: { readonly low: number; readonly high: number },
  whole: { readonly low: number; readonly high: number },
  probability: number | null,
  rules: HouseRules,
): "inside" | "below" | "above" | null {
  const by = rules.guard === "estimate" ? (findingInterval(f, 0) ?? whole) : whole;
  if (by.low >= bounds.low && by.high <= bounds.high) return "inside";
  if (by.high < bounds.low) return "below";
  if (by.low > bounds.high) return "above";
  if (rules.guard !== "probable" || probability === null) return null;
  if (probability >= 0.95) return "inside";
  if (probability > 0.05) return null;
  const middle = (by.low + by.high) / 2;
  return middle < bounds.low ? "below" : middle > bounds.high ? "above" : null;
}

/** A limit with one side is met for the wrong reason where the set-up pushed the value to its good side. */
function flattered(
  f: Finding,
  bounds: { readonly low: number; readonly high: number },
  met: FindingVerdict,
): FindingVerdict {
  const good = bounds.high === Infinity ? "high" : bounds.low === -Infinity ? "low" : null;
  const causes = f.unfair.filter((u) => u.pushes === good);
  return causes.length === 0
    ? met
    : {
        ...met,
        word: "not fairly tested",
        why: [...met.why, ...causes.map((c) => c.message)],
        settle: causes.map((c) => c.remedy),
        unfair: causes.map((c) => c.code),
      };
}

/** A verdict that an unfair condition could have caused becomes “not fairly tested”; one in spite of it stands. */
function voided(
  f: Finding,
  word: VerdictWord,
  direction: "low" | "high" | "either",
  rest: Omit<FindingVerdict, "word">,
): FindingVerdict {
  if (word === "meets") return { ...rest, word };
  const causes = f.unfair.filter((u) => u.pushes === "either" || direction === "either" || u.pushes === direction);
  if (causes.length === 0) return { ...rest, word };
  return {
    ...rest,
    word: "not fairly tested",
    why: [...rest.why, ...causes.map((c) => c.message)],
    settle: causes.map((c) => c.remedy),
    unfair: causes.map((c) => c.code),
  };
}

/** What would narrow the interval most, from the bracket and the budget. */
function whatWouldSettle(f: Finding, unit: Unit): string[] {
  const out: string[] = [];
  const u = f.expandedUncertainty ?? 0;
  if (f.bracket && f.bracket.high - f.bracket.low > u)
    out.push(
      `Record points between ${formatQuantity(f.bracket.low, unit, { digits: 4 })} and ${formatQuantity(f.bracket.high, unit, { digits: 4 })}: the step is wider than the meters' share.`,
    );
  const own = f.budget.filter((b) => b.source.kind === "own").reduce((s, b) => s + b.share, 0);
  const top = f.budget[0];
  if (own > 0.5)
    out.push("Repeat the reading: noise and resolution make up most of the uncertainty, and a mean narrows them.");
  else if (top?.source.kind === "lead")
    out.push("Sense with four wires at the module's terminals: the lead resistance makes up most of the uncertainty.");
  else if (top) {
    const { role, kind } = top.source;
    if (role)
      out.push(
        `Most of the uncertainty is the ${kind} of the ${role.replace(/([A-Z])/g, " $1").toLowerCase()} meter (${Math.round(top.share * 100)} % of the variance): use a better meter or range there. Repeats don't help.`,
      );
  }
  return out;
}
