import { loadProcedure } from "@/core/procedures/load";
import { analyseReadings } from "@/core/procedures/offsets";
import { judgeClaim } from "@/core/verdicts";
import { openLog } from "./open-log";
import type { Tasks } from "./protocol";

// One module for what needs the procedures, so that a worker loads them once.

export async function findings({ run, readings, corrections }: Tasks["findings"]["ask"]): Promise<Tasks["findings"]["give"]> {
  const p = await loadProcedure(run.procedure);
  return p ? analyseReadings(p, readings, run.setup, corrections).findings : [];
}

/** What a stored log's analysis gives. */
export async function analysis({ run, rows, marks, corrections }: Tasks["log-analysis"]["ask"]): Promise<Tasks["log-analysis"]["give"]> {
  const p = await loadProcedure(run.procedure);
  if (!p) return { findings: [], notes: [{ code: "unknown-procedure", message: `This version has no procedure “${run.procedure}”.` }], charts: [] };
  return analyseReadings(p, { kind: "trace", trace: { columns: await openLog(run.id, rows), events: marks } }, run.setup, corrections);
}

/** What was found in a stored log, without the charts. */
export const logFindings = async (ask: Tasks["log-findings"]["ask"]): Promise<Tasks["log-findings"]["give"]> => (await analysis(ask)).findings;

export function verdicts({ claims, evidence, rules }: Tasks["verdicts"]["ask"]): Tasks["verdicts"]["give"] {
  return claims.map((c) => judgeClaim(c, evidence, rules));
}
