import { orderOfWork, type StepRun } from "@/core/procedures/order-of-work";
import type { BoardDossier } from "./board-dossier";

/** A board's order of work from its functions, claims and runs. */
export const orderOf = ({
  board,
  claims,
  runs,
}: Pick<BoardDossier, "board" | "claims" | "runs">): ReturnType<typeof orderOfWork> =>
  orderOfWork({
    functions: board.functions,
    claimed: new Set(claims.flatMap((c) => c.readings.map((r) => r.characteristic))),
    ran: new Set(runs.map((r) => r.procedure)),
  });

/** The runs of a board, with whether the tester stopped each before its end. */
export function stepRuns(d: Pick<BoardDossier, "runs" | "evidence">): StepRun[] {
  const stopped = new Set(
    d.evidence.flatMap((s) => s.runs.filter((r) => r.notStated?.some((n) => n.code === "stopped")).map((r) => r.id)),
  );
  return d.runs.map((r) => ({
    procedure: r.procedure,
    state: r.state,
    ...(r.setAside ? { setAside: r.setAside } : {}),
    stopped: stopped.has(r.id),
  }));
}
