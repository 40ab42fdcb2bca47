"use client";

import { useState, type ReactNode } from "react";
import { useController, type Control, type FieldPath, type FieldPathValue, type FieldValues } from "react-hook-form";
import { sameValue } from "@/core/files/three-way";
import { Checkbox, CheckList } from "./checkbox";
import { NumberField, type NumberFieldProps } from "./number-field";
import { TextField, type TextFieldProps } from "./quantity-field";
import { RadioGroup } from "./radio-group";
import { Select, type Choice } from "./select";

/** Where a field's value stands in its form. */
interface Place<T extends FieldValues> {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
}

/** A value of the form by its place; the place says its type, which the compiler can't follow through a generic name. */
const as = <T extends FieldValues>(value: unknown): FieldPathValue<T, FieldPath<T>> =>
  value as FieldPathValue<T, FieldPath<T>>;

/** What a number field holds while what is typed there is no number that makes sense. */
const NONSENSE = Number.NaN;

export interface FormTextProps<T extends FieldValues>
  extends Place<T>, Omit<TextFieldProps, "text" | "onText" | "error" | "name"> {
  /** Said where nothing is typed; without it the field may stay empty. */
  readonly missing?: string;
  /** Refuses a text. */
  check?(text: string): string | null;
  /** What was understood of it. */
  echoOf?(text: string): string | undefined;
  /** Said of what is taken all the same. */
  readonly remark?: string | undefined;
}

/** A line of text of a form. */
export function FormText<T extends FieldValues>({
  control,
  name,
  missing,
  check,
  echoOf,
  remark,
  ...rest
}: FormTextProps<T>) {
  const { field, fieldState } = useController({
    control,
    name,
    rules: { validate: (v: string | undefined) => (missing && !v?.trim() ? missing : (check?.(v ?? "") ?? true)) },
  });
  const text = (field.value as string | undefined) ?? "";
  return (
    <TextField
      {...rest}
      text={text}
      onText={(t) => field.onChange(as<T>(t))}
      onBlur={field.onBlur}
      error={fieldState.error?.message ?? remark}
      {...(echoOf ? { echo: echoOf(text) } : {})}
    />
  );
}

export interface FormNumberProps<T extends FieldValues>
  extends Place<T>, Omit<NumberFieldProps, "value" | "onValue" | "missing" | "optional" | "name"> {
  /** Said where nothing is typed; without it the field may stay empty (null). */
  readonly missing?: string;
}

/** A number of a form in SI units; null while the field is empty. What the form sets by itself (a usual value, what was discarded) is shown. */
export function FormNumber<T extends FieldValues>({ control, name, missing, ...rest }: FormNumberProps<T>) {
  const { field, fieldState } = useController({
    control,
    name,
    rules: {
      validate: (v: number | null) => (v === null ? (missing ?? true) : Number.isNaN(v) ? "Enter a number." : true),
    },
  });
  const value = (field.value as number | null | undefined) ?? null;
  const [shown, setShown] = useState({ value, edition: 0 });
  if (!Object.is(value, shown.value)) setShown({ value, edition: shown.edition + 1 });
  return (
    <NumberField
      {...rest}
      key={shown.edition}
      optional={missing === undefined}
      value={Number.isNaN(value) ? null : value}
      missing={fieldState.error?.message ?? null}
      onValue={(v, empty) => {
        const next = v ?? (empty ? null : NONSENSE);
        setShown((s) => ({ ...s, value: next }));
        field.onChange(as<T>(next));
      }}
    />
  );
}

export interface FormParsedProps<T extends FieldValues, V>
  extends Place<T>, Omit<TextFieldProps, "text" | "onText" | "error" | "echo" | "name"> {
  textOf(value: V): string;
  read(text: string): { readonly value: V } | { readonly error: string };
  echoOf(value: V): string | undefined;
}

/** Something of a form that is typed as a text: its value, or not a number (NaN) while the text can't be understood. */
export function FormParsed<T extends FieldValues, V>({
  control,
  name,
  textOf,
  read,
  echoOf,
  ...rest
}: FormParsedProps<T, V>) {
  const { field } = useController({
    control,
    name,
    rules: { validate: (v: unknown) => !Object.is(v, NONSENSE) || "Enter it anew." },
  });
  const value = field.value as V;
  const written = (v: V): string => (Object.is(v, NONSENSE) ? "" : textOf(v));
  const [shown, setShown] = useState(() => ({ value, text: written(value) }));
  // What the form sets by itself is shown; what was typed stays as it was typed.
  if (!sameValue(value, shown.value)) setShown({ value, text: written(value) });
  const reading = read(shown.text);
  return (
    <TextField
      {...rest}
      text={shown.text}
      error={"error" in reading ? reading.error : undefined}
      echo={"value" in reading ? echoOf(reading.value) : undefined}
      onText={(text) => {
        const next = read(text);
        const v = "value" in next ? next.value : NONSENSE;
        setShown({ value: v as V, text });
        field.onChange(as<T>(v));
      }}
    />
  );
}

/** One of a list. */
export function FormSelect<T extends FieldValues, V extends string>({
  control,
  name,
  ...rest
}: Place<T> & {
  readonly label: string;
  readonly place?: "beside" | "above" | "hidden";
  readonly wide?: boolean;
  readonly choices: readonly Choice<V>[];
}) {
  const { field } = useController({ control, name });
  return <Select<V> {...rest} value={field.value as V} onValue={(v) => field.onChange(as<T>(v))} />;
}

/** A tick. */
export function FormCheckbox<T extends FieldValues>({
  control,
  name,
  className,
  children,
}: Place<T> & { readonly className?: string; readonly children: ReactNode }) {
  const { field } = useController({ control, name });
  return (
    <Checkbox
      {...(className ? { className } : {})}
      checked={field.value as boolean}
      onChecked={(on) => field.onChange(as<T>(on))}
    >
      {children}
    </Checkbox>
  );
}

/** Several of a list. */
export function FormCheckList<T extends FieldValues, V extends string>({
  control,
  name,
  ...rest
}: Place<T> & {
  readonly label: string;
  readonly className?: string;
  readonly choices: readonly { readonly value: V; readonly label: string }[];
}) {
  const { field } = useController({ control, name });
  return <CheckList<V> {...rest} values={field.value as V[]} onValues={(v) => field.onChange(as<T>(v))} />;
}

/** One of a few, all in sight; values may be numbers, or a yes and a no. */
export function FormRadioGroup<T extends FieldValues, V extends string | number | boolean>({
  control,
  name,
  choices,
  ...rest
}: Place<T> & {
  readonly label: string;
  readonly stacked?: boolean;
  readonly choices: readonly { readonly value: V; readonly label: ReactNode }[];
}) {
  const { field } = useController({ control, name });
  return (
    <RadioGroup
      {...rest}
      value={String(field.value)}
      onValue={(v) => field.onChange(as<T>(choices.find((c) => String(c.value) === v)?.value ?? field.value))}
      choices={choices.map((c) => ({ value: String(c.value), label: c.label }))}
    />
  );
}
