/** The units that quantities carry at every boundary. SI, with the field's own Ah, Wh, °C and per-day rates; `1` is a ratio, `count` a whole number. */
export const UNITS = [
  "V",
  "A",
  "W",
  "Ω",
  "s",
  "Ah",
  "Wh",
  "°C",
  "K",
  "K/W",
  "V/day",
  "V/s",
  "Hz",
  "m",
  "1",
  "count",
  "",
] as const;
export type Unit = (typeof UNITS)[number];

export interface UnitInfo {
  /** The word used in messages: "this field takes volts". */
  readonly plural: string;
  /** Spellings accepted when typed, longest first; each may follow an SI prefix where `prefixes` is true. */
  readonly spellings: readonly string[];
  readonly prefixes: boolean;
  /** Whole other spellings with their factor to the unit, such as `%` for a ratio or `min` for seconds. */
  readonly special: Readonly<Record<string, number>>;
}

export const UNIT_INFO: Readonly<Record<Unit, UnitInfo>> = {
  V: { plural: "volts", spellings: ["V"], prefixes: true, special: {} },
  A: { plural: "amperes", spellings: ["A"], prefixes: true, special: {} },
  W: { plural: "watts", spellings: ["W"], prefixes: true, special: {} },
  Ω: { plural: "ohms", spellings: ["ohm", "Ohm", "Ω", "R"], prefixes: true, special: {} },
  s: { plural: "seconds", spellings: ["s"], prefixes: true, special: { min: 60, h: 3600, d: 86400 } },
  Ah: { plural: "ampere-hours", spellings: ["Ah"], prefixes: true, special: {} },
  Wh: { plural: "watt-hours", spellings: ["Wh"], prefixes: true, special: {} },
  "°C": { plural: "degrees Celsius", spellings: ["°C", "degC", "C"], prefixes: false, special: {} },
  K: { plural: "kelvins", spellings: ["K"], prefixes: false, special: {} },
  "K/W": { plural: "kelvins per watt", spellings: ["K/W"], prefixes: false, special: {} },
  "V/day": { plural: "volts per day", spellings: ["V/day", "V/d"], prefixes: true, special: {} },
  "V/s": { plural: "volts per second", spellings: ["V/s"], prefixes: true, special: {} },
  Hz: { plural: "hertz", spellings: ["Hz"], prefixes: true, special: {} },
  m: { plural: "metres", spellings: ["m"], prefixes: true, special: { cm: 0.01 } },
  "1": { plural: "a ratio", spellings: [], prefixes: false, special: { "%": 0.01, "‰": 0.001 } },
  count: { plural: "a whole number", spellings: [], prefixes: false, special: {} },
  "": { plural: "a word", spellings: [], prefixes: false, special: {} },
};

/** The symbol printed beside a value: `%` for a ratio, none for a count or a word. */
export const unitSymbol = (unit: Unit): string => (unit === "1" ? "%" : unit === "count" ? "" : unit);

/** SI prefixes as written on benches; `K` and `µ` variants are folded before look-up. */
export const PREFIXES: Readonly<Record<string, number>> = {
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  m: 1e-3,
  k: 1e3,
  M: 1e6,
  G: 1e9,
};
