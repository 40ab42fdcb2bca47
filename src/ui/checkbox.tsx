"use client";

import clsx from "clsx";
import { Check } from "lucide-react";
import { Checkbox as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface CheckboxProps {
  readonly checked: boolean;
  onChecked(checked: boolean): void;
  readonly disabled?: boolean;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A box to tick, with its words. */
export function Checkbox({ checked, onChecked, disabled = false, className, children }: CheckboxProps) {
  return (
    <label
      className={clsx(
        "inline-flex items-start gap-2 pointer-coarse:min-h-11",
        disabled ? "opacity-60" : "cursor-pointer",
        className,
      )}
    >
      <span className="flex h-[1lh] shrink-0 items-center">
        <Radix.Root
          checked={checked}
          disabled={disabled}
          onCheckedChange={(v) => onChecked(v === true)}
          className="flex size-4 items-center justify-center border border-pencil bg-field data-[state=checked]:border-copper data-[state=checked]:bg-copper data-[state=checked]:text-on-copper"
        >
          <Radix.Indicator>
            <Check size={13} strokeWidth={3} aria-hidden />
          </Radix.Indicator>
        </Radix.Root>
      </span>
      <span className="min-w-0">{children}</span>
    </label>
  );
}

/** Those of a list that hold. */
export function CheckList<T extends string>({
  label,
  values,
  onValues,
  choices,
  className,
}: {
  readonly label: string;
  readonly values: readonly T[];
  onValues(values: T[]): void;
  readonly choices: readonly { readonly value: T; readonly label: ReactNode }[];
  readonly className?: string;
}) {
  return (
    <fieldset className={className}>
      <legend className="mb-1 text-sm text-pencil">{label}</legend>
      <span className="flex flex-wrap gap-x-5 gap-y-1">
        {choices.map((c) => (
          <Checkbox
            key={c.value}
            checked={values.includes(c.value)}
            onChecked={(on) => onValues(on ? [...values, c.value] : values.filter((v) => v !== c.value))}
          >
            {c.label}
          </Checkbox>
        ))}
      </span>
    </fieldset>
  );
}
