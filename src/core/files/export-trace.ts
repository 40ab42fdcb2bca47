import type { Role } from "../measurement";
import { OPEN_TABLE } from "./open-table";
import type { TraceColumns } from "./trace-columns";

const label = (role: Role): string =>
  OPEN_TABLE[role] ?? `${role} / ${role.endsWith("Voltage") ? "V" : role.endsWith("Current") ? "A" : "1"}`;

/** A log as the open battery data table: comma, decimal point, SI units in the labels, every digit. An absent reading is an empty cell. */
export function traceToCsv(columns: TraceColumns): string {
  const roles = (["time", ...Object.keys(columns).filter((r) => r !== "time")] as Role[]).filter((r) => columns[r]);
  const lines = [roles.map(label).join(",")];
  const rows = columns.time?.length ?? 0;
  const all = roles.map((r) => columns[r] as Float64Array);
  for (let k = 0; k < rows; k++) lines.push(all.map((c) => (Number.isNaN(c[k]) ? "" : String(c[k]))).join(","));
  return `${lines.join("\r\n")}\r\n`;
}
