import type { RunRecord } from "./records";

/** A run's title with its day (ISO, UTC), which most titles carry already: for lists in which runs are told apart. */
export function datedTitle(run: Pick<RunRecord, "title" | "startUtc">): string {
  const day = run.startUtc.slice(0, 10);
  return run.title.includes(day) ? run.title : `${run.title}, ${day}`;
}
