import type { BoardRecord } from "@/core/files/records";
import { claimedModule } from "@/core/use/claimed-module";
import { disconnects, measuredColumns, measuredLimits, SWEEP, type MeasuredModule } from "@/core/use/measured-module";
import type { EvidenceSample } from "@/core/verdicts";
import { boardDossier, type BoardDossier } from "./board-dossier";
import { boards } from "./queries";
import { runDossier } from "./run-dossier";

/** What of a board can be put to use: one module a sample that was measured, else one as its claims describe it. */
export interface UsableBoard {
  readonly board: BoardRecord;
  readonly modules: readonly MeasuredModule[];
  /** Whether real readings showed that it disconnects an empty cell; null where nothing did. */
  readonly disconnects: boolean | null;
  /** A claim says that it protects against deep discharge; nothing is known where it is null. */
  readonly claimsProtection: boolean;
}

/** Runs of a sample that count: finished, not set aside, its boost as the maker made it; with real readings first, then the newest. */
const counting = (s: EvidenceSample) =>
  s.runs
    .filter((r) => r.finished && r.setAside === null && !r.modifiedFunctions.includes("boost"))
    .sort((a, b) => Number(a.simulated ?? false) - Number(b.simulated ?? false) || b.startUtc.localeCompare(a.startUtc));

async function moduleOf(d: BoardDossier, s: EvidenceSample): Promise<MeasuredModule | null> {
  const runs = counting(s);
  const sweeps = new Set(d.runs.filter((r) => r.procedure === SWEEP).map((r) => r.id as string));
  for (const r of runs.filter((x) => sweeps.has(x.id))) {
    const run = await runDossier(r.id);
    const columns = run ? measuredColumns({ kind: "points", points: run.points }, run.run.setup, run.corrections) : [];
    if (columns.length) return { sample: s.name, runId: r.id, runTitle: r.title, simulated: r.simulated ?? false, columns, ...measuredLimits(runs.flatMap((x) => x.findings)) };
  }
  return null;
}

const PROTECTS = "protect.over-discharge-present";

/** Every board of a notebook that boosts, with what was measured of its samples. */
export async function usableBoards(notebookId: string): Promise<UsableBoard[]> {
  const out: UsableBoard[] = [];
  for (const board of await boards(notebookId)) {
    const d = await boardDossier(board.id);
    if (!d) continue;
    const measured = (await Promise.all(d.evidence.map((s) => moduleOf(d, s)))).filter((m) => m !== null);
    // Claims speak only where nothing was measured.
    const claimed = measured.length === 0 ? claimedModule(d.claims, d.rules) : null;
    const modules = claimed ? [claimed] : measured;
    if (modules.length === 0 && !board.functions.includes("boost")) continue;
    const claimsProtection = board.functions.includes("protection") || d.claims.some((c) => c.readings.some((r) => r.characteristic === PROTECTS && r.limit.kind === "yes-no" && r.limit.value));
    out.push({ board, modules, disconnects: disconnects(d.evidence), claimsProtection });
  }
  return out;
}
