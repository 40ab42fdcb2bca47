"use client";

import { Dialog as Radix } from "radix-ui";
import { X } from "lucide-react";
import { useState, type ReactNode } from "react";

export interface DialogProps {
  readonly title: string;
  /** One sentence that says what it is for. */
  readonly about: string;
  onClose(): void;
  readonly children: ReactNode;
  readonly wide?: boolean;
  /** As wide as the window. */
  readonly large?: boolean;
}

/** Gives the focus back to what opened a dialog; where that is gone, to the page, so that the next tab begins there. */
function giveBack(opener: Element | null): void {
  const target =
    opener instanceof HTMLElement && opener.isConnected && opener !== document.body
      ? opener
      : document.getElementById("main");
  target?.focus({ preventScroll: true });
}

/** A sheet laid over the page. Escape and the cross put it away; focus returns to where it was. */
export function Dialog({ title, about, onClose, children, wide = false, large = false }: DialogProps) {
  const [opener] = useState(() => document.activeElement);
  return (
    <Radix.Root open onOpenChange={(open) => (open ? undefined : onClose())}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <Radix.Content
          onCloseAutoFocus={(e) => {
            // Nothing here is a trigger of the primitive's own: without this the focus would be lost.
            e.preventDefault();
            giveBack(opener);
          }}
          className={`fixed left-1/2 top-[6vh] z-50 max-h-[88vh] w-[calc(100vw-1.5rem)] -translate-x-1/2 overflow-y-auto border border-ink bg-sheet p-5 ${large ? "max-w-[78rem]" : wide ? "max-w-3xl" : "max-w-xl"}`}
        >
          <div className="mb-4 flex items-start justify-between gap-4 border-b border-margin pb-2">
            <div>
              <Radix.Title className="text-xl font-semibold">{title}</Radix.Title>
              <Radix.Description className="text-sm text-pencil">{about}</Radix.Description>
            </div>
            <Radix.Close className="p-1" aria-label="Close">
              <X size={18} aria-hidden />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
