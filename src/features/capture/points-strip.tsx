import clsx from "clsx";
import { formatQuantity } from "@/core/quantities";
import { procedure, roleLabel, roleUnit } from "@/core/procedures";
import type { RunDossier } from "@/storage";
import { Button } from "@/ui/button";

/** The last points, newest first: what was set, read and said of them. */
export function PointsStrip({ d, onLeaveOut, onCount, writing }: { d: RunDossier; onLeaveOut(id: string): void; onCount(id: string): void; writing: boolean }) {
  const p = procedure(d.run.procedure);
  if (!p || d.points.length === 0) return <p className="border-t border-rule px-4 py-3 text-sm text-pencil">No point yet. Rows copied from a spreadsheet can be pasted here: battery V, battery A, output V, output A, temperature.</p>;
  const roles = p.record.roles.map((r) => r.role);
  const recent = d.points.slice(-8).reverse();
  return (
    <div className="overflow-x-auto border-t border-rule px-4 py-2">
      <table className="w-full min-w-160 text-right text-sm">
        <caption className="sr-only">The last points, newest first</caption>
        <thead className="text-pencil">
          <tr>
            <th className="text-left font-medium">Point</th>
            {roles.map((r) => (
              <th key={r} className="font-medium">
                {roleLabel(r)}
              </th>
            ))}
            {p.record.derived.map((x) => (
              <th key={x.id} className="font-medium">
                {x.label}
              </th>
            ))}
            <th className="pl-4 text-left font-medium">Counts</th>
          </tr>
        </thead>
        <tbody className="figures">
          {recent.map((point, i) => {
            const reason = d.corrections.leftOut.get(point.id);
            const recovery = d.corrections.recoveries.get(point.id);
            return (
              <tr key={point.id} data-point={point.id} className={clsx("border-t border-rule", reason && "text-pencil line-through")}>
                <td className="text-left">{d.points.length - i}</td>
                {roles.map((r) => {
                  const c = point.cells[r];
                  return <td key={r}>{c?.status === "overload" ? "OL" : c && c.value !== null ? formatQuantity(c.value, roleUnit(r), { digits: 4 }) : "—"}</td>;
                })}
                {p.record.derived.map((x) => {
                  const v = x.of(point, d.run.setup);
                  return <td key={x.id}>{v === null ? "—" : formatQuantity(v, x.unit, { digits: 4 })}</td>;
                })}
                <td className="pl-4 text-left font-sans no-underline">
                  {reason ? (
                    <>
                      left out: {reason} {writing ? <Button look="bare" onClick={() => onCount(point.id)}>Count it again</Button> : null}
                    </>
                  ) : (
                    <>
                      {recovery ? `fell; came back: ${recovery} ` : "yes "}
                      {writing ? (
                        <Button look="bare" onClick={() => onLeaveOut(point.id)} aria-label={`Leave out point ${d.points.length - i}`}>
                          leave out
                        </Button>
                      ) : null}
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
