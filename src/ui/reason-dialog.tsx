"use client";

import { useState } from "react";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { Form } from "./form";
import { TextField } from "./quantity-field";

interface ReasonDialogProps {
  readonly title: string;
  readonly about: string;
  /** What the button says. */
  readonly act: string;
  /** Filled in to begin with. */
  readonly first?: string;
  /** Reasons that one key-press gives. */
  readonly common?: readonly string[];
  onClose(): void;
  onReason(reason: string): Promise<boolean>;
}

/** Asks why, and does nothing without a reason. */
export function ReasonDialog({ title, about, act, first = "", common = [], onClose, onReason }: ReasonDialogProps) {
  const [text, setText] = useState(first);
  const [tried, setTried] = useState(false);
  const keep = (reason: string) => {
    setTried(true);
    if (reason.trim()) void onReason(reason.trim()).then((good) => good && onClose());
  };
  return (
    <Dialog title={title} about={about} onClose={onClose}>
      <Form
        onSubmit={() => {
          keep(text);
        }}
      >
        <TextField label="Why" text={text} onText={setText} wide autoFocus error={tried && !text.trim() ? "Enter a reason." : null} />
        <div className="mb-4 flex flex-wrap gap-2">
          {common.map((c) => (
            <Button key={c} onClick={() => keep(c)}>
              {c}
            </Button>
          ))}
        </div>
        <Button look="main" type="submit">
          {act}
        </Button>
      </Form>
    </Dialog>
  );
}

const COMMON = ["a clip slipped", "wrong range or jack", "had not settled", "misread"];

/** The reading stays as it is; a reason is laid over it. */
export function LeaveOutDialog(props: Pick<ReasonDialogProps, "onClose" | "onReason">) {
  return <ReasonDialog {...props} title="Exclude this point" about="Its readings stay. It doesn't count, and the reason is shown with it." act="Exclude point" common={COMMON} />;
}
