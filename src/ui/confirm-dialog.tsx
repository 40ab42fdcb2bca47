"use client";

import { useState } from "react";
import { Button } from "./button";
import { Dialog } from "./dialog";

interface ConfirmDialogProps {
  /** A question. */
  readonly title: string;
  /** What comes of it. */
  readonly about: string;
  /** What the button says. */
  readonly act: string;
  readonly danger?: boolean;
  onClose(): void;
  onAct(): void | Promise<unknown>;
}

/** Asks before something that is not meant lightly. */
export function ConfirmDialog({ title, about, act, danger = false, onClose, onAct }: ConfirmDialogProps) {
  const [busy, setBusy] = useState(false);
  return (
    <Dialog title={title} about={about} onClose={onClose}>
      <div className="flex flex-wrap gap-3">
        <Button
          look={danger ? "danger" : "main"}
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void Promise.resolve(onAct()).finally(onClose);
          }}
        >
          {act}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
