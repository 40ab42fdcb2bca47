"use client";

import clsx from "clsx";
import { format } from "date-fns";
import { formatQuantity } from "@/core/quantities";
import { asSaid, type Procedure } from "@/core/procedures";
import type { RunDossier } from "@/storage";

/** Every answer of a checklist as it was given, beside what was said to come of it. */
export function AnswersTable({ d, procedure, marked }: { readonly d: RunDossier; readonly procedure: Procedure; readonly marked: string | undefined }) {
  const items = new Map((procedure.items?.(d.run.setup) ?? []).map((i) => [i.id, i]));
  // In the order of the checklist; what was typed freely comes last.
  const place = new Map([...items.keys()].map((id, k) => [id, k]));
  const sorted = [...d.answers].sort((a, b) => (place.get(a.item) ?? Infinity) - (place.get(b.item) ?? Infinity) || a.at.localeCompare(b.at) || (b.volts ?? 0) - (a.volts ?? 0));
  const open = [...items.values()].filter((i) => !d.answers.some((a) => a.item === i.id));
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-140 text-left text-sm">
        <thead className="text-pencil">
          <tr className="border-b border-pencil/60">
            <th className="py-1 pr-4 font-medium">Action</th>
            <th className="py-1 pr-4 text-right font-medium">Battery</th>
            <th className="py-1 pr-4 font-medium">Observed</th>
            <th className="py-1 pr-4 font-medium">Said</th>
            <th className="py-1 text-right font-medium">At</th>
          </tr>
        </thead>
        <tbody>
          {sorted.map((a) => {
            const said = items.get(a.item)?.said;
            const unlike = said !== undefined && a.volts === undefined && !asSaid(said, a.word);
            return (
              <tr key={a.id} id={`point-${a.id}`} className={clsx("border-b border-rule align-top", a.id === marked && "bg-copper/15")}>
                <th scope="row" className="py-0.5 pr-4 font-normal">
                  {a.item}
                </th>
                <td className="figures py-0.5 pr-4 text-right">{a.volts === undefined ? "" : formatQuantity(a.volts, "V", { digits: 3 })}</td>
                <td className={clsx("py-0.5 pr-4", unlike && "font-semibold text-misses")}>
                  {unlike ? "\u2260 " : ""}
                  {a.word}
                </td>
                <td className="py-0.5 pr-4 text-pencil">{said ?? ""}</td>
                <td className="figures py-0.5 text-right text-pencil">{format(new Date(a.at), "HH:mm:ss")}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {open.length ? <p className="mt-2 text-sm text-pencil">Skipped: {open.map((i) => i.id).join(", ")}.</p> : null}
    </div>
  );
}
