/** What every record rests on: the version of the schemas, the kinds there are, the brands of ids. */
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

export const RECORD_KINDS = [
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
] as const;
export type RecordKind = (typeof RECORD_KINDS)[number];

/** What a tester noticed of a cell besides its volts. */
export const CELL_SIGNS = ["hot", "takes no charge", "swollen", "leaking", "dented"] as const;
export type CellSign = (typeof CELL_SIGNS)[number];
