import type { Conditions } from "../characteristics";
import type { Finding } from "../measurement";
import { numeric, type Unit } from "../quantities";

/** One quantity before and after. */
export interface Difference {
  readonly characteristic: string;
  readonly conditions: Conditions;
  readonly unit: Unit;
  readonly before: Finding | null;
  readonly after: Finding | null;
  /** After less before; null where one is missing or a word. */
  readonly change: number | null;
  /** Of the change, k = 2: both runs' own, as if nothing were shared. */
  readonly expandedUncertainty: number | null;
  /** Whether the change is larger than its uncertainty. */
  readonly beyond: boolean;
}

const key = (f: Finding): string =>
  `${f.characteristic}|${JSON.stringify(
    Object.entries(f.conditions)
      .filter(([name]) => name !== "configuration")
      .sort(),
  )}`;

/**
 * Two runs' findings side by side, in the order of the first. Conditions pair them, the configuration left out: it is what was
 * changed. A change counts where it exceeds √(U₁² + U₂²); what the two meters share would only make that smaller.
 */
export function differences(before: readonly Finding[], after: readonly Finding[]): Difference[] {
  const later = new Map(after.map((f) => [key(f), f]));
  const pair = (b: Finding | null, a: Finding | null): Difference => {
    const one = (b ?? a) as Finding;
    const numbers = b && a && typeof b.value === "number" && typeof a.value === "number" && !b.bound && !a.bound;
    const change = numbers ? numeric(a.value) - numeric(b.value) : null;
    const u =
      numbers && !b.unstated?.length && !a.unstated?.length
        ? Math.hypot(b.expandedUncertainty ?? 0, a.expandedUncertainty ?? 0)
        : null;
    return {
      characteristic: one.characteristic,
      conditions: one.conditions,
      unit: one.unit,
      before: b,
      after: a,
      change,
      expandedUncertainty: u,
      beyond: change !== null && u !== null && Math.abs(change) > u,
    };
  };
  const seen = new Set(before.map(key));
  return [
    ...before.map((b) => pair(b, later.get(key(b)) ?? null)),
    ...after.filter((a) => !seen.has(key(a))).map((a) => pair(null, a)),
  ];
}
