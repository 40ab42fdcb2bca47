import type { ReactNode } from "react";
import { formatQuantity, type Unit } from "@/core/quantities";
import { NumberField } from "./number-field";

/** A number of a plan as a field: what it is called, its unit, what it begins with, what makes sense. */
export interface NumberSpec<K extends string = string> {
  readonly key: K;
  readonly label: string;
  readonly unit: Unit;
  readonly first: number;
  readonly low: number;
  readonly high: number;
  readonly whole?: true;
}
export const numberSpec = <K extends string>(key: K, label: string, unit: Unit, first: number, low: number, high: number): NumberSpec<K> => ({ key, label, unit, first, low, high });

const refusal = (f: NumberSpec) => (x: number): string | null =>
  f.whole && !Number.isInteger(x) ? "A whole number." : x < f.low || x > f.high ? `Between ${formatQuantity(f.low, f.unit)} and ${formatQuantity(f.high, f.unit)}.` : null;

export interface NumberFieldsProps<K extends string> {
  readonly fields: readonly NumberSpec<K>[];
  readonly values: Readonly<Record<K, number>>;
  onNumber(key: K, value: number): void;
  readonly children?: ReactNode;
}

/** Numbers in a row of fields; a value that makes no sense changes nothing. They begin anew with another `key`. */
export function NumberFields<K extends string>({ fields, values, onNumber, children }: NumberFieldsProps<K>) {
  return (
    <div className="flex flex-wrap gap-x-5">
      {fields.map((f) => (
        <NumberField key={f.key} label={f.label} quantity={f.unit} value={values[f.key]} refuse={refusal(f)} onValue={(x) => x !== null && onNumber(f.key, x)} />
      ))}
      {children}
    </div>
  );
}
