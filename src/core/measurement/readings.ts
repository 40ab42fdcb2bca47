import { formatQuantity } from "../quantities";
import { roleLabel, roleUnit, type Role } from "./roles";

export type ReadingStatus = "ok" | "empty" | "overload";
export interface RoleReading {
  /** SI; null unless the status is `ok`. */
  readonly value: number | null;
  readonly status: ReadingStatus;
}

export interface LoadSetting {
  readonly mode: "current" | "power" | "resistance";
  /** A, W or Ω. */
  readonly value: number;
}

/** What the instruments were set to when a point was taken. */
export interface PointSettings {
  readonly supplyVoltage?: number;
  readonly supplyCurrentLimit?: number;
  readonly load?: LoadSetting;
  /** The output was off and was switched on into this load. */
  readonly fromOff?: boolean;
  /** The supply's leads were swapped at the board, through a resistor of so many Ω in series. */
  readonly reversed?: { readonly ohms: number };
}

export interface Point {
  readonly id: string;
  /** Place in the run; ascending. */
  readonly sequence: number;
  readonly settings: PointSettings;
  readonly cells: Readonly<Partial<Record<Role, RoleReading>>>;
  /** Seconds that the settings had stood when it was taken; absent where nobody knows (an imported table). */
  readonly dwell?: number;
  /** Cells that were corrected, as they were first read; `cells` holds what counts. */
  readonly corrected?: readonly CorrectedReading[];
}

export interface CorrectedReading {
  readonly role: Role;
  readonly from: RoleReading;
  readonly why: string;
}

/** A point with some of its cells read anew; the first reading of each is kept beside it. */
export function withReadings(
  point: Point,
  anew: readonly { readonly role: Role; readonly value: number | null; readonly why: string }[],
): Point {
  if (anew.length === 0) return point;
  const last = new Map(anew.map((a) => [a.role, a]));
  const cells = Object.fromEntries(
    [...last.values()].map((a): [Role, RoleReading] => [
      a.role,
      a.value === null ? { value: null, status: "empty" } : { value: a.value, status: "ok" },
    ]),
  );
  return {
    ...point,
    cells: { ...point.cells, ...cells },
    corrected: [...last.values()].map((a) => ({
      role: a.role,
      from: point.cells[a.role] ?? { value: null, status: "empty" },
      why: a.why,
    })),
  };
}

/** What was corrected in a point, for a table: `output volts was 50.00 V (mistyped)`. Empty where nothing was. */
export const correctedText = (point: Point): string =>
  (point.corrected ?? [])
    .map(
      (c) =>
        `${roleLabel(c.role).toLowerCase()} was ${c.from.status === "overload" ? "OL" : c.from.value === null ? "not read" : formatQuantity(c.from.value, roleUnit(c.role), { digits: 4 })} (${c.why})`,
    )
    .join("; ");

export interface TraceEvent {
  /** s from the first row. */
  readonly time: number;
  readonly what: string;
  /** What was seen: a light, a press, a channel's done signal. */
  readonly kind?: string;
}

export interface Trace {
  /** Columns of equal length, SI, NaN where a reading is missing; `time` is monotonic seconds from the first sample. */
  readonly columns: Readonly<Partial<Record<Role, Float64Array>>>;
  readonly events: readonly TraceEvent[];
}

/** What was seen as one item of a checklist was done. */
export interface Answer {
  readonly id: string;
  readonly item: string;
  readonly word: string;
  /** Battery voltage at which it was seen, where the item asks for them. */
  readonly volts?: number;
  /** ISO UTC. */
  readonly at: string;
}

/** One thing to do on a checklist, and the words for what may come of it. */
export interface ChecklistItem {
  /** Names the action in findings and claims: `short press`. */
  readonly id: string;
  readonly group: string;
  /** What to do, in one sentence. */
  readonly act: string;
  /** What the printed table, the listing or the data sheet says comes of it; absent where they are silent. */
  readonly said?: string;
  /** What one usually sees; another word may be typed. */
  readonly words: readonly string[];
  /** Seen at several battery volts, one answer each, in their order: `falling` or `rising`. */
  readonly at?: { readonly volts: readonly number[]; readonly way: "falling" | "rising" };
  readonly caution?: string;
}

export type Readings =
  | { readonly kind: "points"; readonly points: readonly Point[] }
  | { readonly kind: "trace"; readonly trace: Trace }
  | { readonly kind: "answers"; readonly answers: readonly Answer[] };

/** Layers over the readings, each with its reason; the readings stay as they were. */
export interface Corrections {
  /** Point id → why it does not count. */
  readonly leftOut: ReadonlyMap<string, string>;
  /** Point id of a collapse → what it took to get the output back. */
  readonly recoveries: ReadonlyMap<string, Recovery>;
  /** Conditions whose column the tester closed early, such as `battery 3.6`. */
  readonly closed: ReadonlySet<string>;
  /** Boundary of a log → where the tester sees it, in s from the first row, and why. */
  readonly boundaries: ReadonlyMap<string, { readonly time: number; readonly why: string }>;
  /** Conditions of the run that were stated afterwards, SI by name. */
  readonly conditions?: Readonly<Record<string, number>>;
}
export const RECOVERIES = ["automatic", "load-removal", "power-cycle", "none"] as const;
export type Recovery = (typeof RECOVERIES)[number];
export const NO_CORRECTIONS: Corrections = {
  leftOut: new Map(),
  recoveries: new Map(),
  closed: new Set(),
  boundaries: new Map(),
};

/** The readings of one kind. */
export type ReadingsOf<K extends Readings["kind"]> = Extract<Readings, { readonly kind: K }>;
