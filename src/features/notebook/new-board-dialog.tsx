"use client";

import { useRouter } from "next/navigation";
import { Controller, useForm } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import type { BoardId, SampleId } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { attempt } from "@/browser/notify";
import { change, newId, now } from "@/storage";
import { Button } from "@/ui/button";
import { CheckList } from "@/ui/checkbox";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { TextField } from "@/ui/quantity-field";

interface Fields {
  title: string;
  note: string;
  functions: BoardFunction[];
}

/** A new board with its first sample; the claims follow on its sheet. */
export function NewBoardDialog({ onClose }: { onClose(): void }) {
  const { notebook } = useSession();
  const router = useRouter();
  const { control, handleSubmit, formState } = useForm<Fields>({
    defaultValues: { title: "", note: "", functions: [] },
  });
  const save = handleSubmit(async (f) => {
    const boardId = newId() as BoardId;
    const at = now();
    const base = { notebookId: notebook.id, createdAt: at, updatedAt: at };
    const good = await attempt(() =>
      change(`add ${f.title.trim()}`, [
        {
          kind: "board",
          id: boardId,
          ...base,
          title: f.title.trim(),
          note: f.note.trim(),
          functions: BOARD_FUNCTIONS.filter((x) => f.functions.includes(x)),
        },
        {
          kind: "sample",
          id: newId() as SampleId,
          ...base,
          boardId,
          name: "A",
          configuration: "",
          modifications: [],
          note: "",
        },
      ]),
    );
    if (good) router.push(`/board/${boardId}#claims`);
  });
  return (
    <Dialog title="Add board" about="Its name and functions. Usual claims are suggested next." onClose={onClose}>
      <Form onSubmit={save}>
        <Controller
          control={control}
          name="title"
          rules={{ validate: (v) => (v.trim() ? true : "Enter a name.") }}
          render={({ field, fieldState }) => (
            <TextField
              label="Name"
              maxLength={80}
              text={field.value}
              onText={field.onChange}
              error={fieldState.error?.message}
              wide
              autoFocus
            />
          )}
        />
        <Controller
          control={control}
          name="functions"
          render={({ field }) => (
            <CheckList
              className="mb-4"
              label="Functions"
              values={field.value}
              onValues={field.onChange}
              choices={FUNCTION_CHOICES}
            />
          )}
        />
        <Controller
          control={control}
          name="note"
          render={({ field }) => <TextField label="Note (optional)" text={field.value} onText={field.onChange} wide />}
        />
        <Button look="main" type="submit" disabled={formState.isSubmitting}>
          Save board
        </Button>
      </Form>
    </Dialog>
  );
}
