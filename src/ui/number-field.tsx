"use client";

import { useState } from "react";
import { exactText, parseQuantity, unitSymbol, type Unit } from "@/core/quantities";
import { TextField, type TextFieldProps } from "./quantity-field";

export interface NumberFieldProps extends Omit<
  TextFieldProps,
  "text" | "onText" | "unit" | "echo" | "error" | "numeric"
> {
  readonly quantity: Unit;
  readonly value: number | null;
  /** Called with what was understood; null while the field is empty (`empty`) or nonsense. */
  onValue(value: number | null, empty: boolean): void;
  /** Refuses a value that parses but makes no sense here. */
  readonly refuse?: (value: number) => string | null;
  readonly optional?: boolean;
  /** Said of an empty field once the form was refused. */
  readonly missing?: string | null;
  /** The unit that a bare number takes and that stands beside the field, where it is a multiple of the quantity's own: mm. */
  readonly printed?: { readonly unit: string; readonly size: number };
}

/** A value as it is typed where the unit is printed beside the field, exactly: `5`, `20m`, `85`, `25 min 00 s`. */
export function fieldText(value: number, quantity: Unit): string {
  if (value === 0) return "0";
  const text = exactText(value, quantity);
  const own = unitSymbol(quantity);
  if (/ (min|h|d|years)|\d\u00a0(d|years)/.test(text)) return text.replace(/\u00a0/g, " ");
  const [number = "", unit = ""] = text.split("\u00a0");
  return number + (unit.endsWith(own) ? unit.slice(0, unit.length - own.length) : unit);
}

const BARE = /^[\s\d.,+-]+$/;

/** A bare number takes the unit printed at the field: per cent where the quantity is a ratio. */
const withPrinted = (text: string, quantity: Unit): string =>
  quantity === "1" && BARE.test(text) ? `${text} %` : text;

/** Sizes of boards are written in millimetres. */
export const MILLIMETRES = { unit: "mm", size: 1e-3 } as const;

/** A number with its unit, typed as people write it. */
export function NumberField({
  quantity,
  value,
  onValue,
  refuse,
  optional = false,
  missing = null,
  printed,
  ...rest
}: NumberFieldProps) {
  const [text, setText] = useState(() =>
    value === null ? "" : printed ? String(Number((value / printed.size).toPrecision(12))) : fieldText(value, quantity),
  );
  const read = (t: string) =>
    parseQuantity(printed && BARE.test(t) ? `${t} ${printed.unit}` : withPrinted(t, quantity), quantity);
  const [touched, setTouched] = useState(false);
  const parsed = text.trim() === "" && optional ? null : read(text);
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
        const p = t.trim() === "" ? null : read(t);
        onValue(p?.ok && !(refuse?.(p.value.value) ?? null) ? p.value.value : null, p === null);
      }}
      unit={printed?.unit ?? unitSymbol(quantity)}
      echo={touched && parsed?.ok ? parsed.value.echo : undefined}
      error={text.trim() === "" && missing ? missing : touched ? error : null}
    />
  );
}
