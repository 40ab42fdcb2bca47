import { err, ok, type Result } from "../quantities";
import type { Role, Trace } from "../procedures";
import { mappedLabel, type CellProblem } from "./import-points";
import { isMappedRole, type ColumnMapping } from "./mapping";
import { COLUMN_UNITS, readCell, readTime, type ColumnUnit } from "./numbers";
import { readTable, type Dialect, type TextTable } from "./table";

export interface ImportedTrace {
  readonly trace: Trace;
  /** Cells that could not be read; their rows are not in the trace. */
  readonly problems: readonly CellProblem[];
  /** What was put right on the way, in words. */
  readonly remarks: readonly string[];
}

const DAY = 86400;
const factorOf = (unit: ColumnUnit): number => (unit === "" || unit === "hh:mm:ss" || unit === "iso" ? 1 : COLUMN_UNITS[unit]);

/**
 * Turns the rows of a log into a trace: columns of SI numbers over seconds from the first row.
 *
 * A time of day that runs back past midnight goes on the next day. A repeated row or time stamp is dropped and counted;
 * rows whose time runs back otherwise are refused, as nobody can know where they belong. Empty and overload cells are NaN.
 */
export function importTrace(table: TextTable, mapping: ColumnMapping): Result<ImportedTrace> {
  const timeSpec = mapping.time;
  if (!timeSpec) return err("No column is assigned to time.");
  const columns: { role: Role; index: number; factor: number; header: string }[] = [];
  for (const [role, spec] of Object.entries(mapping)) {
    if (!isMappedRole(role) || !spec) continue;
    const index = table.headers.indexOf(spec.header);
    if (index < 0) return err(`The file has no column “${spec.header}” (wanted for ${mappedLabel(role).toLowerCase()}). It has: ${table.headers.join(", ")}.`);
    if (role === "time" || role === "setVoltage" || role === "setLoad") continue;
    columns.push({ role, index, factor: (spec.sign ?? 1) * factorOf(spec.unit), header: spec.header });
  }
  if (columns.length === 0) return err("No column is assigned to a quantity.");
  const timeIndex = table.headers.indexOf(timeSpec.header);
  const time: number[] = [];
  const values: number[][] = columns.map(() => []);
  const problems: CellProblem[] = [];
  let overloads = 0;
  let repeats = 0;
  let days = 0;
  let last = -Infinity;
  let lastRaw = -Infinity;
  for (let r = 0; r < table.rows.length; r++) {
    const row = table.rows[r] as readonly string[];
    const line = table.firstLine + r;
    const raw = readTime(row[timeIndex] ?? "", timeSpec.unit, table.dialect.decimal);
    if (raw === null) {
      problems.push({ line, column: timeSpec.header, value: row[timeIndex] ?? "", expected: `a time in ${timeSpec.unit || "s"}` });
      continue;
    }
    if (timeSpec.unit === "hh:mm:ss" && raw < lastRaw - DAY / 2) days++;
    lastRaw = raw;
    const t = raw + days * DAY;
    if (t === last) {
      repeats++;
      continue;
    }
    if (t < last) return err(`Line ${line}: the time runs back, from ${last - (time[0] ?? 0)} s to ${t - (time[0] ?? 0)} s after the first row. Sort the file by time, or cut it where the log was started anew.`);
    const cells: number[] = [];
    let bad = false;
    for (const c of columns) {
      const cell = readCell(row[c.index] ?? "", table.dialect.decimal, c.factor);
      if (!cell.ok) {
        problems.push({ line, column: c.header, value: row[c.index] ?? "", expected: cell.error });
        bad = true;
        break;
      }
      if (cell.value.status === "overload") overloads++;
      cells.push(cell.value.value ?? NaN);
    }
    if (bad) continue;
    last = t;
    time.push(t);
    cells.forEach((v, k) => (values[k] as number[]).push(v));
  }
  if (time.length < 2) return err("The log has fewer than two rows that can be read.");
  const first = time[0] as number;
  const trace: Trace = {
    columns: Object.fromEntries([["time", Float64Array.from(time, (t) => t - first)], ...columns.map((c, k) => [c.role, Float64Array.from(values[k] as number[])])]),
    events: [],
  };
  const remarks = [
    ...(repeats ? [`${repeats} ${repeats === 1 ? "row repeats" : "rows repeat"} the time stamp before ${repeats === 1 ? "it" : "them"} and ${repeats === 1 ? "was" : "were"} dropped.`] : []),
    ...(overloads ? [`${overloads} overload ${overloads === 1 ? "mark" : "marks"} count as no reading.`] : []),
  ];
  return ok({ trace, problems, remarks });
}

/** A trace from a whole file in one go. */
export function traceFromFile(text: string, dialect: Partial<Dialect>, mapping: ColumnMapping): Result<ImportedTrace> {
  const table = readTable(text, dialect);
  return table.ok ? importTrace(table.value, mapping) : table;
}
