"use client";

import clsx from "clsx";
import { Check, ChevronDown } from "lucide-react";
import { getNonce } from "get-nonce";
import { Select as Radix } from "radix-ui";
import { useId, useState } from "react";

export interface Choice<T extends string> {
  /** May be empty: nothing chosen. */
  readonly value: T;
  readonly label: string;
  /** Choices of one group stand together under its name. */
  readonly group?: string;
  /** Further words that it is found by. */
  readonly about?: string;
}

export interface SelectProps<T extends string> {
  readonly label: string;
  /** Where the label stands; `hidden` is for readers of the screen alone. */
  readonly place?: "beside" | "above" | "hidden";
  /** As wide as what it stands in. */
  readonly wide?: boolean;
  /** Low, in a row of a table. */
  readonly dense?: boolean;
  readonly value: T;
  onValue(value: T): void;
  readonly choices: readonly Choice<T>[];
}

/** The list takes no empty value: it stands for nothing chosen there. */
const NONE = "(none)";
const inside = (value: string): string => value || NONE;
const outside = <T extends string>(value: string): T => (value === NONE ? "" : value) as T;

/** One of several, by name. Typing goes to the first that begins so. */
export function Select<T extends string>({
  label,
  place = "beside",
  wide = false,
  dense = false,
  value,
  onValue,
  choices,
}: SelectProps<T>) {
  const id = useId();
  // Its list is made once somebody turns to it: a page may have fifty of them, with twenty choices each.
  const [wanted, setWanted] = useState(false);
  const want = () => setWanted(true);
  const groups = [...new Set(choices.map((c) => c.group ?? ""))];
  return (
    <span
      className={clsx(
        "min-w-0 text-sm",
        place === "above" ? "block" : "inline-flex items-center gap-2",
        wide && "w-full",
      )}
    >
      <span
        id={id}
        className={clsx(place === "hidden" ? "sr-only" : "text-pencil", place === "above" && "mb-0.5 block")}
      >
        {label}
      </span>
      <Radix.Root value={inside(value)} onValueChange={(v) => onValue(outside(v))} onOpenChange={want}>
        <Radix.Trigger
          aria-labelledby={id}
          onFocus={want}
          data-choice={value}
          className={clsx(
            "inline-flex min-w-0 items-center justify-between gap-1 border border-pencil/60 bg-field text-left text-ink pointer-coarse:min-h-11",
            dense ? "min-h-6 px-1.5 text-sm" : place === "above" ? "min-h-9 px-2 text-base" : "min-h-8 px-2 text-base",
            wide ? "w-full" : place === "above" ? "max-w-full" : "max-w-72",
          )}
        >
          <span className="truncate">
            <Radix.Value>{choices.find((c) => c.value === value)?.label}</Radix.Value>
          </span>
          <Radix.Icon>
            <ChevronDown size={14} aria-hidden />
          </Radix.Icon>
        </Radix.Trigger>
        {wanted ? (
          <Radix.Portal>
            <Radix.Content
              position="popper"
              sideOffset={2}
              className="z-60 max-h-[min(24rem,var(--radix-select-content-available-height))] max-w-[calc(100vw-1rem)] overflow-y-auto border border-ink bg-sheet text-ink"
            >
              <Radix.Viewport {...(getNonce() ? { nonce: getNonce() as string } : {})}>
                {groups.map((g) => (
                  <Radix.Group key={g}>
                    {g ? <Radix.Label className="px-2 pb-0.5 pt-2 text-xs text-pencil">{g}</Radix.Label> : null}
                    {choices
                      .filter((c) => (c.group ?? "") === g)
                      .map((c) => (
                        <Item key={c.value} choice={c} />
                      ))}
                  </Radix.Group>
                ))}
              </Radix.Viewport>
            </Radix.Content>
          </Radix.Portal>
        ) : null}
      </Radix.Root>
    </span>
  );
}

function Item({ choice: { value, label } }: { readonly choice: Choice<string> }) {
  return (
    <Radix.Item
      value={inside(value)}
      data-choice={value}
      className="flex cursor-pointer items-center gap-2 px-2 py-1 outline-none data-[highlighted]:bg-copper data-[highlighted]:text-on-copper pointer-coarse:min-h-11"
    >
      <span className="w-4 shrink-0">
        <Radix.ItemIndicator>
          <Check size={14} aria-hidden />
        </Radix.ItemIndicator>
      </span>
      <Radix.ItemText>{label}</Radix.ItemText>
    </Radix.Item>
  );
}

/** Choices that are called what they are. */
export const choicesByName = <T extends string>(values: readonly T[]): Choice<T>[] =>
  values.map((value) => ({ value, label: value }));
