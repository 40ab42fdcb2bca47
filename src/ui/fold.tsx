"use client";

import { ChevronRight } from "lucide-react";
import { Collapsible as Radix } from "radix-ui";
import { useState, type ReactNode } from "react";

/** A stretch that folds away under its heading. */
export function Fold({
  title,
  note,
  open: first = true,
  children,
}: {
  readonly title: string;
  readonly note?: string;
  readonly open?: boolean;
  readonly children: ReactNode;
}) {
  const [open, setOpen] = useState(first);
  return (
    <Radix.Root open={open} onOpenChange={setOpen}>
      <h2>
        <Radix.Trigger className="flex w-full items-baseline gap-2 border-b border-rule px-4 py-1.5 text-left font-semibold pointer-coarse:min-h-11">
          <ChevronRight size={14} aria-hidden className={`self-center ${open ? "rotate-90" : ""}`} />
          {title}
          {note ? <span className="text-sm font-normal text-pencil">{note}</span> : null}
        </Radix.Trigger>
      </h2>
      <Radix.Content>{children}</Radix.Content>
    </Radix.Root>
  );
}
