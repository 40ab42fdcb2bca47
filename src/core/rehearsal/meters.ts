import type { Accuracy } from "../instruments";
import { roleUnit, type Role } from "../measurement";
import { BENCH_ACCURACY } from "../simulator/boards";

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
