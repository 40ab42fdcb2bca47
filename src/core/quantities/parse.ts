import { err, ok, type Result } from "./result";
import { PREFIXES, UNIT_INFO, UNITS, type Unit } from "./units";
import { formatQuantity } from "./format";

export interface ParsedQuantity {
  /** In SI (or the unit's own base: Ah, °C, ratio). */
  readonly value: number;
  readonly unit: Unit;
  /** What was understood, written out, for echoing beside the field. */
  readonly echo: string;
}

/** Folds both µ, both Ω, several minus signs and all kinds of space to one form each. */
function fold(text: string): string {
  return text
    .replace(/[\u00b5\u03bc]/g, "u")
    .replace(/\u2126/g, "Ω")
    .replace(/[\u2212\u2013]/g, "-")
    .replace(/[\u00a0\u2009\u202f\u2007]/g, " ")
    .trim();
}

/**
 * The digits of a number with either decimal sign.
 *
 * A lone comma or point is the decimal sign; where both occur the last one is (`1.000,5` and `1,000.5` are both
 * 1000.5); one sign that occurs several times groups thousands, and then every group must have three digits.
 * Returns null where the text is no number.
 */
export function parseDecimal(text: string): number | null {
  const compact = text.replace(/(\d) (?=\d{3}(\D|$))/g, "$1");
  const m = /^([+-]?)(\d*(?:[.,]\d*)*)(?:[eE]([+-]?\d+))?$/.exec(compact);
  if (!m) return null;
  const body = m[2] ?? "";
  if (!/\d/.test(body)) return null;
  const commas = body.split(",").length - 1;
  const points = body.split(".").length - 1;
  let decimal = "";
  if (commas && points) decimal = body.lastIndexOf(",") > body.lastIndexOf(".") ? "," : ".";
  else if (commas === 1) decimal = ",";
  else if (points === 1) decimal = ".";
  const at = decimal ? body.lastIndexOf(decimal) : -1;
  const whole = at >= 0 ? body.slice(0, at) : body;
  const fraction = at >= 0 ? body.slice(at + 1) : "";
  if (/[.,]/.test(fraction)) return null;
  if (/[.,]/.test(whole) && !/^\d{1,3}([.,])\d{3}(?:\1\d{3})*$/.test(whole)) return null;
  const value = Number(`${m[1]}${whole.replace(/[.,]/g, "") || "0"}.${fraction || "0"}e${m[3] ?? "0"}`);
  return Number.isFinite(value) ? value : null;
}

/** `5k1`, `1A5`, `4R7`, `3V3`, `2M2`: the letter stands where the decimal sign would. */
function parseInfix(text: string, unit: Unit): number | null {
  const m = /^([+-]?)(\d+)([pnumkKMGVARΩ])(\d+)$/.exec(text);
  if (!m) return null;
  const letter = m[3] ?? "";
  const value = Number(`${m[1]}${m[2]}.${m[4]}`);
  if (letter === "R" || letter === "Ω") return unit === "Ω" ? value : null;
  if (letter === "V" || letter === "A") return unit === letter ? value : null;
  if (!UNIT_INFO[unit].prefixes) return null;
  return scaled(value, PREFIXES[letter === "K" ? "k" : letter] ?? NaN);
}

/** A number times a factor; by a power of ten the digits stay as they were typed. Worked: 33.3 m is 0.0333, not 0.033299999999999996. */
export function scaled(value: number, factor: number): number {
  const exponent = Math.round(Math.log10(factor));
  return Math.abs(factor / 10 ** exponent - 1) < 1e-9
    ? Number(`${value.toExponential().replace(/e([+-]\d+)$/, (_, e: string) => `e${Number(e) + exponent}`)}`)
    : value * factor;
}

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
const DURATION = new RegExp(
  `^(-?)(?:${NUMBER} *years?)? *(?:${NUMBER} *d)? *(?:${NUMBER} *h)? *(?:${NUMBER} *min)? *(?:${NUMBER} *s)?$`,
);

/** `1:27:30`, as a clock that counts up shows it. Two groups alone could be hours or minutes: they are refused. */
const STOPWATCH = /^(\d+):([0-5]\d):([0-5]\d(?:[.,]\d+)?)$/;

/** A duration as it is shown, in s: `25 min 00 s`, `2 h 27 min`, `2.4 years`, `1:27:30`; null where the text is none. */
function parseDuration(text: string): number | null {
  const clock = STOPWATCH.exec(text);
  if (clock) return 3600 * Number(clock[1]) + 60 * Number(clock[2]) + Number((clock[3] as string).replace(",", "."));
  const m = DURATION.exec(text);
  const parts = (m ?? []).slice(2, 7).map((p) => (p === undefined ? null : Number(p.replace(",", "."))));
  if (!m || parts.every((p) => p === null)) return null;
  const seconds = [365.25 * 86400, 86400, 3600, 60, 1].reduce((sum, factor, k) => sum + (parts[k] ?? 0) * factor, 0);
  return m[1] ? -seconds : seconds;
}

/** Finds what a suffix means for a unit: a factor, or null where it does not belong to it. */
function suffixFactor(suffix: string, unit: Unit): number | null {
  if (suffix === "") return 1;
  const info = UNIT_INFO[unit];
  const special = info.special[suffix];
  if (special !== undefined) return special;
  const heads: [string, number][] = [["", 1]];
  if (info.prefixes) for (const [p, f] of Object.entries(PREFIXES)) heads.push([p, f]);
  if (info.prefixes) heads.push(["K", 1e3]);
  for (const [head, factor] of heads) {
    if (!suffix.startsWith(head)) continue;
    const rest = suffix.slice(head.length).trim();
    if (rest === "" && head !== "") return factor;
    if (info.spellings.includes(rest)) return factor;
    if (info.spellings.some((s) => s.length > 1 && s.toLowerCase() === rest.toLowerCase())) return factor;
  }
  return null;
}

/**
 * Reads a quantity as people write it: `240m`, `5k1`, `18u`, `1.27 A`, `3,65 V`, `85 %`, `2h`.
 *
 * A bare number takes the unit of the field. Returns the value in the field's unit with an echo of what was
 * understood, or a reason in words: empty, no number, or a unit that the field does not take.
 * Worked: `parseQuantity("1A5", "A")` gives 1.5; `parseQuantity("240m", "V")` gives 0.24.
 */
export function parseQuantity(text: string, unit: Unit): Result<ParsedQuantity> {
  const t = fold(text);
  if (t === "") return err("Empty: type a number.");
  const done = (value: number): Result<ParsedQuantity> =>
    Number.isFinite(value)
      ? ok({ value, unit, echo: formatQuantity(value, unit) })
      : err(`“${text}” is outside what can be stored.`);
  const infix = parseInfix(t, unit);
  if (infix !== null) return done(infix);
  const duration = unit === "s" ? parseDuration(t) : null;
  if (duration !== null) return done(duration);
  const m = /^([+-]?[\d.,\s]*\d[.,]?(?:[eE][+-]?\d+)?)\s*(.*)$/.exec(t);
  if (!m) return err(`“${text}” is not a number. Write it like 1.27, 240m or 5k1.`);
  const number = parseDecimal((m[1] ?? "").trim());
  if (number === null) return err(`“${m[1]?.trim()}” is no number that can be read without guessing.`);
  const suffix = (m[2] ?? "").trim();
  const factor = suffixFactor(suffix, unit);
  if (factor !== null) return done(scaled(number, factor));
  const info = UNIT_INFO[unit];
  const other = UNITS.find(
    (u) =>
      u !== unit &&
      u !== "" &&
      u !== "1" &&
      (parseInfix(t, u) !== null || (suffix !== "m" && suffixFactor(suffix, u) !== null)),
  );
  if (other) return err(`This field takes ${info.plural}; “${text}” reads as ${UNIT_INFO[other].plural}.`);
  return err(`“${suffix}” after the number is no unit of ${info.plural}.`);
}

export interface ParsedTolerance {
  readonly kind: "relative" | "absolute";
  /** Half width: a ratio (0.02 for ±2 %) or in the unit. */
  readonly value: number;
  readonly echo: string;
}

/** Reads a tolerance: `±2 %`, `2%`, `+-50m`, `0,05 V`. Must not be negative. */
export function parseTolerance(text: string, unit: Unit): Result<ParsedTolerance> {
  const t = fold(text).replace(/^(±|\+\/-|\+-)\s*/, "");
  const negative = t.startsWith("-");
  if (negative) return err("A tolerance is a half width; it can't be negative.");
  if (/[%‰]\s*$/.test(t)) {
    const r = parseQuantity(t, "1");
    return r.ok ? ok({ kind: "relative", value: r.value.value, echo: `±${formatQuantity(r.value.value, "1")}` }) : r;
  }
  const r = parseQuantity(t, unit);
  return r.ok ? ok({ kind: "absolute", value: r.value.value, echo: `±${r.value.echo}` }) : r;
}

/**
 * The shortest text that reads back as the very same number: `4.1875 V`, `25 min 00 s`, `240 mA`. For fields that are edited; what is only
 * shown is rounded by `formatQuantity`.
 */
export function exactText(value: number, unit: Unit): string {
  const same = (text: string): boolean => {
    const r =
      unit === "" || unit === "count"
        ? { ok: true as const, value: { value: Number(text.replace("\u2212", "-")) } }
        : parseQuantity(text, unit);
    return r.ok && r.value.value === value;
  };
  for (let digits = 1; digits <= 17; digits++) {
    const [number = "", ...rest] = formatQuantity(value, unit, { digits }).split("\u00a0");
    const text = [/^[^ ]*\.\d*$/.test(number) ? number.replace(/0+$/, "").replace(/\.$/, "") : number, ...rest].join(
      "\u00a0",
    );
    if (same(text)) return text;
  }
  return unit === "1" ? String(value) : `${value}\u00a0${unit}`;
}
