"use client";

import clsx from "clsx";
import { RadioGroup as Radix } from "radix-ui";
import { useId, type ReactNode } from "react";

export interface RadioChoice<T extends string> {
  readonly value: T;
  readonly label: ReactNode;
}

export interface RadioGroupProps<T extends string> {
  /** What is chosen; for readers of the screen alone where `hideLabel`. */
  readonly label: string;
  readonly hideLabel?: boolean;
  readonly value: T | null;
  onValue(value: T): void;
  readonly choices: readonly RadioChoice<T>[];
  /** One below the other. */
  readonly stacked?: boolean;
}

/** One of a few, all in sight. */
export function RadioGroup<T extends string>({
  label,
  hideLabel = false,
  value,
  onValue,
  choices,
  stacked = false,
}: RadioGroupProps<T>) {
  const id = useId();
  return (
    <div>
      <p id={id} className={hideLabel ? "sr-only" : "mb-1 text-sm text-pencil"}>
        {label}
      </p>
      <RadioRoot
        labelledBy={id}
        value={value}
        onValue={onValue}
        className={clsx("flex gap-x-6 gap-y-1", stacked ? "flex-col" : "flex-wrap")}
      >
        {choices.map((c) => (
          <Radio key={c.value} value={c.value}>
            {c.label}
          </Radio>
        ))}
      </RadioRoot>
    </div>
  );
}

/** What holds radios that stand in a layout of their own, such as rows. */
export function RadioRoot<T extends string>({
  label,
  labelledBy,
  value,
  onValue,
  className,
  children,
}: {
  readonly label?: string;
  readonly labelledBy?: string;
  readonly value: T | null;
  onValue(value: T): void;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <Radix.Root
      {...(label ? { "aria-label": label } : {})}
      {...(labelledBy ? { "aria-labelledby": labelledBy } : {})}
      value={value ?? ""}
      onValueChange={(v) => onValue(v as T)}
      className={className ?? ""}
    >
      {children}
    </Radix.Root>
  );
}

/** One of them, with its words. */
export function Radio({
  value,
  disabled = false,
  autoFocus = false,
  className,
  children,
}: {
  readonly value: string;
  readonly disabled?: boolean;
  readonly autoFocus?: boolean;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <label
      className={clsx(
        "inline-flex items-start gap-2 pointer-coarse:min-h-11",
        disabled ? "opacity-60" : "cursor-pointer",
        className,
      )}
    >
      <span className="flex h-[1lh] shrink-0 items-center">
        <Radix.Item
          value={value}
          disabled={disabled}
          autoFocus={autoFocus}
          className="flex size-4 items-center justify-center rounded-full border border-pencil bg-field data-[state=checked]:border-copper"
        >
          <Radix.Indicator className="size-2 rounded-full bg-copper" />
        </Radix.Item>
      </span>
      <span className="min-w-0">{children}</span>
    </label>
  );
}
