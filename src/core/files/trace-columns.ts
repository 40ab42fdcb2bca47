import type { Role } from "../measurement";
import { ELEMENTS } from "../quantities";

const { nth, sampleAt } = ELEMENTS;

/** Columns of equal length, SI; `time` in s from the first row of the log. */
export type TraceColumns = Readonly<Partial<Record<Role, Float64Array>>>;

/** Columns in one piece from those that came one after the other. */
export function joinColumns(parts: readonly TraceColumns[]): TraceColumns {
  const [first] = parts;
  if (!first) return {};
  if (parts.length === 1) return first;
  const roles = [...new Set(parts.flatMap((p) => Object.keys(p) as Role[]))];
  const rows = parts.map((p) => p.time?.length ?? 0);
  const total = rows.reduce((s, n) => s + n, 0);
  return Object.fromEntries(
    roles.map((role) => {
      const out = new Float64Array(total);
      let at = 0;
      parts.forEach((p, k) => {
        const column = p[role];
        if (column) out.set(column, at);
        else out.fill(NaN, at, at + nth(rows, k));
        at += nth(rows, k);
      });
      return [role, out];
    }),
  );
}

/** Longest stretch over which another logger's readings are laid between the rows of the first, in its own intervals. */
const BRIDGED = 5;

/**
 * What another logger wrote meanwhile, at the times of the first one's rows: straight between its own two readings around
 * each. NaN before it began, after it ended and across its gaps. `starts` is where its first row stands on the first
 * one's clock, s.
 */
export function besideOf(time: Float64Array, other: TraceColumns, starts: number): TraceColumns {
  const own = other.time ?? new Float64Array();
  const usual = own.length > 1 ? sampleAt(own, own.length - 1) / (own.length - 1) : 0;
  const out: Partial<Record<Role, Float64Array>> = {};
  for (const [role, values] of Object.entries(other) as [Role, Float64Array][]) {
    if (role === "time") continue;
    const column = new Float64Array(time.length).fill(NaN);
    let j = 0;
    for (let k = 0; k < time.length && own.length > 0; k++) {
      const t = sampleAt(time, k) - starts;
      while (j + 1 < own.length && sampleAt(own, j + 1) <= t) j++;
      const [a, b] = [sampleAt(own, j), own[j + 1] ?? NaN];
      if (t === a) column[k] = sampleAt(values, j);
      else if (t > a && b - a <= BRIDGED * usual)
        column[k] = sampleAt(values, j) + ((sampleAt(values, j + 1) - sampleAt(values, j)) * (t - a)) / (b - a);
    }
    out[role] = column;
  }
  return out;
}
