import { procedure, type Analysis, type Readings } from "@/core/procedures";
import type { RunDossier } from "./run-dossier";

/** Analyses a run here and now, charts and all. Apart from the index, so that a page without a run loads no procedure. */
export function analyseRun(d: Pick<RunDossier, "run" | "points" | "corrections">): Analysis {
  const p = procedure(d.run.procedure);
  if (!p) return { findings: [], notes: [{ code: "unknown-procedure", message: `This version has no procedure “${d.run.procedure}”.` }], charts: [] };
  const readings: Readings = { kind: "points", points: d.points };
  return p.analyse(readings, d.run.setup, d.corrections);
}
