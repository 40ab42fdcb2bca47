import { characteristic, LOAD_KINDS, meetsCondition } from "../../characteristics";
import type { ClaimReading } from "../../claims";
import { err, formatQuantity, ok, type Result } from "../../quantities";
import { claimedEnds, highestClaimed, nominalOutput, smallestClaimed } from "../kit/claimed";
import type { LoadSetting, RunSetup } from "../../measurement";
import type { PlanContext, PlanRemark, WorkStretch } from "../contract";
import { chooseLoads, type LoadChoice } from "./resistors";

export interface SweepPlan {
  /** Descending, as the bench works from full to nearly empty; V. */
  readonly batteries: readonly number[];
  /** Ascending from no load to past the claimed maximum; A. */
  readonly loads: readonly number[];
  /** Load targets met from a drawer of resistors; absent with an electronic load. */
  readonly drawer?: readonly LoadChoice[];
  /** Highest load current that any claim speaks of; A. */
  readonly claimedMaximum: number | null;
  /** s before a point counts as held. */
  readonly dwell: number;
  /** A within which the highest load held is to be known. */
  readonly resolution: number;
  /** Whether the load that it starts into from off is searched, after the highest load held is known. */
  readonly starts?: boolean;
  /** How the loads draw that are started into, one search for each; as the rest of the sweep where none is named. Resistors only draw as such. */
  readonly startKinds?: readonly LoadSetting["mode"][];
  /** A into which the lowest battery voltage that it starts from is searched; none where it is absent or zero. */
  readonly startLoad?: number | null;
  /** °C at which the part stops the run. */
  readonly partLimit: number;
}

const LOAD_MODES = ["current", "resistance", "power"] as const satisfies readonly LoadSetting["mode"][];

/** The kinds of load that a sweep starts into. */
export const startKinds = (plan: SweepPlan): readonly LoadSetting["mode"][] =>
  plan.drawer ? ["resistance"] : plan.startKinds?.length ? plan.startKinds : ["current"];

/** Minutes of clipping on before the first point, and s of hands a point beyond its dwell. */
const CLIPPING_ON = 10;
const BETWEEN_POINTS = 15;

/** The time that a sweep's points hold hands, supply and load; null without a plan. */
export function sweepWork({ plan }: RunSetup<SweepPlan>): WorkStretch[] | null {
  if (!plan) return null;
  const points = plan.batteries.length * plan.loads.length;
  return [
    {
      minutes: CLIPPING_ON + Math.ceil((points * (plan.dwell + BETWEEN_POINTS)) / 60),
      needs: ["hands", "supply", "load"],
    },
  ];
}

/** Loads from a few milliamps on where efficiency bends, as shares of the top load above it. */
const LIGHT_LOADS = [0.002, 0.005, 0.01, 0.02, 0.05];
const MIDDLE_SHARES = [0.1, 0.2, 0.35, 0.5, 0.65, 0.8];
/** Around and past the claimed limit. */
const LIMIT_SHARES = [0.9, 1, 1.05, 1.1, 1.2, 1.3];
/** Where no claim speaks of a maximum. */
const DEFAULT_MAXIMUM = 1;

const round = (amps: number): number => {
  const step = amps < 0.02 ? 0.001 : amps < 0.2 ? 0.005 : 0.01;
  return Number((Math.round(amps / step) * step).toFixed(4));
};

/** The load currents of a sweep up to past `maximum` (A): dense where light-load efficiency bends and near the limit. */
export function loadLadder(maximum: number): number[] {
  const raw = [
    0,
    ...LIGHT_LOADS.filter((a) => a < 0.08 * maximum),
    ...[...MIDDLE_SHARES, ...LIMIT_SHARES].map((s) => s * maximum),
  ];
  return [...new Set(raw.map(round))].sort((a, b) => a - b);
}

/** Share of the claimed maximum that a start is tried into where nobody names a load. */
const START_SHARE = 0.5;

/** The load into which a start over battery voltages is wanted: the one that a claim names, else a share of the claimed maximum; null where nobody asks. */
export function wantedStart(
  claims: readonly { readonly readings: readonly Pick<ClaimReading, "characteristic" | "conditions">[] }[],
  wanted: PlanContext["wanted"],
  maximum: number | null,
): number | null {
  const claim = claims.flatMap((c) => c.readings).find((r) => r.characteristic === "boost.start-voltage");
  if (!claim && !wanted?.includes("boost.start-voltage")) return null;
  const at = claim?.conditions.load;
  return at && "at" in at ? at.at : round(START_SHARE * (maximum ?? DEFAULT_MAXIMUM));
}

/** The kinds of load that claims name for a start; a constant current where none does. */
export function wantedKinds(
  claims: readonly { readonly readings: readonly Pick<ClaimReading, "characteristic" | "conditions">[] }[],
): readonly LoadSetting["mode"][] {
  const named = claims
    .flatMap((c) => c.readings)
    .flatMap((r) => (r.characteristic === "boost.start-current" && r.conditions.kind ? [r.conditions.kind] : []));
  const kinds = LOAD_MODES.filter((mode) => named.some((spec) => meetsCondition("kind", spec, LOAD_KINDS[mode])));
  return kinds.length ? kinds : ["current"];
}

/**
 * The sweep that claims, house rules and rig suggest.
 *
 * Batteries are full, nominal and nearly empty. The supply's limit is the bench's. Loads that the output starts into from off are
 * searched where a claim or a need asks for them. Refused where no output voltage is known.
 */
export function planSweep(context: PlanContext): Result<RunSetup<SweepPlan>> {
  const { claims, rules, rig } = context;
  const nominal = nominalOutput(context);
  if (nominal === null || !(nominal > 0))
    return err(
      `No output voltage is known: add a claim on “${characteristic("boost.no-load-voltage")?.label}” or set the sample's output.`,
    );
  const claimedMaximum = highestClaimed(claims, "boost.max-current", rules.houseTolerance);
  const maximum = claimedMaximum && claimedMaximum > 0 ? claimedMaximum : DEFAULT_MAXIMUM;
  const loads = loadLadder(maximum);
  const rated = smallestClaimed(claims, "boost.max-current");
  const usual = [rules.batteryFull, rules.batteryNominal, rules.batteryEmpty];
  // A range of the battery is met only once both its ends were tested.
  const ends = claimedEnds(claims, ["boost.input-minimum", "boost.input-maximum"]).filter(
    (v) => !usual.some((b) => meetsCondition("battery", { at: v }, b)),
  );
  const batteries = [...usual, ...ends];
  const drawer = rig.drawer.length
    ? chooseLoads(
        loads.filter((a) => a > 0),
        nominal,
        rig.drawer,
      )
    : undefined;
  return ok({
    conditions: {
      nominalOutput: nominal,
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: rig.supplyCurrentLimit,
      ...(rated !== null ? { ratedLoad: rated } : {}),
      inputLeadResistance: rig.inputLeadResistance,
      outputLeadResistance: rig.outputLeadResistance,
      partLimitTemperature: rules.partLimit,
      ...(context.configuration?.output ? { output: context.configuration.output } : {}),
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: rig.instruments,
    plan: {
      batteries: [...new Set(batteries)].sort((a, b) => b - a),
      loads,
      ...(drawer ? { drawer } : {}),
      claimedMaximum,
      dwell: rules.dwell,
      resolution: rules.bisection,
      ...(claims.some((c) => c.readings.some((r) => r.characteristic === "boost.start-current")) ||
      context.wanted?.includes("boost.start-current")
        ? { starts: true }
        : {}),
      startKinds: drawer ? ["resistance"] : wantedKinds(claims),
      startLoad: wantedStart(claims, context.wanted, claimedMaximum),
      partLimit: rules.partLimit,
    },
  });
}

/**
 * Battery current in A that a sweep may draw at its highest load and lowest battery, at a poor efficiency of 75 %; null where a number is
 * missing. Worked: 5 V and 1.3 A from 3.1 V need 2.8 A.
 */
export function supplyNeeds(setup: RunSetup<SweepPlan>): number | null {
  const top = setup.plan?.loads.at(-1);
  const low = setup.plan?.batteries.at(-1);
  const nominal = setup.conditions.nominalOutput;
  return top && low && nominal ? (nominal * top) / (0.75 * low) : null;
}

/** Where the loads of a sweep come from, and whether the supply can give what they draw. */
export function sweepRemarks(setup: RunSetup<SweepPlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const needs = supplyNeeds(setup);
  const limit = conditions.supplyCurrentLimit;
  const drawn = needs === null ? "" : formatQuantity(needs, "A", { digits: 3 });
  return [
    {
      severity: "fine",
      text: plan.claimedMaximum
        ? `The highest claimed load is ${formatQuantity(plan.claimedMaximum, "A")}. The loads go past it to find the limit.`
        : `No claim gives a highest load. ${formatQuantity(DEFAULT_MAXIMUM, "A")} is assumed.`,
    },
    ...(needs !== null && limit && needs <= limit
      ? [{ severity: "fine" as const, text: `The sweep draws at most about ${drawn}, within the supply's limit.` }]
      : []),
  ];
}
