import { formatQuantity } from "../quantities";
import { CONDITION_LABELS, CONDITION_UNITS, type ConditionName } from "./dictionary";

/** A measured condition: where a finding stands. */
export type Conditions = Readonly<Partial<Record<ConditionName, number | string>>>;

/** A claimed condition: a value, a range, or a word. */
export type ConditionSpec =
  { readonly at: number } | { readonly from: number; readonly to: number } | { readonly word: string };
export type ConditionSpecs = Readonly<Partial<Record<ConditionName, ConditionSpec>>>;

/** How far a measured condition may lie from a claimed one and still be that condition: 3 % of it, a temperature 3 K. */
const CONDITION_TOLERANCE = 0.03;
const TEMPERATURE_TOLERANCE = 3;

/** Half width about a claimed value within which a measured one counts as that condition; `within` is the meter's uncertainty, where it is wider. */
export function conditionTolerance(name: ConditionName, value: number, within = 0): number {
  return Math.max(
    within,
    CONDITION_UNITS[name] === "°C" ? TEMPERATURE_TOLERANCE : CONDITION_TOLERANCE * Math.max(Math.abs(value), 1e-9),
  );
}

/** Whether a measured condition value meets a claimed one; `within` is its expanded uncertainty. Missing values never do. */
export function meetsCondition(
  name: ConditionName,
  spec: ConditionSpec,
  value: number | string | undefined,
  within = 0,
): boolean {
  if (value === undefined) return false;
  if ("word" in spec) return String(value).trim().toLowerCase() === spec.word.trim().toLowerCase();
  const v = Number(value);
  if (!Number.isFinite(v)) return false;
  if ("at" in spec) return Math.abs(v - spec.at) <= conditionTolerance(name, spec.at, within);
  return (
    v >= spec.from - conditionTolerance(name, spec.from, within) &&
    v <= spec.to + conditionTolerance(name, spec.to, within)
  );
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

/** What stands before and after a condition's value in a sentence: `at a 3.6 V battery`, `at a 250 mA load`. */
const AROUND: Readonly<Partial<Record<ConditionName, readonly [before: string, after: string]>>> = {
  battery: ["at a", "battery"],
  load: ["at a", "load"],
  output: ["at a", "output"],
  rate: ["at", ""],
  floor: ["to", ""],
  inputVoltage: ["at a", "input"],
  ambient: ["at", "ambient"],
  channel: ["channel", ""],
  cell: ["cell", ""],
  configuration: ["with", ""],
};
const STATES: Readonly<Record<string, string>> = {
  "no-load": "on with no load",
  "output-off": "with the output off",
  "auto-off": "after auto-off",
  "cut-off": "after the cut-off",
};

/** How a load draws, as a condition names it, and as it is said. */
export const LOAD_KINDS = { current: "constant current", resistance: "resistance", power: "power" } as const;
const KINDS: Readonly<Record<string, string>> = {
  [LOAD_KINDS.current]: "as a constant current",
  [LOAD_KINDS.resistance]: "as a resistance",
  [LOAD_KINDS.power]: "as a constant power",
};

/** One measured condition as it is said in a sentence. */
export function conditionPhrase(name: ConditionName, value: number | string): string {
  const text = formatConditionValue(name, value);
  if (name === "state") return STATES[text] ?? text;
  if (name === "kind") return KINDS[text] ?? `as a ${text}`;
  // "at an 8 V battery": eight and eighteen, eleven, eighty.
  const [before = name === "input" ? "input" : "", after = ""] = AROUND[name] ?? [];
  const article = before === "at a" && /^(8|11\b|11\.|18\b|18\.)/.test(text) ? "at an" : before;
  return [article, text, after].filter(Boolean).join(" ");
}

/** Measured conditions in words, `at a 3.6 V battery, with jumper J1 open`; empty text where there are none. */
export const formatConditions = (conditions: Conditions): string =>
  Object.entries(conditions)
    .flatMap(([name, value]) => (value === undefined ? [] : [conditionPhrase(name as ConditionName, value)]))
    .join(", ");
