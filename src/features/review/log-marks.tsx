"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import { formatDuration } from "@/core/quantities";
import type { TraceProcedure } from "@/core/procedures";
import { attempt, notifyUndoable } from "@/browser/notify";
import { type RunDossier } from "@/notebook";
import { change, now, remove, undoAct } from "@/storage";
import { layer } from "@/notebook/layers";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormNumber, FormSelect } from "@/ui/form-fields";

/** What was done during a log that its columns don't show, such as when the output was shorted: listed, added, taken away. */
export function LogMarks({ d, procedure }: { readonly d: RunDossier; readonly procedure: TraceProcedure }) {
  const [adding, setAdding] = useState(false);
  const marks = d.annotations.filter((a) => a.what === "mark").sort((a, b) => (a.time ?? 0) - (b.time ?? 0));
  return (
    <>
      {marks.length === 0 ? (
        <p className="mb-2 text-pencil">
          No marks. Mark what the log can&apos;t show (a short, a load removed, an idle state); the results follow.
        </p>
      ) : null}
      <ul className="mb-3 max-w-prose divide-y divide-rule text-sm">
        {marks.map((m) => (
          <li key={m.id} className="grid grid-cols-[8rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-0.5">
            <span className="figures text-pencil">{formatDuration(m.time ?? 0)}</span>
            <span>{m.text}</span>
            <Button
              look="bare"
              aria-label={`Delete ${m.text} at ${formatDuration(m.time ?? 0)}`}
              onClick={() =>
                void attempt(async () => {
                  const act = await remove(`delete the mark “${m.text}”`, [m]);
                  await notifyUndoable(`The mark “${m.text}” is deleted.`, act && (() => undoAct(act)));
                })
              }
            >
              Delete
            </Button>
          </li>
        ))}
      </ul>
      <Button className="no-print" onClick={() => setAdding(true)}>
        Add mark
      </Button>
      {adding ? <AddMark d={d} procedure={procedure} onClose={() => setAdding(false)} /> : null}
    </>
  );
}

function AddMark({
  d,
  procedure,
  onClose,
}: {
  readonly d: RunDossier;
  readonly procedure: TraceProcedure;
  onClose(): void;
}) {
  const kinds = procedure.marks ?? [];
  const { control, handleSubmit } = useForm<{ kind: string; time: number | null }>({
    defaultValues: { kind: kinds[0]?.kind ?? "note", time: null },
  });
  const end = d.log?.seconds ?? 0;
  const save = handleSubmit(async ({ kind, time }) => {
    if (time === null) return;
    const what = kinds.find((k) => k.kind === kind)?.what ?? kind;
    if (await attempt(() => change(`mark: ${what}`, [{ ...layer(d.run, "mark", kind, what), time, updatedAt: now() }])))
      onClose();
  });
  return (
    <Dialog title="Add mark" about="What was done, and when, in seconds from the first row." onClose={onClose}>
      <Form onSubmit={save}>
        <FormSelect
          control={control}
          name="kind"
          label="What was done"
          place="above"
          choices={kinds.map((k) => ({ value: k.kind, label: k.what }))}
        />
        <FormNumber
          control={control}
          name="time"
          label="At"
          quantity="s"
          refuse={(v) => (v >= 0 && v <= end ? null : `Within the log: 0 to ${Math.round(end)} s.`)}
          missing="Enter a time within the log."
        />
        <Button look="main" type="submit">
          Save mark
        </Button>
      </Form>
    </Dialog>
  );
}
