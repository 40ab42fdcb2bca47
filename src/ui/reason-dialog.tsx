"use client";

import type { ReactNode } from "react";
import { useForm } from "react-hook-form";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { Form } from "./form";
import { FormText } from "./form-fields";

interface ReasonDialogProps {
  readonly title: string;
  readonly about: string;
  /** What the button says. */
  readonly act: string;
  /** Filled in to begin with. */
  readonly first?: string;
  /** Reasons that one key-press gives. */
  readonly common?: readonly string[];
  /** Further acts beside the button. */
  readonly more?: ReactNode;
  onClose(): void;
  onReason(reason: string): Promise<boolean>;
}

/** Asks why, and does nothing without a reason. */
export function ReasonDialog({
  title,
  about,
  act,
  first = "",
  common = [],
  more,
  onClose,
  onReason,
}: ReasonDialogProps) {
  const { control, handleSubmit } = useForm({ defaultValues: { why: first } });
  const keep = (reason: string) => onReason(reason.trim()).then((good) => good && onClose());
  return (
    <Dialog title={title} about={about} onClose={onClose}>
      <Form onSubmit={handleSubmit(({ why }) => keep(why))}>
        <FormText control={control} name="why" label="Why" missing="Enter a reason." wide autoFocus />
        {common.length ? (
          <div className="mb-4 flex flex-wrap gap-2">
            {common.map((c) => (
              <Button key={c} onClick={() => void keep(c)}>
                {c}
              </Button>
            ))}
          </div>
        ) : null}
        <div className="flex flex-wrap gap-3">
          <Button look="main" type="submit">
            {act}
          </Button>
          {more}
        </div>
      </Form>
    </Dialog>
  );
}

const COMMON = ["a clip slipped", "wrong range or jack", "had not settled", "misread"];

/** The reading stays as it is; a reason is laid over it. */
export function LeaveOutDialog(props: Pick<ReasonDialogProps, "onClose" | "onReason">) {
  return (
    <ReasonDialog
      {...props}
      title="Exclude this point"
      about="Its readings stay. It doesn't count, and the reason is shown with it."
      act="Exclude point"
      common={COMMON}
    />
  );
}
