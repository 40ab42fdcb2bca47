import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, highestClaimed, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export interface HeatPlan {
  /** V of the supply in place of the battery, and A from the output. */
  readonly battery: number;
  readonly load: number;
  /** What warms it: the load on its output, or a charge from its input into a supply that plays a low cell; by the load where nothing is said. */
  readonly by?: "load" | "charge";
  /** A that the charger gives then. */
  readonly chargeCurrent?: number;
  /** s logged before the load goes on: shows what the two thermometers differ by. */
  readonly quiet: number;
  /** Longest soak, s, and K to which the settled temperature is to be known: it ends at whichever comes first. With 0 it takes its whole time. */
  readonly seconds: number;
  readonly enough: number;
  readonly thermometer: "probe" | "infrared-matt" | "infrared-shiny";
  /** °C above which a finger lets go. */
  readonly touchLimit: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const HEAT_ROLES: readonly Role[] = [
  "partTemperature",
  "ambientTemperature",
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
];
export const CHARGE_HEAT_ROLES: readonly Role[] = [
  "partTemperature",
  "ambientTemperature",
  "inputVoltage",
  "inputCurrent",
  "cellVoltage",
  "cellCurrent",
];
/** What an ordinary thermocouple or probe is good for. */
const PROBE = { gain: 0.005, counts: 10, resolution: 0.1, assumed: true } as const;
export const TOUCH = 60;

/** The claimed current, or what a small recorder takes, at the nominal battery. */
export function planHeat(context: PlanContext): Result<RunSetup<HeatPlan>> {
  const { claims, rules, rig } = context;
  const claimed = highestClaimed(claims, "boost.max-current", rules.houseTolerance);
  const nominal = nominalOutput(context);
  // A board that only charges is warmed by its charge, worst into a low cell.
  const folds =
    context.measured?.["charge.foldback-onset-temperature"] ??
    claimedNominal(claims, "charge.foldback-onset-temperature");
  const by = context.functions?.includes("charger") && !context.functions.includes("boost") ? "charge" : "load";
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: rig.supplyCurrentLimit,
      ambientTemperature: 22,
      partLimitTemperature: rules.partLimit,
      ...(by === "charge" && folds ? { foldbackTemperature: folds } : {}),
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: {
      partTemperature: PROBE,
      ambientTemperature: PROBE,
      ...accuraciesFor([...new Set([...HEAT_ROLES, ...CHARGE_HEAT_ROLES])], rig.instruments),
    },
    plan: {
      by,
      chargeCurrent: claimedNominal(claims, "charge.cc-current") ?? context.measured?.["charge.cc-current"] ?? 0.5,
      battery: by === "charge" ? rules.batteryEmpty : rules.batteryNominal,
      load: claimed ? Number((0.8 * claimed).toPrecision(2)) : 0.5,
      quiet: 60,
      seconds: 3600,
      enough: 1,
      thermometer: "probe",
      touchLimit: rules.touchLimit,
      every: 2,
      timeLimit: 2 * 3600,
    },
  });
}

export const HEAT_FIELDS: readonly (PlanField | PlanChoice)[] = [
  {
    key: "thermometer",
    label: "What reads the part's temperature?",
    of: [
      { value: "probe", label: "a probe or thermocouple on the part" },
      { value: "infrared-matt", label: "infrared on tape or matt black" },
      { value: "infrared-shiny", label: "infrared on the bare part" },
    ],
  },
  {
    key: "by",
    label: "What warms it?",
    of: [
      { value: "load", label: "a load on its output" },
      { value: "charge", label: "a charge, into a supply that plays a low cell" },
    ],
  },
  { key: "battery", label: "Battery at", unit: "V", low: 2, high: 13 },
  {
    key: "chargeCurrent",
    label: "Charge current set",
    unit: "A",
    low: 0.02,
    high: 5,
    where: { key: "by", is: "charge" },
  },
  {
    key: "load",
    label: "Load on the output",
    unit: "A",
    low: 0.01,
    high: 10,
    why: "the load in use, or four fifths of the claim",
  },
  {
    key: "quiet",
    label: "Before the load, log for",
    unit: "s",
    low: 0,
    high: 600,
    why: "shows by how much the two thermometers differ",
  },
  { key: "enough", label: "Stop when the settled temperature is known within", unit: "K", low: 0.1, high: 10 },
  { key: "seconds", label: "At the latest stop after", unit: "s", low: 60, high: 4 * 3600 },
  {
    key: "touchLimit",
    label: "Too hot to touch above",
    unit: "°C",
    low: 40,
    high: 80,
    why: "a finger lets go of metal at about 60 °C",
  },
];

export function heatRemarks(setup: RunSetup<HeatPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  if (plan.thermometer === "infrared-shiny")
    out.push({
      severity: "care",
      text: "Infrared on bare metal or a shiny case reads far too low. Put matt tape or paint on the part, or the result is not fairly tested.",
    });
  if (plan.quiet < 15)
    out.push({
      severity: "care",
      text: "Without a moment before the load nothing shows what the two thermometers differ by: all of it stays as doubt of the rise.",
    });
  if (plan.seconds < 300)
    out.push({
      severity: "care",
      text: `Boards take some minutes to warm: after ${formatDuration(plan.seconds)} most of the rise may still be to come, and the prediction is vague.`,
    });
  if (plan.by === "charge")
    out.push({
      severity: "care",
      text: `The supply in place of the cell can't take ${formatQuantity(plan.chargeCurrent ?? 0, "A")} in: preload it with a resistor of ${formatQuantity(plan.battery / (1.3 * (plan.chargeCurrent || 0.5)), "Ω", { digits: 2 })} or less, of at least ${formatQuantity(2 * 1.3 * (plan.chargeCurrent || 0.5) * plan.battery, "W", { digits: 2 })}.`,
    });
  const watts =
    plan.by !== "charge" && setup.conditions.nominalOutput ? setup.conditions.nominalOutput * plan.load : null;
  if (watts !== null)
    out.push({
      severity: "fine",
      text: `At ${formatQuantity(plan.load, "A")} the output gives ${formatQuantity(watts, "W", { digits: 2 })}; a converter of 85 to 95 % turns ${formatQuantity(watts / 0.95 - watts, "W", { digits: 2 })} to ${formatQuantity(watts / 0.85 - watts, "W", { digits: 2 })} into heat.`,
    });
  out.push({
    severity: "fine",
    text: "It ends once the prediction is good enough, usually after one to two time constants (10 to 20 min).",
  });
  return out;
}
