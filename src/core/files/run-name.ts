import { calendarDay } from "../quantities";
import type { RunRecord } from "./records";

/** A run's title with its day (YYYY-MM-DD, where it was taken), which most titles carry already: for lists in which runs are told apart. */
export function datedTitle(run: Pick<RunRecord, "title" | "startUtc" | "zone">): string {
  const day = calendarDay(run.startUtc, run.zone);
  return run.title.includes(day) ? run.title : `${run.title}, ${day}`;
}
