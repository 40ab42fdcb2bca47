import type { TraceColumns } from "@/core/files/trace-columns";
import { extremesOf, heatPower, type Extremes } from "@/core/traces";
import { readTrace } from "@/storage/traces";
import type { CurveRole } from "./protocol";

// What a worker does with logs begins here: it holds the one that was looked at last, so that a page never has to. Apart from reading
// and writing files, so that a worker that only analyses loads none of that.
interface Held {
  readonly runId: string;
  readonly rows: number;
  readonly columns: TraceColumns;
  /** What was drawn of it: columns, and what is worked out from several. */
  readonly drawn: Map<CurveRole, Drawn | null>;
}
/** A column as it is drawn at every step of a zoom. */
export interface Drawn {
  readonly values: Float64Array;
  readonly extremes: Extremes;
}
let held: Held | null = null;

/** The columns of a stored log of so many rows. */
export async function openLog(runId: string, rows: number): Promise<TraceColumns> {
  if (held?.runId !== runId || held.rows !== rows) holdLog(runId, rows, await readTrace(runId));
  return (held as NonNullable<typeof held>).columns;
}

/** What is drawn of the log that is open; null where it lacks a column. */
export function drawnColumn(role: CurveRole): Drawn | null {
  if (!held) return null;
  const there = held.drawn.get(role);
  if (there !== undefined) return there;
  const values = role === "heatPower" ? heatPower(held.columns) : (held.columns[role] ?? null);
  const made = values && { values, extremes: extremesOf(values) };
  held.drawn.set(role, made);
  return made;
}

/** Holds a log that was just read from its file. */
export function holdLog(runId: string, rows: number, columns: TraceColumns): void {
  held = { runId, rows, columns, drawn: new Map() };
}
