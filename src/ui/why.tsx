"use client";

import { Popover, Tooltip } from "radix-ui";
import type { ReactNode } from "react";

const PAPER = "z-60 max-w-[min(24rem,calc(100vw-1.5rem))] border border-ink bg-sheet px-3 py-2 text-sm text-ink";

/** “Why?” beside what it explains; opens at a click or with Enter, and stays until it is closed. */
export function Why({
  of,
  children,
}: {
  /** What is explained, for readers of the screen. */ readonly of: string;
  readonly children: ReactNode;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        className="text-sm text-pencil underline decoration-dotted underline-offset-4 pointer-coarse:min-h-11"
        aria-label={`Why? ${of}`}
      >
        Why?
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} collisionPadding={8} className={PAPER}>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Further words on something that can be pointed at or focused. */
export function Tip({ text, children }: { readonly text: string; readonly children: ReactNode }) {
  return (
    <Tooltip.Provider delayDuration={300}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content sideOffset={4} collisionPadding={8} className={PAPER}>
            {text}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
