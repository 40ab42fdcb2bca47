import { formatDuration, formatQuantity, numeric, ok, type Result } from "../../quantities";
import { claimedNominal } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";
import { coldOpenVoltage, heldVoltage, topFor } from "./panel";

export interface SolarPlan {
  /** V of the panel with nothing on it at 25 °C, share of it a kelvin, and the coldest place it will hang in, °C. */
  readonly open: number;
  readonly coefficient: number;
  readonly coldest: number;
  /** V that the charger's input stands. */
  readonly inputMaximum: number;
  /** The divider that sets the panel's volts; null where the board has none. */
  readonly reference: number | null;
  readonly top: number;
  readonly bottom: number;
  /** V at which the panel gives most, as its label has it. */
  readonly best: number;
  /** Ah and rested V of the cell. */
  readonly capacity: number;
  readonly startVoltage: number;
  /** s of steady light that are enough, and the longest log, s. */
  readonly steady: number;
  readonly seconds: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const SOLAR_ROLES: readonly Role[] = ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"];

export function planSolar(context: PlanContext): Result<RunSetup<SolarPlan>> {
  const { claims, rules, rig, cell } = context;
  const claimed = claimedNominal(claims, "solar.panel-voltage");
  const best = claimed ?? 6;
  return ok({
    conditions: {
      partLimitTemperature: rules.partLimit,
      ambientTemperature: 22,
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: accuraciesFor(SOLAR_ROLES, rig.instruments),
    plan: {
      open: Number((best * 1.2).toPrecision(3)),
      coefficient: -0.0032,
      coldest: -15,
      inputMaximum: 10,
      reference: claimed ? null : 0.96,
      top: 430e3,
      bottom: 82e3,
      best,
      capacity: cell?.capacity ?? 2.2,
      startVoltage: 3.6,
      steady: 120,
      seconds: 3600,
      every: 0.5,
      timeLimit: 8 * 3600,
    },
  });
}

export const SOLAR_FIELDS: readonly PlanField[] = [
  { key: "open", label: "Panel's open-circuit voltage at 25 °C", unit: "V", low: 1, high: 60 },
  {
    key: "coefficient",
    label: "They change, as a share a kelvin, by",
    unit: "1",
    low: -0.01,
    high: 0,
    why: "about −0.3 %: higher in the cold",
  },
  { key: "coldest", label: "Coldest place it will hang in", unit: "°C", low: -60, high: 40 },
  { key: "inputMaximum", label: "Highest input voltage allowed", unit: "V", low: 3, high: 80 },
  {
    key: "best",
    label: "Panel's maximum-power voltage",
    unit: "V",
    low: 1,
    high: 50,
    why: "on its label; about four fifths of the open-circuit voltage",
  },
  {
    key: "reference",
    label: "Divider: the charger compares with",
    unit: "V",
    low: 0.1,
    high: 5,
    optional: true,
    why: "empty where the board has no divider",
  },
  { key: "top", label: "Divider: resistor from the panel", unit: "Ω", low: 100, high: 1e7 },
  { key: "bottom", label: "Divider: resistor to minus", unit: "Ω", low: 100, high: 1e7 },
  { key: "startVoltage", label: "Rested cell voltage now", unit: "V", low: 2.5, high: 4.2 },
  { key: "steady", label: "Steady light that is enough", unit: "s", low: 10, high: 3600 },
  { key: "seconds", label: "Log at most", unit: "s", low: 30, high: 8 * 3600 },
];

/** V that the divider sets; null where there is none. */
export const setVoltage = (p: SolarPlan | undefined): number | null =>
  p && p.reference !== null ? heldVoltage({ reference: p.reference, top: p.top, bottom: p.bottom }) : null;

export function solarRemarks(setup: RunSetup<SolarPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const q = formatQuantity;
  const out: PlanRemark[] = [];
  const cold = coldOpenVoltage(plan.open, plan.coefficient, plan.coldest);
  const says = `With nothing on it the panel shows ${q(plan.open, "V", { digits: 3 })} at 25 °C and ${q(cold, "V", { digits: 3 })} at ${q(plan.coldest, "°C")}`;
  if (cold > plan.inputMaximum)
    out.push({
      severity: "refused",
      text: `${says}, more than the input's limit of ${q(plan.inputMaximum, "V")}: a cold bright morning destroys the board. Use a panel with fewer cells in series.`,
    });
  else if (cold > 0.9 * plan.inputMaximum)
    out.push({ severity: "care", text: `${says}, close to the input's limit of ${q(plan.inputMaximum, "V")}.` });
  else out.push({ severity: "fine", text: `${says}; the input's limit is ${q(plan.inputMaximum, "V")}.` });
  const held = setVoltage(plan);
  if (held !== null) {
    const sum = `${q(numeric(plan.reference), "V", { digits: 4 })} × (1 + ${q(plan.top, "Ω")} ÷ ${q(plan.bottom, "Ω")}) = ${q(held, "V", { digits: 3 })}`;
    if (Math.abs(held - plan.best) > 0.05 * plan.best) {
      const top = topFor(plan.best, { reference: numeric(plan.reference), bottom: plan.bottom }, "E96");
      out.push({
        severity: "care",
        text: `The divider holds the panel at ${sum}, ${q(Math.abs(held - plan.best), "V", { digits: 2 })} ${held < plan.best ? "below" : "above"} its best: ${q(top, "Ω")} in place of the upper resistor gives ${q(heldVoltage({ reference: numeric(plan.reference), top, bottom: plan.bottom }), "V", { digits: 3 })}.`,
      });
    } else out.push({ severity: "fine", text: `The divider holds the panel at ${sum}.` });
    if (held >= plan.open)
      out.push({
        severity: "refused",
        text: "That is at or above what the panel shows with nothing on it: it would never charge.",
      });
  }
  out.push({
    severity: "fine",
    text: `Only stretches in which the panel's power stays within 3 % for 10 s count. They are rare outdoors: use a lamp. It ends after ${formatDuration(plan.steady)} of steady light.`,
  });
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}
