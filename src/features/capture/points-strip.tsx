import clsx from "clsx";
import { memo } from "react";
import { formatQuantity } from "@/core/quantities";
import { correctedText, procedure, roleLabel, roleUnit, type Point, type Procedure, type Recovery, type Role, type RunSetup } from "@/core/procedures";
import type { RunDossier } from "@/storage";
import { Button } from "@/ui/button";
import { dwellWanted, stoodTooShort } from "./dwell";

/** As many rows as leave the whole screen in sight at 1280 × 800. */
const SHOWN = 6;

/** The last points, newest first: what was set, read and said of them. */
export function PointsStrip({ d, onLeaveOut, onCorrect, onCount, writing }: { d: RunDossier; onLeaveOut(id: string): void; onCorrect(id: string): void; onCount(id: string): void; writing: boolean }) {
  const p = procedure(d.run.procedure);
  if (!p) return null;
  if (d.points.length === 0) return <p className="border-t border-rule px-4 py-3 text-sm text-pencil">No points yet. You can paste rows from a spreadsheet, columns in this order: {p.record.roles.map((r) => `${roleLabel(r.role).toLowerCase()}${roleUnit(r.role) ? ` (${roleUnit(r.role)})` : ""}`).join(", ")}.</p>;
  const roles = p.record.roles.map((r) => r.role);
  const wanted = dwellWanted(d.run.setup);
  const recent = d.points.slice(-SHOWN).reverse();
  // One listener for all rows, so that a row whose point stays the same is not drawn again at every key.
  const onClick = (e: React.MouseEvent) => {
    const button = (e.target as Element).closest("button");
    const id = button?.closest("tr")?.getAttribute("data-point");
    if (!id) return;
    if (button?.hasAttribute("data-count")) onCount(id);
    else if (button?.hasAttribute("data-correct")) onCorrect(id);
    else onLeaveOut(id);
  };
  return (
    <div className="overflow-x-auto [contain:layout_paint] border-t border-rule px-4 py-2">
      <table className="w-full min-w-160 text-right text-sm" onClick={onClick}>
        <caption className="sr-only">Points, newest first</caption>
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
          {recent.map((point, i) => (
            <Row
              key={point.id}
              point={point}
              number={d.points.length - i}
              p={p}
              setup={d.run.setup}
              reason={d.corrections.leftOut.get(point.id)}
              recovery={d.corrections.recoveries.get(point.id)}
              wanted={wanted}
              writing={writing}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  readonly point: Point;
  readonly number: number;
  readonly p: Procedure;
  readonly setup: RunSetup;
  readonly reason: string | undefined;
  readonly recovery: Recovery | undefined;
  /** s that a point has to stand before it counts as held. */
  readonly wanted: number;
  readonly writing: boolean;
}

const Row = memo(function Row({ point, number, p, setup, reason, recovery, wanted, writing }: RowProps) {
  const shown = (role: Role) => {
    const c = point.cells[role];
    if (c?.status === "ok" && roleUnit(role) === "") return c.value;
    return c?.status === "overload" ? "OL" : c && c.value !== null ? formatQuantity(c.value, roleUnit(role), { digits: 4 }) : "—";
  };
  const short = stoodTooShort(point.dwell, wanted);
  return (
    <tr data-point={point.id} className={clsx("border-t border-rule", reason && "text-pencil line-through")}>
      <td className="text-left">{number}</td>
      {p.record.roles.map(({ role }) => (
        <td key={role}>{shown(role)}</td>
      ))}
      {p.record.derived.map((x) => {
        const v = x.of(point, setup);
        return <td key={x.id}>{v === null ? "—" : formatQuantity(v, x.unit, { digits: 4 })}</td>;
      })}
      <td className="pl-4 text-left font-sans no-underline">
        {reason ? (
          <>
            excluded: {reason}{" "}
            {writing ? (
              <Button look="bare" data-count="">
                Include
              </Button>
            ) : null}
          </>
        ) : (
          <>
            {point.corrected ? <>corrected: {correctedText(point)} </> : null}
            {recovery ? `fell; came back: ${recovery} ` : short ? `not held: dwell ${formatQuantity(point.dwell ?? 0, "s", { digits: 2 })} ` : "yes "}
            {writing ? (
              <Button look="bare" aria-label={`Exclude point ${number}`}>
                exclude
              </Button>
            ) : null}{" "}
            {writing ? (
              <Button look="bare" data-correct="" aria-label={`Correct point ${number}`}>
                correct
              </Button>
            ) : null}
          </>
        )}
      </td>
    </tr>
  );
});
