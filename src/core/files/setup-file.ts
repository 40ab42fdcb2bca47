import { err, numeric, ok, type Result } from "../quantities";
import { isRole, type Role, type RunConditions, type RunSetup, type TraceEvent } from "../measurement";
import type { Accuracy } from "../instruments";
import { isMappedRole, type ColumnMapping, type ColumnSpec, type MappedRole } from "./mapping";
import { COLUMN_UNITS, type ColumnUnit } from "./numbers";
import { quoted } from "./rows";
import type { Dialect } from "./table";

/** What a set-up file says: which procedure, how the table is written, the conditions and the meters. */
export interface SetupFile {
  readonly procedure: string;
  readonly title: string;
  readonly dialect: Partial<Dialect>;
  readonly columns: ColumnMapping;
  readonly setup: RunSetup;
  readonly events: readonly TraceEvent[];
}

/** Conditions that are numbers, in SI units. */
export const SETUP_NUMBERS: readonly (keyof RunConditions)[] = [
  "nominalOutput",
  "regulationBand",
  "ratedLoad",
  "programmedCurrent",
  "terminationCurrent",
  "cellCapacity",
  "ambientTemperature",
  "supplyCurrentLimit",
  "inputLeadResistance",
  "outputLeadResistance",
  "partLimitTemperature",
  "foldbackTemperature",
  "dissipation",
  "usableCapacity",
  "cellSelfDischargeCurrent",
  "panelMaximumPower",
  "emissivity",
  "output",
  "bandwidth",
  "battery",
  "load",
];
export const SETUP_WORDS: readonly (keyof RunConditions)[] = ["state", "configuration"];
/** Those that are no size below nothing; a temperature may be. */
export const SETUP_SIGNED: ReadonlySet<string> = new Set([
  "ambientTemperature",
  "partLimitTemperature",
  "foldbackTemperature",
]);
export const SETUP_UNITS: readonly string[] = [...Object.keys(COLUMN_UNITS), "hh:mm:ss", "iso", ""];

/** A value of the file, for a message. */
const quotedValue = (x: unknown): string => quoted(JSON.stringify(x) ?? "nothing");

const isObject = (x: unknown): x is Record<string, unknown> => typeof x === "object" && x !== null && !Array.isArray(x);

/** Reads a set-up file's JSON; every refusal says which field, what it holds and what was expected. */
export function readSetupFile(json: string): Result<SetupFile> {
  let raw: unknown;
  try {
    raw = JSON.parse(json);
  } catch (e) {
    return err(`not valid JSON: ${(e as Error).message}`);
  }
  if (!isObject(raw)) return err("must be a JSON object");
  if (typeof raw.procedure !== "string" || raw.procedure === "") return err("procedure: must name a procedure");
  if (raw.delimiter !== undefined && (typeof raw.delimiter !== "string" || raw.delimiter.length !== 1))
    return err(`delimiter: ${JSON.stringify(raw.delimiter)} must be one character`);
  if (raw.decimal !== undefined && raw.decimal !== "." && raw.decimal !== ",")
    return err(`decimal: ${JSON.stringify(raw.decimal)} must be “.” or “,”`);
  if (!isObject(raw.columns)) return err("columns: must map roles to columns");
  const columns: Partial<Record<MappedRole, ColumnSpec>> = {};
  for (const [role, spec] of Object.entries(raw.columns)) {
    if (!isMappedRole(role)) return err(`columns.${quoted(role)}: no such role`);
    if (!isObject(spec) || typeof spec.header !== "string")
      return err(`columns.${role}.header: must be the text of a column's header`);
    const unit = spec.unit ?? "";
    if (typeof unit !== "string" || !SETUP_UNITS.includes(unit))
      return err(`columns.${role}.unit: ${JSON.stringify(unit)} is none of ${SETUP_UNITS.filter(Boolean).join(", ")}`);
    if (spec.sign !== undefined && spec.sign !== 1 && spec.sign !== -1)
      return err(`columns.${role}.sign: ${JSON.stringify(spec.sign)} must be 1 or -1`);
    columns[role] = {
      header: spec.header,
      unit: unit as ColumnUnit,
      ...(spec.sign === -1 ? { sign: -1 as const } : {}),
    };
  }
  const conditions = readConditions(raw.conditions ?? {});
  if (!conditions.ok) return conditions;
  const instruments = readInstruments(raw.instruments ?? {});
  if (!instruments.ok) return instruments;
  const events = readEvents(raw.events ?? []);
  if (!events.ok) return events;
  return ok({
    procedure: raw.procedure,
    title: typeof raw.title === "string" ? raw.title : raw.procedure,
    dialect: {
      delimiter: (raw.delimiter as string | undefined) ?? ",",
      decimal: (raw.decimal as "." | "," | undefined) ?? ".",
    },
    columns,
    setup: { conditions: conditions.value, instruments: instruments.value },
    events: events.value,
  });
}

function readConditions(raw: unknown): Result<RunConditions> {
  if (!isObject(raw)) return err("conditions: must be an object");
  for (const name of SETUP_NUMBERS) {
    const v = raw[name];
    if (v !== undefined && !(typeof v === "number" && Number.isFinite(v)))
      return err(`conditions.${name}: ${quotedValue(v)} must be a number in SI units`);
  }
  for (const name of SETUP_NUMBERS)
    if (!SETUP_SIGNED.has(name) && typeof raw[name] === "number" && raw[name] < 0)
      return err(`conditions.${name}: ${raw[name]} can't be negative`);
  for (const name of SETUP_WORDS)
    if (raw[name] !== undefined && typeof raw[name] !== "string")
      return err(`conditions.${name}: ${quotedValue(raw[name])} must be a word`);
  const fields = new Set<string>([...SETUP_NUMBERS, ...SETUP_WORDS]);
  const strange = Object.keys(raw).find((name) => !fields.has(name));
  if (strange !== undefined)
    return err(`conditions.${quoted(strange)}: no such condition; known: ${[...fields].join(", ")}`);
  return ok(raw as RunConditions);
}

function readInstruments(raw: unknown): Result<Partial<Record<Role, Accuracy>>> {
  if (!isObject(raw)) return err("instruments: must map roles to accuracies");
  const out: Partial<Record<Role, Accuracy>> = {};
  for (const [role, a] of Object.entries(raw)) {
    if (!isRole(role)) return err(`instruments.${quoted(role)}: no such role`);
    if (!isObject(a)) return err(`instruments.${role}: must hold gain, counts and resolution`);
    for (const key of ["gain", "counts", "resolution"] as const)
      if (typeof a[key] !== "number" || !(numeric(a[key]) >= 0))
        return err(`instruments.${role}.${key}: ${quotedValue(a[key])} must be a number, zero or more`);
    out[role] = { gain: numeric(a.gain), counts: numeric(a.counts), resolution: numeric(a.resolution) };
  }
  return ok(out);
}

function readEvents(raw: unknown): Result<TraceEvent[]> {
  if (!Array.isArray(raw)) return err("events: must be a list");
  const out: TraceEvent[] = [];
  for (const [i, e] of raw.entries()) {
    if (!isObject(e) || typeof e.time !== "number" || typeof e.what !== "string")
      return err(`events[${i}]: must hold a time in s and what happened`);
    out.push({ time: e.time, what: e.what });
  }
  return ok(out);
}
