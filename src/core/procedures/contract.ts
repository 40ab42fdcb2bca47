/**
 * The contract of a bench procedure: data plus pure functions.
 *
 * What to set up, what to watch for, what to record, and how readings become named quantities. Screens, storage, the
 * simulated bench, files and the command line are written once against these types. Three kinds of readings fit:
 * points (a load sweep; rest checks days apart), a trace over time (a charge cycle) and answers (a behaviour checklist).
 * What is read, what is found and what happens live is the vocabulary of core/measurement; the contract over it is here.
 */
import type { BoardFunction, ConditionSpecs } from "../characteristics";
import type { Claim } from "../claims";
import type { Accuracy } from "../instruments";
import type { Result, Unit } from "../quantities";
import type {
  Analysis,
  ChecklistItem,
  Corrections,
  Finding,
  Guide,
  HouseRules,
  LiveWatch,
  NotStatedCode,
  PlannedCell,
  Point,
  PointSettings,
  Readings,
  Role,
  RunConditions,
  RunSetup,
} from "../measurement";
import type { LogShape } from "./kit/likeness";
import type { ConditionField, PlanEntry } from "./kit/plan-fields";

export interface PlanContext {
  readonly claims: readonly Claim[];
  /** Quantities that the user's needs ask for. */
  readonly wanted?: readonly string[];
  /** What the board does; absent where nobody said. */
  readonly functions?: readonly BoardFunction[];
  readonly rules: HouseRules;
  readonly rig: {
    readonly instruments: Readonly<Partial<Record<Role, Accuracy>>>;
    readonly supplyCurrentLimit: number;
    readonly inputLeadResistance: number;
    readonly outputLeadResistance: number;
    readonly drawer: readonly { readonly ohms: number; readonly watts: number }[];
  };
  readonly configuration?: { readonly output?: number; readonly words?: string };
  /** What fair runs of the sample found, the newest of each quantity: its value in the quantity's unit. */
  readonly measured?: Readonly<Partial<Record<string, number>>>;
  /** The cell that is charged, where a procedure takes one. */
  readonly cell?: PlannedCell;
}

// ── What the tester sees before connecting ──────────────────────────────────────────────────────────────────────────

export interface Caution {
  readonly text: string;
  readonly severity: "danger" | "care";
}

/** A limit that the application watches while a run is open; for a log, `time` above so many seconds is one too. */
export interface StopRule {
  readonly role: Role;
  readonly above?: number;
  readonly below?: number;
  readonly why: string;
  /** What to disconnect first. */
  readonly act: string;
}

export interface WiringDevice {
  readonly id: string;
  readonly kind: "supply" | "module" | "load" | "cell";
  readonly title: string;
  readonly lines: readonly string[];
  /** Terminal names by side; plus above minus. */
  readonly left?: readonly [plus: string, minus: string];
  readonly right?: readonly [plus: string, minus: string];
}

/** A chain of devices from source to load, two wires between neighbours; the drawing follows from it. */
export interface WiringSketch {
  readonly devices: readonly WiringDevice[];
  /** For the gap after device i: the ammeter in the plus wire and the voltmeter across it, with where it clips on. */
  readonly gaps: readonly {
    readonly ammeter: string | null;
    readonly voltmeter: string | null;
    readonly clips: "left" | "right";
    readonly note: string;
  }[];
  readonly notes: readonly string[];
}

// ── Plan and live guidance ──────────────────────────────────────────────────────────────────────────────────────────

export interface Proposal {
  readonly kind: "point" | "restart" | "done";
  /** What to do, in one sentence. */
  readonly text: string;
  readonly settings: PointSettings;
  /** What the meters should show. */
  readonly expect: Readonly<Partial<Record<Role, number>>>;
  readonly caution?: string;
  /** What may do harm and is done only once somebody has confirmed it, each time anew. */
  readonly confirm?: string;
  /** Names the column that `closed` would close, and what it is called beside "Finish this". */
  readonly column?: string;
  readonly columnName?: string;
  /** Readings that follow from where the run stands: recorded with the point, typed by nobody. */
  readonly given?: Readonly<Partial<Record<Role, number>>>;
  /** Points taken and the likely total. */
  readonly progress: { readonly taken: number; readonly of: number };
}

/** Something noticed about a point as it is taken. */
export interface Remark {
  readonly code: string;
  readonly severity: "info" | "doubt" | "stop";
  readonly message: string;
  readonly role?: Role;
  /** So unlikely that it is asked about before the point is kept; with `stop` it can't be kept as it is. */
  readonly ask?: true;
  /** What the reading most likely was; SI. */
  readonly meant?: number;
}

/** What a table or a live screen records. */
export interface RecordShape {
  readonly roles: readonly { readonly role: Role; readonly required: boolean }[];
  /** Groups of roles of which one has to be there whole. */
  readonly either?: readonly (readonly Role[])[];
  /** Figures worked out from one point, shown beside the readings; null where the point lacks a reading. */
  readonly derived: readonly {
    readonly id: string;
    readonly label: string;
    readonly unit: Unit;
    of(point: Point, setup: RunSetup): number | null;
  }[];
}

/** Something about a plan that has to be put right, or that one should know. */
export interface PlanRemark {
  readonly severity: "refused" | "care" | "fine";
  readonly text: string;
}

/** A condition that is asked for beside a file. */
export interface FileQuestion {
  readonly condition: {
    [K in keyof RunConditions]-?: NonNullable<RunConditions[K]> extends number ? K : never;
  }[keyof RunConditions];
  readonly label: string;
  readonly unit: Unit;
  readonly required: boolean;
  /** Filled in to begin with, where no claim says better. */
  readonly first?: number;
  /** A claim's nominal value on this characteristic fills it in. */
  readonly claim?: string;
  /** Zero is refused too. */
  readonly aboveZero: boolean;
}

/** A condition in words that is asked for beside a file; the first is taken where nobody says. */
export interface FileChoice {
  readonly condition: "state";
  readonly label: string;
  readonly of: readonly [
    { readonly value: string; readonly label: string },
    ...{ readonly value: string; readonly label: string }[],
  ];
}

/** Why a quantity may be missing from the results of a run whose analysis does not say so itself. */
export interface Silence {
  /** Columns that it needs, every one of them. */
  readonly roles?: readonly Role[];
  /** Pairs or groups of which one has to be there whole: the battery's meters, or the cell's. */
  readonly either?: readonly (readonly Role[])[];
  readonly condition?: Extract<keyof RunConditions, string>;
  readonly otherwise: readonly [code: NotStatedCode, reason: string];
}

/** What a plan is wanted for: a quantity at a claim's conditions, and why an earlier run of it was not fair. */
export interface PlanWish<P = unknown> {
  readonly plan: P;
  readonly characteristic: string;
  readonly conditions: ConditionSpecs;
  /** Codes of the unfairness that it is to mend. */
  readonly unfair: readonly string[];
  /** A that the bench's supply gives at most. */
  readonly supplyMaximum: number;
}

/** A column of a log as it is predicted; s from its beginning, SI. */
export interface PredictedCurve {
  readonly role: Role;
  readonly time: readonly number[];
  readonly values: readonly number[];
}

/** What of a bench only one run can hold at a time. */
export const BENCH_NEEDS = ["hands", "supply", "load", "logger"] as const;
export type BenchNeed = (typeof BENCH_NEEDS)[number];

/** A stretch of a run at the bench: whole minutes, and what it holds meanwhile. */
export interface WorkStretch {
  readonly minutes: number;
  readonly needs: readonly BenchNeed[];
}

/** Likely minutes of a run. */
export const minutesOf = (work: readonly WorkStretch[]): number => work.reduce((sum, w) => sum + w.minutes, 0);

/** A predicted figure, as it is shown. */
export interface PredictedFigure {
  readonly label: string;
  readonly text: string;
  /** The one to look at first. */
  readonly main?: boolean;
}

// ── The contract ────────────────────────────────────────────────────────────────────────────────────────────────────

/** What is known of a procedure apart from its code: enough for a list, for the order of work, and to say whether kept results are still good. */
export interface ProcedureFacts {
  readonly id: string;
  /** Raised whenever the same readings could yield other findings. */
  readonly version: number;
  readonly title: string;
  readonly readings: Readings["kind"];
  readonly destructive: boolean;
  /** Place in the order of the bench; steps of the sheet sort by it. */
  readonly position: number;
  /** What it usually takes at the bench, stretch by stretch. */
  readonly work: readonly WorkStretch[];
  readonly calledForBy: readonly BoardFunction[];
  /** It checks the bench or its cells, not the board: at hand on every sheet, asked by no order of work. */
  readonly anyTime?: boolean;
  /** Few boards have what it measures: asked only where a claim is about it, or a run of it is there. */
  readonly rare?: boolean;
  readonly measures: readonly string[];
  /** Those people ask for first; shown beside a run in a list. */
  readonly headline: readonly string[];
  /** What of the drawer it takes: single cells, packs, or either; absent where it takes nothing. */
  readonly takes?: "cell" | "pack" | "either";
  /** It charges what it takes: cells that are to be rejected are refused. */
  readonly charges?: boolean;
  /** The charge current is set by a resistor, which is worked out beside it. */
  readonly programmed?: boolean;
  /** Its loads may be resistors of a drawer in place of an electronic load. */
  readonly resistors?: boolean;
  /** Its plan asks for no meters of its own: what the bench states of a meter later holds for a prepared run too. */
  readonly usualMeters?: boolean;
  /** Its readings are those of an oscilloscope, not of meters. */
  readonly oscilloscope?: boolean;
  /** Place of its curves among those that a printed findings sheet shows, the most telling first; absent where it shows none of them. */
  readonly onPaper?: number;
  /** It reads cells of the drawer, whose page takes its readings too. */
  readonly ofDrawer?: boolean;
}

/** What a procedure is in a sentence, what it records, what it asks for beside a file, and why it may stay silent. */
export interface ProcedureForm {
  readonly summary: string;
  readonly record: RecordShape;
  /** Why each quantity that it measures may be missing, where its analysis does not say so itself. */
  readonly silences: Readonly<Record<string, Silence>>;
  /** What a file doesn't hold, and whoever brings one is asked for. */
  readonly asks: readonly FileQuestion[];
  readonly chooses?: readonly FileChoice[];
}

/** What may be marked during a log with one key. */
export interface MarkKey {
  readonly key: string;
  readonly kind: string;
  readonly what: string;
}

/** What every procedure has, whatever its readings. */
interface AnyProcedure<P, K extends Readings["kind"]> extends ProcedureFacts, ProcedureForm {
  readonly readings: K;
  /** What it takes at the bench, where the plan tells better. */
  workFor?(setup: RunSetup<P>): readonly WorkStretch[] | null;
  /**
   * The set-up that claims, rig and house rules suggest; refuses with the reason where something is missing. It and the
   * next three are absent where the procedure is only known from files so far.
   */
  plan?(context: PlanContext): Result<RunSetup<P>>;
  wiring?(setup: RunSetup<P>): WiringSketch;
  cautions?(setup: RunSetup<P>): readonly Caution[];
  stopRules?(setup: RunSetup<P>): readonly StopRule[];
  /** What of the plan may be changed before the start, and what stands against it. */
  readonly fields?: readonly PlanEntry[];
  /** Conditions that are asked for in place of the usual ones, and further ones beside them. */
  readonly conditionFields?: readonly ConditionField[];
  readonly moreConditions?: readonly ConditionField[];
  remarks?(setup: RunSetup<P>): readonly PlanRemark[];
  /** What else of the plan follows when some of it is changed; the patch among it. */
  follows?(plan: P, patch: Partial<P>): Partial<P>;
  /** What of the plan has to be so for a quantity to be measured, at a claim's conditions, and for what made it unfair to be mended. */
  planFor?(wish: PlanWish<P>): Partial<P>;
  /** The set-up for a cell of the drawer. */
  withCell?(setup: RunSetup<P>, cell: PlannedCell): RunSetup<P>;
  /** Roles that this run reads, first the most telling; those of `record` where it isn't said. */
  roles?(setup: RunSetup<P>): readonly Role[];
  /** Given readings of its own kind: `analyseReadings`, the one door to it, refuses others. `wanted` says what of it is looked at. */
  analyse(readings: Readings, setup: RunSetup<P>, corrections: Corrections, wanted?: Wanted): Analysis;
  /** What a run of it came to, in one sentence; null, or absent, where its headline's values say it. */
  answer?(findings: readonly Finding[]): string | null;
  /** How much a file of unknown origin looks like one of its own, in [0, 1], from columns that are already told apart. Absent where nothing is read from files. */
  likeness?(log: LogShape): number;
}

/** What of an analysis is looked at: all of it, or its findings, and why there are none; what else it would give may be empty then. */
export type Wanted = "all" | "findings";

/** A table of points, taken one by one. */
export interface PointsProcedure<P = unknown> extends AnyProcedure<P, "points"> {
  /** The one obvious next step. Absent where it is only known from files. */
  next?(setup: RunSetup<P>, points: readonly Point[], corrections: Corrections): Proposal;
  /** What to say of a point as it is taken, given those before it. */
  check?(point: Point, setup: RunSetup<P>, earlier: readonly Point[], corrections: Corrections): readonly Remark[];
}

/** A log over time. */
export interface TraceProcedure<P = unknown> extends AnyProcedure<P, "trace"> {
  /** Follows a log as it comes. Absent where it is only known from files. */
  watch?(setup: RunSetup<P>): LiveWatch;
  /** Leads a log that is made by setting things. Absent where nothing is set (a charge). */
  guide?(setup: RunSetup<P>): Guide;
  readonly marks?: readonly MarkKey[];
  /** The curves that the plan predicts, from the moment in which what it is about begins; empty where too little is known. */
  predicts?(setup: RunSetup<P>): readonly PredictedCurve[];
  /** What the plan predicts in figures; empty where too little is known. */
  forecast?(setup: RunSetup<P>): readonly PredictedFigure[];
}

/** A checklist: items that are answered in words. */
export interface AnswersProcedure<P = unknown> extends AnyProcedure<P, "answers"> {
  /** What it asks, in its order. */
  items(setup: RunSetup<P>): readonly ChecklistItem[];
}

export type Procedure<P = unknown> = PointsProcedure<P> | TraceProcedure<P> | AnswersProcedure<P>;

/** A procedure that is also prepared and watched at the bench. */
export type AtBench<T extends Pick<Procedure, "plan" | "wiring" | "cautions" | "stopRules">> = T &
  Required<Pick<T, "plan" | "wiring" | "cautions" | "stopRules">>;
export type BenchProcedure<P = unknown> =
  AtBench<PointsProcedure<P>> | AtBench<TraceProcedure<P>> | AtBench<AnswersProcedure<P>>;

/** The procedure as one of the bench; null where it is only known from files. */
export const atBench = (p: Procedure | null | undefined): BenchProcedure | null =>
  p?.plan && p.wiring && p.cautions && p.stopRules ? (p as BenchProcedure) : null;

/** The procedure as one of points, or of a log; null where its readings are of another kind. */
export const ofPoints = <T extends Procedure>(p: T | null | undefined): Extract<T, PointsProcedure> | null =>
  p?.readings === "points" ? (p as Extract<T, PointsProcedure>) : null;
export const ofTrace = <T extends Procedure>(p: T | null | undefined): Extract<T, TraceProcedure> | null =>
  p?.readings === "trace" ? (p as Extract<T, TraceProcedure>) : null;
