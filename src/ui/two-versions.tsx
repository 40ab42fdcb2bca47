import { DataTable, type DataColumn } from "./data-table";

interface Row {
  readonly key: string;
  readonly field: string;
  readonly of?: string;
  readonly first: string;
  readonly second: string;
}

export interface TwoVersionsProps {
  /** Heads of the first and second version. */
  readonly heads: readonly [string, string];
  readonly rows: readonly Row[];
}

/** The fields in which two versions differ, side by side. */
export function TwoVersions({ heads, rows }: TwoVersionsProps) {
  const columns: readonly DataColumn<Row>[] = [
    {
      id: "field",
      head: "Field",
      className: "w-48",
      content: (r) => (
        <>
          {r.of ? <span className="block text-pencil">{r.of}</span> : null}
          {r.field}
        </>
      ),
    },
    { id: "first", head: heads[0], className: "break-words", content: (r) => r.first },
    { id: "second", head: heads[1], className: "break-words", content: (r) => r.second },
  ];
  return (
    <div className="mb-4">
      <DataTable rows={rows} columns={columns} id={(r) => r.key} />
    </div>
  );
}
