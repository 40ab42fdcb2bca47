import type { Claim } from "@/core/claims";
import type { RunRecord } from "@/core/files/records";
import type { Analysis, HouseRules, RunResults } from "@/core/measurement";
import type { ClaimVerdict, EvidenceSample } from "@/core/verdicts";
import type { RunDossier } from "./run-dossier";

/** What is worked out from stored records, wherever that is best done: whoever opens a dossier hands it in. */
export interface Compute {
  /** What was found in a run, be it of points, answers or a log, and why the rest was not. */
  results(d: RunDossier): Promise<RunResults>;
  /** The same of a run of points or answers as it is stored, read wherever it is analysed. */
  stored(run: RunRecord): Promise<RunResults>;
  /** The whole analysis of a log, charts and all. */
  log(d: RunDossier): Promise<Analysis>;
  verdicts(
    claims: readonly Claim[],
    evidence: readonly EvidenceSample[],
    rules: HouseRules,
  ): Promise<readonly ClaimVerdict[]>;
  /** Stores the log of an imported run whose chunks are not here yet; whether it is there then. */
  storeLog(run: RunRecord): Promise<boolean>;
}

export const NO_RESULTS: RunResults = { findings: [], notStated: [] };
