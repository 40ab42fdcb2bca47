import { formatQuantity } from "@/core/quantities";
import { correctedText, procedure, roleLabel, roleUnit, type Point, type Procedure, type Role } from "@/core/procedures";
import type { RunDossier } from "@/storage";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { dwellWanted, stoodTooShort } from "./dwell";

/** As many rows as leave the whole screen in sight at 1280 × 800. */
const SHOWN = 6;

interface Acts {
  onLeaveOut(id: string): void;
  onCorrect(id: string): void;
  onCount(id: string): void;
}

/** The last points, newest first: what was set, read and said of them. */
export function PointsStrip({ d, writing, ...acts }: { readonly d: RunDossier; readonly writing: boolean } & Acts) {
  const p = procedure(d.run.procedure);
  if (!p || d.points.length === 0) return <p className="border-t border-rule px-4 py-3 text-sm text-pencil">No points yet. You can paste rows from a spreadsheet: battery V, battery A, output V, output A, temperature.</p>;
  const first = Math.max(0, d.points.length - SHOWN);
  const rows = d.points.slice(first).map((point, k): Row => ({ point, number: first + k + 1 })).reverse();
  const excluded = d.corrections.leftOut;
  return (
    <div className="[contain:layout_paint] border-t border-rule px-4 py-2">
      <DataTable label="Points, newest first" dense="most" least={640} rows={rows} id={(r) => r.point.id} columns={columnsOf(d, p, writing, acts)} rowProps={(r) => ({ "data-point": r.point.id, className: excluded.has(r.point.id) ? "text-pencil line-through" : "" })} />
    </div>
  );
}

interface Row {
  readonly point: Point;
  /** As the whole table counts it. */
  readonly number: number;
}

function shown(point: Point, role: Role): string {
  const c = point.cells[role];
  return c?.status === "overload" ? "OL" : c && c.value !== null ? formatQuantity(c.value, roleUnit(role), { digits: 4 }) : "—";
}

function columnsOf(d: RunDossier, p: Procedure, writing: boolean, acts: Acts): readonly DataColumn<Row>[] {
  return [
    { id: "point", head: "Point", className: "figures", cell: (r) => r.number },
    ...p.record.roles.map(({ role }): DataColumn<Row> => ({ id: role, head: roleLabel(role), figures: true, cell: (r) => shown(r.point, role) })),
    ...p.record.derived.map((x): DataColumn<Row> => ({
      id: x.id,
      head: x.label,
      figures: true,
      cell: (r) => {
        const v = x.of(r.point, d.run.setup);
        return v === null ? "—" : formatQuantity(v, x.unit, { digits: 4 });
      },
    })),
    { id: "counts", head: "Counts", className: "pl-4", cell: (r) => <Counts row={r} d={d} writing={writing} acts={acts} /> },
  ];
}

/** Whether a point counts, why not, and the acts that it allows. */
function Counts({ row: { point, number }, d, writing, acts }: { readonly row: Row; readonly d: RunDossier; readonly writing: boolean; readonly acts: Acts }) {
  const reason = d.corrections.leftOut.get(point.id);
  const recovery = d.corrections.recoveries.get(point.id);
  if (reason)
    return (
      <>
        excluded: {reason}{" "}
        {writing ? (
          <Button look="bare" onClick={() => acts.onCount(point.id)}>
            Include
          </Button>
        ) : null}
      </>
    );
  return (
    <span className="whitespace-nowrap">
      {point.corrected ? <>corrected: {correctedText(point)} </> : null}
      {recovery ? `fell; came back: ${recovery}` : stoodTooShort(point.dwell, dwellWanted(d.run.setup)) ? `not held: dwell ${formatQuantity(point.dwell ?? 0, "s", { digits: 2 })}` : "yes"}{" "}
      {writing ? (
        <>
          <Button look="bare" aria-label={`Exclude point ${number}`} onClick={() => acts.onLeaveOut(point.id)}>
            exclude
          </Button>{" "}
          <Button look="bare" aria-label={`Correct point ${number}`} onClick={() => acts.onCorrect(point.id)}>
            correct
          </Button>
        </>
      ) : null}
    </span>
  );
}
