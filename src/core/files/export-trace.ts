import Papa from "papaparse";
import { isRole, type Role } from "../procedures";
import { OPEN_TABLE, type ColumnMapping } from "./mapping";
import type { TraceColumns } from "./trace-columns";

const label = (role: Role): string => OPEN_TABLE[role] ?? `${role} / ${role.endsWith("Voltage") ? "V" : role.endsWith("Current") ? "A" : "1"}`;

/** How a table of that form is read back, from its header line. */
export function mappingOfOpenTable(text: string): ColumnMapping {
  const headers = Papa.parse<string[]>(text.slice(0, text.search(/\r?\n/)), { delimiter: "," }).data[0] ?? [];
  const named = new Map<string, Role>(Object.entries(OPEN_TABLE).map(([role, header]) => [header as string, role as Role]));
  const unit = (header: string) => (/\/ (V|A|degC|s)$/.exec(header)?.[1] ?? "") as "s";
  return Object.fromEntries(headers.flatMap((header) => {
    const role = named.get(header) ?? header.replace(/ \/ \S+$/, "");
    return isRole(role) ? [[role, { header, unit: unit(header) }]] : [];
  }));
}

/** A log as the open battery data table: comma, decimal point, SI units in the labels, every digit. An absent reading is an empty cell. */
export function traceToCsv(columns: TraceColumns): string {
  const roles = (["time", ...Object.keys(columns).filter((r) => r !== "time")] as Role[]).filter((r) => columns[r]);
  const lines = [Papa.unparse([roles.map(label)])];
  const rows = columns.time?.length ?? 0;
  const all = roles.map((r) => columns[r] as Float64Array);
  for (let k = 0; k < rows; k++) lines.push(all.map((c) => (Number.isNaN(c[k]) ? "" : String(c[k]))).join(","));
  return `${lines.join("\r\n")}\r\n`;
}
