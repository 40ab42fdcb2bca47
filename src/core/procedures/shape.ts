/**
 * The contract of a bench procedure: data plus pure functions.
 *
 * What to set up, what to watch for, what to record, and how readings become named quantities. Screens, storage, the
 * simulated bench, files and the command line are written once against these types. Three kinds of readings fit:
 * points (a load sweep; rest checks days apart), a trace over time (a charge cycle) and answers (a behaviour checklist).
 */
import type { BoardFunction, Conditions } from "../characteristics";
import type { Chemistry } from "../cells";
import type { Claim } from "../claims";
import type { Accuracy, PinnedMeter } from "../instruments";
import type { Result, SourceShare, Unit } from "../quantities";
import type { HouseRules } from "./house-rules";
import type { Role } from "./roles";

// ── Readings: raw, never altered ────────────────────────────────────────────────────────────────────────────────────

export type CellStatus = "ok" | "empty" | "overload";
export interface ReadingCell {
  /** SI; null unless the status is `ok`. */
  readonly value: number | null;
  readonly status: CellStatus;
}

export interface LoadSetting {
  readonly mode: "current" | "power" | "resistance";
  /** A, W or Ω. */
  readonly value: number;
}

/** What the instruments were set to when a point was taken. */
export interface PointSettings {
  readonly supplyVoltage?: number;
  readonly supplyCurrentLimit?: number;
  readonly load?: LoadSetting;
  /** The output was off and was switched on into this load. */
  readonly fromOff?: boolean;
  /** The supply's leads were swapped at the board, through a resistor of so many Ω in series. */
  readonly reversed?: { readonly ohms: number };
}

export interface Point {
  readonly id: string;
  /** Place in the run; ascending. */
  readonly sequence: number;
  readonly settings: PointSettings;
  readonly cells: Readonly<Partial<Record<Role, ReadingCell>>>;
  /** Seconds that the settings had stood when it was taken; absent where nobody knows (an imported table). */
  readonly dwell?: number;
}

export interface TraceEvent {
  /** s from the first row. */
  readonly time: number;
  readonly what: string;
  /** What was seen: a light, a press, a channel's done signal. */
  readonly kind?: string;
}

export interface Trace {
  /** Columns of equal length, SI, NaN where a reading is missing; `time` is monotonic seconds from the first sample. */
  readonly columns: Readonly<Partial<Record<Role, Float64Array>>>;
  readonly events: readonly TraceEvent[];
}

/** What was seen as one item of a checklist was done. */
export interface Answer {
  readonly id: string;
  readonly item: string;
  readonly word: string;
  /** Battery volts at which it was seen, where the item asks for them. */
  readonly volts?: number;
  /** ISO UTC. */
  readonly at: string;
}

/** One thing to do on a checklist, and the words for what may come of it. */
export interface ChecklistItem {
  /** Names the action in findings and claims: `short press`. */
  readonly id: string;
  readonly group: string;
  /** What to do, in one sentence. */
  readonly act: string;
  /** What the printed table, the listing or the data sheet says comes of it; absent where they are silent. */
  readonly said?: string;
  /** What one usually sees; another word may be typed. */
  readonly words: readonly string[];
  /** Seen at several battery volts, one answer each, in their order: `falling` or `rising`. */
  readonly at?: { readonly volts: readonly number[]; readonly way: "falling" | "rising" };
  readonly caution?: string;
}

export type Readings =
  | { readonly kind: "points"; readonly points: readonly Point[] }
  | { readonly kind: "trace"; readonly trace: Trace }
  | { readonly kind: "answers"; readonly answers: readonly Answer[] };

/** Layers over the readings, each with its reason; the readings stay as they were. */
export interface Corrections {
  /** Point id → why it does not count. */
  readonly leftOut: ReadonlyMap<string, string>;
  /** Point id of a collapse → what it took to get the output back. */
  readonly recoveries: ReadonlyMap<string, Recovery>;
  /** Conditions whose column the tester closed early, such as `battery 3.6`. */
  readonly closed: ReadonlySet<string>;
  /** Boundary of a log → where the tester sees it, in s from the first row, and why. */
  readonly boundaries: ReadonlyMap<string, { readonly time: number; readonly why: string }>;
}
export const RECOVERIES = ["automatic", "load-removal", "power-cycle", "none"] as const;
export type Recovery = (typeof RECOVERIES)[number];
export const NO_CORRECTIONS: Corrections = { leftOut: new Map(), recoveries: new Map(), closed: new Set(), boundaries: new Map() };

// ── Set-up: pinned to the run ───────────────────────────────────────────────────────────────────────────────────────

/** The conditions of a run, named as in set-up files; SI. */
export interface RunConditions {
  readonly nominalOutput?: number;
  /** Share of the nominal output. */
  readonly regulationBand?: number;
  readonly programmedCurrent?: number;
  readonly cellCapacity?: number;
  readonly ambientTemperature?: number;
  readonly supplyCurrentLimit?: number;
  readonly inputLeadResistance?: number;
  readonly outputLeadResistance?: number;
  readonly partLimitTemperature?: number;
  readonly dissipation?: number;
  readonly state?: string;
  readonly usableCapacity?: number;
  readonly cellSelfDischargeCurrent?: number;
  /** W that a panel gives at its best voltage in the light of the log, where somebody measured it. */
  readonly panelMaximumPower?: number;
  /** Of the surface that an infrared thermometer looked at; absent for a probe. */
  readonly emissivity?: number;
  /** The voltage an adjustable output was set to. */
  readonly output?: number;
  /** Jumpers and programme resistor, in the words of the sample. */
  readonly configuration?: string;
}

export interface RunSetup<P = unknown> {
  readonly conditions: RunConditions;
  readonly instruments: Readonly<Partial<Record<Role, Accuracy>>>;
  /** Which meter and range that was, where the rig says it. */
  readonly meters?: Readonly<Partial<Record<Role, PinnedMeter>>>;
  /** What a meter check found meters of this bench to read too much: taken out of the readings before anything is found in them. */
  readonly offsets?: Readonly<Partial<Record<Role, number>>>;
  /** What the procedure itself needs; absent for an imported log. */
  readonly plan?: P;
}

export interface PlanContext {
  readonly claims: readonly Claim[];
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
  /** The cell that is charged, where a procedure takes one. */
  readonly cell?: PlannedCell;
}

/** A cell as a run pins it. */
export interface PlannedCell {
  /** Its record in the drawer. */
  readonly id?: string;
  readonly title: string;
  readonly chemistry: Chemistry;
  /** Cells in series, for a pack; its volts below are those of one cell. */
  readonly series?: number;
  /** Ah. */
  readonly capacity: number;
  /** Multiples of the capacity an hour: what its maker allows, and what the house or this cell's own rule says. */
  readonly chargeRateLimit: number;
  readonly chargeRate: number;
  /** V. */
  readonly fullVoltage: number;
  readonly emptyVoltage: number;
  readonly ownProtection: boolean;
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
  readonly gaps: readonly { readonly ammeter: string | null; readonly voltmeter: string | null; readonly clips: "left" | "right"; readonly note: string }[];
  readonly notes: readonly string[];
}

// ── Plan and live guidance ──────────────────────────────────────────────────────────────────────────────────────────

/** A number with its unit at a boundary. */
export interface Figure {
  readonly label: string;
  readonly value: number;
  readonly unit: Unit;
  /** Digits that it is worth; four where nothing is said. */
  readonly digits?: number;
}

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
  /** Names the column that `closed` would close. */
  readonly column?: string;
  /** Points taken and the likely total. */
  readonly progress: { readonly taken: number; readonly of: number };
}

/** Something noticed about a point as it is taken. */
export interface Remark {
  readonly code: string;
  readonly severity: "info" | "doubt" | "stop";
  readonly message: string;
  readonly role?: Role;
}

/** What a table or a live screen records. */
export interface RecordShape {
  readonly roles: readonly { readonly role: Role; readonly required: boolean }[];
  /** Figures worked out from one point, shown beside the readings; null where the point lacks a reading. */
  readonly derived: readonly {
    readonly id: string;
    readonly label: string;
    readonly unit: Unit;
    of(point: Point, setup: RunSetup): number | null;
  }[];
}

// ── The bench, driven ───────────────────────────────────────────────────────────────────────────────────────────────

/** What a log's bench is set to: supply, load, what is switched and what is joined. */
export interface BenchSettings {
  /** V that the supply playing the battery goes to, and V/s that it gets there with; at once where that is not said. */
  readonly supplyVoltage: number;
  readonly slew?: number;
  readonly supplyOn: boolean;
  /** A from the output. */
  readonly load: number;
  readonly shorted: boolean;
  /** Whether the output was switched on, by a button or by itself. */
  readonly output: boolean;
  /** A pushed into the cell's terminals, for a ramp upwards. */
  readonly chargeCurrent: number;
  /** The board's own input (a charger's supply, a panel) is plugged in. */
  readonly input: boolean;
}

/** What to do from here on. */
export interface GuideStep {
  readonly settings: BenchSettings;
  /** What is under way, in a word or two. */
  readonly phase: string;
  /** The one thing to do or to wait for, in words, for whoever sets the bench by hand. */
  readonly text: string;
  /** What was just done that the log has to know: `short-on`, `state:no-load`. */
  readonly mark?: { readonly kind: string; readonly what: string };
  readonly done: boolean;
  /** s that the rest likely takes. */
  readonly left: number;
}

/** Leads a log through its steps: it sees the readings, nothing else. */
export interface Guide {
  push(row: LogRow): GuideStep;
}

/** One field of a plan. */
export interface PlanField {
  readonly key: string;
  readonly label: string;
  readonly unit: Unit;
  readonly low: number;
  readonly high: number;
  readonly why?: string;
  /** Shown and taken only where another field of the plan has this value. */
  readonly where?: { readonly key: string; readonly is: string | boolean };
  /** May be left empty: not known. */
  readonly optional?: boolean;
}
/** One choice of a plan. */
export interface PlanChoice {
  readonly key: string;
  readonly label: string;
  /** Where it is a yes or no, `true` and `false`; several may be chosen where `many` is set. */
  readonly of: readonly { readonly value: string | boolean; readonly label: string }[];
  readonly many?: boolean;
  readonly why?: string;
  readonly where?: { readonly key: string; readonly is: string | boolean };
}

/** Something about a plan that has to be put right, or that one should know. */
export interface PlanRemark {
  readonly severity: "refused" | "care" | "fine";
  readonly text: string;
}

// ── Live: a log as it comes ─────────────────────────────────────────────────────────────────────────────────────────

/** Something that happened in a log and calls for attention. */
export interface LiveEvent {
  /** What it is, for its tone and its word. */
  readonly kind: "phase" | "done" | "hot" | "step" | "cut-back" | "input-low" | "no-current" | "stalled" | "stop-rule";
  /** s from the first row. */
  readonly time: number;
  readonly message: string;
  /** For a stop rule: what to disconnect first. */
  readonly act?: string;
}

/** What is known so far; every figure counts from the first row. */
export interface LiveState {
  /** The phase under way, in words. */
  readonly phase: string;
  readonly figures: readonly Figure[];
  /** s until done, as far as the curve tells so far. */
  readonly remaining: number | null;
  /** All that the log is for has been seen: it may be finished. */
  readonly complete: boolean;
  /** What to do now, for whoever sets the bench by hand. */
  readonly task?: string;
  readonly spans: readonly { readonly from: number; readonly to: number; readonly label: string }[];
}

export type LogRow = Readonly<Partial<Record<Role, number>>>;

/** Follows a log sample by sample; what it says of one cut anywhere is what it says of the whole one up to there. */
export interface LiveWatch {
  push(row: LogRow): readonly LiveEvent[];
  state(): LiveState;
  /** What its guide had done that the log has to know, oldest first. */
  marks?(): readonly TraceEvent[];
}

// ── Findings ────────────────────────────────────────────────────────────────────────────────────────────────────────

/** Why a finding may be the fault of the set-up. */
export interface Unfairness {
  readonly code: string;
  readonly message: string;
  readonly remedy: string;
  /** The direction in which the cause could have pushed the value. */
  readonly pushes: "low" | "high" | "either";
}

/** A named quantity from a run: a value, a bound or a bracket. */
export interface Finding {
  readonly characteristic: string;
  readonly conditions: Conditions;
  readonly value: number | string;
  readonly unit: Unit;
  /** k = 2; absent for words. */
  readonly expandedUncertainty?: number;
  /** The run shows only that the quantity is at least, or at most, the value. */
  readonly bound?: "at-least" | "at-most";
  /** Last held and first fell: the quantity lies between. */
  readonly bracket?: { readonly low: number; readonly high: number };
  /** Where the standard uncertainty comes from, largest first. */
  readonly budget: readonly SourceShare[];
  /** The readings behind it. */
  readonly points: readonly string[];
  readonly unfair: readonly Unfairness[];
}

export interface Note {
  readonly code: string;
  readonly message: string;
  readonly points?: readonly string[];
}

export interface ChartSeries {
  readonly id: string;
  readonly label: string;
  /** Index into the series palette. */
  readonly tone: number;
  readonly points: readonly { readonly x: number; readonly y: number; readonly id: string; readonly state: "counts" | "left-out" | "fell" }[];
  /** For a log, the column that it draws, or the heat worked out from four. */
  readonly role?: Role | "heatPower";
  /** A fitted curve, ascending in x. */
  readonly fit?: readonly { readonly x: number; readonly y: number }[];
}
export interface ChartSpec {
  readonly id: string;
  readonly title: string;
  readonly x: { readonly label: string; readonly unit: Unit };
  readonly y: { readonly label: string; readonly unit: Unit };
  readonly series: readonly ChartSeries[];
  /** Stretches of x that are told apart, such as the phases of a charge. */
  readonly spans?: readonly { readonly from: number; readonly to: number; readonly label: string }[];
  /** Boundaries between them that the tester may move, in x. */
  readonly handles?: readonly { readonly id: string; readonly label: string; readonly at: number; readonly moved?: string }[];
  /** Instants that were marked, in x. */
  readonly marks?: readonly { readonly at: number; readonly label: string }[];
  /** A shaded range of y, such as the regulation band. */
  readonly band?: { readonly low: number; readonly high: number; readonly label: string };
  /** The characteristics whose claims are drawn in, and along which axis. */
  readonly claims: readonly { readonly characteristic: string; readonly axis: "x" | "y" }[];
}

export interface Analysis {
  readonly findings: readonly Finding[];
  readonly notes: readonly Note[];
  readonly charts: readonly ChartSpec[];
  /** What later runs of the bench may take over. */
  readonly correction?: BenchCorrection;
}

/** What a check of the bench's meters offers to its later runs. */
export interface BenchCorrection {
  /** The meter that was checked. */
  readonly role: Role;
  /** Ω of the leads on its side, both together. */
  readonly leads?: "inputLeadResistance" | "outputLeadResistance";
  readonly ohms?: number;
  /** What it reads too much with no current, V. */
  readonly offset?: number;
}

/** A condition that is asked for beside a file. */
export interface FileQuestion {
  readonly condition: { [K in keyof RunConditions]-?: NonNullable<RunConditions[K]> extends number ? K : never }[keyof RunConditions];
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

// ── The contract ────────────────────────────────────────────────────────────────────────────────────────────────────

export interface Procedure<P = unknown> {
  readonly id: string;
  /** Raised whenever the same readings could yield other findings. */
  readonly version: number;
  readonly title: string;
  readonly summary: string;
  readonly readings: Readings["kind"];
  readonly destructive: boolean;
  /** Place in the order of the bench; steps of the sheet sort by it. */
  readonly position: number;
  /** Likely minutes at the bench. */
  readonly minutes: number;
  readonly calledForBy: readonly BoardFunction[];
  /** It checks the bench or its cells, not the board: at hand on every sheet, asked by no order of work. */
  readonly anyTime?: boolean;
  readonly measures: readonly string[];
  /** Those people ask for first; shown beside a run in a list. */
  readonly headline: readonly string[];
  readonly record: RecordShape;

  /** What a file doesn't hold, and whoever brings one is asked for. */
  readonly asks: readonly FileQuestion[];

  /**
   * The set-up that claims, rig and house rules suggest; refuses with the reason where something is missing. It and the
   * next three are absent where the procedure is only known from files so far.
   */
  plan?(context: PlanContext): Result<RunSetup<P>>;
  wiring?(setup: RunSetup<P>): WiringSketch;
  cautions?(setup: RunSetup<P>): readonly Caution[];
  stopRules?(setup: RunSetup<P>): readonly StopRule[];
  /** Follows a log as it comes. Absent for points. */
  watch?(setup: RunSetup<P>): LiveWatch;
  /** Leads a log that is made by setting things. Absent where nothing is set (a charge), and for points. */
  guide?(setup: RunSetup<P>): Guide;
  /** What of the plan may be changed before the start, and what stands against it. */
  readonly fields?: readonly (PlanField | PlanChoice)[];
  remarks?(setup: RunSetup<P>): readonly PlanRemark[];
  /** What else of the plan follows when some of it is changed; the patch among it. */
  follows?(plan: P, patch: Partial<P>): Partial<P>;
  /** What of the drawer it takes: single cells, packs, or either; absent where it takes nothing. */
  readonly takes?: "cell" | "pack" | "either";
  /** The set-up for a cell of the drawer. */
  withCell?(setup: RunSetup<P>, cell: PlannedCell): RunSetup<P>;
  /** What a checklist asks, in its order. Absent where nothing is answered. */
  items?(setup: RunSetup<P>): readonly ChecklistItem[];
  /** Roles that this run logs, first the most telling; those of `record` where it isn't said. */
  roles?(setup: RunSetup<P>): readonly Role[];
  /** What may be marked during its log with one key. */
  readonly marks?: readonly { readonly key: string; readonly kind: string; readonly what: string }[];
  /** The one obvious next step. Absent where the bench runs by itself (a trace). */
  next?(setup: RunSetup<P>, points: readonly Point[], corrections: Corrections): Proposal;
  /** What to say of a point as it is taken, given those before it. */
  check?(point: Point, setup: RunSetup<P>, earlier: readonly Point[], corrections: Corrections): readonly Remark[];
  analyse(readings: Readings, setup: RunSetup<P>, corrections: Corrections): Analysis;
}

/** A procedure that is also prepared and watched at the bench. */
export type BenchProcedure<P = unknown> = Procedure<P> & Required<Pick<Procedure<P>, "plan" | "wiring" | "cautions" | "stopRules">>;

/** The procedure as one of the bench; null where it is only known from files. */
export const atBench = (p: Procedure | undefined): BenchProcedure | null => (p?.plan && p.wiring && p.cautions && p.stopRules ? (p as BenchProcedure) : null);
