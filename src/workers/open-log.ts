import type { TraceColumns } from "@/core/files/trace-columns";
import { readTrace } from "@/storage/traces";

// What a worker does with logs begins here: it holds the one that was looked at last, so that a page never has to. Apart from reading
// and writing files, so that a worker that only analyses loads none of that.
let held: { readonly runId: string; readonly rows: number; readonly columns: TraceColumns } | null = null;

/** The columns of a stored log of so many rows. */
export async function openLog(runId: string, rows: number): Promise<TraceColumns> {
  if (held?.runId !== runId || held.rows !== rows) holdLog(runId, rows, await readTrace(runId));
  return (held as NonNullable<typeof held>).columns;
}

/** Holds a log that was just read from its file. */
export function holdLog(runId: string, rows: number, columns: TraceColumns): void {
  held = { runId, rows, columns };
}
