import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface LightLoadPlan {
  /** V of the supply in place of the battery. */
  readonly battery: number;
  /** A that the load begins at, A that it is lowered by, and the least. */
  readonly from: number;
  readonly step: number;
  readonly least: number;
  /** s at each load: longer than the switch-off takes. */
  readonly dwell: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const LIGHT_ROLES: readonly Role[] = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"];

/** Loads from well above the claimed switch-off down to nothing. */
export function planLightLoad(context: PlanContext): Result<RunSetup<LightLoadPlan>> {
  const { claims, rules, rig, cell } = context;
  const claimed = claimedNominal(claims, "standby.auto-off-current");
  const delay = claimedNominal(claims, "standby.auto-off-delay");
  const nominal = nominalOutput(context);
  const from = claimed ? Number((2 * claimed).toPrecision(2)) : 0.1;
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: 1,
      usableCapacity: Number((0.95 * (cell?.capacity ?? 2.2)).toFixed(3)),
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    // The last digits of an ampere range are all there is of a light load.
    instruments: {
      ...accuraciesFor(LIGHT_ROLES, rig.instruments),
      outputCurrent: { gain: 0.002, counts: 4, resolution: 1e-4, assumed: true },
    },
    plan: {
      battery: rules.batteryNominal,
      from,
      step: Number((from / 20).toPrecision(1)),
      least: 0,
      dwell: delay ? Math.ceil(1.5 * delay) : 45,
      every: 0.5,
      timeLimit: 4 * 3600,
    },
  });
}

export const LIGHT_FIELDS: readonly PlanField[] = [
  { key: "battery", label: "Battery at", unit: "V", low: 2, high: 4.5 },
  { key: "from", label: "Load begins at", unit: "A", low: 0.001, high: 1 },
  { key: "step", label: "and is lowered in steps of", unit: "A", low: 0.0005, high: 0.2 },
  { key: "least", label: "down to", unit: "A", low: 0, high: 0.5 },
  {
    key: "dwell",
    label: "At each load for",
    unit: "s",
    low: 2,
    high: 1800,
    why: "longer than the switch-off takes, or the step is blamed that only saw it happen",
  },
];

/** Loads from the first to the least, A. */
export function ladder(p: LightLoadPlan): number[] {
  const out: number[] = [];
  for (let k = 0; k < 400; k++) {
    const a = Number((p.from - k * p.step).toFixed(5));
    if (a <= p.least + 1e-9) break;
    out.push(a);
  }
  return [...out, p.least];
}

export function lightRemarks(setup: RunSetup<LightLoadPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  if (plan.from <= plan.least) out.push({ severity: "refused", text: "The first load is at or below the last one." });
  if (plan.dwell < 20)
    out.push({
      severity: "care",
      text: "Many boards wait half a minute before they switch off: with a shorter stay at each load the wrong step is blamed.",
    });
  const meter = setup.instruments.outputCurrent;
  if (meter && plan.step < 2 * meter.counts * meter.resolution)
    out.push({
      severity: "care",
      text: `The load's ammeter is sure only to ±${formatQuantity(meter.counts * meter.resolution, "A")}: finer steps show nothing more.`,
    });
  out.push({
    severity: "fine",
    text: `If it never switches off it takes ${formatDuration(ladder(plan).length * plan.dwell)}.`,
  });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}
