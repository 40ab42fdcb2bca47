"use client";

import { createColumnHelper, flexRender, getCoreRowModel, getSortedRowModel, useReactTable, type SortingState } from "@tanstack/react-table";
import clsx from "clsx";
import { useMemo, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import { correctedText, roleLabel, roleUnit, type Point, type Procedure } from "@/core/procedures";
import { attempt } from "@/session/notify";
import { correctReadings, countPointAgain, leavePointOut, type RunDossier } from "@/storage";
import { Button } from "@/ui/button";
import { CorrectDialog } from "@/ui/correct-dialog";
import { LeaveOutDialog } from "@/ui/reason-dialog";

const column = createColumnHelper<Point>();

/** The point's number, what was set where anything was, what was read, what follows from it. */
function useColumns(d: RunDossier, procedure: Procedure, number: ReadonlyMap<string, number>) {
  const set = d.points.some((p) => p.settings.supplyVoltage !== undefined || p.settings.load !== undefined);
  return useMemo(
    () => [
      column.accessor((p) => number.get(p.id) ?? 0, { id: "point", header: "Point", cell: (c) => c.getValue() }),
      ...(set
        ? [
            column.accessor((p) => p.settings.supplyVoltage, { id: "set", header: "Supply set", cell: (c) => quantity(c.getValue(), "V") }),
            column.accessor((p) => p.settings.load?.value, { id: "load", header: "Load set", cell: (c) => quantity(c.getValue(), c.row.original.settings.load?.mode === "resistance" ? "Ω" : "A") }),
          ]
        : []),
      ...procedure.record.roles.map(({ role }) =>
        column.accessor((p) => p.cells[role]?.value ?? undefined, {
          id: role,
          header: roleLabel(role),
          cell: (c) => (c.row.original.cells[role]?.status === "overload" ? "OL" : quantity(c.getValue(), roleUnit(role))),
        }),
      ),
      ...procedure.record.derived.map((x) => column.accessor((p) => x.of(p, d.run.setup) ?? undefined, { id: x.id, header: x.label, cell: (c) => quantity(c.getValue(), x.unit) })),
    ],
    [number, procedure, d.run.setup, set],
  );
}

/** Every point as a table that sorts by any column; a point left out stays visible with its reason, and may count again. */
export function PointsTable({ d, procedure, marked, onMark }: { d: RunDossier; procedure: Procedure; marked: string | undefined; onMark(id: string): void }) {
  const [asking, setAsking] = useState<string | null>(null);
  const [correcting, setCorrecting] = useState<string | null>(null);
  const [sorting, setSorting] = useState<SortingState>([]);
  const number = useMemo(() => new Map(d.points.map((p, i) => [p.id, i + 1])), [d.points]);
  const columns = useColumns(d, procedure, number);
  const wrong = d.points.find((p) => p.id === correcting);
  const data = useMemo(() => [...d.points], [d.points]);
  const table = useReactTable({ data, columns, state: { sorting }, onSortingChange: setSorting, getCoreRowModel: getCoreRowModel(), getSortedRowModel: getSortedRowModel(), getRowId: (p) => p.id });
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-180 text-right text-sm">
        <thead className="text-pencil">
          {table.getHeaderGroups().map((g) => (
            <tr key={g.id} className="border-b border-pencil/60">
              {g.headers.map((h) => {
                const direction = h.column.getIsSorted();
                return (
                  <th key={h.id} className="py-1 pl-3 font-medium" aria-sort={direction === "asc" ? "ascending" : direction === "desc" ? "descending" : "none"}>
                    <button type="button" onClick={h.column.getToggleSortingHandler()}>
                      {flexRender(h.column.columnDef.header, h.getContext())}
                      {direction === "asc" ? " ↑" : direction === "desc" ? " ↓" : ""}
                    </button>
                  </th>
                );
              })}
              <th className="py-1 pl-3 text-left font-medium">Remark</th>
            </tr>
          ))}
        </thead>
        <tbody className="figures">
          {table.getRowModel().rows.map((row) => {
            const reason = d.corrections.leftOut.get(row.id);
            const recovery = d.corrections.recoveries.get(row.id);
            return (
              <tr key={row.id} id={`point-${row.id}`} onClick={() => onMark(row.id)} className={clsx("border-b border-rule", row.id === marked && "bg-copper/15", reason && "text-pencil")}>
                {row.getVisibleCells().map((c) => (
                  <td key={c.id} className={clsx("py-0.5 pl-3", reason && "line-through")}>
                    {flexRender(c.column.columnDef.cell, c.getContext())}
                  </td>
                ))}
                <td className="py-0.5 pl-3 text-left font-sans">
                  {row.original.corrected ? `corrected: ${correctedText(row.original)} ` : ""}
                  {reason ? `excluded: ${reason} ` : recovery ? `fell; came back: ${recovery} ` : ""}
                  <Button
                    look="bare"
                    className="no-print"
                    aria-label={`${reason ? "Include point" : "Exclude point"} ${number.get(row.id) ?? ""}`}
                    onClick={(e) => {
                      e.stopPropagation();
                      if (reason) void attempt(() => countPointAgain(d, row.id));
                      else setAsking(row.id);
                    }}
                  >
                    {reason ? "include" : "exclude"}
                  </Button>{" "}
                  <Button
                    look="bare"
                    className="no-print"
                    aria-label={`Correct point ${number.get(row.id) ?? ""}`}
                    onClick={(e) => {
                      e.stopPropagation();
                      setCorrecting(row.id);
                    }}
                  >
                    correct
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {wrong ? <CorrectDialog point={wrong} number={number.get(wrong.id) ?? 0} roles={procedure.record.roles.map((r) => r.role)} onClose={() => setCorrecting(null)} onCorrect={(anew, why) => attempt(() => correctReadings(d, wrong.id, anew, why))} /> : null}
      {asking ? <LeaveOutDialog onClose={() => setAsking(null)} onReason={(why) => attempt(() => leavePointOut(d, asking, why))} /> : null}
    </div>
  );
}

const quantity = (v: number | undefined, unit: Parameters<typeof formatQuantity>[1]): string => (v === undefined ? "—" : formatQuantity(v, unit, { digits: 4 }));
