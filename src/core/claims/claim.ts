import { characteristic, type ConditionSpecs } from "../characteristics";
import { formatQuantity, type Unit } from "../quantities";

export type Tolerance = { readonly kind: "relative" | "absolute"; readonly value: number };

/** What a claim promises of its characteristic. Values in the characteristic's unit. */
export type Limit =
  | {
      readonly kind: "nominal";
      readonly nominal: number;
      /** null: a bare number, the house tolerance applies. */ readonly tolerance: Tolerance | null;
    }
  | { readonly kind: "at-least"; readonly low: number }
  | { readonly kind: "at-most"; readonly high: number }
  | { readonly kind: "from-to"; readonly low: number; readonly high: number }
  | { readonly kind: "one-of"; readonly words: readonly string[] }
  | { readonly kind: "yes-no"; readonly value: boolean };

export const LIMIT_LABELS: Readonly<Record<Limit["kind"], string>> = {
  nominal: "nominal ± tolerance",
  "at-least": "at least",
  "at-most": "at most",
  "from-to": "from – to",
  "one-of": "one of",
  "yes-no": "yes / no",
};

/** One way of understanding the words of a claim. */
export interface ClaimReading {
  readonly characteristic: string;
  readonly limit: Limit;
  readonly conditions: ConditionSpecs;
}

export const SOURCE_KINDS = ["listing", "data sheet", "print on the board", "other"] as const;
export interface ClaimSource {
  readonly kind: (typeof SOURCE_KINDS)[number];
  /** The words as they stand there. */
  readonly wording: string;
  /** ISO date on which it was read. */
  readonly date: string;
}

/** The parts of a claim that judging needs; the stored record adds identity. */
export interface Claim {
  readonly id: string;
  /** Two or more where the words can be understood in several ways: each is judged. */
  readonly readings: readonly ClaimReading[];
  readonly source: ClaimSource;
}

export interface Bounds {
  readonly low: number;
  readonly high: number;
  /** Set where the tolerance is the house's and not the maker's. */
  readonly houseTolerance?: number;
}

/** The numeric limits of a claim, infinite where one-sided; null for words and yes/no. */
export function limitBounds(limit: Limit, houseTolerance: number): Bounds | null {
  switch (limit.kind) {
    case "nominal": {
      const t = limit.tolerance ?? { kind: "relative" as const, value: houseTolerance };
      const half = t.kind === "relative" ? Math.abs(limit.nominal) * t.value : t.value;
      const bounds = { low: limit.nominal - half, high: limit.nominal + half };
      return limit.tolerance ? bounds : { ...bounds, houseTolerance };
    }
    case "at-least":
      return { low: limit.low, high: Infinity };
    case "at-most":
      return { low: -Infinity, high: limit.high };
    case "from-to":
      return { low: limit.low, high: limit.high };
    default:
      return null;
  }
}

/** A limit as a short phrase: `5 V ± 2 %`, `at least 1.5 A`, `yes`; numbers rounded, or as `write` has them. */
export function formatLimit(
  limit: Limit,
  unit: Unit,
  write: (value: number, unit: Unit) => string = formatQuantity,
): string {
  const q = (v: number) => write(v, unit);
  switch (limit.kind) {
    case "nominal":
      return limit.tolerance === null
        ? q(limit.nominal)
        : `${q(limit.nominal)} ± ${limit.tolerance.kind === "relative" ? write(limit.tolerance.value, "1") : unit === "1" ? String(limit.tolerance.value) : q(limit.tolerance.value)}`;
    case "at-least":
      return `at least ${q(limit.low)}`;
    case "at-most":
      return `at most ${q(limit.high)}`;
    case "from-to":
      return `${q(limit.low)} to ${q(limit.high)}`;
    case "one-of":
      return limit.words.join(" or ");
    case "yes-no":
      return limit.value ? "yes" : "no";
  }
}

/** What a claim names as the end of a range: the lower one of a range for a lowest value, the upper one for a highest; null where it names none. */
export function claimedEnd({
  characteristic: name,
  limit,
}: Pick<ClaimReading, "characteristic" | "limit">): number | null {
  const side = characteristic(name)?.end?.side;
  if (!side) return null;
  if (limit.kind === "from-to") return side === "low" ? limit.low : limit.high;
  if (side === "low") return limit.kind === "at-most" ? limit.high : null;
  return limit.kind === "at-least" ? limit.low : null;
}

/** A reading's conditions with the one whose range it names an end of: what a run has to be like that tests it. */
export function testedAt(reading: Pick<ClaimReading, "characteristic" | "limit" | "conditions">): ConditionSpecs {
  const [of, at] = [characteristic(reading.characteristic)?.end?.of, claimedEnd(reading)];
  return of && at !== null ? { ...reading.conditions, [of]: { at } } : reading.conditions;
}
