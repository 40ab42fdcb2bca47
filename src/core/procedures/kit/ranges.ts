import { formatQuantity, highest, lowest } from "../../quantities";
import { roleLabel, roleUnit, type Role, type RunSetup } from "../../measurement";
import type { PlanRemark } from "../contract";

/** Efficiency taken for a load's battery current before anything was measured; low, so that the current is not taken too small. */
const EFFICIENCY = 0.8;
/** V that an ammeter may drop before it is said. */
const BURDEN = 0.05;

const largest = (...values: readonly unknown[]): number | null => {
  const numbers = values.flat().filter((v): v is number => typeof v === "number" && Number.isFinite(v));
  return numbers.length ? highest(numbers) : null;
};

/**
 * The largest reading that a run may bring at each role, in SI, from its plan and conditions; absent where they do not say. Battery
 * current at a load: V_o·I_o ÷ (0.8·V_b) at the lowest battery, at most what the supply gives.
 */
export function largestExpected(setup: RunSetup): Partial<Record<Role, number>> {
  const plan = (setup.plan ?? {}) as Readonly<Record<string, unknown>>;
  const { nominalOutput, supplyCurrentLimit, programmedCurrent } = setup.conditions;
  const out: Partial<Record<Role, number>> = {};
  const put = (role: Role, v: number | null | undefined) => {
    if (v !== null && v !== undefined && v > 0) out[role] = v;
  };
  const load = largest(plan.loads ?? null, plan.load, plan.most);
  const batteries = Array.isArray(plan.batteries)
    ? (plan.batteries as number[])
    : [plan.battery, plan.start].filter((v): v is number => typeof v === "number");
  const empty = batteries.length ? lowest(batteries) : null;
  put("outputCurrent", load);
  put("outputVoltage", nominalOutput);
  put("batteryVoltage", largest(batteries));
  if (load !== null && nominalOutput && empty)
    put("batteryCurrent", Math.min((nominalOutput * load) / (EFFICIENCY * empty), supplyCurrentLimit ?? Infinity));
  put("cellCurrent", largest(programmedCurrent, plan.chargeCurrent));
  const cell = plan.cell as { fullVoltage?: number } | null | undefined;
  put("cellVoltage", cell?.fullVoltage);
  return out;
}

/** What stands against the ranges that a run is to be read with: one that ends below what is to come, one that drops volts on the way. */
export function rangeRemarks(setup: RunSetup): PlanRemark[] {
  const out: PlanRemark[] = [];
  for (const [name, v] of Object.entries(largestExpected(setup))) {
    const role = name as Role;
    const meter = setup.meters?.[role];
    if (!meter || v === undefined) continue;
    const unit = roleUnit(role);
    const q = (x: number) => formatQuantity(x, unit, { digits: 3 });
    if (v > meter.upTo)
      out.push({
        severity: "care",
        text: `${roleLabel(role)} may reach ${q(v)}, and ${meter.title} ends at ${q(meter.upTo)}${unit === "A" ? ": choose a larger range and its jack, or the fuse goes" : ": choose a larger range"}.`,
      });
    else if (meter.burden && meter.burden * v > BURDEN)
      out.push({
        severity: "care",
        text: `${meter.title} drops ${formatQuantity(meter.burden * v, "V", { digits: 2 })} at ${q(v)}: measure the voltage after it, or choose a range with less burden.`,
      });
  }
  return out;
}
