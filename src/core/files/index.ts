export { headProblem, readTable, guessDelimiter, type Dialect, type TextTable } from "./table";
export { COLUMN_UNITS, readField, readClock, readIso, readNumber, readTime, type ColumnUnit } from "./numbers";
export {
  SETTING_ROLES,
  guessMapping,
  headerKey,
  unitsFor,
  type ColumnMapping,
  type ColumnSpec,
  type MappedRole,
} from "./mapping";
export { decodeText, encodingOf, notTable, ENCODING_NAMES, type Encoding } from "./encoding";
export { importPoints, mappedLabel, pointsFromFile, type ImportedPoints } from "./import-points";
export { lackingRoles, missingRoles, readLog, type LogRead } from "./read-log";
export { describeProblem, type FieldProblem, type Explanation } from "./rows";
export { headDialect, traceFromFile, type ImportedTrace } from "./import-trace";
export { joinColumns, type TraceColumns } from "./trace-columns";
export { TraceReader, type TraceSummary } from "./trace-reader";
export { readSetupFile, type SetupFile } from "./setup-file";
export {
  RECORD_KINDS,
  SCHEMA_VERSION,
  type AnnotationRecord,
  type CellRecord,
  type FurtherFile,
  type BoardId,
  type BoardRecord,
  type ClaimRecord,
  type FileRecord,
  type Id,
  type Modification,
  type NotebookId,
  type NotebookRecord,
  type PhotoRecord,
  type PointId,
  type PointRecord,
  type RecordKind,
  type RecordOf,
  type RigRecord,
  type RulesRecord,
  type RunId,
  type RunRecord,
  type SampleId,
  type SampleRecord,
  type StoredRecord,
} from "./records";
export { owner, references, renamed } from "./record-links";
export { threeWay, withMine, sameValue, type Clash, type ThreeWay } from "./three-way";
export { checksum, stableJson, versionOf, withLineage } from "./versions";
export { validateManifest, validateRecord, type Manifest } from "./validate";
export { answersToCsv, pointsToCsv, runToJson } from "./export-run";
