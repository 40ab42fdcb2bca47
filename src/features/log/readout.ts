import { roleUnit, type LogValues, type Role } from "@/core/measurement";
import type { RunRecord } from "@/core/files/records";

/** A meter that reads microamps shows microamps: one prefix a meter, set by its smallest step. */
function scaleFor(unit: string, resolution: number | undefined): { readonly by: number; readonly unit: string } {
  if (unit !== "A" || !resolution || resolution >= 1e-4) return { by: 1, unit };
  return resolution >= 5e-6 ? { by: 1e3, unit: "mA" } : { by: 1e6, unit: "\u00b5A" };
}

/** One unit and a fixed number of decimals, as on a meter: a prefix that changes would make the digits dance. */
export function displayOf(run: RunRecord, role: Role) {
  const resolution = run.setup.instruments[role]?.resolution;
  const scale = scaleFor(roleUnit(role), resolution);
  return {
    scale,
    decimals:
      resolution && resolution > 0 ? Math.min(5, Math.max(0, Math.round(-Math.log10(resolution * scale.by)))) : 3,
  };
}

/** A reading as its meter shows it; a dash where there is none. */
export function shownReading(
  run: RunRecord,
  role: Role,
  row: LogValues | null | undefined,
): { readonly number: string; readonly unit: string } {
  const { scale, decimals } = displayOf(run, role);
  const v = row?.[role];
  return { number: v === undefined ? "—" : (v * scale.by).toFixed(decimals).replace("-", "\u2212"), unit: scale.unit };
}
