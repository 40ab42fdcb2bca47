/** Everything that is said to and by a worker: one union each way. */
import type { Claim } from "@/core/claims";
import type { ArchivePart, MergePlan } from "@/core/files/archive";
import type { BoardWork } from "@/notebook/compute";
import type { ArchiveHead } from "@/storage/archives";
import type { TextTable, Dialect } from "@/core/files/table";
import type { ColumnMapping } from "@/core/files/mapping";
import type { FieldProblem, Explanation } from "@/core/files/rows";
import type { RunRecord } from "@/core/files/records";
import type { TraceSummary } from "@/core/files/trace-reader";
import type { LogFile } from "@/storage/log-files";
import type { Assumption, Guess } from "@/core/guess";
import type {
  Analysis,
  ChartSeries,
  Corrections,
  HouseRules,
  Point,
  PointSettings,
  Readings,
  Role,
  RunConditions,
  RunResults,
  RunSetup,
  TraceEvent,
} from "@/core/measurement";
import type { LoadResistor, LoadChoice } from "@/core/procedures/load-sweep/resistors";
import type { BoardFit, Day, Load, MatchCell, MeasuredModule, PackMatch, UseBattery } from "@/core/use";
import type { ClaimVerdict, EvidenceSample } from "@/core/verdicts";
import type { BenchAddress, SimulatedBoardId } from "@/core/simulator";

/** A page that works out many boards. */
export type ManyBoards = "comparison" | "notebook";

export interface Tasks {
  /** Loads what judging needs before it is asked for. */
  /** Asked with the page that it is for, where that is known. */
  ahead: { ask: ManyBoards | null; give: null };
  /** Nearest resistor arrangements for load currents. */
  resistors: {
    ask: { targets: readonly number[]; volts: number; drawer: readonly LoadResistor[] };
    give: LoadChoice[];
  };
  /** What a run's analysis finds. */
  results: {
    ask: {
      run: { readonly procedure: string; readonly setup: RunSetup };
      readings: Readings;
      corrections: Corrections;
    };
    give: RunResults;
  };
  /** The same of a stored run of points or answers, which the worker reads itself; null where it is not there. */
  "stored-results": { ask: { runId: string }; give: RunResults };
  /** Something of a whole board; it and all that it rests on is kept soon after. */
  "of-board": {
    ask: { what: keyof BoardWork; boardId: string; ask: BoardWork[keyof BoardWork]["ask"] };
    give: BoardWork[keyof BoardWork]["give"];
  };
  /** Writes at once what was to be kept soon: before its worker is ended. */
  settle: { ask: null; give: null };
  verdicts: {
    ask: { claims: readonly Claim[]; evidence: readonly EvidenceSample[]; rules: HouseRules };
    give: readonly ClaimVerdict[];
  };
  /** How each board, by the modules of its samples, gets on with a load and a battery: its worst sample. */
  fits: {
    ask: { boards: readonly (readonly MeasuredModule[])[]; load: Load; battery: UseBattery };
    give: readonly BoardFit[];
  };
  /** Cells grouped so that the weakest group holds most. */
  match: { ask: { cells: readonly MatchCell[]; series: number; parallel: number }; give: PackMatch };
  /** A day with everything that has not begun planned anew from a minute on. */
  replan: { ask: { day: Day; now: number }; give: Day };
  table: {
    ask: { text: string; dialect: Partial<Dialect> };
    give: { table: TextTable; mapping: ColumnMapping } | { error: string };
  };
  points: {
    ask: { text: string; dialect: Dialect; mapping: ColumnMapping; fileId: string; lastLine?: "whole" };
    give:
      | {
          points: readonly Point[];
          problems: readonly FieldProblem[];
          remarks: readonly string[];
          explanation: Explanation | null;
        }
      | { error: string };
  };
  /** How a log is written, from its beginning; `rows` is an estimate where the file is longer. What reading it as a procedure's will take is made ready. */
  "log-head": {
    ask: { file: Blob; dialect: Partial<Dialect>; procedure?: string };
    give:
      | { table: TextTable; mapping: ColumnMapping; rows: number; whole: boolean; encoding: "utf-8" | "windows-1252" }
      | { error: string };
  };
  /** What a file most likely is, and what it gives, with nothing stored; its log is held by the worker as `id`, for `log-curves`. */
  "log-look": {
    ask: {
      id: string;
      file: Blob;
      dialect: Partial<Dialect>;
      mapping?: ColumnMapping;
      procedure?: string;
      conditions: RunConditions;
      instruments: RunSetup["instruments"];
      /** What the open notebook knows: its rig's meters and its house rule. */ bench: {
        readonly instruments: RunSetup["instruments"];
        readonly regulationBand?: number;
      };
      odd: "ask" | "skip" | "whole";
    };
    give: LookedAt | { error: string };
  };
  /** Reads a log's files and stores it as the chunks of a run. Progress is the share of the bytes. */
  "log-import": {
    ask: {
      runId: string;
      files: readonly ImportedLog[];
      skipBadRows: boolean;
      rows: number;
      procedure: string;
      setup: RunSetup;
    };
    give: LogImport | { error: string };
  };
  /** SHA-256 of each file. Asked of another worker than the import's, so that neither waits for the other. */
  "file-sums": { ask: { blobs: readonly Blob[] }; give: readonly string[] };
  /** Where a second logger's first row stands on the first one's clock, s, from steps that both saw. */
  "log-align": {
    ask: { first: AlignedLog; second: AlignedLog };
    give: { starts: number; matched: number } | { error: string };
  };
  /** Stores the log of an imported run that isn't stored yet. */
  "log-store": { ask: { run: Pick<RunRecord, "id" | "source"> }; give: boolean };
  /** What a stored log's analysis gives, charts thinned for the screen. */
  "log-analysis": { ask: LogAsk; give: Analysis };
  /** Only what was found in a stored log: without the charts it is there sooner. */
  "log-results": { ask: LogAsk; give: RunResults };
  /** Columns of a stored log between two times, thinned for the screen without losing a spike. */
  "log-curves": {
    ask: { runId: string; rows: number; roles: readonly CurveRole[]; from: number; to: number };
    give: LogCurves;
  };
  /** The largest magnitude and the newest reading of some columns of a stored log; a column that it lacks is absent. */
  "log-figures": {
    ask: { runId: string; rows: number; roles: readonly Role[] };
    give: Readonly<Partial<Record<Role, { readonly largest: number; readonly newest: number }>>>;
  };
  /** A stored log as the open battery data table. */
  "log-csv": { ask: { runId: string }; give: string };
  /** Packs a round of the settled runs of a notebook, those beyond `after`; gives the last one, null where there are no more. */
  "pack-settled": { ask: { notebookId: string; at: number; after: string | null }; give: string | null };
  /** What belongs to these runs, packed for the archive of their notebook. */
  "archive-part": { ask: { runs: readonly string[] }; give: ArchivePart };
  /** The findings sheet of every board as Markdown, file name → text. */
  "archive-sheets": { ask: { notebookId: string }; give: ReadonlyMap<string, string> };
  /** A notebook's archive, written out of the database; what belongs to its runs out of `parts`, or run by run. */
  "archive-write": {
    ask: {
      notebookId: string;
      at: string;
      sheets: ReadonlyMap<string, string>;
      parts: readonly ArchivePart[] | null;
    };
    give: Blob;
  };
  /** What an archive is, before any of it is taken. */
  "archive-head": { ask: { file: Blob }; give: ArchiveHead | { error: string } };
  /** Takes in an archive whose notebook is not here; gives how many records came in. */
  "archive-new": { ask: { file: Blob }; give: number | { error: string } };
  /** What merging an archive would do. */
  "archive-plan": { ask: { file: Blob }; give: MergePlan | { error: string } };
  /** Stores the contents of files, and the logs of runs (id in the archive → id here), that a merge is about to name. */
  "archive-contents": {
    ask: {
      file: Blob;
      files: readonly string[];
      runs: ReadonlyMap<string, string>;
      /** Runs whose log goes on in the archive. */ longer: readonly string[];
    };
    give: { readonly runs: readonly string[]; readonly files: readonly string[] } | { error: string };
  };
  "bench-open": {
    ask: {
      board: SimulatedBoardId;
      seed: number;
      inputLeadResistance: number;
      outputLeadResistance: number;
      /** What was done to the board before, in its order: a reversal that hurt it stays. */ done: readonly PointSettings[];
    };
    give: null;
  };
  "bench-exchange": {
    ask: { lines: readonly { address: BenchAddress; line: string }[] };
    give: { answers: (string | null)[]; time: number };
  };
  "bench-pace": { ask: { factor: number }; give: null };
}
export interface ImportedLog extends LogFile {
  readonly fileId: string;
}
/** What reading a file gave as a procedure's. */
export type Look =
  | { readonly kind: "lacking"; readonly text: string }
  | { readonly kind: "failed"; readonly text: string }
  | {
      readonly kind: "odd";
      readonly problems: readonly string[];
      readonly bad: number;
      readonly good: number;
      readonly explanation: Explanation | null;
    }
  | {
      readonly kind: "read";
      readonly analysis: Analysis;
      readonly setup: RunSetup;
      readonly assumed: readonly Assumption[];
      readonly remarks: readonly string[];
      readonly rows: number;
      readonly seconds: number;
    };
export interface LookedAt {
  /** With its first rows. */
  readonly table: TextTable;
  readonly columns: ColumnMapping;
  /** About how many it has, where it is not read whole. */
  readonly rows: number;
  readonly whole: boolean;
  readonly encoding: "utf-8" | "windows-1252";
  readonly guess: Guess;
  /** As asked, else as guessed; null where it can't be told. */
  readonly procedure: string | null;
  readonly result: Look | null;
}
export type AlignedLog = Pick<LogFile, "blob" | "dialect" | "mapping" | "encoding">;
export interface LogImport extends Omit<TraceSummary, "origin"> {
  readonly seconds: number;
  /** Null where rows were bad and nothing was stored. */
  readonly analysis: Analysis | null;
}
export interface LogAsk {
  readonly run: Pick<RunRecord, "id" | "procedure" | "setup">;
  /** Rows stored: a log that grew is read anew. */
  readonly rows: number;
  readonly marks: readonly TraceEvent[];
  readonly corrections: Corrections;
}
/** A column, or what is worked out from several. */
export type CurveRole = NonNullable<ChartSeries["role"]>;
export type LogCurves = Readonly<Partial<Record<CurveRole, { readonly x: Float64Array; readonly y: Float64Array }>>>;
export type TaskName = keyof Tasks;

export type ToWorker = {
  [K in TaskName]: {
    readonly id: number;
    readonly task: K;
    readonly ask: Tasks[K]["ask"];
    /** Digits of an uncertainty in what the worker writes. */ readonly digits: 1 | 2;
  };
}[TaskName];
export type FromWorker =
  | { readonly id: number; readonly progress: number }
  | { readonly id: number; readonly ok: true; readonly give: unknown }
  | { readonly id: number; readonly ok: false; readonly error: string };
