import { limitBounds } from "../claims";
import type { Finding, HouseRules } from "../measurement";
import { formatQuantity, highest } from "../quantities";
import { judgeRequirement, type Candidate, type Outcome, type OutcomeWord } from "./judge-need";
import type { AddedBoard, Need, Requirement } from "./need";

/** A limit that a protection board sets, and whether it was measured or is only claimed. */
export interface Sets {
  readonly value: number;
  readonly basis: "measured" | "claimed";
}

/** The protection board that could be added, with what is known of it: measured where it is a board of the notebook, else as entered. */
export interface Added extends Omit<AddedBoard, "boardId" | "resistance"> {
  /** What it is called; null where it is no board of the notebook. */
  readonly title: string | null;
  readonly board: Candidate | null;
  readonly resistance: number;
  /** A of the battery at which it trips, and V at which it disconnects; the cautious ends of what is known. Null where nothing is. */
  readonly trip: Sets | null;
  readonly cut: Sets | null;
}

/** What fair runs with real readings found of a quantity, the newest first; what was played on the simulated bench only where there is nothing else. */
function found(b: Candidate, name: string): Finding[] {
  const runs = b.evidence
    .flatMap((s) => s.runs)
    .filter(
      (r) =>
        r.finished && r.setAside === null && r.findings.some((f) => f.characteristic === name && f.unfair.length === 0),
    );
  const real = runs.filter((r) => !r.simulated);
  return (real.length ? real : runs)
    .sort((x, y) => y.startUtc.localeCompare(x.startUtc))
    .flatMap((r) => r.findings.filter((f) => f.characteristic === name && f.unfair.length === 0));
}

/** A measured number, or where there is none what is claimed, at the end given: `low` or `high` of its interval. */
function sets(b: Candidate, name: string, end: "low" | "high", rules: HouseRules): Sets | null {
  const f = found(b, name).find((x) => typeof x.value === "number");
  if (f && typeof f.value === "number")
    return { value: f.value + (end === "low" ? -1 : 1) * (f.expandedUncertainty ?? 0), basis: "measured" };
  for (const r of b.claims.flatMap((c) => c.readings)) {
    const bounds = r.characteristic === name ? limitBounds(r.limit, rules.houseTolerance) : null;
    if (bounds && Number.isFinite(bounds[end])) return { value: bounds[end], basis: "claimed" };
  }
  return null;
}

/** The added board of a need; null where none is allowed, or where it is the very board that it would be added to. */
export function addedTo(
  need: Pick<Need, "addedBoard">,
  to: Candidate,
  all: readonly Candidate[],
  rules: HouseRules,
): Added | null {
  const add = need.addedBoard;
  if (!add || add.boardId === to.boardId) return null;
  const { boardId, resistance = 0, ...entered } = add;
  const board = all.find((c) => c.boardId === boardId) ?? null;
  if (!board) return { ...entered, resistance, title: null, board: null, trip: null, cut: null };
  const number = (name: string) => found(board, name).flatMap((f) => (typeof f.value === "number" ? [f.value] : []));
  // The slope of a converter's output is no resistance in the battery's way.
  const ohms = board.functions.includes("boost") ? NaN : highest(number("boost.output-resistance"));
  const current = highest(number("standby.current"));
  return {
    ...entered,
    price: board.facts.price ?? entered.price,
    height: board.facts.height ?? entered.height,
    current: current > 0 ? current : entered.current,
    resistance: ohms > 0 ? ohms : resistance,
    title: board.title,
    board,
    trip: sets(board, "protect.over-current", "low", rules),
    cut: sets(board, "protect.over-discharge-voltage", "high", rules),
  };
}

const PROTECTION = "protect.";
/** Words of an outcome, the better the later: what nobody knows may still be so. */
const BETTER: readonly OutcomeWord[] = ["missed", "open", "in doubt", "met"];

/**
 * A requirement of protection that the added board would answer better than the board does: as it was measured where it is a board of the
 * notebook, else as it is said to supply. Null where it would not.
 */
export function suppliedBy(
  added: Added,
  r: Requirement,
  as: Outcome,
  need: Pick<Need, "currency">,
  rules: HouseRules,
): Outcome | null {
  if (r.kind !== "quantity" || as.word === "met") return null;
  const name = r.reading.characteristic;
  if (!added.board)
    return added.supplies.includes(name)
      ? {
          requirementId: r.id,
          word: "met",
          basis: "changed",
          why: "Supplied by the added protection board; test it like any other.",
        }
      : null;
  if (!name.startsWith(PROTECTION)) return null;
  const own = judgeRequirement(r, added.board, need, rules);
  const { runId: _run, claimId: _claim, ...there } = own;
  void _run;
  void _claim;
  return BETTER.indexOf(own.word) > BETTER.indexOf(as.word) ? { ...there, why: `${added.title}: ${own.why}` } : null;
}

/** Why the added board would not let a load through, in a sentence: `amps` from the battery at `volts` of the cell. Null where it does, or nobody knows. */
export function stoppedBy(added: Pick<Added, "title" | "trip" | "cut">, amps: number, volts: number): string | null {
  const name = added.title ?? "The added board";
  const how = (s: Sets) => (s.basis === "claimed" ? " as claimed" : "");
  if (added.cut && added.cut.value >= volts)
    return `${name} disconnects at ${formatQuantity(added.cut.value, "V", { digits: 3 })}${how(added.cut)}, before the cell is down to ${formatQuantity(volts, "V", { digits: 3 })}.`;
  if (added.trip && amps >= added.trip.value)
    return `It takes ${formatQuantity(amps, "A", { digits: 3 })} from the battery, and ${name} trips at ${formatQuantity(added.trip.value, "A", { digits: 3 })}${how(added.trip)}.`;
  return null;
}
