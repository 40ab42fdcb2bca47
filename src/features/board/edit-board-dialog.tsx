"use client";

import { CheckList } from "@/ui/checkbox";
import { ConfirmDialog } from "@/ui/confirm-dialog";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Controller, useForm } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import type { BoardRecord } from "@/core/files/records";
import { FACT_LABELS, FACTS, type Fact, type Facts } from "@/core/need";
import { attempt, notifyUndoable } from "@/session/notify";
import { change, edit, remove, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { MILLIMETRES, NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";

export function EditBoardDialog({ board, runs, onClose }: { board: BoardRecord; /** How many runs it has. */ runs: number; onClose(): void }) {
  const router = useRouter();
  /** As it was when the dialog opened: what was changed elsewhere since is not undone by saving. */
  const [opened] = useState(board);
  const { control, handleSubmit } = useForm<{ title: string; note: string; functions: BoardFunction[] }>({ defaultValues: { title: board.title, note: board.note, functions: [...board.functions] } });
  const [facts, setFacts] = useState<Facts>(board.facts ?? {});
  const put = (fact: Fact) => (v: number | null) =>
    setFacts((f) => {
      const { [fact]: _before, ...rest } = f;
      void _before;
      return v === null ? rest : { ...rest, [fact]: v };
    });
  const [asking, setAsking] = useState(false);
  const del = () =>
    void attempt(async () => {
      const act = await remove(`delete ${board.title}`, [board]);
      router.push("/");
      await notifyUndoable(`${board.title} is deleted.`, act && (() => undoAct(act)));
    });
  const save = handleSubmit(async (f) => {
    const { facts: _facts, ...rest } = opened;
    void _facts;
    const next: BoardRecord = { ...rest, ...(Object.keys(facts).length ? { facts } : {}), title: f.title.trim(), note: f.note.trim(), functions: BOARD_FUNCTIONS.filter((x) => f.functions.includes(x)) };
    if (await attempt(() => change(`edit ${board.title}`, [edit(opened, next)]))) onClose();
  });
  return (
    <Dialog title="Name, functions, price and size" about="The functions decide which claims are suggested and which steps are needed." onClose={onClose}>
      <Form onSubmit={save}>
        <Controller control={control} name="title" rules={{ validate: (v) => (v.trim() ? true : "Enter a name.") }} render={({ field, fieldState }) => <TextField label="Name" maxLength={80} text={field.value} onText={field.onChange} error={fieldState.error?.message} wide autoFocus />} />
        <Controller control={control} name="functions" render={({ field }) => <CheckList className="mb-4" label="Functions" values={field.value} onValues={field.onChange} choices={FUNCTION_CHOICES} />} />
        <Controller control={control} name="note" render={({ field }) => <TextField label="Note" text={field.value} onText={field.onChange} wide />} />
        <div className="flex flex-wrap gap-x-5">
          {FACTS.map((fact) => (
            <NumberField
              key={fact}
              label={fact === "price" ? "Price, in your currency" : FACT_LABELS[fact]}
              quantity={fact === "price" ? "" : "m"}
              {...(fact === "price" ? {} : { printed: MILLIMETRES })}
              value={facts[fact] ?? null}
              optional
              refuse={(v) => (v > 0 ? null : "Enter a value above zero, or leave it empty.")}
              onValue={put(fact)}
            />
          ))}
        </div>
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          <Button
            look="danger"
            className="ml-auto"
            onClick={() => (runs ? setAsking(true) : del())}
          >
            Delete board
          </Button>
        </div>
      </Form>
      {asking ? <ConfirmDialog danger title={`Delete ${board.title}?`} about={`It has ${runs} ${runs === 1 ? "run" : "runs"} with ${runs === 1 ? "its" : "their"} readings. They are deleted with it. Undo restores everything.`} act="Delete board" onClose={() => setAsking(false)} onAct={del} /> : null}
    </Dialog>
  );
}
