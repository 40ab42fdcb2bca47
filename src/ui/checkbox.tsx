"use client";

import { Check } from "lucide-react";
import { Checkbox as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A box to tick, with its words. */
export function Checkbox({ checked, onChecked, children }: { readonly checked: boolean; onChecked(checked: boolean): void; readonly children: ReactNode }) {
  return (
    <label className="inline-flex cursor-pointer items-center gap-2 text-sm pointer-coarse:min-h-11">
      <Radix.Root checked={checked} onCheckedChange={(v) => onChecked(v === true)} className="flex size-4 shrink-0 items-center justify-center border border-pencil bg-field data-[state=checked]:border-copper data-[state=checked]:bg-copper data-[state=checked]:text-on-copper">
        <Radix.Indicator>
          <Check size={13} strokeWidth={3} aria-hidden />
        </Radix.Indicator>
      </Radix.Root>
      {children}
    </label>
  );
}
