import type { HouseRules } from "../measurement";
import { formatQuantity, type Unit } from "../quantities";

export interface SumField {
  readonly key: string;
  readonly label: string;
  readonly unit: Unit;
  /** Filled in to begin with; null where nothing may be assumed. */
  readonly first: number | null;
  /** Least and most that makes sense. */
  readonly low: number;
  readonly high: number;
}

export interface SumResult {
  readonly label: string;
  readonly value: number;
  readonly unit: Unit;
  /** Said instead of the number, such as `2 h 10 min`. */
  readonly text?: string;
}

export interface SumAnswer {
  readonly results: readonly SumResult[];
  /** The formula with the numbers put in. */
  readonly filled: string;
  /** What to mind. */
  readonly remark?: string;
}

/** What of the house rules a sum minds. */
export type SumRules = Pick<HouseRules, "touchLimit">;

/** A sum that is done beside the bench. */
export interface Sum {
  readonly id: string;
  readonly title: string;
  readonly formula: string;
  readonly fields: readonly SumField[];
  /** Every field of it, in SI, within its bounds. */
  work(v: Readonly<Record<string, number>>, rules: SumRules): SumAnswer;
}

/** A value in a formula that is filled in. */
export const q = (value: number, unit: Unit, digits = 3): string => formatQuantity(value, unit, { digits });
export const field = (
  key: string,
  label: string,
  unit: Unit,
  first: number | null,
  low: number,
  high: number,
): SumField => ({ key, label, unit, first, low, high });
/** A field's value, in SI. */
export const get = (v: Readonly<Record<string, number>>, key: string): number => v[key] ?? NaN;
