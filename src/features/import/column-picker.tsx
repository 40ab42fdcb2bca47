"use client";

import { mappedLabel, SETTING_ROLES, unitsFor, type ColumnMapping, type ColumnUnit, type Dialect, type MappedRole, type TextTable } from "@/core/files";
import type { Role } from "@/core/procedures";

export interface ColumnPickerProps {
  readonly table: TextTable;
  readonly mapping: ColumnMapping;
  readonly roles: readonly Role[];
  /** About how many rows the file has; `whole` where they were counted. */
  readonly rows: number;
  readonly whole: boolean;
  onMapping(m: ColumnMapping): void;
  /** Absent where the file is taken as it was cut. */
  onDialect?(d: Partial<Dialect>): void;
}

const SELECT = "block w-full border border-pencil/60 bg-field px-1.5 py-1 text-sm text-ink";

/** The first rows as they were cut, with what each column is taken for above it; every guess can be changed. */
export function ColumnPicker({ table, mapping, roles, rows, whole, onMapping, onDialect }: ColumnPickerProps) {
  const offered: MappedRole[] = [...new Set<MappedRole>([...roles, ...SETTING_ROLES, "time", ...(Object.keys(mapping) as MappedRole[])])];
  const roleOf = (header: string): MappedRole | "" => offered.find((r) => mapping[r]?.header === header) ?? "";
  const assign = (header: string, role: MappedRole | "") => {
    const next: Record<string, NonNullable<ColumnMapping[MappedRole]>> = {};
    for (const [r, spec] of Object.entries(mapping)) if (spec && spec.header !== header && r !== role) next[r] = spec;
    if (role) next[role] = { header, unit: unitsFor(role)[0] ?? "" };
    onMapping(next as ColumnMapping);
  };
  const patch = (role: MappedRole, change: Partial<NonNullable<ColumnMapping[MappedRole]>>) => {
    const spec = mapping[role];
    if (spec) onMapping({ ...mapping, [role]: { ...spec, ...change } });
  };
  return (
    <>
      {onDialect ? (
        <div className="mb-3 flex flex-wrap gap-4 text-sm text-pencil">
          <label>
            Columns separated by
            <select className={SELECT} value={table.dialect.delimiter} onChange={(e) => onDialect({ delimiter: e.target.value })}>
              <option value=",">comma</option>
              <option value=";">semicolon</option>
              <option value={"\t"}>tab</option>
              <option value="|">bar</option>
            </select>
          </label>
          <label>
            Decimal sign
            <select className={SELECT} value={table.dialect.decimal} onChange={(e) => onDialect({ decimal: e.target.value as "." | "," })}>
              <option value=".">a point</option>
              <option value=",">a comma</option>
            </select>
          </label>
        </div>
      ) : null}
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="align-top">
              {table.headers.map((h, i) => {
                const role = roleOf(h);
                return (
                  <th key={h + i} className="min-w-36 border-b border-pencil/60 pb-2 pr-3 font-medium">
                    <span className="mb-1 block break-words">{h || <em>no name</em>}</span>
                    <select className={SELECT} aria-label={`Column ${h} is`} value={role} onChange={(e) => assign(h, e.target.value as MappedRole | "")}>
                      <option value="">not used</option>
                      {offered.map((r) => (
                        <option key={r} value={r}>
                          {mappedLabel(r)}
                        </option>
                      ))}
                    </select>
                    {role ? (
                      <span className="mt-1 flex gap-1">
                        <select className={SELECT} aria-label={`Unit of ${h}`} value={mapping[role]?.unit ?? ""} onChange={(e) => patch(role, { unit: e.target.value as ColumnUnit })}>
                          {unitsFor(role).map((u) => (
                            <option key={u} value={u}>
                              {u === "uA" ? "µA" : u === "degC" ? "°C" : u || "number"}
                            </option>
                          ))}
                        </select>
                        {role.endsWith("Current") ? (
                          <select className={SELECT} aria-label={`Sign of ${h}`} value={mapping[role]?.sign ?? 1} onChange={(e) => patch(role, { sign: Number(e.target.value) as 1 | -1 })}>
                            <option value={1}>as is</option>
                            <option value={-1}>reversed</option>
                          </select>
                        ) : null}
                      </span>
                    ) : null}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody className="figures">
            {table.rows.slice(0, 6).map((row, r) => (
              <tr key={r} className="border-b border-rule">
                {table.headers.map((h, i) => (
                  <td key={h + i} className="py-0.5 pr-3">
                    {row[i]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-sm text-pencil">
        {whole ? "" : "About "}
        {rows} rows; the first {Math.min(6, table.rows.length)} are shown.
      </p>
    </>
  );
}
