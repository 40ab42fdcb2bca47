import { loadProcedure } from "@/core/procedures/catalogue";
import { analyseReadings } from "@/core/procedures/kit/offsets";
import type { Finding, Readings, Analysis, RunResults } from "@/core/measurement";
import { judgeClaim } from "@/core/verdicts";
import { openLog } from "./open-log";
import { HERE } from "@/notebook/here";
import { runDossier } from "@/notebook/run-dossier";
import type { Tasks } from "./protocol";

/** Findings that rest on the same readings share one list of them: it is sent, stored and held once. */
function sharing(findings: readonly Finding[]): Finding[] {
  const lists = new Map<string, readonly string[]>();
  return findings.map((f) => {
    const key = f.points.join(" ");
    const list = lists.get(key);
    if (!list) lists.set(key, f.points);
    return list ? { ...f, points: list } : f;
  });
}

const resultsOf = ({ findings, notStated = [] }: Analysis): RunResults => ({ findings: sharing(findings), notStated });

// One module for what needs the procedures, so that a worker loads them once.

export async function results({
  run,
  readings,
  corrections,
}: Tasks["results"]["ask"]): Promise<Tasks["results"]["give"]> {
  const p = await loadProcedure(run.procedure);
  return p ? resultsOf(analyseReadings(p, readings, run.setup, corrections)) : { findings: [] };
}

export async function storedResults({ runId }: Tasks["stored-results"]["ask"]): Promise<RunResults> {
  const d = await runDossier(HERE, runId);
  const p = d ? await loadProcedure(d.run.procedure) : null;
  if (!d || !p) return { findings: [] };
  const readings: Readings =
    p.readings === "answers" ? { kind: "answers", answers: d.answers } : { kind: "points", points: d.points };
  return resultsOf(analyseReadings(p, readings, d.run.setup, d.corrections));
}

/** What a stored log's analysis gives. */
export async function analysis({
  run,
  rows,
  marks,
  corrections,
}: Tasks["log-analysis"]["ask"]): Promise<Tasks["log-analysis"]["give"]> {
  const p = await loadProcedure(run.procedure);
  if (!p)
    return {
      findings: [],
      notes: [{ code: "unknown-procedure", message: `This version has no procedure “${run.procedure}”.` }],
      charts: [],
    };
  return analyseReadings(
    p,
    { kind: "trace", trace: { columns: await openLog(run.id, rows), events: marks } },
    run.setup,
    corrections,
  );
}

/** What was found in a stored log, without the charts. */
export const logResults = async (ask: Tasks["log-results"]["ask"]): Promise<Tasks["log-results"]["give"]> =>
  resultsOf(await analysis(ask));

export function verdicts({ claims, evidence, rules }: Tasks["verdicts"]["ask"]): Tasks["verdicts"]["give"] {
  return claims.map((c) => judgeClaim(c, evidence, rules));
}
