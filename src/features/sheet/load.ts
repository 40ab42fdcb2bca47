import type { RunRecord } from "@/core/files/records";
import { atBench, procedure, type ChartSpec } from "@/core/procedures";
import { findingsSheet, type PaperContent, type SheetRun } from "@/core/sheet";
import { boardDossier, logAnalysis, now, runDossier, type BoardDossier } from "@/storage";
import { analysePoints } from "@/storage/analysis";

/** Procedures whose first curve a sheet shows, most telling first, and how many. */
const DRAWN = ["load-sweep", "charge-cycle", "heat-soak", "pack-charge", "solar-input", "threshold-ramp"];
const CHARTS = 2;
export interface Loaded {
  readonly dossier: BoardDossier;
  readonly paper: PaperContent;
}

/** How the newest run of the most telling kind was wired; null where none was planned here. */
function wiringOf(finished: readonly RunRecord[]): PaperContent["wiring"] {
  for (const kind of DRAWN) {
    const run = finished.filter((r) => r.procedure === kind && !r.setAside && r.setup.plan).sort((a, b) => b.startUtc.localeCompare(a.startUtc))[0];
    const p = run ? atBench(procedure(kind)) : null;
    if (run && p) return { sketch: p.wiring(run.setup), from: run.title };
  }
  return null;
}

/** Everything of a board's sheet, worked out from what is stored now. */
export async function loadSheet(id: string): Promise<Loaded | null> {
  const dossier = await boardDossier(id);
  if (!dossier) return null;
  const found = new Map(dossier.evidence.flatMap((s) => s.runs).map((r) => [r.id as string, r.findings]));
  const finished = dossier.runs.filter((r) => r.state === "finished");
  const runs = finished.map((r): SheetRun => {
    const p = procedure(r.procedure);
    return {
      id: r.id, title: r.title, procedure: r.procedure, procedureTitle: p?.title ?? r.procedure, version: p?.version ?? 0, startUtc: r.startUtc, source: r.source.kind, setAside: r.setAside ?? null, modifiedFunctions: r.pinned.modifiedFunctions, setup: r.setup,
      sampleName: dossier.samples.find((s) => s.id === r.sampleId)?.name ?? "deleted", findings: found.get(r.id) ?? [],
    };
  });
  const { board } = dossier;
  const sheet = findingsSheet({
    title: board.title, note: board.note, functions: board.functions, claims: dossier.claims, verdicts: dossier.verdicts, runs, touchLimit: dossier.rules.touchLimit, madeAt: now(),
    samples: dossier.samples.map((s) => ({ name: s.name, configuration: s.configuration, note: s.note, modifications: s.modifications.map((m) => `${m.date} ${m.text}`) })),
  });
  const charts: { spec: ChartSpec; from: string }[] = [];
  for (const kind of DRAWN) {
    const newest = finished.filter((r) => r.procedure === kind && !r.setAside).sort((a, b) => b.startUtc.localeCompare(a.startUtc))[0];
    const d = newest && charts.length < CHARTS ? await runDossier(newest.id) : null;
    const spec = d ? (d.log ? await logAnalysis(d) : analysePoints(d)).charts[0] : undefined;
    // On paper there are no boundaries to move.
    if (spec && newest) charts.push({ spec: { ...spec, handles: [] }, from: newest.title });
  }
  return { dossier, paper: { sheet, charts, wiring: wiringOf(finished) } };
}
