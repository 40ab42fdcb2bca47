import { characteristic } from "../characteristics";
import { limitBounds } from "../claims";
import type { HouseRules } from "../measurement";
import { formatQuantity } from "../quantities";
import { addedTo, suppliedBy, type Added } from "./added";
import { judgeBehind } from "./behind-resistance";
import { judgeRequirement, type Candidate, type Outcome } from "./judge-need";
import type { Need, OwnBuild, Requirement } from "./need";
import { tally, type Ranked, type Tally } from "./rank";

/** One way to what a need asks for. */
export interface Way {
  readonly kind: "buy" | "modify" | "build";
  readonly title: string;
  readonly outcomes: readonly Outcome[];
  readonly must: Tally;
  readonly should: Tally;
  /** Null where it is not written down. */
  readonly price: number | null;
  /** What it takes, and what it costs besides money. */
  readonly takes: readonly string[];
}

/** The charge current that another programme resistor would have to give, A; null where no requirement asks for one that the board misses. */
function otherCurrent(
  r: Requirement,
  o: Outcome,
  b: Candidate,
  rules: HouseRules,
): { readonly amps: number; readonly now: number } | null {
  if (
    r.kind !== "quantity" ||
    r.reading.characteristic !== "charge.cc-current" ||
    o.word !== "missed" ||
    o.basis !== "measured" ||
    !b.functions.includes("charger")
  )
    return null;
  const wanted = limitBounds(r.reading.limit, rules.houseTolerance);
  const measured = b.evidence
    .flatMap((s) => s.runs)
    .filter((x) => x.id === o.runId)
    .flatMap((x) => x.findings)
    .find((f) => f.characteristic === "charge.cc-current");
  if (!wanted || !measured || typeof measured.value !== "number") return null;
  const amps =
    wanted.high === Infinity
      ? wanted.low * 1.05
      : wanted.low === -Infinity
        ? wanted.high * 0.95
        : (wanted.low + wanted.high) / 2;
  // A resistor lowers a charge current; raising it beyond what the board was made for is another board.
  return amps > 0 && amps < measured.value ? { amps, now: measured.value } : null;
}

/**
 * Buy, modify or build: the board as it is; the board with what it lacks added (a protection board in front of the cell, another
 * programme resistor), each with what that does to price, standby, height and the volts that the board sees; and one's own. What is
 * not built yet has met nothing but what was written down of it.
 */
export function ways(
  need: Need,
  b: Candidate,
  ranked: Pick<Ranked, "outcomes" | "must" | "should" | "price">,
  rules: HouseRules,
  all: readonly Candidate[] = [],
): Way[] {
  const buy: Way = {
    kind: need.build?.boardId === b.boardId ? "build" : "buy",
    title: `${b.title} as it is`,
    outcomes: ranked.outcomes,
    must: ranked.must,
    should: ranked.should,
    price: ranked.price,
    takes: [],
  };
  return [
    buy,
    ...modified(need, b, ranked.outcomes, rules, all),
    ...(need.build && need.build.boardId !== b.boardId ? [ownBuild(need, need.build, rules, all)] : []),
  ];
}

/** The board with what it lacks added; none where nothing is lacking that could be. */
function modified(
  need: Need,
  b: Candidate,
  as: readonly Outcome[],
  rules: HouseRules,
  all: readonly Candidate[],
): Way[] {
  const of = (id: string) => as.find((o) => o.requirementId === id) as Outcome;
  const add = addedTo(need, b, all, rules);
  const supplied = new Map(
    need.requirements.flatMap((r) => {
      const o = add && suppliedBy(add, r, of(r.id), need, rules);
      return o ? [[r.id, o] as const] : [];
    }),
  );
  const currents = need.requirements.flatMap((r) => {
    const c = otherCurrent(r, of(r.id), b, rules);
    return c ? [{ r, c }] : [];
  });
  if (supplied.size === 0 && currents.length === 0) return [];
  const added = supplied.size ? add : null;
  const facts = added
    ? {
        ...b.facts,
        ...(b.facts.price === undefined ? {} : { price: b.facts.price + added.price }),
        ...(b.facts.height === undefined ? {} : { height: b.facts.height + added.height }),
      }
    : b.facts;
  const changed = { ...b, facts };
  const outcomes = need.requirements.map((r): Outcome => {
    const own = supplied.get(r.id);
    if (own) return own;
    if (currents.some((x) => x.r === r))
      return {
        requirementId: r.id,
        word: "met",
        basis: "changed",
        why: "With another programming resistor. Verify with a charge.",
      };
    if (r.kind === "quantity") return (added && judgeBehind(r, of(r.id), b, added, need, rules)) ?? of(r.id);
    return judgeRequirement(r, changed, need, rules, r.kind === "life" ? (added?.current ?? 0) : 0);
  });
  const names = need.requirements.flatMap((r) =>
    r.kind === "quantity" && supplied.has(r.id)
      ? [(characteristic(r.reading.characteristic)?.label ?? "").toLowerCase()]
      : [],
  );
  return [
    {
      kind: "modify",
      title: `${b.title}, modified`,
      outcomes,
      must: tally(need, outcomes, "must"),
      should: tally(need, outcomes, "should"),
      price: facts.price ?? null,
      takes: [
        ...(added ? [addition(need, added, names)] : []),
        ...currents.map(
          ({ c }) =>
            `A programming resistor ${formatQuantity(c.now / c.amps, "", { digits: 3 })} times as large, for ${formatQuantity(c.amps, "A", { digits: 3 })} instead of ${formatQuantity(c.now, "A", { digits: 3 })}.`,
        ),
      ],
    },
  ];
}

/** What adding the board takes and changes, in a sentence. */
function addition(need: Need, added: Added, names: readonly string[]): string {
  const way = added.resistance
    ? `, ${formatQuantity(added.resistance, "Ω")} in the battery's way (${formatQuantity(added.resistance, "V")} less for each ampere)`
    : "";
  const limits = [
    added.trip ? `trips at ${formatQuantity(added.trip.value, "A", { digits: 3 })}` : "",
    added.cut ? `cuts at ${formatQuantity(added.cut.value, "V", { digits: 3 })}` : "",
  ].filter(Boolean);
  return `${added.title ?? "A protection board"} for ${names.join(", ")}: ${need.currency}${added.price.toFixed(2)}, ${formatQuantity(added.current, "A")} more from the cell at all times, ${formatQuantity(added.height, "m")} more height${way}${limits.length ? `; it ${limits.join(" and ")}` : ""}.`;
}

/** One's own: what was written down of it, and as it was measured once it is a board of the notebook. */
function ownBuild(need: Need, build: OwnBuild, rules: HouseRules, all: readonly Candidate[]): Way {
  const made = all.find((c) => c.boardId === build.boardId);
  const cost = build.parts + build.hours * build.hourly;
  const price = made?.facts.price ?? cost;
  const outcomes = need.requirements.map((r): Outcome => {
    if (r.kind === "fact" && r.fact === "price")
      return {
        requirementId: r.id,
        word: price <= r.atMost ? "met" : "missed",
        basis: "entered",
        why: `${need.currency}${price.toFixed(2)}${made?.facts.price === undefined ? " with the hours" : ""}.`,
      };
    return made
      ? judgeRequirement(r, made, need, rules)
      : { requirementId: r.id, word: "open", basis: "nothing", why: "To be designed for, then measured." };
  });
  return {
    kind: "build",
    title: made?.title ?? "One's own",
    outcomes,
    must: tally(need, outcomes, "must"),
    should: tally(need, outcomes, "should"),
    price,
    takes: [
      `${need.currency}${build.parts.toFixed(2)} of parts and ${formatQuantity(build.hours * 3600, "s")} at the bench.`,
      made ? "It is built, and judged as it was measured." : "Nothing is measured until it is built.",
    ],
  };
}
