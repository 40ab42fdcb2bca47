import { calendarDay } from "../quantities";
import type { StoredRecord } from "../files/records";
import type { TraceColumns } from "../files/trace-columns";

/** The moment that a packed demo was made at: none of its own would be taken for it. */
export const DEMO_MOMENT = "2000-06-15T12:00:00.000Z";
const ID = "demo-";
const NOON = DEMO_MOMENT.slice(10);

export interface DemoLogs {
  readonly runId: string;
  readonly columns: TraceColumns;
}

/** What was worked out from the demo's records already; as disposable as any cache. */
export interface DemoDerived {
  readonly key: string;
  readonly stamp: string;
  readonly value: unknown;
}

export interface DemoContent {
  readonly records: readonly StoredRecord[];
  readonly logs: readonly DemoLogs[];
  readonly derived: readonly DemoDerived[];
}

/** Fresh ids for what is packed. */
export function demoIds(): () => string {
  let n = 0;
  return () => `${ID}${n++}`;
}

/** Digits of a reading that is packed: more than any meter of the demo shows. */
const DIGITS = 9;

const short = (v: number): number | null => (Number.isFinite(v) ? Number(v.toPrecision(DIGITS)) : null);

/** Columns with the digits that are packed. */
export const asPacked = (columns: TraceColumns): TraceColumns =>
  Object.fromEntries(
    Object.entries(columns).map(([role, c]) => [role, Float64Array.from(c as Float64Array, (v) => short(v) ?? NaN)]),
  ) as TraceColumns;

/** The demo as text: records, logs as lists of numbers (null where a reading is missing), and what was worked out from them. */
export function packDemo({ records, logs, derived }: DemoContent): string {
  return JSON.stringify({
    records,
    logs: logs.map(({ runId, columns }) => ({
      runId,
      columns: Object.fromEntries(
        Object.entries(columns).map(([role, c]) => [role, Array.from(c as Float64Array, short)]),
      ),
    })),
    derived,
  });
}

/**
 * The demo from its text, as if it had been made just now: every id is new, every moment lies as long before `now` (ISO UTC) as it lay
 * before the packing, and its runs were taken in `zone`. Throws where the text is none.
 */
export function unpackDemo(
  text: string,
  means: { readonly newId: () => string; readonly now: string; readonly zone: string },
): DemoContent {
  const ids = new Map<string, string>();
  const fresh = (id: string): string => {
    const own = ids.get(id) ?? means.newId();
    ids.set(id, own);
    return own;
  };
  const later = Date.parse(means.now) - Date.parse(DEMO_MOMENT);
  // The day on which it was made becomes the day in `zone` on which it is unpacked.
  const moved = text
    .replace(/demo-\d+/g, fresh)
    .replace(
      /"2000-\d\d-\d\dT[\d:.]+Z"/g,
      (quoted) => `"${new Date(Date.parse(quoted.slice(1, -1)) + later).toISOString()}"`,
    )
    .replace(
      /"(2000-\d\d-\d\d)"/g,
      (_, day: string) => `"${calendarDay(Date.parse(`${day}${NOON}`) + later, means.zone)}"`,
    );
  const raw = JSON.parse(moved) as {
    records: StoredRecord[];
    logs: { runId: string; columns: Record<string, (number | null)[]> }[];
    derived: DemoDerived[];
  };
  return {
    records: raw.records.map((r) => (r.kind === "run" ? { ...r, zone: means.zone } : r)),
    logs: raw.logs.map(({ runId, columns }) => ({
      runId,
      columns: Object.fromEntries(
        Object.entries(columns).map(([role, c]) => [role, Float64Array.from(c, (v) => v ?? NaN)]),
      ) as TraceColumns,
    })),
    derived: raw.derived,
  };
}
