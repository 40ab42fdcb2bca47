import { ELEMENTS, err, ok, type Result } from "../quantities";
import { largestShown } from "../instruments";
import { roleLabel, roleUnit, type Point, type PointSettings, type RoleReading, type Role } from "../measurement";
import { isMappedRole, type ColumnMapping, type MappedRole, SETTING_ROLES } from "./mapping";
import { COLUMN_UNITS, readField, readTime, type ColumnUnit } from "./numbers";
import {
  CUT_OFF,
  emptyLast,
  fits,
  isOtherMark,
  LAST_WHOLE,
  mostlyOdd,
  oddRow,
  otherMark,
  quoted,
  tailOf,
  WHOLE_REMARK,
  wouldRead,
  type FieldProblem,
  type Explanation,
} from "./rows";
import { readTable, type Dialect, type TextTable } from "./table";

const { nth } = ELEMENTS;

export { describeProblem, type FieldProblem, type Explanation } from "./rows";

export interface ImportedPoints {
  readonly points: readonly Point[];
  /** Every cell that could not be read; the rows that hold them are not among the points. */
  readonly problems: readonly FieldProblem[];
  /** What was put right on the way, in words. */
  readonly remarks: readonly string[];
  /** One way to read it that makes every odd row an ordinary one. */
  readonly explanation: Explanation | null;
}

export const mappedLabel = (role: MappedRole): string =>
  role === "setVoltage" ? "Battery voltage, as set" : role === "setLoad" ? "Load current, as set" : roleLabel(role);

/** Odd rows up to which each is named by itself, however short the table. */
const FEW = 3;

const isSetting = (role: MappedRole): role is (typeof SETTING_ROLES)[number] =>
  (SETTING_ROLES as readonly string[]).includes(role);

/**
 * Turns the rows of a table into points. Rows with a cell that can't be read are named and not taken; whether to go
 * on without them is the user's decision. Ids are made from `fileId` and the line, so the same file gives the same
 * points. Refused where a mapped header is not in the file or nothing is mapped.
 */
export function importPoints(
  table: TextTable,
  mapping: ColumnMapping,
  fileId: string,
  lastLine: "ask" | "whole" = "ask",
): Result<ImportedPoints> {
  const columns: { role: MappedRole; index: number; unit: ColumnUnit; sign: number; header: string }[] = [];
  for (const [role, spec] of Object.entries(mapping)) {
    if (!isMappedRole(role) || !spec) continue;
    const index = table.headers.indexOf(spec.header);
    if (index < 0)
      return err(
        `The file has no column “${spec.header}” (wanted for ${mappedLabel(role).toLowerCase()}). It has: ${quoted(table.headers.join(", "))}.`,
      );
    columns.push({ role, index, unit: spec.unit, sign: spec.sign ?? 1, header: spec.header });
  }
  if (columns.length === 0) return err("No column is assigned to a quantity.");
  const points: Point[] = [];
  const problems: FieldProblem[] = [];
  const head = table.headers.length;
  const tail = tailOf(table.rows.filter((row) => row.length === table.usual).map((row) => row[head - 1] ?? ""));
  const last = columns.find((c) => c.index === head - 1);
  if (
    last &&
    table.rows.length > 1 &&
    table.usual === head &&
    table.rows.every((row) => (row[head - 1] ?? "").trim() === "")
  )
    return err(emptyLast(last.header, table.lines[0] ?? 2));
  let ownMark = false;
  table.rows.forEach((row, r) => {
    const line = nth(table.lines, r);
    const cut = table.cutOff && lastLine === "ask" && r === table.rows.length - 1;
    const odd = fits(row, table.usual, head, tail)
      ? null
      : oddRow(row.length, table.usual, head, wouldRead(columns.map((c) => [c.header, row[c.index] ?? ""] as const)));
    if (odd ?? cut) {
      problems.push({ line, column: "", value: "", expected: "", odd: odd ?? CUT_OFF });
      return;
    }
    const cells: Partial<Record<Role, RoleReading>> = {};
    const settings: { supplyVoltage?: number; load?: PointSettings["load"] } = {};
    let bad = false;
    for (const c of columns) {
      const text = row[c.index] ?? "";
      ownMark ||= text.includes(table.dialect.decimal);
      const cell =
        c.role === "time"
          ? timeField(text, c.unit, table.dialect)
          : readField(
              text,
              table.dialect.decimal,
              c.sign * factorOf(c.unit),
              largestShown(c.role === "setVoltage" ? "V" : c.role === "setLoad" ? "A" : roleUnit(c.role)),
            );
      if (!cell.ok) {
        problems.push({ line, column: c.header, value: quoted(text), expected: cell.error });
        bad = true;
      } else if (isSetting(c.role)) {
        if (cell.value.value === null) continue;
        if (c.role === "setVoltage") settings.supplyVoltage = cell.value.value;
        else settings.load = { mode: "current", value: cell.value.value };
      } else cells[c.role] = cell.value;
    }
    if (!bad) points.push({ id: `${fileId}:${line}`, sequence: r, settings, cells });
  });
  const odd = problems.filter((x) => x.odd && x.odd !== CUT_OFF);
  if (odd.length > FEW && odd.length > points.length)
    return err(mostlyOdd(odd[0] as FieldProblem, odd.length, table.rows.length));
  return ok({
    points,
    problems,
    remarks: table.endsBare ? [WHOLE_REMARK] : [],
    explanation: explain(problems, table.dialect, ownMark),
  });
}

/** The one thing that would explain every problem of a file: the other decimal mark throughout, a last line without its line feed. */
export function explain(problems: readonly FieldProblem[], dialect: Dialect, ownMark: boolean): Explanation | null {
  if (problems.length === 0) return null;
  if (problems.length === 1 && problems[0]?.odd === CUT_OFF) return LAST_WHOLE;
  return !ownMark && dialect.delimiter !== "," && problems.every((p) => !p.odd && isOtherMark(p.value, dialect.decimal))
    ? otherMark(dialect.decimal)
    : null;
}

const factorOf = (unit: ColumnUnit): number =>
  unit === "" || unit === "hh:mm:ss" || unit === "iso" ? 1 : COLUMN_UNITS[unit];

function timeField(text: string, unit: ColumnUnit, dialect: Dialect): Result<RoleReading> {
  if (text.trim() === "") return ok({ value: null, status: "empty" });
  const value = readTime(text, unit, dialect.decimal);
  return value === null ? err(`a time in ${unit || "s"}`) : ok({ value, status: "ok" });
}

/** Points from a whole file in one go, for the command line and for runs whose raw form is a file. */
export function pointsFromFile(
  text: string,
  dialect: Partial<Dialect>,
  mapping: ColumnMapping,
  fileId: string,
  lastLine: "ask" | "whole" = "ask",
): Result<ImportedPoints> {
  const table = readTable(text, dialect);
  return table.ok ? importPoints(table.value, mapping, fileId, lastLine) : table;
}
