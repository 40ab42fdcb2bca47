import { formatQuantity, ok, type Result } from "../../quantities";
import { highestClaimed, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface ReversePlan {
  /** V of the supply that plays the battery, forwards and reversed. */
  readonly battery: number;
  /** A of the one load point that is repeated afterwards. */
  readonly load: number;
  /** Ω in series while the leads are swapped, and W that the resistor stands. */
  readonly ohms: number;
  readonly watts: number;
  /** A that the supply gives at most while they are. */
  readonly reverseLimit: number;
  readonly repeats: number;
  /** s that a setting stands before its reading counts. */
  readonly dwell: number;
  readonly partLimit: number;
}

export const REVERSE_ROLES: readonly Role[] = [
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "partTemperature",
];

/** A third of the claimed load before and after; 33 Ω and a low limit keep what flows the wrong way near a tenth of an ampere. */
export function planReverse(context: PlanContext): Result<RunSetup<ReversePlan>> {
  const { claims, rules, rig } = context;
  const nominal = nominalOutput(context);
  const most = highestClaimed(claims, "boost.max-current", rules.houseTolerance) ?? 1;
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: Math.min(2, rig.supplyCurrentLimit),
      inputLeadResistance: rig.inputLeadResistance,
      outputLeadResistance: rig.outputLeadResistance,
    },
    instruments: accuraciesFor(REVERSE_ROLES, rig.instruments),
    plan: {
      battery: rules.batteryNominal,
      load: Number(Math.min(0.5, Math.max(0.05, most / 3)).toPrecision(2)),
      ohms: 33,
      watts: 1,
      reverseLimit: 0.2,
      repeats: 1,
      dwell: rules.dwell,
      partLimit: rules.partLimit,
    },
  });
}

export const REVERSE_FIELDS: readonly PlanField[] = [
  { key: "battery", label: "Supply in place of the cell", unit: "V", low: 2.5, high: 15 },
  { key: "load", label: "One load point, before and after", unit: "A", low: 0.005, high: 5 },
  {
    key: "ohms",
    label: "Series resistor while reversed",
    unit: "Ω",
    low: 4.7,
    high: 10_000,
    why: "always needed: it limits the current",
  },
  { key: "watts", label: "Its rating", unit: "W", low: 0.05, high: 100 },
  { key: "reverseLimit", label: "Limit of the supply while reversed", unit: "A", low: 0.005, high: 1 },
  { key: "repeats", label: "Times it is reversed", unit: "", low: 1, high: 5 },
];

export function reverseRemarks(setup: RunSetup<ReversePlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const amps = Math.min(plan.reverseLimit, plan.battery / plan.ohms);
  const watts = amps * amps * plan.ohms;
  const out: PlanRemark[] = [];
  if (watts > plan.watts)
    out.push({
      severity: "refused",
      text: `${q(watts, "W", { digits: 2 })} in a resistor of ${q(plan.watts, "W")}: it burns out. Take one of at least ${q(2 * watts, "W", { digits: 2 })}, or more ohms.`,
    });
  else if (watts > plan.watts / 2)
    out.push({
      severity: "care",
      text: `${q(watts, "W", { digits: 2 })} in a resistor of ${q(plan.watts, "W")} is more than half its rating: keep each reversal to seconds.`,
    });
  if (amps > 0.5)
    out.push({
      severity: "care",
      text: `Up to ${q(amps, "A", { digits: 2 })} may flow in reverse: few boards survive that. Use a larger resistor unless you want to destroy the board.`,
    });
  out.push({
    severity: "fine",
    text: `At most ${q(amps, "A", { digits: 2 })} can flow the wrong way. Five readings in all${plan.repeats > 1 ? `, and one for each further reversal` : ""}: two before, one while reversed, two after.`,
  });
  return out;
}
