import { formatQuantity } from "../quantities";
import { CONDITION_LABELS, CONDITION_UNITS, type ConditionName } from "./dictionary";

/** A measured condition: where a finding stands. */
export type Conditions = Readonly<Partial<Record<ConditionName, number | string>>>;

/** A claimed condition: a value, a range, or a word. */
export type ConditionSpec = { readonly at: number } | { readonly from: number; readonly to: number } | { readonly word: string };
export type ConditionSpecs = Readonly<Partial<Record<ConditionName, ConditionSpec>>>;

/** How far a measured condition may lie from a claimed one and still be that condition: 3 % of it, a temperature 3 K. */
const CONDITION_TOLERANCE = 0.03;
const TEMPERATURE_TOLERANCE = 3;

/** Half width about a claimed value within which a measured one counts as that condition; `within` is the meter's uncertainty, where it is wider. */
export function conditionTolerance(name: ConditionName, value: number, within = 0): number {
  return Math.max(within, CONDITION_UNITS[name] === "°C" ? TEMPERATURE_TOLERANCE : CONDITION_TOLERANCE * Math.max(Math.abs(value), 1e-9));
}

/** Whether a measured condition value meets a claimed one; `within` is its expanded uncertainty. Missing values never do. */
export function meetsCondition(name: ConditionName, spec: ConditionSpec, value: number | string | undefined, within = 0): boolean {
  if (value === undefined) return false;
  if ("word" in spec) return String(value).trim().toLowerCase() === spec.word.trim().toLowerCase();
  const v = Number(value);
  if (!Number.isFinite(v)) return false;
  if ("at" in spec) return Math.abs(v - spec.at) <= conditionTolerance(name, spec.at, within);
  return v >= spec.from - conditionTolerance(name, spec.from, within) && v <= spec.to + conditionTolerance(name, spec.to, within);
}

export function formatConditionValue(name: ConditionName, value: number | string): string {
  const unit = CONDITION_UNITS[name];
  if (typeof value === "string" || unit === "") return String(value);
  return unit === "1" ? String(value) : formatQuantity(value, unit);
}

/** One claimed condition in words: `battery voltage 3.6 V`, `battery voltage 3 V to 4.2 V`, `configuration A open`. */
export function formatSpec(name: ConditionName, spec: ConditionSpec): string {
  const value =
    "word" in spec
      ? spec.word
      : "at" in spec
        ? formatConditionValue(name, spec.at)
        : `${formatConditionValue(name, spec.from)} to ${formatConditionValue(name, spec.to)}`;
  return `${CONDITION_LABELS[name]} ${value}`;
}

/** Measured conditions in words, `@ battery 3.6 V`; empty text where there are none. */
export function formatConditions(conditions: Conditions): string {
  const parts = Object.entries(conditions).flatMap(([name, value]) =>
    value === undefined ? [] : [`${CONDITION_LABELS[name as ConditionName].replace(" voltage", "")} ${formatConditionValue(name as ConditionName, value)}`],
  );
  return parts.length ? `@ ${parts.join(", ")}` : "";
}
