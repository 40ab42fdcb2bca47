import { differenceInCalendarDays, format } from "date-fns";
import { CHEMISTRY_LIMITS, type Triage } from "@/core/cells";
import type { CellRecord } from "@/core/files/records";
import { expandedUncertainty, formatQuantity, type Uncertain } from "@/core/quantities";

/** A date that nobody can misread. */
export const dayOf = (at: number | string): string => format(new Date(at), "d MMM yyyy");

/** What a cell is, in a line. */
export const facts = (c: CellRecord): string =>
  `${c.series ? `${c.series} in series, ` : ""}${CHEMISTRY_LIMITS[c.chemistry].label.replace(/,.*/, "")}, ${formatQuantity(c.capacity, "Ah")}${c.ownProtection ? ", protected" : ""}`;

/** A fall a day with its k = 2 doubt, in one unit. */
export const rateText = (rate: Uncertain): string =>
  formatQuantity(rate.value, "V/day", { uncertainty: expandedUncertainty(rate), withUncertainty: true });

export const STATE_TONE: Readonly<Record<Triage["word"], string>> = {
  rejected: "text-misses",
  "reject it": "text-misses",
  "in doubt": "text-close",
  sound: "text-meets",
  unknown: "text-pencil",
};
/** Shapes, so that no state rests on colour alone. */
export const STATE_SIGN: Readonly<Record<Triage["word"], string>> = {
  rejected: "\u2715",
  "reject it": "\u2715",
  "in doubt": "?",
  sound: "\u2713",
  unknown: "\u2013",
};

/** `due today`, `due in 3 days`, `2 days late`; by the calendar. */
export function whenDue(at: number, now: number): { readonly text: string; readonly late: boolean } {
  const days = differenceInCalendarDays(at, now);
  if (days < 0) return { text: `${-days} ${days === -1 ? "day" : "days"} late`, late: true };
  return days === 0
    ? { text: "due today", late: true }
    : { text: days === 1 ? "due tomorrow" : `due in ${days} days`, late: false };
}
