import { characteristic } from "../../characteristics";
import { meterSource } from "../../instruments";
import { budget, expandedUncertainty, rectangular, uncertain, type Uncertain } from "../../quantities";
import type { Role, Finding, RunSetup } from "../../measurement";

/** A reading of one meter, a mean of `count` of its readings: gain and offset stay, the readings' own noise averages out. */
export function meterReading(value: number, role: Role, setup: RunSetup, label: string, count = 1): Uncertain {
  const a = setup.instruments[role];
  if (!a) return uncertain(value, []);
  const own = Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) / Math.sqrt(Math.max(1, count));
  return uncertain(value, [
    [meterSource(role, "gain"), rectangular(1) * a.gain * value],
    [meterSource(role, "offset"), rectangular(a.counts * a.resolution)],
    [meterSource(role, "own", label), own],
  ]);
}

/** A difference of two readings of one meter: the offset is gone, the gain acts on the difference. */
export function meterDifference(value: number, role: Role, setup: RunSetup, label: string): Uncertain {
  const a = setup.instruments[role];
  if (!a) return uncertain(value, []);
  return uncertain(value, [
    [meterSource(role, "gain"), rectangular(1) * a.gain * value],
    [meterSource(role, "own", label), Math.SQRT2 * Math.hypot(rectangular(a.resolution / 2), a.resolution / 2)],
  ]);
}

/**
 * A named quantity of a log with what its meters leave of doubt; null where the value is no number or the name is unknown. The run's
 * configuration stands beside what depends on it.
 */
export function logFinding(
  name: string,
  x: Uncertain,
  setup: RunSetup,
  more: {
    readonly unfair?: Finding["unfair"];
    readonly conditions?: Finding["conditions"];
    readonly bound?: Finding["bound"];
  } = {},
): Finding | null {
  const c = characteristic(name);
  if (!c || !Number.isFinite(x.value)) return null;
  const words = setup.conditions.configuration;
  return {
    characteristic: name,
    conditions: { ...(words && c.at.includes("configuration") ? { configuration: words } : {}), ...more.conditions },
    value: x.value,
    unit: c.unit,
    expandedUncertainty: expandedUncertainty(x),
    ...(more.bound ? { bound: more.bound } : {}),
    budget: budget(x),
    points: [],
    unfair: more.unfair ?? [],
  };
}

/** A word that a log shows. */
export const wordFinding = (
  name: string,
  value: string,
  unfair: Finding["unfair"] = [],
  conditions: Finding["conditions"] = {},
): Finding => ({ characteristic: name, conditions, value, unit: "", budget: [], points: [], unfair });
