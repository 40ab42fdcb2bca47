"use client";

import clsx from "clsx";
import { useMemo, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import { correctedText, roleLabel, roleUnit, type Point } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { attempt } from "@/browser/notify";
import { correctReadings, countPointAgain, leavePointOut, type RunDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { CorrectDialog } from "@/ui/correct-dialog";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { LeaveOutDialog } from "@/ui/reason-dialog";

type Ask = { readonly kind: "exclude" | "correct"; readonly id: string };

const LOW = "py-0.5 pl-3 pr-0";
const isOut = (d: RunDossier, p: Point): boolean => d.corrections.leftOut.has(p.id);

/** The point's number, what was set where anything was, what was read, what follows from it, and what was made of it. */
function useColumns(
  d: RunDossier,
  procedure: Procedure,
  number: ReadonlyMap<string, number>,
  onAsk: (what: Ask) => void,
): readonly DataColumn<Point>[] {
  const set = d.points.some((p) => p.settings.supplyVoltage !== undefined || p.settings.load !== undefined);
  return useMemo(() => {
    const figure = (
      id: string,
      head: string,
      by: (p: Point) => number | undefined,
      content: (p: Point) => string,
    ): DataColumn<Point> => ({
      id,
      head,
      by,
      content,
      figures: true,
      className: (p) => clsx(LOW, isOut(d, p) && "line-through"),
    });
    return [
      figure(
        "point",
        "Point",
        (p) => number.get(p.id),
        (p) => String(number.get(p.id) ?? ""),
      ),
      ...(set
        ? [
            figure(
              "set",
              "Supply set",
              (p) => p.settings.supplyVoltage,
              (p) => quantity(p.settings.supplyVoltage, "V"),
            ),
            figure(
              "load",
              "Load set",
              (p) => p.settings.load?.value,
              (p) => quantity(p.settings.load?.value, p.settings.load?.mode === "resistance" ? "Ω" : "A"),
            ),
          ]
        : []),
      ...procedure.record.roles.map(({ role }) => {
        const value = (p: Point) => p.cells[role]?.value ?? undefined;
        return figure(role, roleLabel(role), value, (p) =>
          p.cells[role]?.status === "overload" ? "OL" : quantity(value(p), roleUnit(role)),
        );
      }),
      ...procedure.record.derived.map((x) => {
        const value = (p: Point) => x.of(p, d.run.setup) ?? undefined;
        return figure(x.id, x.label, value, (p) => quantity(value(p), x.unit));
      }),
      {
        id: "remark",
        head: "Remark",
        className: LOW,
        content: (p) => <Remark d={d} point={p} number={number.get(p.id) ?? 0} onAsk={onAsk} />,
      },
    ];
  }, [d, procedure, number, set, onAsk]);
}

/** What was made of a point, and what can be made of it. */
function Remark({
  d,
  point,
  number,
  onAsk,
}: {
  readonly d: RunDossier;
  readonly point: Point;
  readonly number: number;
  onAsk(what: Ask): void;
}) {
  const reason = d.corrections.leftOut.get(point.id);
  const recovery = d.corrections.recoveries.get(point.id);
  // A press on a button marks no point on the chart.
  const only = (act: () => void) => (e: React.MouseEvent) => {
    e.stopPropagation();
    act();
  };
  const include = () => void attempt(() => countPointAgain(d, point.id));
  return (
    <>
      {point.corrected ? `corrected: ${correctedText(point)} ` : ""}
      {reason ? `excluded: ${reason} ` : recovery ? `fell; came back: ${recovery} ` : ""}
      <Button
        look="bare"
        className="no-print"
        aria-label={`${reason ? "Include" : "Exclude"} point ${number}`}
        onClick={only(reason ? include : () => onAsk({ kind: "exclude", id: point.id }))}
      >
        {reason ? "include" : "exclude"}
      </Button>{" "}
      <Button
        look="bare"
        className="no-print"
        aria-label={`Correct point ${number}`}
        onClick={only(() => onAsk({ kind: "correct", id: point.id }))}
      >
        correct
      </Button>
    </>
  );
}

/** Every point as a table that sorts by any column; a point left out stays visible with its reason, and may count again. */
export function PointsTable({
  d,
  procedure,
  marked,
  onMark,
}: {
  d: RunDossier;
  procedure: Procedure;
  marked: string | undefined;
  onMark(id: string): void;
}) {
  const [asking, setAsking] = useState<Ask | null>(null);
  const number = useMemo(() => new Map(d.points.map((p, i) => [p.id, i + 1])), [d.points]);
  const columns = useColumns(d, procedure, number, setAsking);
  const asked = d.points.find((p) => p.id === asking?.id);
  const close = () => setAsking(null);
  return (
    <>
      <DataTable
        rows={d.points}
        columns={columns}
        id={(p) => p.id}
        least={720}
        rowProps={(p) => ({
          id: `point-${p.id}`,
          onClick: () => onMark(p.id),
          className: clsx(p.id === marked && "bg-copper/15", isOut(d, p) && "text-pencil"),
        })}
      />
      {asked && asking?.kind === "correct" ? (
        <CorrectDialog
          point={asked}
          number={number.get(asked.id) ?? 0}
          roles={procedure.record.roles.map((r) => r.role)}
          onClose={close}
          onCorrect={(anew, why) => attempt(() => correctReadings(d, asked.id, anew, why))}
        />
      ) : null}
      {asked && asking?.kind === "exclude" ? (
        <LeaveOutDialog onClose={close} onReason={(why) => attempt(() => leavePointOut(d, asked.id, why))} />
      ) : null}
    </>
  );
}

const quantity = (v: number | undefined, unit: Parameters<typeof formatQuantity>[1]): string =>
  v === undefined ? "—" : formatQuantity(v, unit, { digits: 4 });
