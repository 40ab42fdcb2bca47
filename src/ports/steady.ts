import { highest, lowest } from "@/core/quantities";
import type { Role } from "@/core/measurement";
import type { PortReading } from "./port";

/** How steady is steady: every role within this share of its mean, or these many SI units, over the window. */
export interface SteadyRule {
  /** s of bench time. */
  readonly window: number;
  readonly share: number;
  readonly floor: number;
}
export const STEADY: SteadyRule = { window: 2, share: 0.004, floor: 0.003 };

/**
 * Whether readings have held still: highest less lowest of each voltage and current within `share` of the mean or
 * `floor`, over at least three readings that span the window. Temperatures creep for minutes and don't count. False
 * until the window is filled. Worked: three equal readings 1 s apart are steady for a window of 2 s.
 */
export function isSteady(history: readonly PortReading[], rule: SteadyRule = STEADY): boolean {
  const last = history[history.length - 1];
  if (!last) return false;
  const start = history.findLastIndex((r, i) => r.time <= last.time - rule.window && history.length - i >= 3);
  if (start < 0) return false;
  const recent = history.slice(start);
  const roles = (Object.keys(last.cells) as Role[]).filter((r) => !r.endsWith("Temperature"));
  return roles.every((role) => {
    const values = recent.map((r) => r.cells[role]?.value).filter((v): v is number => typeof v === "number");
    if (values.length < recent.length) return false;
    const mean = values.reduce((s, v) => s + v, 0) / values.length;
    return highest(values) - lowest(values) <= Math.max(rule.floor, rule.share * Math.abs(mean));
  });
}
