import {
  CHARACTERISTICS,
  characteristic,
  formatConditionValue,
  type Characteristic,
  type ConditionName,
  type ConditionSpec,
} from "@/core/characteristics";
import { formatLimit, parseConditionSpec, parseLimit } from "@/core/claims";
import { capital } from "@/core/quantities";
import { FACTS, type Fact, type Level, type Requirement } from "@/core/need";

/** One requirement as it stands in the fields. */
export interface Row {
  readonly id: string;
  readonly level: Level;
  /** A characteristic's name, `life`, or `fact:price`. */
  readonly what: string;
  readonly limit: string;
  readonly conditions: Readonly<Partial<Record<ConditionName, string>>>;
  /** s, Ah, A of a standby life; what a fact may be at most. */
  readonly seconds: number | null;
  readonly capacity: number | null;
  readonly selfDischarge: number | null;
  readonly atMost: number | null;
}

/** What a use asks for first, in the words of those who ask. */
export const USUAL_REQUIREMENTS: readonly { readonly what: string; readonly label: string; readonly limit: string }[] =
  [
    { what: "boost.no-load-voltage", label: "Output voltage", limit: "4.75 to 5.25" },
    { what: "boost.max-current", label: "Load current held, at a battery of", limit: "at least 250m" },
    { what: "boost.start-current", label: "Load current it starts into, at a battery of", limit: "at least 250m" },
    { what: "life", label: "Standby life", limit: "" },
    { what: "protect.over-discharge-present", label: "Over-discharge protection", limit: "yes" },
    { what: "protect.short-present", label: "Short-circuit protection", limit: "yes" },
    { what: "charge.cc-current", label: "Charge current for the cell", limit: "0.4 to 1" },
    { what: "charge.cv-voltage", label: "Full voltage", limit: "at most 4.25" },
    { what: "boost.lowest-efficiency", label: "Efficiency, lowest", limit: "at least 80 %" },
    { what: "heat.max-ambient", label: "Highest ambient", limit: "at least 40" },
  ];

export const FACT_CHOICES: readonly { readonly what: string; readonly label: string }[] = FACTS.map((f) => ({
  what: `fact:${f}`,
  label: `${capital(f)}, at most`,
}));
export const UNUSUAL_QUANTITIES: readonly Characteristic[] = CHARACTERISTICS.filter(
  (c) => !USUAL_REQUIREMENTS.some((u) => u.what === c.name),
);

/** Conditions that are asked for beside a quantity; those that only a sample has are left to judging. */
export const askedConditions = (what: string): readonly ConditionName[] =>
  what === "life" ? ["state"] : (characteristic(what)?.at ?? []).filter((c) => c !== "configuration" && c !== "output");

export const freshRow = (id: string, what = "boost.no-load-voltage"): Row => ({
  id,
  level: "must",
  what,
  limit: USUAL_REQUIREMENTS.find((u) => u.what === what)?.limit ?? "",
  conditions: {},
  seconds: 90 * 86400,
  capacity: 2,
  selfDischarge: 2e-5,
  atMost: null,
});

const specText = (name: ConditionName, s: ConditionSpec): string =>
  "word" in s
    ? s.word
    : "at" in s
      ? formatConditionValue(name, s.at)
      : `${formatConditionValue(name, s.from)} to ${formatConditionValue(name, s.to)}`;

export function rowOf(r: Requirement): Row {
  const row = freshRow(r.id);
  if (r.kind === "fact") return { ...row, level: r.level, what: `fact:${r.fact}`, atMost: r.atMost };
  if (r.kind === "life")
    return {
      ...row,
      level: r.level,
      what: "life",
      seconds: r.seconds,
      capacity: r.capacity,
      selfDischarge: r.selfDischarge,
      conditions: r.state ? { state: r.state } : {},
    };
  const unit = characteristic(r.reading.characteristic)?.unit ?? "";
  const conditions = Object.fromEntries(
    Object.entries(r.reading.conditions).flatMap(([name, s]) =>
      s ? [[name, specText(name as ConditionName, s)]] : [],
    ),
  );
  return {
    ...row,
    level: r.level,
    what: r.reading.characteristic,
    limit: formatLimit(r.reading.limit, unit),
    conditions,
  };
}

/** What stands in a row's way, or the requirement it makes. */
export function requirementOf(
  r: Row,
): { readonly ok: true; readonly value: Requirement } | { readonly ok: false; readonly error: string } {
  if (r.what.startsWith("fact:"))
    return r.atMost === null
      ? { ok: false, error: "Enter an upper limit." }
      : {
          ok: true,
          value: { id: r.id, level: r.level, kind: "fact", fact: r.what.slice(5) as Fact, atMost: r.atMost },
        };
  if (r.what === "life") {
    if (r.seconds === null || r.capacity === null || r.selfDischarge === null)
      return { ok: false, error: "Enter the time, the cell and its self-discharge (0 if unknown)." };
    return {
      ok: true,
      value: {
        id: r.id,
        level: r.level,
        kind: "life",
        seconds: r.seconds,
        capacity: r.capacity,
        selfDischarge: r.selfDischarge,
        state: r.conditions.state?.trim() || null,
      },
    };
  }
  const c = characteristic(r.what);
  if (!c) return { ok: false, error: "Choose a quantity." };
  const limit = parseLimit(r.limit, c);
  if (!limit.ok) return { ok: false, error: limit.error };
  const conditions: Record<string, ConditionSpec> = {};
  for (const name of askedConditions(r.what)) {
    const s = parseConditionSpec(r.conditions[name] ?? "", name);
    if (!s.ok) return { ok: false, error: s.error };
    if (s.value) conditions[name] = s.value;
  }
  return {
    ok: true,
    value: {
      id: r.id,
      level: r.level,
      kind: "quantity",
      reading: { characteristic: r.what, limit: limit.value, conditions },
    },
  };
}
