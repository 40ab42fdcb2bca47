import { procedure, type Analysis } from "@/core/procedures";
import { readingsIn, type RunDossier } from "./run-dossier";

const unknown = (id: string): Analysis => ({ findings: [], notes: [{ code: "unknown-procedure", message: `This version has no procedure “${id}”.` }], charts: [] });

/** Analyses a run of points here and now, charts and all. Apart from the index, so that a page without a run loads no procedure. */
export function analysePoints(d: Pick<RunDossier, "run" | "points" | "corrections">): Analysis {
  return procedure(d.run.procedure)?.analyse({ kind: "points", points: d.points }, d.run.setup, d.corrections) ?? unknown(d.run.procedure);
}

/** Analyses any run; a log is read whole for it. */
export async function analyseRun(d: RunDossier): Promise<Analysis> {
  return procedure(d.run.procedure)?.analyse(await readingsIn(d), d.run.setup, d.corrections) ?? unknown(d.run.procedure);
}
