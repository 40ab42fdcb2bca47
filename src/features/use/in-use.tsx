"use client";

import { useForm } from "react-hook-form";
import type { LoadRecord } from "@/core/files/records";
import type { BoardFit, Load, UseReport } from "@/core/use";
import { todaysDate } from "@/storage";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Form } from "@/ui/form";
import { FormNumber, FormText } from "@/ui/form-fields";
import { Section } from "@/ui/section";
import { runTimeText } from "./words";

/** How what it did stands to what was predicted: within the prediction's uncertainty, or how far off. */
export function heldAgainst(report: Pick<UseReport, "seconds">, fit: Pick<BoardFit, "seconds" | "secondsU">): string {
  if (fit.seconds === undefined) return "nothing was predicted";
  const off = report.seconds - fit.seconds;
  if (Math.abs(off) <= (fit.secondsU ?? 0)) return "as predicted";
  return `${Math.round((100 * Math.abs(off)) / fit.seconds)}\u00a0% ${off < 0 ? "shorter" : "longer"} than predicted`;
}

const columns = (fit: BoardFit): readonly DataColumn<UseReport & { readonly key: string }>[] => [
  { id: "date", head: "Date", by: (r) => r.date, content: (r) => r.date },
  {
    id: "ran",
    head: "Ran for",
    figures: true,
    by: (r) => r.seconds,
    content: (r) => runTimeText({ seconds: r.seconds }),
  },
  { id: "ended", head: "Ended because", content: (r) => r.ended || "—" },
  { id: "against", head: "Against the prediction", content: (r) => heldAgainst(r, fit) },
];

/** What it did in use, typed, held against what was predicted. */
export function InUse({
  load,
  boardId,
  fit,
  onLoad,
}: {
  readonly load: LoadRecord;
  readonly boardId: string;
  readonly fit: BoardFit;
  onLoad(l: Load): Promise<boolean>;
}) {
  const { control, handleSubmit, reset } = useForm<{ seconds: number | null; ended: string }>({
    defaultValues: { seconds: null, ended: "" },
  });
  const own = (load.used ?? []).flatMap((r, k) => (r.boardId === boardId ? [{ ...r, key: String(k) }] : []));
  const save = handleSubmit(async ({ seconds, ended }) => {
    if (seconds === null) return;
    const good = await onLoad({
      ...load,
      used: [...(load.used ?? []), { boardId, date: todaysDate(), seconds, ended: ended.trim() }],
    });
    if (good) reset({ seconds: null, ended: "" });
  });
  return (
    <Section mark="in use" title="What it did in use">
      {own.length ? (
        <DataTable label="Reports from use" rows={own} columns={columns(fit)} id={(r) => r.key} />
      ) : (
        <p className="mb-2 text-pencil">Nothing reported yet.</p>
      )}
      <Form key={own.length} className="no-print mt-2 flex flex-wrap items-end gap-x-5" onSubmit={save}>
        <FormNumber
          control={control}
          name="seconds"
          label="It ran for"
          quantity="s"
          placeholder="such as 9 h"
          missing="Enter a time."
          refuse={(v) => (v > 0 ? null : "Enter a value above zero.")}
        />
        <FormText
          control={control}
          name="ended"
          label="It ended because"
          wide
          className="min-w-56 flex-1"
          maxLength={200}
        />
        <Button type="submit" className="mb-5">
          Save report
        </Button>
      </Form>
    </Section>
  );
}
