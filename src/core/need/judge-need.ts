import { characteristic, type BoardFunction } from "../characteristics";
import { limitBounds, overlap, readingText, type Claim, type ClaimReading } from "../claims";
import type { HouseRules } from "../measurement";
import { formatQuantity } from "../quantities";
import { judgeReading, type EvidenceSample } from "../verdicts";
import type { Fact, Facts, Need, Requirement } from "./need";

export const OUTCOME_WORDS = ["met", "missed", "in doubt", "open"] as const;
export type OutcomeWord = (typeof OUTCOME_WORDS)[number];
/** What an outcome rests on: what was measured, what only the simulated bench showed, what was claimed, what was written down of the board, what would be changed, or nothing. */
export type Basis = "measured" | "simulated" | "claimed" | "entered" | "changed" | "nothing";

export interface Outcome {
  readonly requirementId: string;
  readonly word: OutcomeWord;
  readonly basis: Basis;
  /** Why, in one sentence. */
  readonly why: string;
  readonly runId?: string;
  readonly claimId?: string;
}

/** A board as a need looks at it. */
export interface Candidate {
  readonly boardId: string;
  readonly title: string;
  readonly functions: readonly BoardFunction[];
  readonly facts: Facts;
  readonly claims: readonly Claim[];
  readonly evidence: readonly EvidenceSample[];
}

export const FACT_LABELS: Readonly<Record<Fact, string>> = {
  price: "Price",
  length: "Length",
  width: "Width",
  height: "Height",
};
const factText = (fact: Fact, v: number, currency: string): string =>
  fact === "price" ? `${currency}${v.toFixed(2)}` : formatQuantity(v, "m");

/**
 * The standby current that leaves a cell its life, A: C/t less the cell's own self-discharge.
 * Worked: 2 Ah for 90 days with 20 µA of its own leaves 0.906 mA. Negative where the cell alone does not last.
 */
export const currentForLife = (r: {
  readonly seconds: number;
  readonly capacity: number;
  readonly selfDischarge: number;
}): number => (r.capacity * 3600) / r.seconds - r.selfDischarge;

/** What a requirement asks of a measured quantity; null for what is written down of a board. `taken` A of standby are spoken for already. */
export function readingFor(r: Requirement, taken = 0): ClaimReading | null {
  if (r.kind === "quantity") return r.reading;
  if (r.kind === "fact") return null;
  return {
    characteristic: "standby.current",
    limit: { kind: "at-most", high: currentForLife(r) - taken },
    conditions: r.state ? { state: { word: r.state } } : {},
  };
}

export function requirementText(r: Requirement, currency: string): string {
  if (r.kind === "quantity") return readingText(r.reading);
  if (r.kind === "fact") return `${FACT_LABELS[r.fact]}: at most ${factText(r.fact, r.atMost, currency)}`;
  return `A cell of ${formatQuantity(r.capacity, "Ah")} lasts ${formatQuantity(r.seconds, "s")}${r.state ? `, ${r.state}` : ""}: standby at most ${formatQuantity(currentForLife(r), "A")}`;
}

/** Whether a claim speaks of what a requirement asks; what the claim does not name it does not restrict. */
const speaksOf = (claimed: ClaimReading, wanted: ClaimReading): boolean =>
  claimed.characteristic === wanted.characteristic && overlap(claimed.conditions, wanted.conditions);

/** How a claim's limit stands to a wanted one: it promises it, it denies it, or it leaves it open. */
function promised(claimed: ClaimReading, wanted: ClaimReading, rules: HouseRules): OutcomeWord {
  const [c, w] = [claimed.limit, wanted.limit];
  if (w.kind === "yes-no") return c.kind === "yes-no" ? (c.value === w.value ? "met" : "missed") : "in doubt";
  if (w.kind === "one-of")
    return c.kind === "one-of"
      ? c.words.every((x) => w.words.includes(x))
        ? "met"
        : c.words.some((x) => w.words.includes(x))
          ? "in doubt"
          : "missed"
      : "in doubt";
  const [a, b] = [limitBounds(c, rules.houseTolerance), limitBounds(w, rules.houseTolerance)];
  if (!a || !b) return "in doubt";
  // What is claimed as “1 A” is carried as well with less: a nominal or upper end does not deny an at-least below it.
  if (w.kind === "at-least" && c.kind === "nominal") return c.nominal >= w.low ? "met" : "missed";
  if (w.kind === "at-most" && c.kind === "nominal") return c.nominal <= w.high ? "met" : "missed";
  if (a.low >= b.low && a.high <= b.high) return "met";
  return a.high < b.low || a.low > b.high ? "missed" : "in doubt";
}

const WORST: readonly OutcomeWord[] = ["missed", "in doubt", "open", "met"];

/** One requirement against one board: what was measured decides where a fair run speaks of it, else what is claimed, told apart. */
export function judgeRequirement(
  r: Requirement,
  b: Candidate,
  need: Pick<Need, "currency">,
  rules: HouseRules,
  taken = 0,
): Outcome {
  if (r.kind === "fact") {
    const v = b.facts[r.fact];
    if (v === undefined)
      return {
        requirementId: r.id,
        word: "open",
        basis: "nothing",
        why: `Its ${FACT_LABELS[r.fact].toLowerCase()} was not entered.`,
      };
    return {
      requirementId: r.id,
      word: v <= r.atMost ? "met" : "missed",
      basis: "entered",
      why: `${FACT_LABELS[r.fact]} ${factText(r.fact, v, need.currency)}.`,
    };
  }
  const wanted = readingFor(r, taken) as ClaimReading;
  const own = characteristic(wanted.characteristic)?.of ?? null;
  if (r.kind === "life" && currentForLife(r) - taken <= 0)
    return {
      requirementId: r.id,
      word: "missed",
      basis: "entered",
      why: "The cell's own self-discharge, and what is added to it, already take more than that.",
    };
  const v = judgeReading(wanted, b.evidence, rules);
  const runId = v.judged[0]?.runId;
  const measured = (word: OutcomeWord): Outcome => ({
    requirementId: r.id,
    word,
    basis: v.simulated ? "simulated" : "measured",
    why: v.why[0] ?? "",
    ...(runId ? { runId } : {}),
  });
  if (v.word === "meets") return measured("met");
  if (v.word === "misses") return measured("missed");
  if (v.word === "too close to call") return measured("in doubt");
  const statements = b.claims.flatMap((c) =>
    c.readings.flatMap((reading) =>
      speaksOf(reading, wanted) ? [{ claim: c, word: promised(reading, wanted, rules) }] : [],
    ),
  );
  const worst = statements.sort((x, y) => WORST.indexOf(x.word) - WORST.indexOf(y.word))[0];
  const unmeasured =
    v.judged.length === 0
      ? "Not measured"
      : v.word === "not fairly tested"
        ? "Not fairly tested"
        : "Not measured far enough";
  if (worst) {
    const says = { met: "claimed", missed: "claims less", "in doubt": "leaves it open", open: "no claim" }[worst.word];
    return {
      requirementId: r.id,
      word: worst.word,
      basis: "claimed",
      why: `${unmeasured}: the ${worst.claim.source.kind} (“${worst.claim.source.wording}”) ${says}.`,
      claimId: worst.claim.id,
      ...(runId ? { runId } : {}),
    };
  }
  if (own && own !== "board" && b.functions.length > 0 && !b.functions.includes(own))
    return { requirementId: r.id, word: "missed", basis: "entered", why: `It has no ${own.replace("-", " ")}.` };
  return {
    requirementId: r.id,
    word: "open",
    basis: "nothing",
    why: `${unmeasured}, and ${(characteristic(wanted.characteristic)?.label ?? wanted.characteristic).toLowerCase()} is not claimed.`,
  };
}

/** Every requirement of a need against one board, in their order. */
export const judgeNeed = (
  need: Pick<Need, "currency" | "requirements">,
  b: Candidate,
  rules: HouseRules,
): readonly Outcome[] => need.requirements.map((r) => judgeRequirement(r, b, need, rules));
