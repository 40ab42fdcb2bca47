import { compute } from "@/workers/compute";
import type { RunRecord } from "@/core/files/records";
import { atBench, procedure } from "@/core/procedures";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";
import { numeric } from "@/core/quantities";
import type { ChartSpec } from "@/core/measurement";
import type { PaperContent } from "@/core/sheet";
import { logAnalysis, runDossier, type BoardDossier } from "@/notebook";
import { analysePoints } from "@/notebook/analysis";
import { boardSheet } from "@/notebook/sheet";

/** Procedures whose first curve a sheet shows, most telling first, and how many. */
const DRAWN = PROCEDURE_FACTS.filter((f) => f.onPaper !== undefined)
  .sort((a, b) => numeric(a.onPaper) - numeric(b.onPaper))
  .map((f) => f.id);
const CHARTS = 2;

export interface Loaded {
  readonly dossier: BoardDossier;
  readonly paper: PaperContent;
}

/** How the newest run of the most telling kind was wired; null where none was planned here. */
function wiringOf(finished: readonly RunRecord[]): PaperContent["wiring"] {
  for (const kind of DRAWN) {
    const run = finished
      .filter((r) => r.procedure === kind && !r.setAside && r.setup.plan)
      .sort((a, b) => b.startUtc.localeCompare(a.startUtc))[0];
    const p = run ? atBench(procedure(kind)) : null;
    if (run && p) return { sketch: p.wiring(run.setup), from: run.title };
  }
  return null;
}

/** Everything of a board's sheet, worked out from what is stored now. */
export async function loadSheet(id: string): Promise<Loaded | null> {
  const paper = await boardSheet(compute, id);
  if (!paper) return null;
  const { dossier, sheet, finished } = paper;
  const charts: { spec: ChartSpec; from: string }[] = [];
  for (const kind of DRAWN) {
    const newest = finished
      .filter((r) => r.procedure === kind && !r.setAside)
      .sort((a, b) => b.startUtc.localeCompare(a.startUtc))[0];
    const d = newest && charts.length < CHARTS ? await runDossier(compute, newest.id) : null;
    const spec = d ? (d.log ? await logAnalysis(compute, d) : analysePoints(d)).charts[0] : undefined;
    // On paper there are no boundaries to move.
    if (spec && newest) charts.push({ spec: { ...spec, handles: [] }, from: newest.title });
  }
  return { dossier, paper: { sheet, charts, wiring: wiringOf(finished) } };
}
