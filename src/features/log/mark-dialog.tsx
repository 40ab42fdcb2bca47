"use client";

import { useForm } from "react-hook-form";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";

/** A note on the log; it stands at the moment it is kept. */
export function MarkDialog({ onClose, onNote }: { onClose(): void; onNote(text: string): void }) {
  const { control, handleSubmit } = useForm({ defaultValues: { note: "" } });
  const save = handleSubmit(({ note }) => {
    onNote(note.trim());
    onClose();
  });
  return (
    <Dialog title="Note on the log" about="It is drawn on the curves at this moment." onClose={onClose}>
      <Form onSubmit={save}>
        <FormText control={control} name="note" label="Note" missing="Enter a note." wide autoFocus />
        <Button look="main" type="submit">
          Save note
        </Button>
      </Form>
    </Dialog>
  );
}
