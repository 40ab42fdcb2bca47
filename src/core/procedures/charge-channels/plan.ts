import { CHEMISTRY_LIMITS } from "../../cells";
import { formatQuantity, ok, type Result } from "../../quantities";
import type { PlanField } from "../kit/plan-fields";
import { accuraciesFor, type Role, type PlannedCell, type RunSetup } from "../../measurement";
import type { PlanContext, PlanRemark } from "../contract";

export interface ChannelsPlan {
  readonly cell: PlannedCell | null;
  /** Charger ICs on the one cell, each with a light of its own. */
  readonly channels: number;
  /** Charges in which each of them is seen. */
  readonly repeats: number;
  /** V at which the cell counts as full. */
  readonly fullVoltage: number;
  /** V of the input supply. */
  readonly supplyVoltage: number;
}

export const CHANNELS_ROLES: readonly Role[] = ["cellVoltage", "cellCurrent"];

/** Two channels over three charges: the least that tells their scatter. */
export function planChannels({ claims, rules, rig, cell }: PlanContext): Result<RunSetup<ChannelsPlan>> {
  const full = claims.flatMap((c) => c.readings).find((r) => r.characteristic === "charge.cv-voltage");
  return ok({
    conditions: { ...(cell ? { cellCapacity: cell.capacity } : {}) },
    instruments: accuraciesFor(CHANNELS_ROLES, rig.instruments),
    plan: {
      cell: cell ?? null,
      channels: 2,
      repeats: 3,
      fullVoltage: full?.limit.kind === "nominal" ? full.limit.nominal : rules.chargeFull,
      supplyVoltage: 5,
    },
  });
}

export const channelsOf = (setup: RunSetup<ChannelsPlan>, cell: PlannedCell): RunSetup<ChannelsPlan> =>
  setup.plan
    ? { ...setup, conditions: { ...setup.conditions, cellCapacity: cell.capacity }, plan: { ...setup.plan, cell } }
    : setup;

export const CHANNELS_FIELDS: readonly PlanField[] = [
  { key: "channels", label: "Channels, each with its own light", unit: "", low: 2, high: 12 },
  { key: "repeats", label: "Charges", unit: "", low: 1, high: 20, why: "three tell how far each channel wanders" },
  { key: "fullVoltage", label: "Full voltage", unit: "V", low: 3, high: 5 },
  { key: "supplyVoltage", label: "Input supply", unit: "V", low: 3, high: 30 },
];

/** What stands against the plan, worst first. */
export function channelsRemarks({ plan }: RunSetup<ChannelsPlan>): PlanRemark[] {
  if (!plan) return [];
  const out: PlanRemark[] = [];
  const whole = (n: number) => Number.isInteger(n);
  if (!plan.cell) out.push({ severity: "refused", text: "Choose the cell that is to be charged." });
  if (!whole(plan.channels) || !whole(plan.repeats))
    out.push({ severity: "refused", text: "Channels and charges are whole numbers." });
  const most = plan.cell ? CHEMISTRY_LIMITS[plan.cell.chemistry].maximum : null;
  if (most !== null && plan.fullVoltage > most)
    out.push({
      severity: "refused",
      text: `${formatQuantity(plan.fullVoltage, "V")} is above the ${formatQuantity(most, "V")} that this cell may have.`,
    });
  if (plan.repeats === 1)
    out.push({ severity: "care", text: "One charge tells nothing of how far the channels wander. Plan three." });
  out.push({
    severity: "fine",
    text: `${plan.channels * plan.repeats} signals over ${plan.repeats === 1 ? "one charge" : `${plan.repeats} charges`}. Begin each with the cell at about the same state of charge.`,
  });
  return out;
}
