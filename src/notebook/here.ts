import type { Finding, RunResults } from "@/core/measurement";
import type { Wanted } from "@/core/procedures/contract";
import { keep } from "@/storage/derived";
import { NO_RESULTS, type Compute } from "./compute";
import { dossierOf, type RunDossier } from "./run-dossier";

const analyse = async (d: RunDossier, wanted: Wanted) => (await import("./analyse-run")).analyseRun(d, wanted);

/** Findings that rest on the same readings share one list of them: it is sent, stored and held once. */
export function sharing(findings: readonly Finding[]): Finding[] {
  const lists = new Map<string, readonly string[]>();
  return findings.map((f) => {
    const key = f.points.join(" ");
    const list = lists.get(key);
    if (!list) lists.set(key, f.points);
    return list ? { ...f, points: list } : f;
  });
}

/** Everything worked out where it is asked for: in a worker, a script or a test, never in the page. `keeps` takes what is to be kept. */
export function workingHere(keeps: Compute["keep"]): Compute {
  const here: Compute = {
    stored: async (run) => {
      const d = await dossierOf(here, run);
      return d ? here.results(d) : NO_RESULTS;
    },
    log: (d) => analyse(d, "all"),
    results: async (d): Promise<RunResults> => {
      const { findings, notStated = [] } = await analyse(d, "findings");
      return { findings: sharing(findings), notStated };
    },
    verdicts: async (claims, evidence, rules) => {
      const { judgeClaim } = await import("@/core/verdicts");
      return claims.map((c) => judgeClaim(c, evidence, rules));
    },
    ofBoard: async (what, boardId, ask) => (await import("./board-work")).workedOut(here, what, boardId, ask),
    keep: keeps,
    storeLog: async (run) => (await import("@/storage/log-files")).storeLogOf(run),
  };
  return here;
}

export const HERE: Compute = workingHere(keep);
