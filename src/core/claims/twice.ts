import type { ConditionSpec, ConditionSpecs } from "../characteristics";
import { limitBounds, type Claim, type ClaimReading, type Limit } from "./claim";

/** How the limits of several claims on one quantity stand to each other. */
export type Relation = "the same" | "one stricter" | "overlapping" | "contradicting";

/** One quantity of which two sources or more speak, under conditions that can be met together. */
export interface TwiceSaid {
  readonly characteristic: string;
  readonly sayings: readonly { readonly claim: Claim; readonly reading: ClaimReading }[];
  readonly relation: Relation;
}

const range = (s: ConditionSpec): readonly [number, number] | null =>
  "word" in s ? null : "at" in s ? [s.at * 0.97, s.at * 1.03] : [s.from, s.to];

/** Whether two claims can speak of one and the same run: what only one of them names does not part them. */
export function overlap(a: ConditionSpecs, b: ConditionSpecs): boolean {
  return Object.entries(a).every(([name, x]) => {
    const y = b[name as keyof ConditionSpecs];
    if (!x || !y) return true;
    if ("word" in x || "word" in y)
      return "word" in x && "word" in y && x.word.trim().toLowerCase() === y.word.trim().toLowerCase();
    const [p, q] = [range(x), range(y)];
    return !p || !q || (p[0] <= q[1] && q[0] <= p[1]);
  });
}

/** How two limits stand to each other; a bare number with the tolerance of the house. */
export function relate(a: Limit, b: Limit, houseTolerance: number): Relation {
  const [x, y] = [limitBounds(a, houseTolerance), limitBounds(b, houseTolerance)];
  if (!x || !y) {
    const words = (l: Limit) =>
      l.kind === "one-of"
        ? l.words.map((w) => w.trim().toLowerCase()).sort()
        : l.kind === "yes-no"
          ? [l.value ? "yes" : "no"]
          : [];
    const [p, q] = [words(a), words(b)];
    if (p.join() === q.join()) return "the same";
    return p.every((w) => q.includes(w)) || q.every((w) => p.includes(w))
      ? "one stricter"
      : p.some((w) => q.includes(w))
        ? "overlapping"
        : "contradicting";
  }
  if (x.low === y.low && x.high === y.high) return "the same";
  if (x.high < y.low || y.high < x.low) return "contradicting";
  return (x.low >= y.low && x.high <= y.high) || (y.low >= x.low && y.high <= x.high) ? "one stricter" : "overlapping";
}

const GRAVEST: readonly Relation[] = ["contradicting", "overlapping", "one stricter", "the same"];

/**
 * The quantities of which two claims or more speak, in the order in which they are first spoken of; several ways of reading one claim
 * are not two claims. The relation is the gravest between any two of them.
 */
export function saidTwice(claims: readonly Claim[], houseTolerance: number): TwiceSaid[] {
  const groups: { characteristic: string; sayings: { claim: Claim; reading: ClaimReading }[] }[] = [];
  for (const claim of claims)
    for (const reading of claim.readings) {
      const there = groups.find(
        (g) =>
          g.characteristic === reading.characteristic &&
          g.sayings.some((s) => overlap(s.reading.conditions, reading.conditions)),
      );
      if (there) there.sayings.push({ claim, reading });
      else groups.push({ characteristic: reading.characteristic, sayings: [{ claim, reading }] });
    }
  return groups
    .filter((g) => new Set(g.sayings.map((s) => s.claim.id)).size > 1)
    .map((g) => {
      const pairs = g.sayings.flatMap((a, i) =>
        g.sayings
          .slice(i + 1)
          .flatMap((b) =>
            a.claim.id !== b.claim.id && overlap(a.reading.conditions, b.reading.conditions)
              ? [relate(a.reading.limit, b.reading.limit, houseTolerance)]
              : [],
          ),
      );
      return { ...g, relation: GRAVEST.find((r) => pairs.includes(r)) ?? "the same" };
    });
}
