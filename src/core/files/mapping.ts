import { isRole, type Role } from "../measurement";
import type { ColumnUnit } from "./numbers";
import { readClock, readIso } from "./numbers";
import { OPEN_TABLE } from "./open-table";
import type { TextTable } from "./table";

/** Columns that hold what was set rather than what was read. */
export const SETTING_ROLES = ["setVoltage", "setLoad"] as const;
export type MappedRole = Role | (typeof SETTING_ROLES)[number];

export interface ColumnSpec {
  readonly header: string;
  readonly unit: ColumnUnit;
  /** −1 where the column holds the negative of the quantity. */
  readonly sign?: 1 | -1;
}
export type ColumnMapping = Readonly<Partial<Record<MappedRole, ColumnSpec>>>;

export const isMappedRole = (s: string): s is MappedRole =>
  isRole(s) || (SETTING_ROLES as readonly string[]).includes(s);

const OPEN_ROLES = new Map(Object.entries(OPEN_TABLE).map(([role, header]) => [header, role as Role]));

const WORDS = {
  battery: /\b(vb|ib|vbat|ibat|vbatt|ibatt|bat|batt|battery|supply|source)\b|akku|batterie/,
  output: /\b(vo|io|vout|iout|out|output|load|last|vload|iload)\b|ausgang|last(strom|spannung)/,
  input: /\b(vi|ii|vin|iin|in|input|usb|panel|solar|pv)\b|eingang|panel(spannung|strom)/,
  cell: /\b(vc|ic|vcell|icell|cell|zell\w*)\b|zell/,
  part: /\b(part|ic|chip|board|module|bauteil|heatsink)\b/,
  ambient: /\b(ambient|room|air)\b|umgebung|raum|\bluft/,
  reference: /\b(ref|reference|vref|iref)\b|referenz/,
  set: /\b(set|setpoint|target)\b|\bsoll/,
  lowest: /\b(lowest|minimum|min)\b|niedrigste|tiefste/,
  highest: /\b(highest|maximum|max)\b|höchste/,
  outside: /\bout of\b|outside|außerhalb/,
};

function unitIn(header: string): string | null {
  const m =
    /[([]\s*([^)\]]+?)\s*[)\]]\s*$/.exec(header) ??
    /\/\s*([^/\s]+)\s*$/.exec(header) ??
    /[\s_]([mu\u00b5\u03bc]?[VA]|degC|°C|s|ms|[u\u00b5\u03bc]s|min|h)$/.exec(header);
  return m?.[1] ?? null;
}

/** Units that a header may well name and that no column here is in. */
const OTHER_UNIT =
  /^([pnµμukMG]V|[pnkM]A|°?F|degF|fahrenheit|K|kelvin|m?W|m?Wh|m?Ah|[kM]?(Ω|ohm)|weeks?|wk|months?|years?|ns)$/i;

/** The unit written in a header as one of the column units, or null. */
export function headerUnit(header: string): ColumnUnit | null {
  const u = unitIn(header)?.replace(/[\u00b5\u03bc]/g, "u");
  if (!u) return null;
  const units: Record<string, ColumnUnit> = {
    V: "V",
    volt: "V",
    volts: "V",
    mV: "mV",
    A: "A",
    amp: "A",
    amps: "A",
    mA: "mA",
    uA: "uA",
    degC: "degC",
    "°C": "degC",
    C: "degC",
    s: "s",
    sec: "s",
    second: "s",
    seconds: "s",
    ms: "ms",
    us: "us",
    min: "min",
    minute: "min",
    minutes: "min",
    h: "h",
    hour: "h",
    hours: "h",
    d: "d",
    day: "d",
    days: "d",
    "hh:mm:ss": "hh:mm:ss",
    iso: "iso",
  };
  return units[u] ?? null;
}

const plain = (header: string): string =>
  header
    .replace(/[([].*?[)\]]/g, " ")
    .replace(/\/\s*\S+$/, " ")
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .toLowerCase()
    .replace(/[_.\-]/g, " ")
    .replace(/\s+/g, " ")
    .trim();

type Quantity = "V" | "A" | "degC" | "time" | null;

function quantityOf(header: string, unit: ColumnUnit | null, sample: readonly string[]): Quantity {
  if (unit === "V" || unit === "mV") return "V";
  if (unit === "A" || unit === "mA" || unit === "uA") return "A";
  if (unit === "degC") return "degC";
  if (
    unit === "s" ||
    unit === "ms" ||
    unit === "us" ||
    unit === "min" ||
    unit === "h" ||
    unit === "d" ||
    unit === "hh:mm:ss" ||
    unit === "iso"
  )
    return "time";
  const p = plain(header);
  if (
    /time|zeit|clock|stamp|elapsed|uhr/.test(p) ||
    (sample.length > 0 && sample.every((c) => readIso(c) !== null || readClock(c) !== null))
  )
    return "time";
  if (/volt|spannung|^v|\bu\b/.test(p)) return "V";
  if (/curr|amp|strom|^i/.test(p)) return "A";
  if (/temp/.test(p)) return "degC";
  return null;
}

/**
 * Guesses which column is what from header words and units, checked against the first rows. A guess only: it is
 * shown and corrected by the user. Each role is given once; columns that fit nothing stay unmapped.
 */
export function guessMapping(table: TextTable): ColumnMapping {
  const mapping: Partial<Record<MappedRole, ColumnSpec>> = {};
  const put = (role: MappedRole, spec: ColumnSpec) => {
    if (!mapping[role]) mapping[role] = spec;
  };
  table.headers.forEach((header, i) => {
    if (header === "") return;
    const sample = table.rows
      .slice(0, 5)
      .map((r) => r[i] ?? "")
      .filter((c) => c.trim() !== "");
    const unit = headerUnit(header);
    // In a unit that is not read here: no guess, rather than a wrong one.
    if (unit === null && OTHER_UNIT.test(unitIn(header) ?? "")) return;
    const open = OPEN_ROLES.get(header);
    if (open) {
      put(open, { header, unit: unit ?? "" });
      return;
    }
    const quantity = quantityOf(header, unit, sample);
    const p = plain(header);
    if (quantity === "time") {
      if (WORDS.outside.test(p)) {
        put("outsideTime", { header, unit: unit ?? "s" });
        return;
      }
      const clock = sample.length > 0 && sample.every((c) => readClock(c) !== null);
      const iso = sample.length > 0 && sample.every((c) => readIso(c) !== null);
      put("time", { header, unit: iso ? "iso" : clock ? "hh:mm:ss" : (unit ?? "s") });
      return;
    }
    const cellNumber = /^(?:cell|zelle)\s*(\d+)\b/.exec(p);
    if (quantity === "V") {
      if (WORDS.set.test(p)) put("setVoltage", { header, unit: unit ?? "V" });
      else if (WORDS.output.test(p) && WORDS.lowest.test(p)) put("outputLow", { header, unit: unit ?? "V" });
      else if (WORDS.output.test(p) && WORDS.highest.test(p)) put("outputHigh", { header, unit: unit ?? "V" });
      else if (WORDS.reference.test(p)) put("referenceVoltage", { header, unit: unit ?? "V" });
      else if (cellNumber) put(`cell${Number(cellNumber[1])}Voltage`, { header, unit: unit ?? "V" });
      else if (WORDS.battery.test(p)) put("batteryVoltage", { header, unit: unit ?? "V" });
      else if (WORDS.output.test(p)) put("outputVoltage", { header, unit: unit ?? "V" });
      else if (WORDS.input.test(p)) put("inputVoltage", { header, unit: unit ?? "V" });
      else if (WORDS.cell.test(p)) put("cellVoltage", { header, unit: unit ?? "V" });
    } else if (quantity === "A") {
      if (WORDS.set.test(p)) put("setLoad", { header, unit: unit ?? "A" });
      else if (WORDS.reference.test(p)) put("referenceCurrent", { header, unit: unit ?? "A" });
      else if (WORDS.battery.test(p)) put("batteryCurrent", { header, unit: unit ?? "A" });
      else if (WORDS.output.test(p)) put("outputCurrent", { header, unit: unit ?? "A" });
      else if (WORDS.input.test(p)) put("inputCurrent", { header, unit: unit ?? "A" });
      else if (WORDS.cell.test(p)) put("cellCurrent", { header, unit: unit ?? "A" });
    } else if (quantity === "degC") {
      if (WORDS.ambient.test(p)) put("ambientTemperature", { header, unit: "degC" });
      else if (WORDS.cell.test(p)) put("cellTemperature", { header, unit: "degC" });
      else put("partTemperature", { header, unit: "degC" });
    } else if (/^channel|^kanal/.test(p)) put("channel", { header, unit: "" });
    else if (/^(run|repeat|round|wiederholung|durchgang|durchlauf)\b/.test(p)) put("repeat", { header, unit: "" });
    else if (/^(cell|zelle)( (no|number|nr|nummer))?$/.test(p)) put("cell", { header, unit: "" });
  });
  return mapping;
}

/** Heads that name a quantity and nothing else: neither what it was measured on, nor a channel. */
const PLAIN = { V: /^(voltage|spannung|u|v|volts?)$/, A: /^(current|strom|i|a|amps?)$/ } as const;
/** A column that is a voltage or a current by its head, which says no more; null for any other. */
export function plainQuantity(header: string, quantity: "V" | "A"): ColumnSpec | null {
  if (!PLAIN[quantity].test(plain(header))) return null;
  const unit = headerUnit(header);
  if (unit === null && OTHER_UNIT.test(unitIn(header) ?? "")) return null;
  return { header, unit: unit ?? quantity };
}

/** The units a role's column may be in. */
export function unitsFor(role: MappedRole): readonly ColumnUnit[] {
  if (role === "time") return ["s", "ms", "min", "h", "d", "hh:mm:ss", "iso"];
  if (role === "setVoltage" || role.endsWith("Voltage")) return ["V", "mV"];
  if (role === "setLoad" || role.endsWith("Current")) return ["A", "mA", "uA"];
  if (role.endsWith("Temperature")) return ["degC"];
  return [""];
}

/** The key under which a mapping is remembered: the header line itself. */
export const headerKey = (headers: readonly string[]): string => headers.join("\u241f");
