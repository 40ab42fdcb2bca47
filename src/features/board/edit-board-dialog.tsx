"use client";

import { ConfirmDialog } from "@/ui/confirm-dialog";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import type { BoardRecord } from "@/core/files/records";
import { FACT_LABELS, FACTS, type Fact, type Facts } from "@/core/need";
import { attempt, notifyUndoable } from "@/browser/notify";
import { change, edit, remove, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckList, FormNumber, FormText } from "@/ui/form-fields";
import { MILLIMETRES } from "@/ui/number-field";

interface Fields {
  title: string;
  note: string;
  functions: BoardFunction[];
  facts: Record<Fact, number | null>;
}

export function EditBoardDialog({
  board,
  runs,
  onClose,
}: {
  board: BoardRecord;
  /** How many runs it has. */ runs: number;
  onClose(): void;
}) {
  const router = useRouter();
  /** As it was when the dialog opened: what was changed elsewhere since is not undone by saving. */
  const [opened] = useState(board);
  const { control, handleSubmit } = useForm<Fields>({
    defaultValues: {
      title: board.title,
      note: board.note,
      functions: [...board.functions],
      facts: Object.fromEntries(FACTS.map((f) => [f, board.facts?.[f] ?? null])) as Fields["facts"],
    },
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
    const facts = Object.fromEntries(Object.entries(f.facts).filter(([, v]) => v !== null)) as Facts;
    const next: BoardRecord = {
      ...rest,
      ...(Object.keys(facts).length ? { facts } : {}),
      title: f.title.trim(),
      note: f.note.trim(),
      functions: BOARD_FUNCTIONS.filter((x) => f.functions.includes(x)),
    };
    if (await attempt(() => change(`edit ${board.title}`, [edit(opened, next)]))) onClose();
  });
  return (
    <Dialog
      title="Name, functions, price and size"
      about="The functions decide which claims are suggested and which steps are needed."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <FormText control={control} name="title" label="Name" maxLength={80} missing="Enter a name." wide autoFocus />
        <FormCheckList<Fields, BoardFunction>
          control={control}
          name="functions"
          className="mb-4"
          label="Functions"
          choices={FUNCTION_CHOICES}
        />
        <FormText control={control} name="note" label="Note" wide />
        <div className="flex flex-wrap gap-x-5">
          {FACTS.map((fact) => (
            <FormNumber
              key={fact}
              control={control}
              name={`facts.${fact}`}
              label={fact === "price" ? "Price, in your currency" : FACT_LABELS[fact]}
              quantity={fact === "price" ? "" : "m"}
              {...(fact === "price" ? {} : { printed: MILLIMETRES })}
              refuse={(v) => (v > 0 ? null : "Enter a value above zero, or leave it empty.")}
            />
          ))}
        </div>
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          <Button look="danger" className="ml-auto" onClick={() => (runs ? setAsking(true) : del())}>
            Delete board
          </Button>
        </div>
      </Form>
      {asking ? (
        <ConfirmDialog
          danger
          title={`Delete ${board.title}?`}
          about={`It has ${runs} ${runs === 1 ? "run" : "runs"} with ${runs === 1 ? "its" : "their"} readings. They are deleted with it. Undo restores everything.`}
          act="Delete board"
          onClose={() => setAsking(false)}
          onAct={del}
        />
      ) : null}
    </Dialog>
  );
}
