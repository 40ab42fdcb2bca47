import { calendarDay } from "../quantities";
import type { Unit } from "../quantities";
import type { Accuracy } from "./accuracy";

export const INSTRUMENT_KINDS = ["meter", "thermometer", "logger", "supply", "load"] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

/** What a range of an instrument reads. */
export const RANGE_UNITS = ["V", "A", "°C"] as const;
export type RangeUnit = Extract<Unit, (typeof RANGE_UNITS)[number]>;

/** One range with what its data sheet says. */
export interface MeterRange {
  readonly id: string;
  /** As it is printed at the knob: `4 V`. */
  readonly title: string;
  readonly unit: RangeUnit;
  /** The largest magnitude it shows, in its unit. */
  readonly upTo: number;
  readonly accuracy: Accuracy;
  /** Ω between the terminals of an ammeter's range; what it drops is missing behind it. */
  readonly burden?: number;
}

/** An instrument of the bench. */
export interface Instrument {
  readonly title: string;
  readonly device: InstrumentKind;
  readonly ranges: readonly MeterRange[];
  /** A that a supply gives or a load takes at most. */
  readonly limit?: number;
  /** When (ISO date) it was last held against something better, and what came of it. */
  readonly checked?: { readonly date: string; readonly note: string };
  /** Ranges that held before a date (ISO), oldest first. */
  readonly earlier?: readonly { readonly until: string; readonly ranges: readonly MeterRange[] }[];
}

/** Which meter and range reads a role, as a rig says it and a run pins it. */
export interface PinnedMeter {
  readonly instrumentId: string;
  readonly rangeId: string;
  /** Instrument and range in words. */
  readonly title: string;
  readonly upTo: number;
  readonly burden?: number;
}

export const pinned = (id: string, i: Pick<Instrument, "title">, r: MeterRange): PinnedMeter => ({
  instrumentId: id,
  rangeId: r.id,
  title: `${i.title}, ${r.title}`,
  upTo: r.upTo,
  ...(r.burden === undefined ? {} : { burden: r.burden }),
});

export const sameAccuracy = (a: Accuracy | undefined, b: Accuracy | undefined): boolean =>
  a === b || (!!a && !!b && a.gain === b.gain && a.counts === b.counts && a.resolution === b.resolution);

/** How an edit of an instrument is meant: it corrects what was wrong all along, or it holds from a day (ISO date) on. */
export type EditMeaning = { readonly kind: "mistake" } | { readonly kind: "from"; readonly date: string };

/**
 * The instrument after an edit. A corrected mistake replaces the ranges in force; what holds from a day keeps the earlier ones beside it:
 * they are its history, and a mistake found later does not reach back beyond them.
 */
export function instrumentAfterEdit(before: Instrument, after: Instrument, meaning: EditMeaning): Instrument {
  if (meaning.kind === "mistake") return { ...after, ...(before.earlier ? { earlier: before.earlier } : {}) };
  return {
    ...after,
    earlier: [
      ...(before.earlier ?? []).filter((e) => e.until < meaning.date),
      { until: meaning.date, ranges: before.ranges },
    ],
  };
}

/** A run as an edit looks at it. */
export interface PinnedRun {
  readonly startUtc: string;
  /** IANA name of the time zone in which it was taken: its day is the one there. */
  readonly zone: string;
  readonly setup: {
    readonly instruments: Readonly<Partial<Record<string, Accuracy>>>;
    readonly meters?: Readonly<Partial<Record<string, PinnedMeter>>>;
  };
}

/**
 * The roles of a run whose accuracy follows an edit, with what it becomes: those read with a range of that instrument, of a run in the
 * time that the edit speaks of. A mistake is corrected in all runs since the ranges in force began; what holds from a day changes
 * only runs from that day on. Empty where nothing changes.
 */
export function accuraciesAfterEdit(
  run: PinnedRun,
  id: string,
  before: Instrument,
  after: Instrument,
  meaning: EditMeaning,
): Partial<Record<string, Accuracy>> {
  const since = meaning.kind === "from" ? meaning.date : (before.earlier?.at(-1)?.until ?? "");
  if (calendarDay(run.startUtc, run.zone) < since) return {};
  const out: Partial<Record<string, Accuracy>> = {};
  for (const [role, meter] of Object.entries(run.setup.meters ?? {})) {
    if (meter?.instrumentId !== id) continue;
    const range = after.ranges.find((r) => r.id === meter.rangeId);
    if (range && !sameAccuracy(range.accuracy, run.setup.instruments[role])) out[role] = range.accuracy;
  }
  return out;
}

/** The ranges that an instrument had on a day (ISO date). */
export function rangesOn(i: Pick<Instrument, "ranges" | "earlier">, day: string): readonly MeterRange[] {
  return (
    (i.earlier ?? []).filter((e) => e.until > day).sort((a, b) => a.until.localeCompare(b.until))[0]?.ranges ?? i.ranges
  );
}
