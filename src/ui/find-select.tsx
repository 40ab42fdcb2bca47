"use client";

import { Check, ChevronDown } from "lucide-react";
import { Command } from "cmdk";
import { Popover } from "radix-ui";
import { useId, useState } from "react";
import type { Choice } from "./select";

export interface FindSelectProps<T extends string> {
  readonly label: string;
  readonly value: T;
  onValue(value: T): void;
  readonly choices: readonly Choice<T>[];
  /** What stands in the empty field of the list. */
  readonly hint: string;
}

/** One of many, found by typing a part of its name. */
export function FindSelect<T extends string>({ label, value, onValue, choices, hint }: FindSelectProps<T>) {
  const id = useId();
  const [open, setOpen] = useState(false);
  const chosen = choices.find((c) => c.value === value);
  const pick = (v: T) => {
    onValue(v);
    setOpen(false);
  };
  return (
    <div className="min-w-0 text-sm">
      <span id={id} className="mb-0.5 block text-pencil">
        {label}
      </span>
      <Popover.Root modal open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          role="combobox"
          aria-expanded={open}
          aria-labelledby={id}
          className="flex min-h-9 w-full items-center justify-between gap-1 border border-pencil/60 bg-field px-2 text-left text-base text-ink pointer-coarse:min-h-11"
        >
          <span className="truncate">{chosen?.label ?? "choose …"}</span>
          <ChevronDown size={14} aria-hidden />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={2}
            aria-label={label}
            className="z-60 w-(--radix-popover-trigger-width) min-w-72 border border-ink bg-sheet text-ink"
          >
            <Finder label={label} hint={hint} value={value} choices={choices} onPick={pick} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

/** Every word typed is somewhere in what a choice is called, what it is about or its group. */
function matches(value: string, search: string, keywords: string[] = []): number {
  const text = [value, ...keywords].join(" ").toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word))
    ? 1
    : 0;
}

interface FinderProps<T extends string> {
  readonly label: string;
  readonly hint: string;
  readonly value: T;
  readonly choices: readonly Choice<T>[];
  onPick(value: T): void;
}

/** The field of the list, and what matches it. */
function Finder<T extends string>({ label, hint, value, choices, onPick }: FinderProps<T>) {
  const groups = [...new Set(choices.map((c) => c.group ?? ""))];
  return (
    <Command label={label} loop defaultValue={value} filter={matches}>
      <Command.Input
        autoFocus
        placeholder={hint}
        className="w-full border-b border-rule bg-field px-3 py-2 outline-offset-[-2px]"
      />
      <Command.List className="max-h-72 overflow-y-auto">
        <Command.Empty className="p-3 text-pencil">No match.</Command.Empty>
        {groups.map((g) => (
          <Command.Group
            key={g}
            heading={g}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-pencil"
          >
            {choices
              .filter((c) => (c.group ?? "") === g)
              .map((c) => (
                <Command.Item
                  key={c.value}
                  value={c.value}
                  keywords={[c.label, g, c.about ?? ""]}
                  data-choice={c.value}
                  onSelect={() => onPick(c.value)}
                  className="flex cursor-pointer items-center gap-2 px-2 py-1 data-[selected=true]:bg-copper data-[selected=true]:text-on-copper pointer-coarse:min-h-11"
                >
                  <span className="w-4 shrink-0">{c.value === value ? <Check size={14} aria-hidden /> : null}</span>
                  {c.label}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}
