import { characteristic } from "../characteristics";
import { limitBounds } from "../claims";
import type { HouseRules } from "../procedures";
import { formatQuantity } from "../quantities";
import { judgeBehind } from "./behind-resistance";
import { judgeRequirement, type Candidate, type Outcome } from "./judge-need";
import type { Need, Requirement } from "./need";
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
function otherCurrent(r: Requirement, o: Outcome, b: Candidate, rules: HouseRules): { readonly amps: number; readonly now: number } | null {
  if (r.kind !== "quantity" || r.reading.characteristic !== "charge.cc-current" || o.word !== "missed" || o.basis !== "measured" || !b.functions.includes("charger")) return null;
  const wanted = limitBounds(r.reading.limit, rules.houseTolerance);
  const measured = b.evidence.flatMap((s) => s.runs).filter((x) => x.id === o.runId).flatMap((x) => x.findings).find((f) => f.characteristic === "charge.cc-current");
  if (!wanted || !measured || typeof measured.value !== "number") return null;
  const amps = wanted.high === Infinity ? wanted.low * 1.05 : wanted.low === -Infinity ? wanted.high * 0.95 : (wanted.low + wanted.high) / 2;
  // A resistor lowers a charge current; raising it beyond what the board was made for is another board.
  return amps > 0 && amps < measured.value ? { amps, now: measured.value } : null;
}

/**
 * Buy, modify or build: the board as it is; the board with what it lacks added (a protection board in front of the cell, another
 * programme resistor), each with what that does to price, standby, height and the volts that the board sees; and one's own. What is
 * not built yet has met nothing but what was written down of it.
 */
export function ways(need: Need, b: Candidate, ranked: Pick<Ranked, "outcomes" | "must" | "should" | "price">, rules: HouseRules): Way[] {
  const out: Way[] = [{ kind: "buy", title: `${b.title} as it is`, outcomes: ranked.outcomes, must: ranked.must, should: ranked.should, price: ranked.price, takes: [] }];
  const of = (id: string) => ranked.outcomes.find((o) => o.requirementId === id) as Outcome;
  const add = need.addedBoard;
  const lacking = add ? need.requirements.filter((r) => r.kind === "quantity" && add.supplies.includes(r.reading.characteristic) && of(r.id).word !== "met") : [];
  const currents = need.requirements.flatMap((r) => {
    const c = otherCurrent(r, of(r.id), b, rules);
    return c ? [{ r, c }] : [];
  });
  if (lacking.length || currents.length) {
    const added = lacking.length ? add : undefined;
    const facts = added ? { ...b.facts, ...(b.facts.price === undefined ? {} : { price: b.facts.price + added.price }), ...(b.facts.height === undefined ? {} : { height: b.facts.height + added.height }) } : b.facts;
    const changed = { ...b, facts };
    const outcomes = need.requirements.map((r): Outcome => {
      if (added && lacking.includes(r)) return { requirementId: r.id, word: "met", basis: "changed", why: "Supplied by the added protection board; test it like any other." };
      if (currents.some((x) => x.r === r)) return { requirementId: r.id, word: "met", basis: "changed", why: "With another programming resistor. Verify with a charge." };
      if (r.kind === "quantity") return judgeBehind(r, of(r.id), b, added?.resistance ?? 0, need, rules) ?? of(r.id);
      return judgeRequirement(r, changed, need, rules, r.kind === "life" ? (added?.current ?? 0) : 0);
    });
    const way = added?.resistance ? `, ${formatQuantity(added.resistance, "Ω")} in the battery's way (${formatQuantity(added.resistance, "V")} less for each ampere)` : "";
    out.push({
      kind: "modify",
      title: `${b.title}, modified`,
      outcomes,
      must: tally(need, outcomes, "must"),
      should: tally(need, outcomes, "should"),
      price: facts.price ?? null,
      takes: [
        ...(added
          ? [
              `A protection board for ${lacking.map((r) => (r.kind === "quantity" ? (characteristic(r.reading.characteristic)?.label ?? "").toLowerCase() : "")).join(", ")}: ${need.currency}${added.price.toFixed(2)}, ${formatQuantity(added.current, "A")} more from the cell at all times, ${formatQuantity(added.height, "m")} more height${way}.`,
            ]
          : []),
        ...currents.map(({ c }) => `A programming resistor ${formatQuantity(c.now / c.amps, "", { digits: 3 })} times as large, for ${formatQuantity(c.amps, "A", { digits: 3 })} instead of ${formatQuantity(c.now, "A", { digits: 3 })}.`),
      ],
    });
  }
  if (need.build) {
    const price = need.build.parts + need.build.hours * need.build.hourly;
    const outcomes = need.requirements.map((r): Outcome =>
      r.kind === "fact" && r.fact === "price"
        ? { requirementId: r.id, word: price <= r.atMost ? "met" : "missed", basis: "entered", why: `${need.currency}${price.toFixed(2)} with the hours.` }
        : { requirementId: r.id, word: "open", basis: "nothing", why: "To be designed for, then measured." },
    );
    out.push({
      kind: "build",
      title: "One's own",
      outcomes,
      must: tally(need, outcomes, "must"),
      should: tally(need, outcomes, "should"),
      price,
      takes: [`${need.currency}${need.build.parts.toFixed(2)} of parts and ${formatQuantity(need.build.hours * 3600, "s")} at the bench.`, "Nothing is measured until it is built."],
    });
  }
  return out;
}
