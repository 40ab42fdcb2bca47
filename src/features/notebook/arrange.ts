import { FUNCTION_LABELS } from "@/core/characteristics/functions";
import type { BoardRecord } from "@/core/files/records";
import type { VerdictWord } from "@/core/verdicts";
import type { BoardSummary } from "@/notebook";
import { nextStep, type StepKind } from "./next-step";

export const ORDERS = ["added", "name", "misses", "runs"] as const;
export type Order = (typeof ORDERS)[number];

/** Which boards of a notebook are listed, and in which order. */
export interface Arrangement {
  readonly text: string;
  readonly verdict: VerdictWord | "any";
  readonly step: StepKind | "any";
  readonly order: Order;
}
export const AS_ADDED: Arrangement = { text: "", verdict: "any", step: "any", order: "added" };

type Listed = Pick<BoardRecord, "id" | "title" | "note" | "functions">;
type Known = Pick<BoardSummary, "verdicts" | "runs" | "claims">;

/** Whether every word typed stands somewhere in a board's name, note or functions. */
function says(b: Listed, text: string): boolean {
  const all = `${b.title} ${b.note} ${b.functions.map((f) => FUNCTION_LABELS[f]).join(" ")}`.toLowerCase();
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((w) => all.includes(w));
}

/**
 * The boards that are listed, in order. A board whose summary is still being worked out has no verdicts and no next step yet: a filter on
 * either leaves it out until it has.
 */
export function arrange<B extends Listed>(
  boards: readonly B[],
  summaries: ReadonlyMap<string, Known>,
  a: Arrangement,
): B[] {
  const of = (b: B) => summaries.get(b.id);
  const shown = boards.filter((b) => {
    const s = of(b);
    return (
      says(b, a.text) &&
      (a.verdict === "any" || (s?.verdicts[a.verdict] ?? 0) > 0) &&
      (a.step === "any" || (s !== undefined && nextStep(b, s).kind === a.step))
    );
  });
  const count = (b: B) => (a.order === "misses" ? (of(b)?.verdicts.misses ?? 0) : (of(b)?.runs.length ?? 0));
  if (a.order === "added") return shown;
  // What is as many stays in the order in which it was added.
  return [...shown].sort((x, y) =>
    a.order === "name" ? x.title.localeCompare(y.title, "en", { numeric: true }) : count(y) - count(x),
  );
}
