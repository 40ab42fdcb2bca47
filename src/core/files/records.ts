/** What is stored and exported. Derived things are never among these as truth. The types are those of the schemas (schemas.ts): each is written once. */
import type { SchemaType } from "./schema-kit";
import type { PARTS, RECORD_SCHEMAS } from "./schemas";

export {
  CELL_SIGNS,
  RECORD_KINDS,
  SCHEMA_VERSION,
  type BoardId,
  type CellSign,
  type Id,
  type NotebookId,
  type PointId,
  type RecordKind,
  type RunId,
  type SampleId,
} from "./record-basics";

type Records = { readonly [K in keyof typeof RECORD_SCHEMAS]: SchemaType<(typeof RECORD_SCHEMAS)[K]> };
export type StoredRecord = Records[keyof Records];
export type RecordOf<K extends keyof Records> = Records[K];

export type NotebookRecord = RecordOf<"notebook">;
export type RulesRecord = RecordOf<"rules">;
export type RigRecord = RecordOf<"rig">;
export type InstrumentRecord = RecordOf<"instrument">;
export type NeedRecord = RecordOf<"need">;
export type LoadRecord = RecordOf<"load">;
export type PackRecord = RecordOf<"pack">;
export type StationRecord = RecordOf<"station">;
export type FeedRecord = RecordOf<"feed">;
export type CellChargeRecord = RecordOf<"cellCharge">;
export type DayRecord = RecordOf<"day">;
export type IssuedRecord = RecordOf<"issued">;
export type BoardRecord = RecordOf<"board">;
export type ClaimRecord = RecordOf<"claim">;
export type SampleRecord = RecordOf<"sample">;
export type PhotoRecord = RecordOf<"photo">;
export type FileRecord = RecordOf<"file">;
export type CellRecord = RecordOf<"cell">;
export type CellReadingRecord = RecordOf<"cellReading">;
export type RunRecord = RecordOf<"run">;
export type PointRecord = RecordOf<"point">;
export type AnswerRecord = RecordOf<"answer">;
export type AnnotationRecord = RecordOf<"annotation">;
export type ConflictRecord = RecordOf<"conflict">;

export type Modification = SchemaType<typeof PARTS.modification>;
export type ProgrammeResistor = SchemaType<typeof PARTS.programme>;
/** Another file of the same run. */
export type FurtherFile = SchemaType<typeof PARTS.furtherFile>;
