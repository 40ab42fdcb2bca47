import { useMemo } from "react";
import { formatQuantity } from "@/core/quantities";
import {
  correctedText,
  roleLabel,
  roleUnit,
  type Point,
  type Recovery,
  type Role,
  type RunSetup,
} from "@/core/measurement";
import { procedure, type Procedure } from "@/core/procedures";
import type { RunDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { dwellWanted, stoodTooShort } from "./dwell";

/** As many rows as leave the whole screen in sight at 1280 × 800. */
const SHOWN = 5;

/** A point with its number in the run. */
interface Numbered {
  readonly point: Point;
  readonly number: number;
}

const numbered = new WeakMap<Point, Numbered>();

/** The same row for the same point: what has not changed is not drawn again at every key. */
function withNumber(point: Point, number: number): Numbered {
  const had = numbered.get(point);
  if (had?.number === number) return had;
  const row = { point, number };
  numbered.set(point, row);
  return row;
}

interface StripProps {
  readonly d: RunDossier;
  readonly writing: boolean;
  onLeaveOut(id: string): void;
  onCorrect(id: string): void;
  onCount(id: string): void;
}

/** The last points, newest first: what was set, read and said of them. */
export function PointsStrip({ d, onLeaveOut, onCorrect, onCount, writing }: StripProps) {
  const p = procedure(d.run.procedure);
  const columns = useColumns(p, d.run.setup, d.corrections, writing);
  if (!p) return null;
  if (d.points.length === 0)
    return (
      <p className="border-t border-rule px-4 py-3 text-sm text-pencil">
        No points yet. You can paste rows from a spreadsheet, columns in this order:{" "}
        {p.record.roles
          .map((r) => `${roleLabel(r.role).toLowerCase()}${roleUnit(r.role) ? ` (${roleUnit(r.role)})` : ""}`)
          .join(", ")}
        .
      </p>
    );
  const recent = d.points
    .slice(-SHOWN)
    .map((point, k) => withNumber(point, Math.max(0, d.points.length - SHOWN) + k + 1));
  // One listener for all rows, so that a row whose point stays the same is not drawn again.
  const onClick = (e: React.MouseEvent) => {
    const button = (e.target as Element).closest("button[data-act]");
    const id = button?.closest("tr")?.getAttribute("data-point");
    if (!id) return;
    const act = button?.getAttribute("data-act");
    if (act === "include") onCount(id);
    else if (act === "correct") onCorrect(id);
    else onLeaveOut(id);
  };
  return (
    <div className="[contain:layout_paint] border-t border-rule px-4 py-2" onClick={onClick}>
      <DataTable
        label="Points, newest first"
        rows={recent.reverse()}
        columns={columns}
        id={idOf}
        rowProps={propsOf}
        least={640}
        dense
      />
    </div>
  );
}

const idOf = (r: Numbered): string => r.point.id;
const propsOf = (r: Numbered) => ({ "data-point": r.point.id });

/** What was read at a point, as its table shows it. */
function shown(point: Point, role: Role): string | number {
  const c = point.cells[role];
  if (c?.status === "overload") return "OL";
  if (!c || c.value === null) return "—";
  return c.status === "ok" && roleUnit(role) === "" ? c.value : formatQuantity(c.value, roleUnit(role), { digits: 4 });
}

function useColumns(
  p: Procedure | undefined,
  setup: RunSetup,
  corrections: RunDossier["corrections"],
  writing: boolean,
): readonly DataColumn<Numbered>[] {
  return useMemo(() => {
    if (!p) return [];
    const struck = ({ point }: Numbered) => (corrections.leftOut.has(point.id) ? "text-pencil line-through" : "");
    const wanted = dwellWanted(setup);
    return [
      {
        id: "point",
        head: "Point",
        names: true,
        className: struck,
        content: (r) => <span className="figures">{r.number}</span>,
      },
      ...p.record.roles.map(({ role }): DataColumn<Numbered> => ({
        id: role,
        head: roleLabel(role),
        figures: true,
        className: struck,
        content: (r) => shown(r.point, role),
      })),
      ...p.record.derived.map((x): DataColumn<Numbered> => ({
        id: x.id,
        head: x.label,
        figures: true,
        className: struck,
        content: (r) => {
          const v = x.of(r.point, setup);
          return v === null ? "—" : formatQuantity(v, x.unit, { digits: 4 });
        },
      })),
      {
        id: "counts",
        head: "Counts",
        content: (r) => (
          <Counts
            {...r}
            reason={corrections.leftOut.get(r.point.id)}
            recovery={corrections.recoveries.get(r.point.id)}
            wanted={wanted}
            writing={writing}
          />
        ),
      },
    ];
  }, [p, setup, corrections, writing]);
}

interface CountsProps extends Numbered {
  readonly reason: string | undefined;
  readonly recovery: Recovery | undefined;
  /** s that a point has to stand before it counts as held. */
  readonly wanted: number;
  readonly writing: boolean;
}

/** Whether a point counts and why not, and what can be done about it; the strip listens for all of its buttons. */
function Counts({ point, number, reason, recovery, wanted, writing }: CountsProps) {
  if (reason)
    return (
      <>
        <span className="text-pencil">excluded: {reason}</span>{" "}
        {writing ? (
          <Button look="bare" data-act="include">
            Include
          </Button>
        ) : null}
      </>
    );
  return (
    <>
      {point.corrected ? <>corrected: {correctedText(point)} </> : null}
      {recovery
        ? `fell; came back: ${recovery} `
        : stoodTooShort(point.dwell, wanted)
          ? `not held: dwell ${formatQuantity(point.dwell ?? 0, "s", { digits: 2 })} `
          : "yes "}
      {writing ? (
        <>
          <Button look="bare" data-act="exclude" aria-label={`Exclude point ${number}`}>
            exclude
          </Button>{" "}
          <Button look="bare" data-act="correct" aria-label={`Correct point ${number}`}>
            correct
          </Button>
        </>
      ) : null}
    </>
  );
}
