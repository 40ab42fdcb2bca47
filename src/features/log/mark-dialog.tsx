"use client";

import { useState } from "react";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { TextField } from "@/ui/quantity-field";

/** A note on the log; it stands at the moment it is kept. */
export function MarkDialog({ onClose, onNote }: { onClose(): void; onNote(text: string): void }) {
  const [text, setText] = useState("");
  return (
    <Dialog title="Note on the log" about="It is drawn on the curves at this moment." onClose={onClose}>
      <Form
        onSubmit={() => {
          if (!text.trim()) return;
          onNote(text.trim());
          onClose();
        }}
      >
        <TextField label="Note" text={text} onText={setText} wide autoFocus />
        <Button look="main" type="submit">
          Save note
        </Button>
      </Form>
    </Dialog>
  );
}
