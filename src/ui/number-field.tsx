"use client";

import { useState } from "react";
import { formatQuantity, parseQuantity, type Unit } from "@/core/quantities";
import { TextField, type TextFieldProps } from "./quantity-field";

export interface NumberFieldProps extends Omit<TextFieldProps, "text" | "onText" | "unit" | "echo" | "error" | "numeric"> {
  readonly quantity: Unit;
  readonly value: number | null;
  /** Called with what was understood; null while the field is empty or nonsense. */
  onValue(value: number | null): void;
  /** Refuses a value that parses but makes no sense here. */
  readonly refuse?: (value: number) => string | null;
  readonly optional?: boolean;
}

/** A number with its unit, typed as people write it. */
export function NumberField({ quantity, value, onValue, refuse, optional = false, ...rest }: NumberFieldProps) {
  const [text, setText] = useState(() => (value === null ? "" : formatQuantity(value, quantity, { digits: 6 }).replace(/(\.\d*?)0+(?=\D|$)/, "$1").replace(/\.(?=\D|$)/, "")));
  const [touched, setTouched] = useState(false);
  const parsed = text.trim() === "" && optional ? null : parseQuantity(text, quantity);
  const refusal = parsed?.ok ? (refuse?.(parsed.value.value) ?? null) : null;
  const error = parsed === null ? null : parsed.ok ? refusal : parsed.error;
  return (
    <TextField
      {...rest}
      numeric
      text={text}
      onText={(t) => {
        setText(t);
        setTouched(true);
        const p = t.trim() === "" ? null : parseQuantity(t, quantity);
        onValue(p?.ok && !(refuse?.(p.value.value) ?? null) ? p.value.value : null);
      }}
      unit={quantity === "1" ? "%" : quantity}
      echo={touched && parsed?.ok ? parsed.value.echo : undefined}
      error={touched ? error : null}
    />
  );
}
