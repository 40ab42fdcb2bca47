"use client";

import { Check, ChevronDown } from "lucide-react";
import { getNonce } from "get-nonce";
import { Select as Radix } from "radix-ui";
import { useId } from "react";

export interface Choice<T extends string> {
  /** Never empty. */
  readonly value: T;
  readonly label: string;
}

/** One of several, by name. Typing goes to the first that begins so. */
export function Select<T extends string>({ label, bare = false, value, onValue, choices }: { readonly label: string; /** The label is for readers of the screen alone. */ readonly bare?: boolean; readonly value: T; onValue(value: T): void; readonly choices: readonly Choice<T>[] }) {
  const id = useId();
  return (
    <span className="inline-flex items-center gap-2 text-sm">
      <span id={id} className={bare ? "sr-only" : "text-pencil"}>
        {label}
      </span>
      <Radix.Root value={value} onValueChange={(v) => onValue(v as T)}>
        <Radix.Trigger aria-labelledby={id} className="inline-flex min-h-8 max-w-60 items-center gap-1 border border-pencil/60 bg-field px-2 py-0.5 text-left text-base pointer-coarse:min-h-11">
          <span className="truncate">
            <Radix.Value />
          </span>
          <Radix.Icon>
            <ChevronDown size={14} aria-hidden />
          </Radix.Icon>
        </Radix.Trigger>
        <Radix.Portal>
          <Radix.Content position="popper" sideOffset={2} className="z-50 max-h-[min(24rem,var(--radix-select-content-available-height))] overflow-y-auto border border-ink bg-sheet">
            <Radix.Viewport {...(getNonce() ? { nonce: getNonce() as string } : {})}>
              {choices.map((c) => (
                <Radix.Item key={c.value} value={c.value} className="flex cursor-pointer items-center gap-2 px-2 py-1 outline-none data-[highlighted]:bg-copper data-[highlighted]:text-on-copper">
                  <span className="w-4">
                    <Radix.ItemIndicator>
                      <Check size={14} aria-hidden />
                    </Radix.ItemIndicator>
                  </span>
                  <Radix.ItemText>{c.label}</Radix.ItemText>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </span>
  );
}
