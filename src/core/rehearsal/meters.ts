import type { Accuracy } from "../instruments";
import { roleUnit, type Role } from "../procedures/roles";
import { BENCH_ACCURACY } from "../simulator/boards";
import { CHARGE_METERS } from "./charge-log";

const BY_UNIT: Readonly<Record<string, Accuracy>> = {
  V: BENCH_ACCURACY.batteryVoltage,
  A: BENCH_ACCURACY.batteryCurrent,
  "°C": BENCH_ACCURACY.partTemperature,
};

/** The accuracies that a run on the simulated bench is read with: those stated, and of its other meters what the simulated ones hold. */
export function simulatedMeters(
  roles: readonly Role[],
  stated: Readonly<Partial<Record<Role, Accuracy>>>,
  bench: Readonly<Partial<Record<Role, Accuracy>>> = {},
): Partial<Record<Role, Accuracy>> {
  const out: Partial<Record<Role, Accuracy>> = { ...stated };
  for (const role of roles) {
    const own = bench[role] ?? BY_UNIT[roleUnit(role)];
    if (!out[role] && own) out[role] = own;
  }
  return out;
}

/** What the meters of a procedure's own bench hold, where they are not those of the others. */
export const benchMeters = (procedure: string): Readonly<Partial<Record<Role, Accuracy>>> =>
  procedure === "charge-cycle" ? CHARGE_METERS : {};
