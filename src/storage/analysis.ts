import { procedure, type Analysis } from "@/core/procedures";
import { readingsIn, type RunDossier } from "./run-dossier";

/** Analyses a run here and now, charts and all. Apart from the index, so that a page without a run loads no procedure. */
export function analyseRun(d: Pick<RunDossier, "run" | "points" | "trace" | "corrections">): Analysis {
  const p = procedure(d.run.procedure);
  if (!p) return { findings: [], notes: [{ code: "unknown-procedure", message: `This version has no procedure “${d.run.procedure}”.` }], charts: [] };
  return p.analyse(readingsIn(d), d.run.setup, d.corrections);
}
