export interface TwoVersionsProps {
  /** Heads of the first and second version. */
  readonly heads: readonly [string, string];
  readonly rows: readonly { readonly key: string; readonly field: string; readonly of?: string; readonly first: string; readonly second: string }[];
}

/** The fields in which two versions differ, side by side. */
export function TwoVersions({ heads, rows }: TwoVersionsProps) {
  return (
    <div className="mb-4 overflow-x-auto">
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-ink text-left">
            {["Field", ...heads].map((h) => (
              <th key={h} className="py-1 pr-4 font-medium">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key} className="border-b border-rule align-top">
              <td className="w-48 py-1 pr-4">
                {r.of ? <span className="block text-pencil">{r.of}</span> : null}
                {r.field}
              </td>
              <td className="break-words py-1 pr-4">{r.first}</td>
              <td className="break-words py-1">{r.second}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
