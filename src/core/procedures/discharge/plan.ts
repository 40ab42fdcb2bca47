import { formatQuantity, formatRoughly, ok, type Result } from "../../quantities";
import type { Chemistry } from "../../cells";
import { accuraciesFor, type Role, type PlannedCell, type RunSetup } from "../../measurement";
import type { PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface DischargePlan {
  /** Rated Ah, rested V now, and V of a full cell of its kind. */
  readonly capacity: number;
  readonly startVoltage: number;
  readonly fullVoltage: number;
  /** Cells in series; one where nothing is said. */
  readonly series?: number;
  readonly chemistry?: Chemistry;
  /** A, and V at which it ends. */
  readonly rate: number;
  readonly floor: number;
  /** s logged before the load and after it. */
  readonly quiet: number;
  readonly rebound: number;
  readonly cellLimit: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const DISCHARGE_ROLES: readonly Role[] = ["batteryVoltage", "batteryCurrent", "cellTemperature"];
/** V under a full cell's at which a rested one still counts as full: lithium-ion. */
const FULL_WITHIN = 0.1;
/** V a cell from which a rested iron-phosphate cell counts as full: it settles far below what it was charged to, and stays flat below that. */
const PHOSPHATE_FULL = 3.32;
/** V a cell up to which a full voltage is that of iron phosphate. */
const PHOSPHATE_MOST = 3.8;

/** V from which the rested cell or pack counts as full, by its own chemistry. */
export function restedFull(plan: Pick<DischargePlan, "fullVoltage" | "series" | "chemistry"> | undefined): number {
  const series = plan?.series ?? 1;
  const each = (plan?.fullVoltage ?? 4.2) / series;
  const phosphate = plan?.chemistry ? plan.chemistry === "iron-phosphate" : each < PHOSPHATE_MOST;
  return series * (phosphate ? PHOSPHATE_FULL : each - FULL_WITHIN);
}

/** A fifth of the rated capacity an hour, to the house's empty voltage. */
export function planDischarge(context: PlanContext): Result<RunSetup<DischargePlan>> {
  const { rules, rig, cell } = context;
  const capacity = cell?.capacity ?? 2.2;
  return ok({
    conditions: { cellCapacity: capacity },
    instruments: accuraciesFor(DISCHARGE_ROLES, rig.instruments),
    plan: {
      capacity,
      startVoltage: 4.18,
      fullVoltage: rules.chargeFull,
      rate: Number((0.2 * capacity).toPrecision(2)),
      floor: cell?.emptyVoltage ?? rules.chargeEmpty,
      quiet: 20,
      rebound: 300,
      cellLimit: 60,
      every: 5,
      timeLimit: 24 * 3600,
    },
  });
}

/** A cell or a pack of the drawer: its rate, its full and its empty volts, those of a pack times its cells. */
export function dischargeOf(setup: RunSetup<DischargePlan>, cell: PlannedCell): RunSetup<DischargePlan> {
  const series = cell.series ?? 1;
  const { plan } = setup;
  if (!plan) return setup;
  return {
    ...setup,
    conditions: { ...setup.conditions, cellCapacity: cell.capacity },
    plan: {
      ...plan,
      capacity: cell.capacity,
      rate: Number((0.2 * cell.capacity).toPrecision(2)),
      fullVoltage: series * cell.fullVoltage,
      startVoltage: Number((series * (cell.fullVoltage - 0.02)).toPrecision(4)),
      floor: Number((series * cell.emptyVoltage).toPrecision(4)),
      series,
      chemistry: cell.chemistry,
    },
  };
}

export const followDischarge = (plan: DischargePlan, patch: Partial<DischargePlan>): Partial<DischargePlan> =>
  patch.capacity !== undefined && patch.capacity !== plan.capacity
    ? { ...patch, rate: Number((0.2 * patch.capacity).toPrecision(2)) }
    : patch;

export const DISCHARGE_FIELDS: readonly PlanField[] = [
  { key: "capacity", label: "Rated capacity of the cell", unit: "Ah", low: 0.02, high: 100 },
  { key: "startVoltage", label: "Rested cell voltage now", unit: "V", low: 2, high: 60 },
  { key: "fullVoltage", label: "Full at", unit: "V", low: 3, high: 60 },
  {
    key: "rate",
    label: "Discharge at",
    unit: "A",
    low: 0.005,
    high: 50,
    why: "a capacity is stated at a rate: a fifth of it an hour is usual",
  },
  {
    key: "floor",
    label: "down to",
    unit: "V",
    low: 2,
    high: 60,
    why: "and to a floor; never below what its maker allows",
  },
  {
    key: "rebound",
    label: "Keep logging after the load for",
    unit: "s",
    low: 5,
    high: 3600,
    why: "the rebound shows its resistance",
  },
];

export function dischargeRemarks(setup: RunSetup<DischargePlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  const rate = plan.rate / plan.capacity;
  const series = plan.series ?? 1;
  const least = series * (plan.fullVoltage / series < 3.8 ? 2 : 2.5);
  if (plan.floor < least)
    out.push({
      severity: "refused",
      text: `${q(plan.floor, "V")} is lower than ${series > 1 ? `${series} such cells` : "any such cell"} may go: ${q(least, "V")} is the least that makers allow.`,
    });
  if (plan.fullVoltage / series > 4.4)
    out.push({
      severity: "refused",
      text: `Full at ${q(plan.fullVoltage, "V")} is no single cell: choose the pack in the drawer, so that its cells are known.`,
    });
  if (plan.startVoltage <= plan.floor)
    out.push({
      severity: "refused",
      text: `The cell is at ${q(plan.startVoltage, "V")}, already at or under the floor.`,
    });
  else if (plan.startVoltage < plan.fullVoltage - series * FULL_WITHIN)
    out.push({
      severity: "care",
      text: `At ${q(plan.startVoltage, "V")} rested the cell is not full: what comes out of it is no capacity. Charge it, let it rest for an hour, and discharge it then; as the preparation for a repeated charge this run does all the same.`,
    });
  if (rate > 1)
    out.push({
      severity: "care",
      text: `${q(plan.rate, "A")} is ${Number(rate.toPrecision(2))} C: many cells allow less, and all deliver less at this rate.`,
    });
  out.push({
    severity: "fine",
    text: `${q(plan.rate, "A")} out of ${q(plan.capacity, "Ah")} is ${Number(rate.toPrecision(2))} C: about ${formatRoughly((3600 * plan.capacity) / plan.rate)} if it holds what it is rated for.`,
  });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}
