"use client";

import clsx from "clsx";
import { useId } from "react";
import { useController, type Control, type FieldPath, type FieldValues } from "react-hook-form";

export interface FormAreaProps<T extends FieldValues> {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
  readonly label: string;
  readonly placeholder?: string;
  readonly rows?: number;
  readonly autoFocus?: boolean;
  /** What was understood. */
  readonly echo?: string | undefined;
  /** Refuses a text. */
  check(text: string): string | null;
}

/** Several lines of text of a form; says below what it understood, or why it refuses. */
export function FormArea<T extends FieldValues>({
  control,
  name,
  label,
  placeholder,
  rows = 8,
  autoFocus,
  echo,
  check,
}: FormAreaProps<T>) {
  const id = useId();
  const { field, fieldState } = useController({ control, name, rules: { validate: (v: string) => check(v) ?? true } });
  const error = fieldState.error?.message;
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-pencil">
        {label}
      </label>
      <textarea
        {...field}
        value={field.value as string}
        id={id}
        rows={rows}
        placeholder={placeholder}
        autoFocus={autoFocus}
        spellCheck={false}
        aria-invalid={error ? true : undefined}
        aria-describedby={`${id}-say`}
        className={clsx(
          "figures block w-full border bg-field px-2 py-1.5",
          error ? "border-misses" : "border-pencil/60",
        )}
      />
      <p
        id={`${id}-say`}
        className={clsx("min-h-5 text-xs leading-5", error ? "text-misses" : "text-pencil")}
        aria-live="polite"
      >
        {error ?? echo ?? ""}
      </p>
    </div>
  );
}
