import type { BoardRecord } from "@/core/files/records";
import { runPage } from "@/core/procedures/catalogue";
import type { BoardSummary } from "@/notebook";

/** What kinds of next step there are, in the order in which they call for somebody. */
export const STEP_KINDS = ["resume", "finish preparing", "add claims", "measure", "none"] as const;
export type StepKind = (typeof STEP_KINDS)[number];

export interface NextStep {
  readonly kind: StepKind;
  readonly text: string;
  readonly href: string;
}

/** The one next step of a board. */
export function nextStep(
  board: Pick<BoardRecord, "id" | "functions">,
  s: Pick<BoardSummary, "runs" | "claims">,
): NextStep {
  const open = s.runs.find((r) => r.state === "open");
  if (open)
    return {
      kind: "resume",
      text: `Resume: ${open.title}`,
      href: `/run/${open.id}/${runPage(open.procedure, "open")}`,
    };
  const prepared = s.runs.find((r) => r.state === "prepared");
  if (prepared)
    return {
      kind: "finish preparing",
      text: `Finish preparing: ${prepared.title}`,
      href: `/run/${prepared.id}/prepare`,
    };
  if (s.claims === 0) return { kind: "add claims", text: "Add claims", href: `/board/${board.id}#claims` };
  if (s.runs.length === 0 && board.functions.includes("boost"))
    return { kind: "measure", text: "Prepare a load sweep", href: `/board/${board.id}#load-sweep` };
  return { kind: s.runs.length === 0 ? "measure" : "none", text: "Open board", href: `/board/${board.id}` };
}
