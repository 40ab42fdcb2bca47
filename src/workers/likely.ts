import { workersAhead } from "./client";
import type { ManyBoards } from "./protocol";

const VERSION = process.env.NIMBUS_VERSION ?? "";
/** Where a page remembers whether all boards were kept when it was last open. */
const key = (page: ManyBoards): string => `nimbus-bench-${page}-kept`;

/** Remembers whether everything a page shows was kept, as it mostly is. */
export function rememberKept(page: ManyBoards, whole: boolean): void {
  try {
    localStorage.setItem(key(page), whole ? VERSION : "not all");
  } catch {
    // Without it the workers are started once the list is read.
  }
}

/**
 * Starts the workers while a page is still being opened, unless everything was kept the last time: their start costs a third of a second.
 * `unknown` says what is likely where it was never open.
 */
export function workersIfLikely(page: ManyBoards, unknown: "kept" | "not kept"): void {
  if (typeof window === "undefined") return;
  try {
    const stored = localStorage.getItem(key(page));
    if (stored === VERSION || (stored === null && unknown === "kept")) return;
  } catch {
    if (unknown === "kept") return;
  }
  workersAhead(page);
}
