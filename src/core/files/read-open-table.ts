import Papa from "papaparse";
import { isRole, type Role } from "../measurement";
import type { ColumnMapping } from "./mapping";
import { OPEN_TABLE } from "./open-table";

/** How a table of that form is read back, from its header line. */
export function mappingOfOpenTable(text: string): ColumnMapping {
  const headers = Papa.parse<string[]>(text.slice(0, text.search(/\r?\n/)), { delimiter: "," }).data[0] ?? [];
  const named = new Map<string, Role>(
    Object.entries(OPEN_TABLE).map(([role, header]) => [header as string, role as Role]),
  );
  const unit = (header: string) => (/\/ (V|A|degC|s)$/.exec(header)?.[1] ?? "") as "s";
  return Object.fromEntries(
    headers.flatMap((header) => {
      const role = named.get(header) ?? header.replace(/ \/ \S+$/, "");
      return isRole(role) ? [[role, { header, unit: unit(header) }]] : [];
    }),
  );
}
