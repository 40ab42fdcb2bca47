import type { HouseRules, Role, RunConditions } from "../measurement";
import type { Found } from "../sheet";
import { numeric } from "../quantities";

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
  /** The run it was found in; absent for what is written down of a cell or of the house. */
  readonly runId?: string;
}

/** What is open beside the sums: a run with its set-up and its newest readings, a cell of the drawer. */
export interface OpenBeside {
  readonly run?: {
    readonly id: string;
    readonly conditions: RunConditions;
    readonly newest: Readonly<Partial<Record<Role, number>>>;
  };
  /** Ah, V, Ω; the rested volts as it was last read. */
  readonly cell?: {
    readonly capacity: number;
    readonly chargeRateLimit: number;
    readonly full?: number;
    readonly rested?: number;
    readonly ohms?: number;
  };
  readonly rules: Pick<HouseRules, "chargeRate" | "chargeFull" | "batteryEmpty">;
}

const NEWEST: Readonly<Record<string, Role>> = {
  "efficiency.batteryVolts": "batteryVoltage",
  "efficiency.batteryAmps": "batteryCurrent",
  "efficiency.outputVolts": "outputVoltage",
  "efficiency.outputAmps": "outputCurrent",
  "battery-current.battery": "batteryVoltage",
  "linear-heat.input": "inputVoltage",
  "linear-heat.cell": "cellVoltage",
  "linear-heat.ambient": "ambientTemperature",
  "wire-drop.volts": "inputVoltage",
};
/** The readings that feed a sum. */
export const FED_ROLES: readonly Role[] = [...new Set(Object.values(NEWEST))];
const CONDITIONS: Readonly<Record<string, keyof RunConditions>> = {
  "load-resistor.volts": "nominalOutput",
  "battery-current.volts": "nominalOutput",
  "standby-life.capacity": "usableCapacity",
  "standby-life.self": "cellSelfDischargeCurrent",
  "charge-time.amps": "programmedCurrent",
  "charge-time.capacity": "cellCapacity",
  "programme.amps": "programmedCurrent",
  "c-rate.capacity": "cellCapacity",
  "c-rate.amps": "programmedCurrent",
};

/** What is open puts into the sums: a run's newest readings and its conditions, a cell, the rules of the house. Readings of nothing are passed over. */
export function feedsOfOpen(o: OpenBeside): Map<string, Fed> {
  const out = new Map<string, Fed>([
    ["c-rate.rule", { value: o.rules.chargeRate }],
    ["charge-time.full", { value: o.rules.chargeFull }],
    ["battery-current.battery", { value: o.rules.batteryEmpty }],
  ]);
  const put = (key: string, value: number | string | undefined, runId?: string) => {
    if (typeof value === "number" && Number.isFinite(value) && value !== 0)
      out.set(key, { value, ...(runId ? { runId } : {}) });
  };
  for (const [key, name] of Object.entries(CONDITIONS)) put(key, o.run?.conditions[name], o.run?.id);
  for (const [key, role] of Object.entries(NEWEST)) put(key, o.run?.newest[role], o.run?.id);
  if (o.cell) {
    const { capacity, chargeRateLimit, full, rested, ohms } = o.cell;
    for (const key of ["standby-life.capacity", "charge-time.capacity", "c-rate.capacity"]) put(key, capacity);
    put("c-rate.limit", chargeRateLimit);
    put("charge-time.full", full);
    put("charge-time.start", rested);
    put("charge-time.ohms", ohms);
    put("programme.amps", o.rules.chargeRate * capacity);
  }
  return out;
}

/** What a board's findings put into the sums: `sum.field` → value in SI and the run it came from. */
export function feedsOf(found: readonly Found[]): ReadonlyMap<string, Fed> {
  const out = new Map<string, Fed>();
  for (const [key, [name, pick]] of Object.entries(FEEDS)) {
    let own = found.filter((f) => f.finding.characteristic === name && typeof f.finding.value === "number");
    if (pick === "no-load") own = own.filter((f) => f.finding.conditions.state === "no-load");
    if (pick === "lowest battery")
      own = [...own].sort(
        (a, b) => Number(a.finding.conditions.battery ?? 0) - Number(b.finding.conditions.battery ?? 0),
      );
    const [first] = own;
    if (first) out.set(key, { value: numeric(first.finding.value), runId: first.runId });
  }
  return out;
}
