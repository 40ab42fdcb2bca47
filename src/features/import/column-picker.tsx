"use client";

import {
  mappedLabel,
  SETTING_ROLES,
  unitsFor,
  type ColumnMapping,
  type ColumnUnit,
  type Dialect,
  type MappedRole,
  type TextTable,
} from "@/core/files";
import type { Role } from "@/core/measurement";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { choicesByName, Select } from "@/ui/select";

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

const DELIMITERS = [
  { value: ",", label: "comma" },
  { value: ";", label: "semicolon" },
  { value: "\t", label: "tab" },
  { value: "|", label: "bar" },
];
const DECIMALS = [
  { value: ".", label: "a point" },
  { value: ",", label: "a comma" },
] as const;

/** Rows of the beginning that are shown. */
const SHOWN = 6;

/** The first rows as they were cut, with what each column is taken for above it; every guess can be changed. */
export function ColumnPicker({ table, mapping, roles, rows, whole, onMapping, onDialect }: ColumnPickerProps) {
  const offered: MappedRole[] = [
    ...new Set<MappedRole>([...roles, ...SETTING_ROLES, "time", ...(Object.keys(mapping) as MappedRole[])]),
  ];
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
  const rowsShown = table.rows.slice(0, SHOWN).map((cells, k) => ({ k, cells }));
  const columns: readonly DataColumn<(typeof rowsShown)[number]>[] = table.headers.map((h, i) => ({
    id: `${i} ${h}`,
    head: h,
    heading: (
      <ColumnHead
        header={h}
        role={roleOf(h)}
        mapping={mapping}
        offered={offered}
        onAssign={(r) => assign(h, r)}
        onPatch={patch}
      />
    ),
    className: "figures min-w-36",
    content: (r) => r.cells[i],
  }));
  return (
    <>
      {onDialect ? (
        <div className="mb-3 flex flex-wrap gap-4 text-sm text-pencil">
          <Select
            label="Columns separated by"
            place="above"
            value={table.dialect.delimiter}
            onValue={(delimiter) => onDialect({ delimiter })}
            choices={DELIMITERS}
          />
          <Select
            label="Decimal sign"
            place="above"
            value={table.dialect.decimal}
            onValue={(decimal) => onDialect({ decimal })}
            choices={DECIMALS}
          />
        </div>
      ) : null}
      <DataTable rows={rowsShown} columns={columns} id={(r) => String(r.k)} dense />
      <p className="mt-1 text-sm text-pencil">
        {whole ? "" : "About "}
        {rows} rows; the first {Math.min(SHOWN, table.rows.length)} are shown.
      </p>
    </>
  );
}

interface ColumnHeadProps {
  readonly header: string;
  readonly role: MappedRole | "";
  readonly mapping: ColumnMapping;
  readonly offered: readonly MappedRole[];
  onAssign(role: MappedRole | ""): void;
  onPatch(role: MappedRole, change: Partial<NonNullable<ColumnMapping[MappedRole]>>): void;
}

/** A column's head, what it is taken for, its unit and sign. */
function ColumnHead({ header: h, role, mapping, offered, onAssign, onPatch }: ColumnHeadProps) {
  return (
    <span className="block min-w-36 pb-1 text-ink">
      <span className="mb-1 block break-words">{h || <em>no name</em>}</span>
      <Select<MappedRole | "">
        label={`Column ${h} is`}
        place="hidden"
        wide
        value={role}
        onValue={onAssign}
        choices={[{ value: "", label: "not used" }, ...offered.map((value) => ({ value, label: mappedLabel(value) }))]}
      />
      {role ? (
        <span className="mt-1 flex gap-1">
          <Select<ColumnUnit | "">
            label={`Unit of ${h}`}
            place="hidden"
            wide
            value={mapping[role]?.unit ?? ""}
            onValue={(unit) => onPatch(role, { unit: unit as ColumnUnit })}
            choices={unitsFor(role).map((value) => ({
              value,
              label: value === "uA" ? "µA" : value === "degC" ? "°C" : value || "number",
            }))}
          />
          {role.endsWith("Current") ? (
            <Select
              label={`Sign of ${h}`}
              place="hidden"
              wide
              value={mapping[role]?.sign === -1 ? "reversed" : "as is"}
              onValue={(s) => onPatch(role, { sign: s === "reversed" ? -1 : 1 })}
              choices={choicesByName(["as is", "reversed"])}
            />
          ) : null}
        </span>
      ) : null}
    </span>
  );
}
