"use client";

import { useState } from "react";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { TextField } from "./quantity-field";

const COMMON = ["a clip slipped", "wrong range or jack", "had not settled", "misread"];

/** The reading stays as it is; a reason is laid over it. */
export function LeaveOutDialog({ onClose, onReason }: { onClose(): void; onReason(reason: string): Promise<boolean> }) {
  const [text, setText] = useState("");
  const [tried, setTried] = useState(false);
  const keep = (reason: string) => {
    setTried(true);
    if (reason.trim()) void onReason(reason.trim()).then((good) => good && onClose());
  };
  return (
    <Dialog title="Leave this point out" about="Its readings stay; it no longer counts, and the reason is shown wherever it is." onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep(text);
        }}
      >
        <TextField label="Why" text={text} onText={setText} wide autoFocus error={tried && !text.trim() ? "A reason is needed." : null} />
        <div className="mb-4 flex flex-wrap gap-2">
          {COMMON.map((c) => (
            <Button key={c} onClick={() => keep(c)}>
              {c}
            </Button>
          ))}
        </div>
        <Button look="main" type="submit">
          Leave it out
        </Button>
      </form>
    </Dialog>
  );
}
