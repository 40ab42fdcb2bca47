export { readTable, guessDelimiter, type Dialect, type TextTable } from "./table";
export { COLUMN_UNITS, readCell, readClock, readIso, readNumber, readTime, type ColumnUnit } from "./numbers";
export { SETTING_ROLES, guessMapping, headerKey, unitsFor, type ColumnMapping, type ColumnSpec, type MappedRole } from "./mapping";
export { describeProblem, importPoints, mappedLabel, pointsFromFile, type CellProblem, type ImportedPoints } from "./import-points";
export { readSetupFile, type SetupFile } from "./setup-file";
