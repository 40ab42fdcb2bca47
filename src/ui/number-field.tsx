"use client";

import { useState } from "react";
import { formatQuantity, parseQuantity, unitSymbol, type Unit } from "@/core/quantities";
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

/** A value as it is typed where the unit is printed beside the field: `5`, `20m`, `85`. */
export function fieldText(value: number, quantity: Unit): string {
  if (value === 0) return "0";
  const [number = "", unit = ""] = formatQuantity(Number(value.toPrecision(8)), quantity, { digits: 8 }).split("\u00a0");
  const short = number.includes(".") ? number.replace(/0+$/, "").replace(/\.$/, "") : number;
  const own = unitSymbol(quantity);
  return short + (unit.endsWith(own) ? unit.slice(0, unit.length - own.length) : "");
}

/** A bare number takes the unit printed at the field: per cent where the quantity is a ratio. */
const withPrinted = (text: string, quantity: Unit): string => (quantity === "1" && /^[\s\d.,+-]+$/.test(text) ? `${text} %` : text);

/** A number with its unit, typed as people write it. */
export function NumberField({ quantity, value, onValue, refuse, optional = false, ...rest }: NumberFieldProps) {
  const [text, setText] = useState(() => (value === null ? "" : fieldText(value, quantity)));
  const [touched, setTouched] = useState(false);
  const parsed = text.trim() === "" && optional ? null : parseQuantity(withPrinted(text, quantity), quantity);
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
        const p = t.trim() === "" ? null : parseQuantity(withPrinted(t, quantity), quantity);
        onValue(p?.ok && !(refuse?.(p.value.value) ?? null) ? p.value.value : null);
      }}
      unit={unitSymbol(quantity)}
      echo={touched && parsed?.ok ? parsed.value.echo : undefined}
      error={touched ? error : null}
    />
  );
}
