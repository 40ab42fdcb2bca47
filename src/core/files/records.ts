/** What is stored and exported. Derived things are never among these as truth. */
import type { BoardFunction } from "../characteristics";
import type { Claim } from "../claims";
import type { Accuracy, Instrument, PinnedMeter } from "../instruments";
import type { DrawerEntry } from "../procedures";
import type { HouseRules, PointSettings, ReadingCell, Recovery, Role, RunSetup } from "../measurement";
import type { Facts, Need } from "../need";
import type { Load } from "../use/load";
import type { Day } from "../use/day";
import type { FeedPlan } from "../use/feed";
import type { SampleBetween } from "../use/between";
import type { StationPlan } from "../use/station";
import type { FindingsSheet, PaperContent } from "../sheet";
import type { ColumnMapping } from "./mapping";
import type { Dialect } from "./table";

/**
 * 2 brought cells, and marks and boundaries on logs over time; 3 answers, readings of cells and the cell of a run; 4 instruments, needs, issued
 * sheets; 5 conditions stated afterwards; 6 assumed accuracies, corrected readings, runs chosen to decide; 7 earlier versions of records,
 * conflicts of a merge, contents as bytes; 8 where a table's head stands; 9 loads; 10 packs, stations, charges in their bays, days at the
 * bench; 11 boards of the notebook that a need may add or build; 12 what stands between a sample's cell and everything else, a load's added board, a
 * feed's tolerances.
 */
export const SCHEMA_VERSION = 12;

declare const brand: unique symbol;
export type Id<T extends string> = string & { readonly [brand]: T };
export type NotebookId = Id<"notebook">;
export type BoardId = Id<"board">;
export type SampleId = Id<"sample">;
export type RunId = Id<"run">;
export type PointId = Id<"point">;

/** Carried by every record but the notebook itself. */
interface Stamp<K extends string, I extends string = string> {
  readonly kind: K;
  readonly id: I;
  readonly notebookId: NotebookId;
  /** ISO UTC. */
  readonly createdAt: string;
  readonly updatedAt: string;
  /** Deletion leaves a tombstone, so that undo and merging can tell it from never having been. */
  readonly deletedAt?: string;
  /** Hashes of earlier versions, oldest first: merging tells by them which of two versions came after the other. */
  readonly lineage?: readonly string[];
}

export interface NotebookRecord {
  readonly kind: "notebook";
  readonly id: NotebookId;
  readonly notebookId: NotebookId;
  readonly title: string;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly deletedAt?: string;
  readonly lineage?: readonly string[];
  /** Schema that the notebook's records follow. */
  readonly schema: number;
  readonly demo?: boolean;
}

export interface RulesRecord extends Stamp<"rules"> {
  readonly rules: HouseRules;
}

export interface RigRecord extends Stamp<"rig"> {
  readonly title: string;
  readonly instruments: Readonly<Partial<Record<Role, Accuracy>>>;
  /** Which meter and range reads a role; its accuracy stands above as well. Roles without one have an accuracy of their own. */
  readonly meters?: Readonly<Partial<Record<Role, PinnedMeter>>>;
  /** The one that new runs are planned with, where there are several. */
  readonly inUse?: boolean;
  readonly supplyCurrentLimit: number;
  readonly inputLeadResistance: number;
  readonly outputLeadResistance: number;
  /** What a meter check found meters to read too much with no current, V; later runs take it out. */
  readonly offsets?: Readonly<Partial<Record<Role, number>>>;
  /** Load resistors at hand; empty with an electronic load. */
  readonly drawer: readonly { readonly ohms: number; readonly watts: number }[];
  readonly useDrawer: boolean;
}

/** An instrument of the bench, with its ranges. */
export interface InstrumentRecord extends Stamp<"instrument">, Instrument {
  readonly note: string;
}

/** What a list of needs asks of a board. */
export interface NeedRecord extends Stamp<"need">, Need {}

/** What is to be run from a cell through a board. */
export interface LoadRecord extends Stamp<"load">, Load {}

/** Cells of the drawer that were put together: `groups` in series, each of cells in parallel, by their ids. */
export interface PackRecord extends Stamp<"pack"> {
  readonly title: string;
  readonly groups: readonly (readonly string[])[];
  /** The pack as one thing of the drawer, with a code of its own: what runs are made with. */
  readonly cellId?: string;
  readonly note: string;
}

/** Many chargers on one supply, as planned. */
export interface StationRecord extends Stamp<"station"> {
  readonly title: string;
  readonly plan: StationPlan;
}

/** What feeds a charger, as planned. */
export interface FeedRecord extends Stamp<"feed"> {
  readonly title: string;
  readonly plan: FeedPlan;
}

/** A cell on a charger: in a bay of a station, or by itself. */
export interface CellChargeRecord extends Stamp<"cellCharge"> {
  readonly cellId: string;
  readonly stationId?: string;
  /** Counted from 1, from the supply on. */
  readonly bay?: number;
  /** ISO UTC. */
  readonly startedAt: string;
  /** V before it began. */
  readonly startVolts?: number;
  /** A that its charger is set to. */
  readonly current?: number;
  /** s that it was predicted to take. */
  readonly expected?: number;
  /** ISO UTC; absent while it charges. */
  readonly endedAt?: string;
  /** Taken out before it was full, and why. */
  readonly stopped?: string;
}

/** A day at the bench: its tasks, how each stands, when each is to begin. */
export interface DayRecord extends Stamp<"day">, Day {}

/** A findings sheet as it was given out: a copy that no later reading changes, with the versions that made it. */
export interface IssuedRecord extends Stamp<"issued"> {
  readonly boardId: BoardId;
  readonly title: string;
  /** ISO UTC. */
  readonly issuedAt: string;
  /** Whom or what for. */
  readonly note: string;
  readonly sheet: FindingsSheet;
  readonly charts: PaperContent["charts"];
  readonly wiring: PaperContent["wiring"];
  readonly markdown: string;
  readonly versions: {
    readonly application: string;
    readonly schema: number;
    /** Procedure → version of its analysis. */
    readonly analyses: Readonly<Record<string, number>>;
    readonly rules: Partial<HouseRules>;
  };
}

export interface BoardRecord extends Stamp<"board", BoardId> {
  readonly title: string;
  readonly note: string;
  readonly functions: readonly BoardFunction[];
  /** The simulated board that stands on the simulated bench for it, where there is one. */
  readonly simulatedAs?: string;
  /** Price and size. */
  readonly facts?: Facts;
  /** Usual claims that this board does not make: they are not offered again. */
  readonly struck?: readonly string[];
}

export interface ClaimRecord extends Stamp<"claim">, Claim {
  readonly boardId: BoardId;
}

export interface Modification {
  readonly id: string;
  /** ISO date. */
  readonly date: string;
  readonly text: string;
  readonly functions: readonly BoardFunction[];
}

/** The resistor that sets a charger's current: Ω, and its relative tolerance. */
export interface ProgrammeResistor {
  readonly ohms: number;
  readonly tolerance: number;
}

export interface SampleRecord extends Stamp<"sample", SampleId> {
  readonly boardId: BoardId;
  readonly name: string;
  /** Jumpers and programme resistor in words; a claim's configuration is matched against it. */
  readonly configuration: string;
  /** Setting of an adjustable output, V. */
  readonly output?: number;
  readonly programme?: ProgrammeResistor;
  /** What stands between its cell and everything else; absent: nobody said. */
  readonly between?: SampleBetween;
  readonly modifications: readonly Modification[];
  readonly note: string;
}

export interface PhotoRecord extends Stamp<"photo"> {
  readonly sampleId: SampleId;
  readonly name: string;
  readonly mime: string;
  readonly bytes: Uint8Array;
}

/** An import's raw form: the file as it came. */
export interface FileRecord extends Stamp<"file"> {
  readonly name: string;
  readonly sha256: string;
  /** Empty where the content is stored apart. */
  readonly text: string;
  /** True for a log: its bytes are stored beside the records. An archive carries them in `text` all the same. */
  readonly apart?: boolean;
}

/** A cell of the drawer, with what its maker allows and where it departs from the house rules. */
export interface CellRecord extends Stamp<"cell">, DrawerEntry {
  readonly note: string;
  /** Taken out of use, when (ISO date) and why. */
  readonly rejected?: { readonly date: string; readonly why: string };
}

/** What a tester noticed of a cell besides its volts. */
export const CELL_SIGNS = ["hot", "takes no charge", "swollen", "leaking", "dented"] as const;
export type CellSign = (typeof CELL_SIGNS)[number];

/** A look at a cell of the drawer: its rested volts, what was noticed. Never altered. */
export interface CellReadingRecord extends Stamp<"cellReading"> {
  readonly cellId: string;
  /** ISO UTC. */
  readonly takenAt: string;
  /** V at rest; null where only a sign was noted. */
  readonly volts: number | null;
  /** It had come off the charger: its fall at rest counts from here. */
  readonly charged?: boolean;
  /** It had been used since it was last read: its volts say nothing of its rest. */
  readonly used?: boolean;
  readonly sign?: CellSign;
  /** Ah that a tester of cells counted on discharge, Ω that it showed, and the share of its readings by which both may be off. */
  readonly capacity?: number;
  readonly resistance?: number;
  readonly testerShare?: number;
  readonly note: string;
  /** The meter it was read with, pinned. */
  readonly meter?: Accuracy;
}

/** Another file of the same run. */
export interface FurtherFile {
  readonly fileId: string;
  readonly dialect: Dialect;
  readonly mapping: ColumnMapping;
  /** `after`: the log goes on in it; `beside`: another logger wrote it meanwhile. */
  readonly join: "after" | "beside";
  /** s on the first file's clock at which its first row stands. */
  readonly starts: number;
}

export interface RunRecord extends Stamp<"run", RunId> {
  readonly boardId: BoardId;
  readonly sampleId: SampleId;
  /** The cell of the drawer that was charged, discharged or read. */
  readonly cellId?: string;
  readonly procedure: string;
  readonly title: string;
  /** ISO UTC of the first reading, as far as it is known. */
  readonly startUtc: string;
  /** That moment rests on the date of a file, not on the log. */
  readonly startAssumed?: boolean;
  /** IANA zone in which it was taken. */
  readonly zone: string;
  readonly state: "prepared" | "open" | "finished";
  /** Pinned when the run was made: conditions, meters, leads, plan. */
  readonly setup: RunSetup;
  /** The sample as it then was. */
  readonly pinned: {
    readonly configuration: string;
    readonly output?: number;
    readonly programme?: ProgrammeResistor;
    readonly modifiedFunctions: readonly BoardFunction[];
  };
  readonly source:
    | { readonly kind: "typed" }
    | { readonly kind: "simulated"; readonly board: string; readonly seed: number }
    | {
        readonly kind: "file";
        readonly fileId: string;
        readonly dialect: Dialect;
        readonly mapping: ColumnMapping;
        readonly skipBadRows: boolean;
        readonly more?: readonly FurtherFile[];
      };
  readonly setAside?: string;
  /** Quantities for which this run was chosen to decide, whatever newer runs of the sample found. */
  readonly decides?: readonly string[];
}

/** A point as it was taken; never altered. A draft is one still being typed. */
export interface PointRecord extends Stamp<"point", PointId> {
  readonly runId: RunId;
  readonly sequence: number;
  readonly state: "draft" | "taken" | "withdrawn";
  readonly settings: PointSettings;
  readonly cells: Readonly<Partial<Record<Role, ReadingCell>>>;
  /** What stood in the fields, for a draft. */
  readonly typed?: Readonly<Partial<Record<Role, string>>>;
  readonly dwell?: number;
  readonly takenAt?: string;
}

/** What was seen as an item of a checklist was done; never altered. */
export interface AnswerRecord extends Stamp<"answer"> {
  readonly runId: RunId;
  readonly item: string;
  readonly word: string;
  /** Battery voltage at which it was seen. */
  readonly volts?: number;
  readonly takenAt: string;
}

/** A layer over readings, with its reason. */
export interface AnnotationRecord extends Stamp<"annotation"> {
  readonly runId: RunId;
  readonly what:
    | "left-out"
    | "recovery"
    | "closed"
    | "note"
    | "mark"
    | "unwatched"
    | "boundary"
    | "condition"
    | "reading"
    | "unused";
  /** The point it speaks of; for `closed` the column, for `boundary` which one, for `mark` its kind, for `condition` its name. A `reading` corrects one cell of a point; `unused` names a role that nobody reads in this run. */
  readonly target: string;
  readonly text: string;
  /** s from the first row, for what speaks of a log; `until` ends a stretch. */
  readonly time?: number;
  readonly until?: number;
  readonly recovery?: Recovery;
  /** A condition that was stated afterwards, or what a corrected reading was meant to be (absent: it was not read); SI. */
  readonly value?: number;
  /** The cell that a corrected reading stands in. */
  readonly role?: Role;
}

/** What an archive held of a record that was changed here as well: kept beside it until one of the two is chosen. */
export interface ConflictRecord extends Stamp<"conflict"> {
  /** The record that it is a version of. */
  readonly of: string;
  /** The archive it came from: its title and when it was exported. */
  readonly archive: string;
  readonly theirs: Exclude<StoredRecord, ConflictRecord>;
}

export type StoredRecord =
  | ConflictRecord
  | NotebookRecord
  | RulesRecord
  | RigRecord
  | InstrumentRecord
  | NeedRecord
  | LoadRecord
  | PackRecord
  | StationRecord
  | FeedRecord
  | CellChargeRecord
  | DayRecord
  | IssuedRecord
  | BoardRecord
  | ClaimRecord
  | SampleRecord
  | CellRecord
  | PhotoRecord
  | FileRecord
  | RunRecord
  | PointRecord
  | AnswerRecord
  | CellReadingRecord
  | AnnotationRecord;

export type RecordKind = StoredRecord["kind"];
export const RECORD_KINDS: readonly RecordKind[] = [
  "notebook",
  "rules",
  "instrument",
  "rig",
  "need",
  "load",
  "day",
  "station",
  "feed",
  "board",
  "issued",
  "claim",
  "sample",
  "cell",
  "pack",
  "cellCharge",
  "photo",
  "file",
  "run",
  "point",
  "answer",
  "cellReading",
  "annotation",
  "conflict",
];
export type RecordOf<K extends RecordKind> = Extract<StoredRecord, { kind: K }>;
