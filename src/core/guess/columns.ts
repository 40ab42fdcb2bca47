import { readField, readTime, type ColumnMapping, type TextTable } from "../files";
import { isMappedRole } from "../files/mapping";
import { COLUMN_UNITS } from "../files/numbers";
import type { Role } from "../measurement";

/** The columns of a table as numbers, SI, by what they are mapped to; NaN where a cell holds no number. Settings are left out. */
export function tableColumns(table: TextTable, mapping: ColumnMapping): Partial<Record<Role, Float64Array>> {
  const out: Partial<Record<Role, Float64Array>> = {};
  for (const [role, spec] of Object.entries(mapping)) {
    if (!spec || !isMappedRole(role) || role === "setVoltage" || role === "setLoad") continue;
    const at = table.headers.indexOf(spec.header);
    const factor =
      (spec.sign ?? 1) * (spec.unit in COLUMN_UNITS ? COLUMN_UNITS[spec.unit as keyof typeof COLUMN_UNITS] : 1);
    const number = (cell: string): number => {
      if (role === "time") return readTime(cell, spec.unit, table.dialect.decimal) ?? NaN;
      const read = readField(cell, table.dialect.decimal, factor);
      return read.ok ? (read.value.value ?? NaN) : NaN;
    };
    out[role] = Float64Array.from(table.rows, (row) => number(row[at] ?? ""));
  }
  return out;
}
