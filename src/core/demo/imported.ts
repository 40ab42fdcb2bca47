import { checksum } from "../files/versions";
import { fileStem } from "../files/file-stem";
import { traceToCsv } from "../files/export-trace";
import { mappingOfOpenTable } from "../files/read-open-table";
import type { FileRecord, RunRecord } from "../files/records";
import type { TraceColumns } from "../files/trace-columns";
import { asPacked } from "./package";

/** A log as a logger of the hide wrote it: the file, how it is read, and the columns that it holds. Its bytes are written anew where the demo is loaded. */
export function loggedFile(
  title: string,
  columns: TraceColumns,
  id: string,
  stamp: Pick<FileRecord, "notebookId" | "createdAt" | "updatedAt">,
): { readonly file: FileRecord; readonly source: RunRecord["source"]; readonly columns: TraceColumns } {
  const packed = asPacked(columns);
  const text = traceToCsv(packed);
  return {
    file: {
      kind: "file",
      id,
      ...stamp,
      name: `${fileStem(title)}.csv`,
      sha256: checksum(new TextEncoder().encode(text)),
      text: "",
      apart: true,
    },
    source: {
      kind: "file",
      fileId: id,
      dialect: { delimiter: ",", decimal: "." },
      mapping: mappingOfOpenTable(text),
      skipBadRows: false,
    },
    columns: packed,
  };
}
