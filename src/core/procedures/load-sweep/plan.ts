import { characteristic } from "../../characteristics";
import { err, ok, type Result } from "../../quantities";
import { highestClaimed, nominalOutput } from "../claimed";
import type { PlanContext, RunSetup } from "../shape";
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
  /** °C at which the part stops the run. */
  readonly partLimit: number;
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
  const raw = [0, ...LIGHT_LOADS.filter((a) => a < 0.08 * maximum), ...[...MIDDLE_SHARES, ...LIMIT_SHARES].map((s) => s * maximum)];
  return [...new Set(raw.map(round))].sort((a, b) => a - b);
}

/**
 * The sweep that claims, house rules and rig suggest.
 *
 * Batteries are full, nominal and nearly empty. The supply's limit leaves room above what the claimed maximum draws at
 * the lowest battery with a poor efficiency (75 %), so that the supply is not the one to give up; it is capped by what
 * the supply can do. Refused where no output voltage is known.
 */
export function planSweep(context: PlanContext): Result<RunSetup<SweepPlan>> {
  const { claims, rules, rig } = context;
  const nominal = nominalOutput(context);
  if (nominal === null || !(nominal > 0))
    return err(`No output voltage is known: add a claim on “${characteristic("boost.no-load-voltage")?.label}” or set the sample's output.`);
  const claimedMaximum = highestClaimed(claims, "boost.max-current", rules.houseTolerance);
  const maximum = claimedMaximum && claimedMaximum > 0 ? claimedMaximum : DEFAULT_MAXIMUM;
  const loads = loadLadder(maximum);
  const batteries = [rules.batteryFull, rules.batteryNominal, rules.batteryEmpty];
  const top = loads[loads.length - 1] ?? maximum;
  const wanted = Math.ceil(((nominal * top) / (0.75 * rules.batteryEmpty)) * 10) / 10;
  const drawer = rig.drawer.length ? chooseLoads(loads.filter((a) => a > 0), nominal, rig.drawer) : undefined;
  return ok({
    conditions: {
      nominalOutput: nominal,
      regulationBand: rules.regulationBand,
      supplyCurrentLimit: Math.min(wanted, rig.supplyCurrentLimit),
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
      partLimit: rules.partLimit,
    },
  });
}
