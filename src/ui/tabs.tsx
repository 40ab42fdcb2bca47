"use client";

import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface Tab<T extends string> {
  readonly value: T;
  readonly label: string;
  readonly content: ReactNode;
}

/** Views of one thing, one shown at a time; arrow keys go from one to the next. `aside` stands right of their names. */
export function Tabs<T extends string>({
  label,
  value,
  onValue,
  tabs,
  aside,
}: {
  readonly label: string;
  readonly value: T;
  onValue(value: T): void;
  readonly tabs: readonly Tab<T>[];
  readonly aside?: ReactNode;
}) {
  return (
    <Radix.Root value={value} onValueChange={(v) => onValue(v as T)}>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 border-b border-rule px-4">
        <Radix.List aria-label={label} className="flex gap-x-1">
          {tabs.map((t) => (
            <Radix.Trigger
              key={t.value}
              value={t.value}
              className="border-b-2 border-transparent px-3 py-1.5 text-pencil data-[state=active]:border-margin data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {t.label}
            </Radix.Trigger>
          ))}
        </Radix.List>
        {aside}
      </div>
      {tabs.map((t) => (
        <Radix.Content key={t.value} value={t.value}>
          {t.content}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
