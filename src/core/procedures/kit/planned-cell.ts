import { CHEMISTRY_LIMITS, type Chemistry } from "../../cells";
import type { HouseRules, PlannedCell } from "../../measurement";

/** A cell of the drawer as its record has it. */
export interface DrawerEntry {
  readonly id: string;
  readonly title: string;
  readonly chemistry: Chemistry;
  /** Cells in series, for a pack; one where nothing is said. */
  readonly series?: number;
  /** Ah. */
  readonly capacity: number;
  /** Highest charge current its maker allows, as a multiple of the capacity an hour. */
  readonly chargeRateLimit: number;
  /** Departures from the house rules: multiple of the capacity an hour, V, V. */
  readonly chargeRate?: number;
  readonly fullVoltage?: number;
  readonly emptyVoltage?: number;
  readonly ownProtection: boolean;
}

/** A cell of the drawer as a run pins it, the house rules standing in where it has none of its own. */
export function plannedCell(
  cell: DrawerEntry,
  rules: Pick<HouseRules, "chargeRate" | "chargeFull" | "chargeEmpty">,
): PlannedCell {
  const usual = CHEMISTRY_LIMITS[cell.chemistry];
  const ours = cell.chemistry === "lithium-ion";
  return {
    id: cell.id,
    title: cell.title,
    chemistry: cell.chemistry,
    ...(cell.series ? { series: cell.series } : {}),
    capacity: cell.capacity,
    chargeRateLimit: cell.chargeRateLimit,
    chargeRate: cell.chargeRate ?? rules.chargeRate,
    fullVoltage: cell.fullVoltage ?? (ours ? rules.chargeFull : usual.full),
    emptyVoltage: cell.emptyVoltage ?? (ours ? rules.chargeEmpty : usual.empty),
    ownProtection: cell.ownProtection,
  };
}
