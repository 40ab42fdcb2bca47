/** What claims say of a quantity, for plans. */
import { highest, lowest } from "../../quantities";
import { claimedEnd, limitBounds, type Claim } from "../../claims";
import type { PlanContext } from "../contract";

/** The nominal value that a claim gives for a characteristic; undefined where none does. */
export function claimedNominal(claims: readonly Claim[], name: string): number | undefined {
  for (const r of claims.flatMap((c) => c.readings))
    if (r.characteristic === name && r.limit.kind === "nominal") return r.limit.nominal;
  return undefined;
}

/** The highest number any reading of the claims gives for a characteristic, or null. */
export function highestClaimed(claims: readonly Claim[], name: string, houseTolerance: number): number | null {
  const numbers = claims.flatMap((c) =>
    c.readings.flatMap((r) => {
      if (r.characteristic !== name) return [];
      if (r.limit.kind === "nominal") return [r.limit.nominal];
      const b = limitBounds(r.limit, houseTolerance);
      return b ? [b.low, b.high].filter(Number.isFinite) : [];
    }),
  );
  return numbers.length ? highest(numbers) : null;
}

/** The smallest number that any claim gives as what is reached at least or nominally; null where none does. */
export function smallestClaimed(claims: readonly Claim[], name: string): number | null {
  const numbers = claims.flatMap((c) =>
    c.readings.flatMap(({ characteristic, limit }) =>
      characteristic !== name
        ? []
        : limit.kind === "nominal"
          ? [limit.nominal]
          : limit.kind === "at-least" || limit.kind === "from-to"
            ? [limit.low]
            : [],
    ),
  );
  return numbers.length ? lowest(numbers) : null;
}

/** The nominal output in V: the setting of an adjustable output, else the claim's nominal, else the middle of its range. */
export function nominalOutput(context: PlanContext): number | null {
  if (context.configuration?.output) return context.configuration.output;
  for (const c of context.claims)
    for (const r of c.readings) {
      if (r.characteristic !== "boost.no-load-voltage") continue;
      if (r.limit.kind === "nominal") return r.limit.nominal;
      if (r.limit.kind === "from-to") return (r.limit.low + r.limit.high) / 2;
    }
  return null;
}

/** The ends of ranges that claims give for these quantities. */
export const claimedEnds = (claims: readonly Claim[], names: readonly string[]): number[] =>
  claims.flatMap((c) => c.readings.flatMap((r) => (names.includes(r.characteristic) ? (claimedEnd(r) ?? []) : [])));
