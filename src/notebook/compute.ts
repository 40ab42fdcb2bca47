import type { Claim } from "@/core/claims";
import type { AnnotationRecord, PointRecord, RunRecord } from "@/core/files/records";
import type { Analysis, Answer, Corrections, HouseRules, Point, RunResults, TraceEvent } from "@/core/measurement";
import type { ClaimVerdict, EvidenceSample } from "@/core/verdicts";
import type { TraceExtent } from "@/storage/traces";

/** A run with its readings and the layers over them. */
export interface RunDossier {
  readonly run: RunRecord;
  readonly points: readonly Point[];
  /** What was answered, oldest first; empty where the run is no checklist. */
  readonly answers: readonly Answer[];
  /** How long the log over time is; null for a run of points. Its columns stay where they are stored. */
  readonly log: TraceExtent | null;
  /** What was marked on a log. */
  readonly marks: readonly TraceEvent[];
  /** The stored points of a run that was typed or simulated, drafts and withdrawn ones apart. */
  readonly draft: PointRecord | null;
  readonly withdrawn: readonly PointRecord[];
  readonly annotations: readonly AnnotationRecord[];
  readonly corrections: Corrections;
}

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
