import type { Compute } from "./compute";
import type { BoardRecord } from "@/core/files/records";
import { claimedModule } from "@/core/use/claimed-module";
import type { AddedGuard, BoardProtection, RunGuards } from "@/core/use";
import { disconnects, measuredColumns, measuredLimits, SWEEP, type MeasuredModule } from "@/core/use/measured-module";
import type { EvidenceSample } from "@/core/verdicts";
import { boardDossier, type BoardDossier } from "./board-dossier";
import { boards } from "@/storage/queries";
import { runDossier } from "./run-dossier";

/** What of a board can be put to use: one module a sample that was measured, else one as its claims describe it. */
export interface UsableBoard {
  readonly board: BoardRecord;
  readonly modules: readonly MeasuredModule[];
  readonly protection: BoardProtection;
}

/** Runs of a sample that count: finished, not set aside, its boost as the maker made it; with real readings first, then the newest. */
const counting = (s: EvidenceSample) =>
  s.runs
    .filter((r) => r.finished && r.setAside === null && !r.modifiedFunctions.includes("boost"))
    .sort(
      (a, b) => Number(a.simulated ?? false) - Number(b.simulated ?? false) || b.startUtc.localeCompare(a.startUtc),
    );

async function moduleOf(compute: Compute, d: BoardDossier, s: EvidenceSample): Promise<MeasuredModule | null> {
  const runs = counting(s);
  const sweeps = new Set(d.runs.filter((r) => r.procedure === SWEEP).map((r) => r.id as string));
  for (const r of runs.filter((x) => sweeps.has(x.id))) {
    const run = await runDossier(compute, r.id);
    const columns = run ? measuredColumns({ kind: "points", points: run.points }, run.run.setup, run.corrections) : [];
    if (columns.length)
      return {
        sample: s.name,
        runId: r.id,
        runTitle: r.title,
        simulated: r.simulated ?? false,
        columns,
        ...measuredLimits(runs.flatMap((x) => x.findings)),
      };
  }
  return null;
}

const PROTECTS = "protect.over-discharge-present";

/** Whether a board is said to protect a cell: by its functions, or by a claim. */
const claimsProtection = ({ board, claims }: Pick<BoardDossier, "board" | "claims">): boolean =>
  board.functions.includes("protection") ||
  claims.some((c) =>
    c.readings.some((r) => r.characteristic === PROTECTS && r.limit.kind === "yes-no" && r.limit.value),
  );

/** What is known of a board's own protection. */
export const protectionOf = (d: Pick<BoardDossier, "board" | "claims" | "evidence">): BoardProtection => ({
  title: d.board.title,
  measured: disconnects(d.evidence),
  claimed: claimsProtection(d),
  charges: d.board.functions.includes("charger"),
});

/** A board that can be put between a cell and another board. */
export interface ProtectionBoard extends AddedGuard {
  readonly boardId: string;
  /** V at which it cuts off, as measured; null where it was not. */
  readonly cut: number | null;
}

/** What would stand between a cell and the outside in a run of a sample; null where its board is gone. */
export async function guardsOf(compute: Compute, boardId: string, sampleId: string): Promise<RunGuards | null> {
  const d = await boardDossier(compute, boardId);
  if (!d) return null;
  const between = d.samples.find((s) => s.id === sampleId)?.between;
  const added = between?.added?.boardId ? await boardDossier(compute, between.added.boardId) : null;
  return {
    board: protectionOf(d),
    ...(between ? { between } : {}),
    added: added ? { title: added.board.title, measured: disconnects(added.evidence) } : null,
  };
}

/** The boards of a notebook that protect a cell, with what was shown of it. */
export async function protectionBoards(compute: Compute, notebookId: string): Promise<ProtectionBoard[]> {
  const out: ProtectionBoard[] = [];
  for (const board of await boards(notebookId)) {
    if (!board.functions.includes("protection")) continue;
    const d = await boardDossier(compute, board.id);
    if (!d) continue;
    const limits = d.evidence.map((s) => measuredLimits(counting(s).flatMap((r) => r.findings)).cut);
    out.push({
      boardId: board.id,
      title: board.title,
      measured: disconnects(d.evidence),
      cut: limits.find((c) => c !== null) ?? null,
    });
  }
  return out;
}

/** Every board of a notebook that boosts, with what was measured of its samples. */
export async function usableBoards(compute: Compute, notebookId: string): Promise<UsableBoard[]> {
  const out: UsableBoard[] = [];
  for (const board of await boards(notebookId)) {
    const d = await boardDossier(compute, board.id);
    if (!d) continue;
    const measured = (await Promise.all(d.evidence.map((s) => moduleOf(compute, d, s)))).filter((m) => m !== null);
    // Claims speak only where nothing was measured.
    const claimed = measured.length === 0 ? claimedModule(d.claims, d.rules) : null;
    const modules = claimed ? [claimed] : measured;
    if (modules.length === 0 && !board.functions.includes("boost")) continue;
    out.push({ board, modules, protection: protectionOf(d) });
  }
  return out;
}
