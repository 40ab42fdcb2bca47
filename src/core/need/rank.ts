import type { Candidate, Outcome } from "./judge-need";
import type { Level, Need } from "./need";

/** How many requirements of a level came out how. */
export interface Tally {
  readonly missed: number;
  /** In doubt, or nothing known. */
  readonly unsure: number;
  /** Promised, not measured. */
  readonly claimed: number;
  readonly met: number;
  readonly of: number;
}

export interface Ranked {
  readonly boardId: string;
  readonly title: string;
  readonly outcomes: readonly Outcome[];
  readonly must: Tally;
  readonly should: Tally;
  readonly price: number | null;
  /** 1 for the first; boards that nothing tells apart share one. */
  readonly place: number;
  /** Why it stands there, in sentences. */
  readonly reasons: readonly string[];
}

/** A board to be ranked: how each requirement of the need came out for it. */
export interface RankedBoard extends Pick<Candidate, "boardId" | "title" | "facts"> {
  readonly outcomes: readonly Outcome[];
}

export function tally(need: Need, outcomes: readonly Outcome[], level: Level): Tally {
  const ids = new Set(need.requirements.filter((r) => r.level === level).map((r) => r.id));
  const own = outcomes.filter((o) => ids.has(o.requirementId));
  const met = own.filter((o) => o.word === "met");
  const claimed = met.filter((o) => o.basis === "claimed" || o.basis === "simulated").length;
  return {
    missed: own.filter((o) => o.word === "missed").length,
    unsure: own.filter((o) => o.word === "in doubt" || o.word === "open").length,
    claimed,
    met: met.length - claimed,
    of: own.length,
  };
}

type Sides = Pick<Ranked, "must" | "should" | "price">;
/** What tells two boards apart, the weightiest first; smaller is better. */
const CRITERIA: readonly { readonly of: (r: Sides) => number; readonly more: (n: number) => string }[] = [
  { of: (r) => r.must.missed, more: (n) => `misses ${n} more ${n === 1 ? "must" : "musts"}` },
  { of: (r) => r.must.unsure, more: (n) => `leaves ${n} more ${n === 1 ? "must" : "musts"} unsure` },
  {
    of: (r) => r.must.claimed,
    more: (n) => `rests on claims or simulated runs for ${n} more ${n === 1 ? "must" : "musts"}`,
  },
  { of: (r) => r.should.missed, more: (n) => `misses ${n} more ${n === 1 ? "wish" : "wishes"}` },
  { of: (r) => r.should.unsure, more: (n) => `leaves ${n} more ${n === 1 ? "wish" : "wishes"} unsure` },
  {
    of: (r) => r.should.claimed,
    more: (n) => `rests on claims or simulated runs for ${n} more ${n === 1 ? "wish" : "wishes"}`,
  },
  { of: (r) => r.price ?? Infinity, more: () => "costs more, or its price is not entered" },
];

const compare = (a: Sides, b: Sides): number => {
  for (const c of CRITERIA) {
    const [x, y] = [c.of(a), c.of(b)];
    if (x !== y) return x - y;
  }
  return 0;
};

function standing(t: Tally, what: "must" | "wish"): string {
  if (t.of === 0) return what === "must" ? "No must-haves." : "";
  const many = what === "must" ? "musts" : "wishes";
  if (t.met === t.of) return t.of === 1 ? `The one ${what} is met.` : `All ${t.of} ${many} are met.`;
  const parts = [
    t.met ? `${t.met} met` : "",
    t.claimed ? `${t.claimed} only claimed` : "",
    t.unsure ? `${t.unsure} unsure` : "",
    t.missed ? `${t.missed} missed` : "",
  ].filter(Boolean);
  return `Of ${t.of} ${t.of === 1 ? what : many}: ${parts.join(", ")}.`;
}

/**
 * Boards in the order in which they serve a need: musts before wishes, missed before unsure before only promised, then the price. Each
 * place says what it rests on and what puts it behind the board before it.
 */
export function rank(need: Need, boards: readonly RankedBoard[]): Ranked[] {
  const judged = boards.map(({ boardId, title, facts, outcomes }) => ({
    boardId,
    title,
    outcomes,
    must: tally(need, outcomes, "must"),
    should: tally(need, outcomes, "should"),
    price: facts.price ?? null,
  }));
  judged.sort((a, b) => compare(a, b) || a.title.localeCompare(b.title, "en", { numeric: true }));
  const out: Ranked[] = [];
  for (const [i, j] of judged.entries()) {
    const before = out[i - 1];
    const apart = before ? CRITERIA.find((c) => c.of(before) !== c.of(j)) : undefined;
    const behind =
      before && apart
        ? [`Behind ${before.title}: it ${apart.more(apart.of(j) - apart.of(before))}.`]
        : before
          ? [`Nothing tells it apart from ${before.title}.`]
          : [];
    out.push({
      ...j,
      place: before && !apart ? before.place : i + 1,
      reasons: [standing(j.must, "must"), standing(j.should, "wish"), ...behind].filter(Boolean),
    });
  }
  return out;
}
