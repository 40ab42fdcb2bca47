"use client";

import { format } from "date-fns";
import { formatQuantity } from "@/core/quantities";
import { asSaid } from "@/core/measurement";
import type { AnswersProcedure } from "@/core/procedures";
import type { RunDossier } from "@/notebook";
import { DataTable, type DataColumn } from "@/ui/data-table";

type Answer = RunDossier["answers"][number];

/** Every answer of a checklist as it was given, beside what is claimed. */
export function AnswersTable({
  d,
  procedure,
  marked,
}: {
  readonly d: RunDossier;
  readonly procedure: AnswersProcedure;
  readonly marked: string | undefined;
}) {
  const items = new Map(procedure.items(d.run.setup).map((i) => [i.id, i]));
  // In the order of the checklist; what was typed freely comes last.
  const place = new Map([...items.keys()].map((id, k) => [id, k]));
  const sorted = [...d.answers].sort(
    (a, b) =>
      (place.get(a.item) ?? Infinity) - (place.get(b.item) ?? Infinity) ||
      a.at.localeCompare(b.at) ||
      (b.volts ?? 0) - (a.volts ?? 0),
  );
  const open = [...items.values()].filter((i) => !d.answers.some((a) => a.item === i.id));
  const sentenceOf = (a: Answer) => items.get(a.item)?.said;
  const unlike = (a: Answer) =>
    sentenceOf(a) !== undefined && a.volts === undefined && !asSaid(sentenceOf(a) as string, a.word);
  const columns: readonly DataColumn<Answer>[] = [
    { id: "action", head: "Action", names: true, by: (a) => a.item, content: (a) => a.item },
    {
      id: "battery",
      head: "Battery",
      figures: true,
      by: (a) => a.volts,
      content: (a) => (a.volts === undefined ? "" : formatQuantity(a.volts, "V", { digits: 3 })),
    },
    {
      id: "observed",
      head: "Observed",
      by: (a) => a.word,
      className: (a) => (unlike(a) ? "font-semibold text-misses" : ""),
      content: (a) => `${unlike(a) ? "\u2260 " : ""}${a.word}`,
    },
    { id: "claimed", head: "Claimed", className: "text-pencil", content: (a) => sentenceOf(a) ?? "" },
    {
      id: "at",
      head: "At",
      figures: true,
      className: "text-pencil",
      by: (a) => a.at,
      content: (a) => format(new Date(a.at), "HH:mm:ss"),
    },
  ];
  return (
    <>
      <DataTable
        label="Answers"
        rows={sorted}
        columns={columns}
        id={(a) => a.id}
        rowProps={(a) => ({ id: `point-${a.id}`, className: a.id === marked ? "bg-copper/15" : "" })}
        least={560}
      />
      {open.length ? <p className="mt-2 text-sm text-pencil">Skipped: {open.map((i) => i.id).join(", ")}.</p> : null}
    </>
  );
}
