import type { Limit } from "../claims";
import { sameAccuracy, type Accuracy, type MeterRange } from "../instruments";
import { roleLabel, roleUnit, type Finding, type HouseRules, type RunSetup, type Role } from "../measurement";
import { formatQuantity, type Unit, type ErrorSource } from "../quantities";
import { judgeFinding, type VerdictWord } from "./judge-finding";

/** A range that could read a role instead, and whose it is. */
export interface OtherRange {
  readonly instrumentId: string;
  readonly instrument: string;
  readonly range: MeterRange;
}

export interface SettleMeans {
  readonly setup: RunSetup;
  /** Every range of the user's instruments. */
  readonly ranges: readonly OtherRange[];
  /** The largest magnitude that the run read of a role; absent where nobody looked. */
  readonly largest: Readonly<Partial<Record<Role, number>>>;
}

/** What could be done otherwise, were the run made again. */
export type Change =
  | { readonly kind: "range" | "meter"; readonly role: Role; readonly accuracy: Accuracy; readonly text: string }
  | { readonly kind: "check"; readonly role: Role; readonly accuracy: Accuracy; readonly text: string }
  | { readonly kind: "four wires"; readonly text: string }
  | { readonly kind: "repeats"; readonly times: number; readonly text: string };

/** What a change costs at the bench: turning a knob before repeating by hand, both before fetching, checking or soldering anything. */
const COST: Readonly<Record<Change["kind"], number>> = { range: 1, repeats: 2, "four wires": 3, meter: 4, check: 5 };
/** Repeats beyond a handful cost more than other leads. */
const FEW_REPEATS = 5;
const costOf = (c: Change): number => (c.kind === "repeats" && c.times > FEW_REPEATS ? 3.5 : COST[c.kind]);

/** A change that would settle a close call, with the interval it would give if the value stayed where it is. */
export interface Settling {
  readonly change: Change;
  readonly word: Extract<VerdictWord, "meets" | "misses">;
  readonly interval: { readonly low: number; readonly high: number };
}

/** More repeats than this nobody takes by hand. */
export const MOST_REPEATS = 25;

/**
 * A finding with its sources of doubt scaled one by one and put together anew (JCGM 100, 5.1.2: the sources are independent, so the
 * squares of what is left add up). The value stays. Worked: 3 mV from gain and 4 mV of the reading's own give U = 10 mV; the own part
 * halved, U = 2·√(9 + 4) = 7.2 mV.
 */
export function scaledDoubt(f: Finding, factor: (source: ErrorSource) => number): Finding {
  const budget = f.budget.map((b) => ({ ...b, u: b.u * factor(b.source) })).filter((b) => b.u > 0);
  const total = budget.reduce((s, b) => s + b.u ** 2, 0);
  return {
    ...f,
    expandedUncertainty: 2 * Math.sqrt(total),
    budget: budget.map((b) => ({ ...b, share: total > 0 ? b.u ** 2 / total : 0 })).sort((a, b) => b.u - a.u),
  };
}

/** What could be changed about a run whose finding is too close to call, in the order in which one would try it. */
export function changesFor(f: Finding, means: SettleMeans): Change[] {
  const out: Change[] = [];
  const roles = [...new Set(f.budget.flatMap((b) => (b.source.role as Role | undefined) ?? []))];
  for (const role of roles) {
    const now = means.setup.instruments[role];
    const pinned = means.setup.meters?.[role];
    const most = means.largest[role] ?? pinned?.upTo;
    const what = roleLabel(role).toLowerCase();
    const fit = means.ranges.filter(
      (r) =>
        r.range.unit === roleUnit(role) &&
        most !== undefined &&
        r.range.upTo >= most &&
        !sameAccuracy(r.range.accuracy, now),
    );
    for (const r of fit) {
      const own = r.instrumentId === pinned?.instrumentId;
      out.push({
        kind: own ? "range" : "meter",
        role,
        accuracy: r.range.accuracy,
        text: own
          ? `Read ${what} in the ${r.range.title} range of ${r.instrument}.`
          : `Read ${what} with ${r.instrument}, range ${r.range.title}.`,
      });
    }
    for (const r of fit.filter((x) => x.instrumentId !== pinned?.instrumentId && now))
      out.push({
        kind: "check",
        role,
        // What the check leaves of gain and offset is the better meter's; the resolution stays the own one's.
        accuracy: {
          gain: r.range.accuracy.gain,
          counts:
            (now as Accuracy).resolution > 0
              ? (r.range.accuracy.counts * r.range.accuracy.resolution) / (now as Accuracy).resolution
              : 0,
          resolution: (now as Accuracy).resolution,
        },
        text: `Check the ${what} meter against ${r.instrument}, range ${r.range.title}, and use its correction.`,
      });
  }
  if (f.budget.some((b) => b.source.kind === "lead"))
    out.push({ kind: "four wires", text: "Measure the voltage four-wire, at the module's own terminals." });
  if (f.budget.some((b) => b.source.kind === "own"))
    for (let times = 2; times <= MOST_REPEATS; times++)
      out.push({ kind: "repeats", times, text: `Repeat the reading ${times} times and take the mean.` });
  return out;
}

/** Analyses the run anew with other accuracies; gives what it then finds. */
export type Again = (setup: RunSetup) => Promise<readonly Finding[]>;

const sameConditions = (a: Finding, b: Finding): boolean =>
  JSON.stringify(Object.entries(a.conditions).sort()) === JSON.stringify(Object.entries(b.conditions).sort());

/**
 * Of everything that could be changed, what would settle a close call. Another meter is propagated by analysing the run's own readings
 * with its accuracy; four wires and repeats by scaling what they take away. Of several ranges of one instrument the one that settles
 * with the least doubt is kept, of repeats the fewest. What would leave it open is left out; what costs least at the bench comes first.
 */
export async function whatSettles(
  f: Finding,
  limit: Limit,
  unit: Unit,
  rules: HouseRules,
  means: SettleMeans,
  again: Again,
): Promise<Settling[]> {
  const best = new Map<string, Settling & { readonly u: number }>();
  for (const change of changesFor(f, means)) {
    const key =
      change.kind === "repeats" || change.kind === "four wires"
        ? change.kind
        : `${change.kind} ${change.role} ${change.text.replace(/range.*$|in the .* range/, "")}`;
    if (change.kind === "repeats" && best.has(key)) continue;
    const other = await changed(f, change, means, again);
    if (!other) continue;
    const v = judgeFinding({ ...other, unfair: [] }, limit, unit, rules);
    if ((v.word !== "meets" && v.word !== "misses") || !v.interval) continue;
    const u = other.expandedUncertainty ?? 0;
    const there = best.get(key);
    if (!there || u < there.u) best.set(key, { change, word: v.word, interval: v.interval, u });
  }
  return [...best.values()]
    .map(({ change, word, interval }) => ({ change, word, interval }))
    .sort((a, b) => costOf(a.change) - costOf(b.change));
}

async function changed(f: Finding, change: Change, means: SettleMeans, again: Again): Promise<Finding | null> {
  if (change.kind === "repeats") return scaledDoubt(f, (s) => (s.kind === "own" ? 1 / Math.sqrt(change.times) : 1));
  if (change.kind === "four wires") return scaledDoubt(f, (s) => (s.kind === "lead" ? 0 : 1));
  const verdict = await again({
    ...means.setup,
    instruments: { ...means.setup.instruments, [change.role]: change.accuracy },
  });
  const other = verdict.find((x) => x.characteristic === f.characteristic && sameConditions(x, f));
  return other && typeof other.value === "number" && !other.bound ? other : null;
}

/**
 * One more point that tells on which side of the limit a quantity lies: between the last that held and the first that fell, or, where nothing
 * fell yet, past the last one held.
 */
export function pointToTake(
  f: Finding,
  bounds: { readonly low: number; readonly high: number },
  unit: Unit,
): string | null {
  const u = f.expandedUncertainty ?? 0;
  if (
    f.bound === "at-least" &&
    typeof f.value === "number" &&
    Number.isFinite(bounds.low) &&
    f.value - u < bounds.low
  ) {
    const next = bounds.low + 2 * Math.max(u, 0.001 * bounds.low);
    return `Record one more point at ${formatQuantity(next, unit, { digits: 4 })}: past the last one held, ${formatQuantity(f.value, unit, { digits: 4 })}, and past the limit with its uncertainty. If it holds, the claim is met.`;
  }
  if (!f.bracket) return null;
  const limit = [bounds.low, bounds.high].find(
    (b) => Number.isFinite(b) && f.bracket && b > f.bracket.low - u && b < f.bracket.high + u,
  );
  if (limit === undefined) return null;
  const at = limit === bounds.low ? limit + u : limit - u;
  if (at <= f.bracket.low || at >= f.bracket.high) return null;
  return `Record a point at ${formatQuantity(at, unit, { digits: 4 })}, the limit plus its uncertainty: the result is between ${formatQuantity(f.bracket.low, unit, { digits: 4 })} and ${formatQuantity(f.bracket.high, unit, { digits: 4 })}, and this point decides.`;
}
