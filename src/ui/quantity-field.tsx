"use client";

import clsx from "clsx";
import { useId, type InputHTMLAttributes, type Ref } from "react";

export interface TextFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "onChange"> {
  readonly label: string;
  readonly text: string;
  onText(text: string): void;
  /** What was understood; shown while there is no error. */
  readonly echo?: string | undefined;
  readonly error?: string | null | undefined;
  readonly unit?: string | undefined;
  /** A number field takes single keys that no number contains. */
  readonly numeric?: boolean;
  readonly wide?: boolean;
  readonly hideLabel?: boolean;
  readonly inputRef?: Ref<HTMLInputElement>;
}

/** A field that says what it understood, or why it refuses, right below what was typed. */
export function TextField({
  label,
  text,
  onText,
  echo,
  error,
  unit,
  numeric = false,
  wide = false,
  hideLabel = false,
  inputRef,
  className,
  ...rest
}: TextFieldProps) {
  const id = useId();
  return (
    <div className={clsx("min-w-0", className)}>
      <label htmlFor={id} className={clsx("mb-0.5 block text-sm text-pencil", hideLabel && "sr-only")}>
        {label}
      </label>
      <div
        className={clsx(
          "flex items-stretch border bg-field",
          "has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-offset-1 has-[:focus-visible]:outline-copper",
          error ? "border-misses" : "border-pencil/60 focus-within:border-ink",
          wide ? "w-full" : "w-40 max-w-full",
        )}
      >
        <input
          id={id}
          ref={inputRef}
          value={text}
          onChange={(e) => onText(e.target.value)}
          autoComplete="off"
          spellCheck={false}
          {...(numeric ? { "data-number": "", inputMode: "text" as const } : {})}
          aria-invalid={error ? true : undefined}
          aria-describedby={`${id}-say`}
          className={clsx("min-w-0 flex-1 bg-transparent px-2 py-1.5 outline-none", numeric && "figures")}
          {...rest}
        />
        {unit ? <span className="border-l border-rule px-2 py-1.5 text-pencil">{unit}</span> : null}
      </div>
      <p
        id={`${id}-say`}
        className={clsx("min-h-5 text-xs leading-5", error ? "text-misses" : "figures text-pencil")}
        aria-live="polite"
      >
        {error ? error : echo ? `= ${echo}` : ""}
      </p>
    </div>
  );
}
