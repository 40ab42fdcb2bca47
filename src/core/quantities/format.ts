import { unitSymbol, type Unit } from "./units";

const MINUS = "\u2212";
const PREFIX_BY_EXPONENT: Readonly<Record<number, string>> = {
  [-12]: "p",
  [-9]: "n",
  [-6]: "µ",
  [-3]: "m",
  0: "",
  3: "k",
  6: "M",
  9: "G",
};
const PREFIXED: ReadonlySet<Unit> = new Set<Unit>(["V", "A", "W", "Ω", "Ah", "Wh", "V/day", "V/s", "Hz", "m"]);

export interface FormatOptions {
  /** Significant digits where no uncertainty says better; 4 by default. */
  readonly digits?: number;
  /** Expanded uncertainty in the unit: its significant digits (two unless the house says one) decide where the value is cut. */
  readonly uncertainty?: number | undefined;
  /** Writes the uncertainty behind the value: `5.031 ± 0.004 V`. */
  readonly withUncertainty?: boolean;
}

/** Number and unit apart, so that a readout can set them in different sizes. */
export interface FormattedQuantity {
  readonly number: string;
  readonly unit: string;
}

function fixed(value: number, decimals: number): string {
  const text = value.toFixed(Math.min(12, Math.max(0, decimals)));
  const zero = Number(text) === 0;
  return value < 0 && !zero ? MINUS + text.slice(1) : zero ? text.replace("-", "") : text;
}

let uncertaintyDigits: 1 | 2 = 2;
/** How many significant digits of an uncertainty are written, from here on; a matter of print only, nothing is judged by it. Two to begin with. */
export function writeUncertaintiesTo(digits: 1 | 2): void {
  uncertaintyDigits = digits;
}

/** How many are written now: for whoever keeps what was written, or has it written elsewhere. */
export const writtenDigits = (): 1 | 2 => uncertaintyDigits;

/** Decimals so that `uncertainty` keeps the significant digits that the house writes. Worked for two: 0.0043 → 4, 1.2 → 1, 37 → 0. */
export function decimalsFor(uncertainty: number): number {
  if (!(uncertainty > 0) || !Number.isFinite(uncertainty)) return 12;
  const exponent = Math.floor(Math.log10(Number(uncertainty.toPrecision(uncertaintyDigits))));
  return Math.max(0, uncertaintyDigits - 1 - exponent);
}

/**
 * A number for a table that another program reads: a point, no unit, cut where its expanded uncertainty says; without one, to twelve
 * digits, which is what readings have and sums of them don't. Worked: 4.19176 with 0.0033 is `4.1918`, 0.0041779999999 is `0.004178`.
 */
export function plainNumber(value: number, uncertainty?: number): string {
  if (!Number.isFinite(value)) return "";
  return uncertainty !== undefined && uncertainty > 0
    ? fixed(value, decimalsFor(uncertainty)).replace(MINUS, "-")
    : String(Number(value.toPrecision(12)));
}

function decimalsForDigits(value: number, digits: number): number {
  if (value === 0) return Math.max(0, digits - 1);
  const rounded = Number(Math.abs(value).toPrecision(digits));
  return Math.max(0, digits - 1 - Math.floor(Math.log10(rounded)));
}

function engineering(value: number, reference: number, digits: number): { scaled: number; exponent: number } {
  const magnitude = Math.abs(value) >= reference ? Math.abs(value) : reference;
  if (!(magnitude > 0)) return { scaled: value, exponent: 0 };
  const exponent = Math.min(9, Math.max(-12, 3 * Math.floor(Math.log10(Number(magnitude.toPrecision(digits))) / 3)));
  return { scaled: value / 10 ** exponent, exponent };
}

/**
 * Splits a value into the digits that are supported and its unit with an engineering prefix.
 *
 * Ratios are written in per cent, counts as whole numbers, times as `1 h 02 min`, `4 min 10 s`, `12.5 s` or `16 ms`; everything else in its own
 * unit. NaN and infinities are written `—`, never as digits.
 */
export function formatParts(value: number, unit: Unit, options: FormatOptions = {}): FormattedQuantity {
  if (!Number.isFinite(value)) return { number: "—", unit: unitSymbol(unit) };
  const digits = options.digits ?? 4;
  const u = options.uncertainty !== undefined && options.uncertainty > 0 ? options.uncertainty : undefined;
  const pair = (scale: number, symbol: string): FormattedQuantity => {
    const v = value / scale;
    const decimals =
      u === undefined ? decimalsForDigits(v, digits) : Math.min(decimalsFor(u / scale), decimalsForDigits(v, 9));
    const body = fixed(v, decimals);
    const tail = options.withUncertainty && u !== undefined ? ` ± ${fixed(u / scale, decimalsFor(u / scale))}` : "";
    return { number: body + tail, unit: symbol };
  };
  if (unit === "1") return pair(0.01, "%");
  if (unit === "count") return { number: fixed(value, Number.isInteger(value) ? 0 : 1), unit: "" };
  if (unit === "s" && Math.abs(value) >= 120) {
    const tail = options.withUncertainty && u !== undefined ? ` ± ${formatDuration(Number(u.toPrecision(2)))}` : "";
    return { number: formatDuration(value, u !== undefined && u < 60) + tail, unit: "" };
  }
  // Milliseconds and less carry a prefix; longer times never do.
  const brief = unit === "s" && Math.max(Math.abs(value), u ?? 0) < 0.1 && (value !== 0 || u !== undefined);
  if (!PREFIXED.has(unit) && !brief) return pair(1, unit);
  const { exponent } = engineering(value, u ?? 0, u === undefined ? digits : 6);
  return pair(10 ** exponent, (PREFIX_BY_EXPONENT[exponent] ?? "") + unit);
}

/** Whole phrase of a quantity, `240.0 mA`, `5.031 ± 0.004 V`, `93.57 %`. */
export function formatQuantity(value: number, unit: Unit, options: FormatOptions = {}): string {
  const { number, unit: symbol } = formatParts(value, unit, options);
  const short = options.digits === undefined && options.uncertainty === undefined ? trimZeros(number) : number;
  return symbol ? `${short}\u00a0${symbol}` : short;
}

function trimZeros(text: string): string {
  return /^[^ ]*\.\d+$/.test(text) ? text.replace(/0+$/, "").replace(/\.$/, "") : text;
}

/** Seconds as people read them: `24 µs`, `12.5 s`, `4 min 10 s`, `2 h 35 min` (`exact`: `2 h 35 min 12 s`), `135 d`, `2.4 years`. */
export function formatDuration(seconds: number, exact = false): string {
  if (!Number.isFinite(seconds)) return "—";
  const sign = seconds < 0 ? MINUS : "";
  const s = Math.abs(seconds);
  if (s > 0 && s < 0.1) return `${sign}${formatQuantity(s, "s", { digits: 3 })}`;
  if (s < 120) return `${sign}${trimZeros(s.toFixed(1))} s`;
  if (s < 3600) return `${sign}${Math.floor(s / 60)} min ${String(Math.floor(s % 60)).padStart(2, "0")} s`;
  if (s < 172800 && exact) {
    const whole = Math.round(s);
    return `${sign}${Math.floor(whole / 3600)} h ${String(Math.floor((whole % 3600) / 60)).padStart(2, "0")} min ${String(whole % 60).padStart(2, "0")} s`;
  }
  if (s < 172800) {
    const minutes = Math.round(s / 60);
    return `${sign}${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")} min`;
  }
  if (s < 2 * 365.25 * 86400) return `${sign}${Math.round(s / 86400)} d`;
  return `${sign}${(s / (365.25 * 86400)).toFixed(1)} years`;
}

/** A time that is only known roughly: whole seconds under two minutes, then whole minutes. Worked: 8640 s is `2 h 24 min`, 1650 s is `28 min`. */
export function formatRoughly(seconds: number): string {
  if (!Number.isFinite(seconds)) return "—";
  if (seconds < 120) return `${Math.round(seconds)}\u00a0s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 60
    ? `${minutes}\u00a0min`
    : `${Math.floor(minutes / 60)}\u00a0h ${String(minutes % 60).padStart(2, "0")}\u00a0min`;
}

/** Two written values as an interval: `1.258 to 1.263 A`; the unit stands once where both have the same. */
export function fromTo(low: string, high: string): string {
  const unit = /[\u00a0 ]([^\d\s]+)$/.exec(high)?.[0];
  return `${unit && low.endsWith(unit) ? low.slice(0, -unit.length) : low} to ${high}`;
}

/** The same text with a capital letter at its head. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Words in a sentence: `a`, `a and b`, `a, b and c`. */
export const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
