import type { Analysis } from "@/core/measurement";
import { loadProcedure } from "@/core/procedures/catalogue";
import type { Wanted } from "@/core/procedures/contract";
import { analyseReadings } from "@/core/procedures/kit/offsets";
import { readingsIn, type RunDossier } from "./run-dossier";

/** Analyses any run, loading no other procedure than its own; a log is read whole for it. */
export async function analyseRun(d: RunDossier, wanted: Wanted = "all"): Promise<Analysis> {
  const [p, readings] = await Promise.all([loadProcedure(d.run.procedure), readingsIn(d)]);
  if (p) return analyseReadings(p, readings, d.run.setup, d.corrections, wanted);
  return {
    findings: [],
    notes: [{ code: "unknown-procedure", message: `This version has no procedure “${d.run.procedure}”.` }],
    charts: [],
  };
}
