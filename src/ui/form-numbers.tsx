import type { ReactNode } from "react";
import type { Control, FieldPath, FieldValues } from "react-hook-form";
import { formatQuantity, type Unit } from "@/core/quantities";
import { FormNumber } from "./form-fields";

/** A number of a form as a field: what it is called, its unit, what it begins with, what makes sense. */
export interface NumberSpec<K extends string = string> {
  readonly key: K;
  readonly label: string;
  readonly unit: Unit;
  readonly first: number;
  readonly low: number;
  readonly high: number;
  readonly whole?: true;
}
export const numberSpec = <K extends string>(
  key: K,
  label: string,
  unit: Unit,
  first: number,
  low: number,
  high: number,
): NumberSpec<K> => ({ key, label, unit, first, low, high });

type Limits = Pick<NumberSpec, "unit" | "low" | "high" | "whole">;

/** Why a number makes no sense in its field; null where it does. */
export const outside =
  ({ unit, low, high, whole }: Limits) =>
  (x: number): string | null =>
    whole && !Number.isInteger(x)
      ? "A whole number."
      : x < low || x > high
        ? `Between ${formatQuantity(low, unit)} and ${formatQuantity(high, unit)}.`
        : null;

export interface FormNumbersProps<T extends FieldValues> {
  readonly control: Control<T>;
  /** Where the numbers stand in the form: `charger.`; "" at its top. */
  readonly at: string;
  readonly fields: readonly Omit<NumberSpec, "first">[];
  readonly children?: ReactNode;
}

/** Numbers of a form in a row of fields; none may stay empty. */
export function FormNumbers<T extends FieldValues>({ control, at, fields, children }: FormNumbersProps<T>) {
  return (
    <div className="flex flex-wrap gap-x-5">
      {fields.map((f) => (
        <FormNumber
          key={f.key}
          control={control}
          name={(at + f.key) as FieldPath<T>}
          label={f.label}
          quantity={f.unit}
          refuse={outside(f)}
          missing="Enter a number."
        />
      ))}
      {children}
    </div>
  );
}
