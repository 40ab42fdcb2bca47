import { err, ok, parseQuantity, type Result } from "../quantities";

/** A cell as a line of a list names it. */
export interface IntakeCell {
  readonly title: string;
  /** Ah; absent where the line gives none. */
  readonly capacity?: number;
  /** V as found; absent where the line gives none. */
  readonly volts?: number;
}

const MOST = 500;
/** `24 x Torch`, `24 × Torch`, `24 like Torch`. */
const MANY = /^(\d{1,4})\s*(?:x|×|\*|like|of)\s+(.+)$/i;

/**
 * A list of cells as somebody pastes it, a line a cell: its name, then its capacity and its voltage in any order, each with its unit and
 * parted by tabs, semicolons or commas with a space (a comma between digits is a decimal sign). `24 x Torch; 1200 mAh` stands for 24 cells
 * named after each other. Empty lines are passed over. Refuses with the line and what is wrong in it.
 *
 * Worked: "24 x Torch; 1200 mAh\nReed 7\t3.71 V" gives Torch 1 to Torch 24 of 1.2 Ah each, and Reed 7, found at 3.71 V.
 */
export function readIntake(text: string): Result<readonly IntakeCell[]> {
  const out: IntakeCell[] = [];
  for (const [k, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const line = raw.trim();
    if (!line) continue;
    const where = `Line ${k + 1}`;
    const [head = "", ...parts] = line
      .split(/\t|;|,(?=\s)/)
      .map((p) => p.trim())
      .filter(Boolean);
    const many = MANY.exec(head);
    const name = (many?.[2] ?? head).trim();
    if (name.length > 76) return err(`${where}: a name has at most 76 characters; this one has ${name.length}.`);
    const facts = readFacts(parts, where);
    if (!facts.ok) return facts;
    const count = many ? Number(many[1]) : 1;
    if (count < 1 || out.length + count > MOST)
      return err(
        `${where}: ${count < 1 ? "none of them" : `more than ${MOST} cells at once`}. Take them in with several lists.`,
      );
    for (let n = 1; n <= count; n++) out.push({ title: many ? `${name} ${n}` : name, ...facts.value });
  }
  return out.length
    ? ok(out)
    : err("The list is empty. Write a line a cell, such as “Torch 5; 1200 mAh; 3.71 V”, or “24 x Torch; 1200 mAh”.");
}

/** Capacity and voltage of a line, told apart by their units. */
function readFacts(parts: readonly string[], where: string): Result<Pick<IntakeCell, "capacity" | "volts">> {
  let facts: Pick<IntakeCell, "capacity" | "volts"> = {};
  for (const part of parts) {
    const volts = /v$/i.test(part);
    const read = parseQuantity(part, volts ? "V" : "Ah");
    if (!read.ok) return err(`${where}: “${part}” is no capacity (such as 1200 mAh) and no voltage (such as 3.71 V).`);
    const value = read.value.value;
    const key = volts ? "volts" : "capacity";
    if (facts[key] !== undefined) return err(`${where}: it gives two ${volts ? "voltages" : "capacities"}.`);
    if (volts ? !(value >= 0 && value < 5) : !(value > 0 && value < 500))
      return err(`${where}: ${part} is outside any cell's range.`);
    facts = { ...facts, [key]: value };
  }
  return ok(facts);
}

/** A line of a list of readings: whose they are (a code or a name), what was read, and when (ISO UTC) where the line says so. */
export interface ListedReading {
  readonly line: number;
  readonly cell: string;
  readonly volts?: number;
  /** Ah and Ω, as a tester of cells showed them. */
  readonly capacity?: number;
  readonly resistance?: number;
  readonly takenAt?: string;
}

const DATE = /^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?$/;
const NOON = "T12:00:00";

/** The parts of a line: by tabs or semicolons; else by commas before a space, so that a decimal comma stays; else by any comma; else what follows the first word. */
function fieldsOf(line: string): string[] {
  const by = /[\t;]/.test(line) ? /\t|;/ : /,\s/.test(line) ? /,\s+/ : line.includes(",") ? /,/ : /(?<=^\s*\S+)\s+/;
  return line
    .split(by)
    .map((p) => p.trim())
    .filter(Boolean);
}

/** What a part of a line states, by its unit: a bare number is a voltage. */
function stated(part: string): { readonly key: "volts" | "capacity" | "resistance"; readonly value: number } | null {
  const [key, unit] = /ah$/i.test(part)
    ? (["capacity", "Ah"] as const)
    : /(Ω|Ω|ohm)$/i.test(part)
      ? (["resistance", "Ω"] as const)
      : (["volts", "V"] as const);
  const read = parseQuantity(part.replace(/ohm$/i, "Ω"), unit);
  return read.ok ? { key, value: read.value.value } : null;
}

/**
 * Readings of cells as a list or a rest check's file has them, a line a cell: code or name, then voltage, capacity, resistance and date (ISO)
 * in any order. A first line without a number is a head. A bare number is in V. Refuses with the line and what is wrong in it.
 *
 * Worked: "cell;voltage;date\n7K3QF;4,187;2026-11-20" is 4.187 V of 7K3QF on 20 November 2026.
 */
export function readReadings(text: string): Result<readonly ListedReading[]> {
  const out: ListedReading[] = [];
  const lines = text
    .split(/\r\n|\r|\n/)
    .map((l, k) => ({ line: k + 1, parts: fieldsOf(l) }))
    .filter((l) => l.parts.length > 0);
  for (const [k, { line, parts }] of lines.entries()) {
    const [cell = "", ...rest] = parts;
    const values = rest.filter((p) => !DATE.test(p)).flatMap((p) => stated(p) ?? []);
    if (values.length === 0) {
      if (k === 0) continue;
      return err(
        `Line ${line}: no reading beside “${cell}”. Write a line a cell, such as “7K3QF; 4.187 V” or “7K3QF; 1180 mAh; 62 mΩ”.`,
      );
    }
    const twice = values.find((f, n) => values.some((g, m) => m > n && g.key === f.key));
    if (twice)
      return err(
        `Line ${line}: more than one ${{ volts: "voltage", capacity: "capacity", resistance: "resistance" }[twice.key]} beside “${cell}”.`,
      );
    const date = rest.find((p) => DATE.test(p));
    const at = date === undefined ? null : Date.parse(date.length === 10 ? date + NOON : date.replace(" ", "T"));
    if (at !== null && Number.isNaN(at))
      return err(`Line ${line}: “${date}” is no date; write it as 2026-11-20 or 2026-11-20 14:30.`);
    out.push({
      line,
      cell,
      ...Object.fromEntries(values.map((f) => [f.key, f.value])),
      ...(at === null ? {} : { takenAt: new Date(at).toISOString() }),
    });
  }
  return out.length ? ok(out) : err("The list holds no reading. Write a line a cell, such as “7K3QF; 4.187 V”.");
}
