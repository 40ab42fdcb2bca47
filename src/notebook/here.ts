import { NO_RESULTS, type Compute } from "./compute";
import { runDossier, type RunDossier } from "./run-dossier";

const analyse = async (d: RunDossier) => (await import("./analysis")).analyseRun(d);

/** Everything worked out where it is asked for: in a worker, a script or a test, never in the page. */
export const HERE: Compute = {
  stored: async (run) => {
    const d = await runDossier(HERE, run.id);
    return d ? analyse(d) : NO_RESULTS;
  },
  log: analyse,
  results: analyse,
  verdicts: async (claims, evidence, rules) => {
    const { judgeClaim } = await import("@/core/verdicts");
    return claims.map((c) => judgeClaim(c, evidence, rules));
  },
  storeLog: async (run) => (await import("@/storage/log-files")).storeLogOf(run),
};
