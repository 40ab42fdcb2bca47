import { CHEMISTRY_LIMITS } from "../../cells";
import { formatQuantity, formatRoughly, ok, type Result } from "../../quantities";
import { claimedNominal } from "../kit/claimed";
import { accuraciesFor, type Role, type PlannedCell, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface PackPlan {
  /** Cells in series. */
  readonly cells: number;
  /** Charger: A, and V that it regulates the pack to. */
  readonly current: number;
  readonly chargerVolts: number;
  /** A of the discharge; V of the highest and the lowest cell at which the board is claimed to cut. */
  readonly load: number;
  readonly cut: number;
  readonly lowCut: number;
  /** What the cells stand: V. */
  readonly cellMaximum: number;
  readonly cellLeast: number;
  /** V up to which a cell is taken for a long life. */
  readonly longLife: number;
  readonly discharge: boolean;
  /** s waited for the release, and for the whole. */
  readonly wait: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const packRoles = (setup: RunSetup<PackPlan>): readonly Role[] => [
  "cellCurrent",
  ...Array.from({ length: setup.plan?.cells ?? 4 }, (_, k) => `cell${k + 1}Voltage` as const),
];
const MOST_CELLS = 8;

export function planPack(context: PlanContext): Result<RunSetup<PackPlan>> {
  const { claims, rig } = context;
  const cut = claimedNominal(claims, "pack.cutoff-cell-voltage") ?? 4.25;
  const roles = [
    "cellCurrent",
    ...Array.from({ length: MOST_CELLS }, (_, k) => `cell${k + 1}Voltage` as const),
  ] as const;
  return ok({
    conditions: context.cell ? { cellCapacity: context.cell.capacity } : {},
    instruments: accuraciesFor([...roles], rig.instruments),
    plan: {
      cells: 4,
      current: 0.7,
      chargerVolts: Number((4 * cut + 0.1).toFixed(2)),
      load: 0.8,
      cut,
      lowCut: claimedNominal(claims, "pack.low-cutoff-cell-voltage") ?? 2.8,
      cellMaximum: 4.2,
      cellLeast: 2.5,
      longLife: 4,
      discharge: true,
      wait: 3600,
      every: 5,
      timeLimit: 12 * 3600,
    },
  });
}

/** A pack of the drawer: its cells, its currents, and what its chemistry stands. */
export function packOf(setup: RunSetup<PackPlan>, cell: PlannedCell): RunSetup<PackPlan> {
  const { plan } = setup;
  if (!plan) return setup;
  const cells = Math.min(MOST_CELLS, cell.series ?? 1);
  const limits = CHEMISTRY_LIMITS[cell.chemistry];
  const current = Number((Math.min(cell.chargeRate, cell.chargeRateLimit) * cell.capacity).toPrecision(2));
  const changed = {
    ...followPack(plan, { cells }),
    current,
    load: Number((0.4 * cell.capacity).toPrecision(2)),
    cellMaximum: limits.full,
    cellLeast: limits.empty,
  };
  return { ...setup, conditions: { ...setup.conditions, cellCapacity: cell.capacity }, plan: { ...plan, ...changed } };
}

/** A charger that must let the board cut stands a little above cells × cut. */
export const followPack = (plan: PackPlan, patch: Partial<PackPlan>): Partial<PackPlan> =>
  patch.cells !== undefined || patch.cut !== undefined
    ? { ...patch, chargerVolts: Number(((patch.cells ?? plan.cells) * (patch.cut ?? plan.cut) + 0.1).toFixed(2)) }
    : patch;

export const PACK_FIELDS: readonly (PlanField | PlanChoice)[] = [
  { key: "cells", label: "Cells in series", unit: "", low: 2, high: MOST_CELLS },
  { key: "current", label: "Charge at", unit: "A", low: 0.02, high: 20 },
  { key: "cut", label: "The board is claimed to cut a cell at", unit: "V", low: 3.4, high: 4.5 },
  {
    key: "chargerVolts",
    label: "Charger regulates to",
    unit: "V",
    low: 5,
    high: 40,
    why: "slightly above cells × cut, or the charger ends it before the board does",
  },
  { key: "lowCut", label: "and below at", unit: "V", low: 1.8, high: 3.4 },
  {
    key: "cellMaximum",
    label: "Highest cell voltage allowed",
    unit: "V",
    low: 3.5,
    high: 4.45,
    why: "4.2 V for lithium-ion, 3.65 V for iron phosphate",
  },
  { key: "cellLeast", label: "and at least", unit: "V", low: 1.8, high: 3.2 },
  { key: "longLife", label: "For a long life no more than", unit: "V", low: 3.3, high: 4.2 },
  {
    key: "discharge",
    label: "Discharge it afterwards, down to its low cut?",
    of: [
      { value: true, label: "yes" },
      { value: false, label: "no" },
    ],
  },
  { key: "load", label: "at", unit: "A", low: 0.02, high: 30, where: { key: "discharge", is: true } },
  { key: "wait", label: "Wait for its release at most", unit: "s", low: 60, high: 12 * 3600 },
];

export function packRemarks(setup: RunSetup<PackPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  if (!Number.isInteger(plan.cells))
    out.push({ severity: "refused", text: "Cells in series are counted in whole ones." });
  if (plan.cut > plan.cellMaximum + 0.1)
    out.push({
      severity: "refused",
      text: `A board that cuts at ${q(plan.cut, "V")} overcharges cells that allow ${q(plan.cellMaximum, "V")}: it is made for another chemistry. Do not charge these cells with it.`,
    });
  else if (plan.cut > plan.cellMaximum)
    out.push({
      severity: "care",
      text: `The board cuts at ${q(plan.cut, "V")}, above the ${q(plan.cellMaximum, "V")} that the cells are charged to: as a last resort that is usual, as the end of every charge it ages them. Let the charger end it.`,
    });
  if (plan.lowCut < plan.cellLeast)
    out.push({
      severity: "care",
      text: `Below, it cuts at ${q(plan.lowCut, "V")}; the cells' limit is ${q(plan.cellLeast, "V")}: it lets them discharge too far.`,
    });
  if (plan.longLife < plan.cut - 0.02)
    out.push({
      severity: "fine",
      text: `For a long life the cells would stop at ${q(plan.longLife, "V")}: this board doesn't do that, a charger at ${q(plan.cells * plan.longLife, "V", { digits: 4 })} would.`,
    });
  if (plan.chargerVolts < plan.cells * plan.cut)
    out.push({
      severity: "care",
      text: `The charger regulates to ${q(plan.chargerVolts, "V", { digits: 4 })}, under ${plan.cells} × ${q(plan.cut, "V")}: with balanced cells it ends the charge, and the board's cut is never seen.`,
    });
  out.push({
    severity: "fine",
    text: `It is watched to its end, usually some hours. The release is waited for at most ${formatRoughly(plan.wait)}.`,
  });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}
