import type { Characteristic } from "./dictionary";

/** Which way a quantity is better; null where neither is, or it depends on what it is for. */
export type Better = "more" | "less" | null;

/** Those whose usual claim does not say it. */
const OTHERS: Readonly<Record<string, Better>> = {
  "boost.collapse-current": "more",
  "boost.lowest-efficiency": "more",
  "boost.start-current": "more",
  "boost.input-current-limit": "more",
  "boost.output-resistance": "less",
  "boost.line-regulation": "less",
  "standby.life": "more",
  "heat.steady-temperature": "less",
  "heat.thermal-resistance": "less",
  "charge.peak-temperature-rise": "less",
  "charge.peak-dissipation": "less",
  "charge.total-time": "less",
  "channels.voltage-spread": "less",
  "channels.early-time": "less",
  "channels.early-charge": "less",
  "path.dip": "less",
  "path.overshoot": "less",
  "protect.residual-current": "less",
  "solar.harvest": "more",
  "cell.capacity": "more",
  "cell.resistance": "less",
  "cell.rest-drop-rate": "less",
};

/** Which way a quantity is better, from what its usual claim promises. */
export function better(c: Pick<Characteristic, "name" | "kind" | "usualLimit">): Better {
  if (c.name in OTHERS) return OTHERS[c.name] ?? null;
  if (c.kind !== "number") return null;
  return c.usualLimit === "at-least" ? "more" : c.usualLimit === "at-most" ? "less" : null;
}
