import type { Found } from "../sheet";

/** Where a field of a sum takes its value from: `sum.field` → the quantity, and which of several counts. */
const FEEDS: Readonly<Record<string, readonly [name: string, pick?: "lowest battery" | "least" | "no-load"]>> = {
  "linear-heat.amps": ["charge.cc-current"],
  "linear-heat.kelvin": ["heat.thermal-resistance"],
  "load-resistor.volts": ["boost.no-load-voltage", "lowest battery"],
  "battery-current.volts": ["boost.no-load-voltage", "lowest battery"],
  "battery-current.amps": ["boost.max-current", "lowest battery"],
  "battery-current.efficiency": ["boost.lowest-efficiency", "lowest battery"],
  "standby-life.idle": ["standby.current", "no-load"],
  "charge-time.amps": ["charge.cc-current"],
  "charge-time.full": ["charge.cv-voltage"],
  "c-rate.amps": ["charge.cc-current"],
  "wire-drop.amps": ["charge.cc-current"],
};

export interface Fed {
  readonly value: number;
  readonly runId: string;
}

/** What a board's findings put into the sums: `sum.field` → value in SI and the run it came from. */
export function feedsOf(found: readonly Found[]): ReadonlyMap<string, Fed> {
  const out = new Map<string, Fed>();
  for (const [key, [name, pick]] of Object.entries(FEEDS)) {
    let own = found.filter((f) => f.finding.characteristic === name && typeof f.finding.value === "number");
    if (pick === "no-load") own = own.filter((f) => f.finding.conditions.state === "no-load");
    if (pick === "lowest battery") own = [...own].sort((a, b) => Number(a.finding.conditions.battery ?? 0) - Number(b.finding.conditions.battery ?? 0));
    const [first] = own;
    if (first) out.set(key, { value: first.finding.value as number, runId: first.runId });
  }
  return out;
}
