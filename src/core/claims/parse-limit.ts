import {
  err,
  exactText,
  formatQuantity,
  ok,
  parseQuantity,
  parseTolerance,
  type Result,
  type Unit,
} from "../quantities";
import type { Characteristic } from "../characteristics";
import type { ConditionSpec, ConditionName } from "../characteristics";
import { CONDITION_UNITS } from "../characteristics";
import { formatLimit, type Limit } from "./claim";
import { listingPhrase, type Phrase } from "./listing-words";

const AT_LEAST = /^(>=|≥|>|at least|from at least)\s*/i;
const AT_MOST = /^(<=|≤|<|at most)\s*/i;
/** A range as listings write it, with a dash; what is written out with “to” is meant as one. */
const DASHED = /^(.*[\d%a-zΩ°])\s*[-–]\s*([\d.].*)$/i;
const RANGE = /^(.+?)\s*(?:\.\.\.?|…|(?<!\de)[–-](?=\s*[\d.])|\bto\b|\bbis\b)\s*(.+)$/i;

const number = (text: string, unit: Unit): Result<number> => {
  const r = parseQuantity(text, unit);
  return r.ok ? ok(r.value.value) : r;
};

/** Both ends of a range; an end without a unit takes the other end's (`4.5–5.5 V`, `200–300 mA`). */
function range(low: string, high: string, unit: Unit): Result<[number, number]> {
  const tail = /[^\d.,\s]+$/.exec(high.trim())?.[0] ?? "";
  const from = number(/\d$/.test(low.trim()) ? `${low.trim()}${tail}` : low, unit);
  if (!from.ok) return from;
  const to = number(high, unit);
  if (!to.ok) return to;
  return from.value <= to.value
    ? ok([from.value, to.value])
    : err(`The range runs backwards: ${low.trim()} is above ${high.trim()}.`);
}

/** Above this no module of this kind has such a value, whatever the quantity: a unit was left out. */
const UNLIKELY: Readonly<Partial<Record<Unit, number>>> = { A: 20, V: 100, W: 200, Ah: 100, "1": 1.5 };
const ADVICE: Readonly<Partial<Record<Unit, (n: string) => string>>> = {
  A: (n) => `${n} mA or ${n} A`,
  V: (n) => `${n} mV or ${n} V`,
  W: (n) => `${n} mW or ${n} W`,
  Ah: (n) => `${n} mAh or ${n} Ah`,
  "1": (n) => `${n} %`,
  s: (n) => `${n} ms, ${n} s, ${n} min or ${n} h`,
};

/** Times beyond the usual range of a quantity from which a bare number is asked about: a hundred times off what is common in its middle. */
const OFF = 10;
const unlikely = (v: number, c: Pick<Characteristic, "unit" | "usual">): boolean =>
  v > (UNLIKELY[c.unit] ?? Infinity) || (c.usual !== null && v !== 0 && (v > OFF * c.usual[1] || v < c.usual[0] / OFF));

/**
 * Reads a limit as people write it: `5 V ±2 %`, `≥ 1A5`, `at most 150u`, `4.5–5.5 V`, `3A MAX!`, `yes`, `automatic or
 * load-removal`. The characteristic decides what makes sense; nonsense comes back with the reason.
 *
 * A bare number is what such a claim usually means: a load current or an efficiency at least, a standby current at
 * most, an output voltage nominally, so that the house tolerance applies; `about 1 A` is nominal in any case. “Max” and
 * “up to” of what is better the more there is (its row in the dictionary) promise that much; of anything else they are a ceiling. A dashed range of
 * such a quantity promises its upper end, of a ratio its lower. What a sign or “at most” says is taken at its word.
 */
export function parseLimit(
  text: string,
  c: Pick<Characteristic, "name" | "kind" | "unit" | "words" | "label" | "usualLimit" | "better" | "usual">,
): Result<Limit> {
  const t = text.trim();
  if (t === "") return err("Empty: type what is claimed, such as 5 V ±2 %, ≥ 1.5 A or 4.5–5.5 V.");
  if (c.kind === "yes/no") {
    if (/^(y|yes|true|1)$/i.test(t)) return ok({ kind: "yes-no", value: true });
    if (/^(n|no|false|0)$/i.test(t)) return ok({ kind: "yes-no", value: false });
    return err(`“${t}” is neither yes nor no.`);
  }
  if (c.kind === "word") {
    const words = t.split(/\s*(?:\bor\b|,|\/)\s*/i).filter(Boolean);
    const wrong = c.words ? words.find((w) => !c.words?.includes(w)) : undefined;
    return wrong ? err(`“${wrong}” is none of ${c.words?.join(", ")}.`) : ok({ kind: "one-of", words });
  }
  const phrase = listingPhrase(t, c.unit, c.name.split(/[.-]/).includes("peak"));
  return phrase.ok ? numericLimit(phrase.value, c) : phrase;
}

function numericLimit({ text, qualifier }: Phrase, c: Parameters<typeof parseLimit>[1]): Result<Limit> {
  for (const [pattern, kind] of [
    [AT_LEAST, "at-least"],
    [AT_MOST, "at-most"],
  ] as const)
    if (pattern.test(text)) return oneSided(kind, text.replace(pattern, ""), c);
  const way = c.better;
  const most = way === "more" ? "at-least" : "at-most";
  const tolerant = /^(.+?)\s*((?:±|\+\/-|\+-).+)$/.exec(text);
  if (tolerant) {
    const nominal = number(tolerant[1] ?? "", c.unit);
    if (!nominal.ok) return nominal;
    const tolerance = parseTolerance(tolerant[2] ?? "", c.unit);
    if (!tolerance.ok) return tolerance;
    return ok({
      kind: "nominal",
      nominal: nominal.value,
      tolerance: { kind: tolerance.value.kind, value: tolerance.value.value },
    });
  }
  const between = RANGE.exec(text);
  if (between) {
    const r = range(between[1] ?? "", between[2] ?? "", c.unit);
    if (!r.ok) return r;
    const [low, high] = r.value;
    if (!DASHED.test(text) || way === null) return ok({ kind: "from-to", low, high });
    return ok(way === "less" ? { kind: "at-most", high } : { kind: "at-least", low: c.unit === "1" ? low : high });
  }
  if (qualifier !== null)
    return oneSided(qualifier === "most" ? most : qualifier === "least" ? "at-least" : "nominal", text, c);
  return oneSided(c.usualLimit === "at-least" || c.usualLimit === "at-most" ? c.usualLimit : "nominal", text, c);
}

/** A limit of one number. */
function oneSided(
  kind: "at-least" | "at-most" | "nominal",
  text: string,
  c: Pick<Characteristic, "unit" | "usual">,
): Result<Limit> {
  const v = number(text, c.unit);
  if (!v.ok) return v;
  const bare = /^[\d.,\s]+$/.test(text) ? text.trim() : null;
  if (bare !== null && unlikely(v.value, c))
    return err(
      `“${bare}” would be ${formatQuantity(v.value, c.unit)}. Type the unit with it: ${(ADVICE[c.unit] ?? ((n: string) => `${n} ${c.unit}`))(bare)}.`,
    );
  if (kind === "at-least") return ok({ kind, low: v.value });
  return ok(kind === "at-most" ? { kind, high: v.value } : { kind, nominal: v.value, tolerance: null });
}

/** Reads a condition: a word, a value (`3.6 V`) or a range (`3–4.2 V`); empty text is no condition (null). */
export function parseConditionSpec(text: string, name: ConditionName): Result<ConditionSpec | null> {
  const t = text.trim();
  if (t === "") return ok(null);
  const unit = CONDITION_UNITS[name];
  if (unit === "") return ok({ word: t });
  const between = RANGE.exec(t);
  if (between) {
    const r = range(between[1] ?? "", between[2] ?? "", unit);
    return r.ok ? ok({ from: r.value[0], to: r.value[1] }) : r;
  }
  const v = number(t, unit);
  return v.ok ? ok({ at: v.value }) : v;
}

/** A limit as a text for its field, which reads back as the very same limit. */
export function limitText(limit: Limit, c: Parameters<typeof parseLimit>[1]): string {
  const text = formatLimit(limit, c.unit, exactText);
  // A bare number of what is usually claimed one-sided would be read as that side.
  return limit.kind === "nominal" &&
    limit.tolerance === null &&
    (c.usualLimit === "at-least" || c.usualLimit === "at-most")
    ? `about ${text}`
    : text;
}

/** A condition as a text for its field, which reads back as the very same condition. */
export function conditionText(name: ConditionName, s: ConditionSpec): string {
  const unit = CONDITION_UNITS[name];
  const q = (v: number) => (unit === "1" ? String(v) : exactText(v, unit));
  return "word" in s ? s.word : "at" in s ? q(s.at) : `${q(s.from)} to ${q(s.to)}`;
}
