import type { BoardFunction } from "../characteristics";
import { PROCEDURES } from "./index";
import { atBench, type Procedure } from "./contract";

/** What of a board decides which steps are needed. */
export interface OrderAsked {
  readonly functions: readonly BoardFunction[];
  /** Names of the quantities that its claims are about. */
  readonly claimed: ReadonlySet<string>;
  /** Procedures that it has runs of. */
  readonly ran: ReadonlySet<string>;
}

/**
 * A board's order of work: what its functions call for, in the order of the bench, then what its functions allow and nothing asks for. What
 * only comes from files is asked of nobody, and neither is what destroys or what few boards have, unless a claim is about it; once there, both count like the rest.
 */
export function orderOfWork({ functions, claimed, ran }: OrderAsked): {
  readonly asked: readonly Procedure[];
  readonly others: readonly Procedure[];
} {
  const steps = PROCEDURES.filter((p) => p.calledForBy.some((f) => functions.includes(f))).sort(
    (a, b) => Number(a.anyTime ?? false) - Number(b.anyTime ?? false) || a.position - b.position,
  );
  const asked = steps.filter(
    (p) =>
      !p.anyTime &&
      (!(p.destructive || p.rare) || p.measures.some((m) => claimed.has(m)) || ran.has(p.id)) &&
      (atBench(p) !== null || ran.has(p.id)),
  );
  return { asked, others: steps.filter((p) => !asked.includes(p)) };
}

/** A run as far as its step's progress rests on it. */
export interface StepRun {
  readonly procedure: string;
  readonly state: "prepared" | "open" | "finished";
  readonly setAside?: string;
  /** The tester stopped it before its end. */
  readonly stopped: boolean;
}

/** How far a step has come: done once a run of it ended as it should; `stopped` where all that ended were stopped. */
export function progressOf(
  procedure: string,
  runs: readonly StepRun[],
): { readonly state: "done" | "under way" | null; readonly stopped: boolean } {
  const own = runs.filter((r) => r.procedure === procedure && !r.setAside);
  const ended = own.filter((r) => r.state === "finished");
  const done = ended.some((r) => !r.stopped);
  return { state: done ? "done" : own.length ? "under way" : null, stopped: !done && ended.length > 0 };
}
