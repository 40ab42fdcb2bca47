import { err, ok, parseDecimal, scaled, type Result } from "../quantities";
import { isOtherMark } from "./rows";
import type { RoleReading } from "../measurement";

/** Column units and their factor to SI. Clock formats are read by `readTime`. */
export const COLUMN_UNITS = {
  V: 1,
  mV: 1e-3,
  A: 1,
  mA: 1e-3,
  uA: 1e-6,
  degC: 1,
  Ω: 1,
  s: 1,
  ms: 1e-3,
  us: 1e-6,
  min: 60,
  h: 3600,
  d: 86400,
} as const;
export type ColumnUnit = keyof typeof COLUMN_UNITS | "hh:mm:ss" | "iso" | "";

const OVERLOAD = /^[+-]?(ol|o\.l|ovld?|overload|ovf|over|inf|----?)\.?$/i;
const EMPTY = /^(|-|–|n\/?a|nan|null)$/i;

/** What is said of a number that no meter shows. */
export const BEYOND = "a reading that a meter can show";

/** One cell of a table as a reading: a number in SI of at most `most`, an overload mark, or empty. Anything else is an error. */
export function readField(text: string, decimal: "." | ",", factor: number, most = Infinity): Result<RoleReading> {
  const t = text.trim();
  if (EMPTY.test(t)) return ok({ value: null, status: "empty" });
  if (OVERLOAD.test(t)) return ok({ value: null, status: "overload" });
  const value = readNumber(t, decimal);
  if (value !== null) {
    // By digits, not by a product: 4.178 mA is 0.004178 A.
    const reading = factor < 0 ? -scaled(value, -factor) : scaled(value, factor);
    return Math.abs(reading) <= most ? ok({ value: reading, status: "ok" }) : err(BEYOND);
  }
  return err(
    isOtherMark(t, decimal)
      ? `a number with a decimal ${decimal === "." ? "point" : "comma"}, nothing, or OL`
      : "a number, nothing, or OL",
  );
}

/**
 * A plain number with the file's own decimal sign. The other sign may group thousands where nothing else can be meant: several groups, or
 * one beside a decimal sign. `3,712` alone may be the other decimal mark, and is no number.
 */
export function readNumber(text: string, decimal: "." | ","): number | null {
  const t = text.trim().replace(/\u2212/g, "-");
  const group = decimal === "," ? "." : ",";
  const m = /^([+-]?)([\d.,\u00a0\u202f ']*)(?:[eE]([+-]?\d+))?$/.exec(t);
  if (!m || !/\d/.test(m[2] ?? "")) return null;
  const body = (m[2] ?? "").replace(/[\u00a0\u202f ']/g, "");
  const parts = body.split(decimal);
  if (parts.length > 2) return null;
  const whole = parts[0] ?? "";
  if (whole.includes(group) && !new RegExp(`^\\d{1,3}(\\${group}\\d{3})+$`).test(whole)) return null;
  if ((parts[1] ?? "").includes(group)) return null;
  if (parts.length === 1 && whole.split(group).length === 2) return null;
  return parseDecimal(`${m[1]}${whole.split(group).join("") || "0"}.${parts[1] || "0"}e${m[3] ?? "0"}`);
}

/** Elapsed or clock time in s: `01:02:03.5` is 3723.5; minutes and seconds below 60. */
export function readClock(text: string): number | null {
  const m = /^(\d+):([0-5]?\d)(?::([0-5]?\d(?:[.,]\d+)?))?$/.exec(text.trim());
  if (!m) return null;
  return Number(m[1]) * 3600 + Number(m[2]) * 60 + Number((m[3] ?? "0").replace(",", "."));
}

/** Whether an ISO 8601 timestamp states its time zone. */
export const statesZone = (text: string): boolean => /(Z|[+-]\d{2}:?\d{2})$/.test(text.trim());

/** An ISO 8601 timestamp in s since 1970; without a zone it is taken as UTC. */
export function readIso(text: string): number | null {
  const t = text.trim().replace(" ", "T");
  if (!/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/.test(t)) return null;
  const ms = Date.parse(statesZone(t) ? t : `${t}Z`);
  return Number.isFinite(ms) ? ms / 1000 : null;
}

/** A time cell in s by its unit; null where it can't be read. */
export function readTime(text: string, unit: ColumnUnit, decimal: "." | ","): number | null {
  if (unit === "hh:mm:ss") return readClock(text);
  if (unit === "iso") return readIso(text);
  const value = readNumber(text, decimal);
  return value === null ? null : value * (unit === "" ? 1 : COLUMN_UNITS[unit]);
}
