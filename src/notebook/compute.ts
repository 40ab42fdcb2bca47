import type { Claim } from "@/core/claims";
import type { AnnotationRecord, PointRecord, RunRecord } from "@/core/files/records";
import type { Analysis, Answer, Corrections, HouseRules, Point, RunResults, TraceEvent } from "@/core/measurement";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import type { Need, Outcome } from "@/core/need";
import type { ClaimVerdict, EvidenceSample, VerdictWord } from "@/core/verdicts";
import type { MovedVerdict } from "@/core/verdicts/moved";
import type { DerivedEntry } from "@/storage/database";
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

/** What a list of boards shows of one: a small summary, kept until something under it changes. */
export interface BoardSummary {
  readonly verdicts: Readonly<Record<string, number>>;
  /** Verdicts that rest on the simulated bench alone, and those beside which two runs disagree. */
  readonly simulated: number;
  readonly disagree: number;
  readonly claims: number;
  readonly samples: number;
  /** Claim → its verdict. */
  readonly words: Readonly<Record<string, VerdictWord>>;
  /** Verdicts that a better analysis moved, until that is noted. */
  readonly moved?: readonly MovedVerdict[];
  readonly runs: readonly {
    readonly id: string;
    readonly title: string;
    readonly state: RunRecord["state"];
    readonly procedure: string;
  }[];
}

/** What a comparison shows of one board: the numbers it compares by, and its cells. */
export interface ComparedBoard {
  readonly column: PackedColumn;
  readonly cells: BoardColumn["cells"];
}

/** What is kept of a board for weighing it: of its evidence only what is looked at, without the readings behind it. */
export interface KeptCandidate {
  readonly boardId: string;
  readonly evidence: readonly EvidenceSample[];
}

/** As much of a need as boards are judged by. */
export type NeedToJudge = Pick<Need, "currency" | "requirements">;

/** What is worked out of a whole board, what it is asked with, and what it gives. */
export interface BoardWork {
  summary: { readonly ask: null; readonly give: BoardSummary };
  /** Asked with the procedures that are wanted first: only what their runs tell whole is there then, and it is not kept. */
  compared: { readonly ask: readonly string[] | null; readonly give: ComparedBoard };
  /** Asked with the characteristics that are looked at, in alphabetical order. */
  candidate: { readonly ask: readonly string[]; readonly give: KeptCandidate };
  /** How the board fares against each need, in their order. Asked with the characteristics that they look at, and a checksum of them all. */
  outcomes: {
    readonly ask: { readonly wanted: readonly string[]; readonly needs: readonly NeedToJudge[]; readonly sum: string };
    readonly give: readonly (readonly Outcome[])[];
  };
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
  /** Something of a whole board, worked out from its runs and kept together with what was found in them. */
  ofBoard<K extends keyof BoardWork>(what: K, boardId: string, ask: BoardWork[K]["ask"]): Promise<BoardWork[K]["give"]>;
  /** Keeps what was being worked out since `since`. */
  keep(entries: readonly DerivedEntry[], since: number): void;
  /** Stores the log of an imported run whose chunks are not here yet; whether it is there then. */
  storeLog(run: RunRecord): Promise<boolean>;
}

export const NO_RESULTS: RunResults = { findings: [], notStated: [] };
