import { err, ok, type Result } from "../quantities";
import { roleLabel, type Point, type PointSettings, type ReadingCell, type Role } from "../procedures";
import { isMappedRole, type ColumnMapping, type MappedRole, SETTING_ROLES } from "./mapping";
import { COLUMN_UNITS, readCell, readTime, type ColumnUnit } from "./numbers";
import { readTable, type Dialect, type TextTable } from "./table";

/** A cell that could not be read: where it stands, what it holds, what was expected. */
export interface CellProblem {
  /** Line of the file, counted from 1. */
  readonly line: number;
  readonly column: string;
  readonly value: string;
  readonly expected: string;
}

export const describeProblem = (p: CellProblem): string =>
  `Line ${p.line}, column “${p.column}”: “${p.value}” is not ${p.expected}.`;

export interface ImportedPoints {
  readonly points: readonly Point[];
  /** Every cell that could not be read; the rows that hold them are not among the points. */
  readonly problems: readonly CellProblem[];
}

export const mappedLabel = (role: MappedRole): string =>
  role === "setVoltage" ? "Battery volts, as set" : role === "setLoad" ? "Load amps, as set" : roleLabel(role);

const isSetting = (role: MappedRole): role is (typeof SETTING_ROLES)[number] => (SETTING_ROLES as readonly string[]).includes(role);

/**
 * Turns the rows of a table into points. Rows with a cell that can't be read are named and not taken; whether to go
 * on without them is the user's decision. Ids are made from `fileId` and the line, so the same file gives the same
 * points. Refused where a mapped header is not in the file or nothing is mapped.
 */
export function importPoints(table: TextTable, mapping: ColumnMapping, fileId: string): Result<ImportedPoints> {
  const columns: { role: MappedRole; index: number; unit: ColumnUnit; sign: number; header: string }[] = [];
  for (const [role, spec] of Object.entries(mapping)) {
    if (!isMappedRole(role) || !spec) continue;
    const index = table.headers.indexOf(spec.header);
    if (index < 0) return err(`The file has no column “${spec.header}” (wanted for ${mappedLabel(role).toLowerCase()}). It has: ${table.headers.join(", ")}.`);
    columns.push({ role, index, unit: spec.unit, sign: spec.sign ?? 1, header: spec.header });
  }
  if (columns.length === 0) return err("No column is assigned to a quantity.");
  const points: Point[] = [];
  const problems: CellProblem[] = [];
  table.rows.forEach((row, r) => {
    const line = table.firstLine + r;
    const cells: Partial<Record<Role, ReadingCell>> = {};
    const settings: { supplyVoltage?: number; load?: PointSettings["load"] } = {};
    let bad = false;
    for (const c of columns) {
      const text = row[c.index] ?? "";
      const cell = c.role === "time" ? timeCell(text, c.unit, table.dialect) : readCell(text, table.dialect.decimal, c.sign * factorOf(c.unit));
      if (!cell.ok) {
        problems.push({ line, column: c.header, value: text, expected: cell.error });
        bad = true;
      } else if (isSetting(c.role)) {
        if (cell.value.value === null) continue;
        if (c.role === "setVoltage") settings.supplyVoltage = cell.value.value;
        else settings.load = { mode: "current", value: cell.value.value };
      } else cells[c.role] = cell.value;
    }
    if (!bad) points.push({ id: `${fileId}:${line}`, sequence: r, settings, cells });
  });
  return ok({ points, problems });
}

const factorOf = (unit: ColumnUnit): number => (unit === "" || unit === "hh:mm:ss" || unit === "iso" ? 1 : COLUMN_UNITS[unit]);

function timeCell(text: string, unit: ColumnUnit, dialect: Dialect): Result<ReadingCell> {
  if (text.trim() === "") return ok({ value: null, status: "empty" });
  const value = readTime(text, unit, dialect.decimal);
  return value === null ? err(`a time in ${unit || "s"}`) : ok({ value, status: "ok" });
}

/** Points from a whole file in one go, for the command line and for runs whose raw form is a file. */
export function pointsFromFile(text: string, dialect: Partial<Dialect>, mapping: ColumnMapping, fileId: string): Result<ImportedPoints> {
  const table = readTable(text, dialect);
  return table.ok ? importPoints(table.value, mapping, fileId) : table;
}
