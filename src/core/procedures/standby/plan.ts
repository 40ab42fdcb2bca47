import { formatDuration, formatQuantity, ok, type Result } from "../../quantities";
import { claimedNominal, nominalOutput } from "../kit/claimed";
import { accuraciesFor, type Role, type PlannedCell, type RunSetup } from "../../measurement";
import type { PlanChoice, PlanField } from "../kit/plan-fields";
import type { PlanContext, PlanRemark } from "../contract";

export const STANDBY_STATES = ["no-load", "output-off", "auto-off", "cut-off"] as const;
export type StandbyState = (typeof STANDBY_STATES)[number];

export interface StandbyPlan {
  readonly states: readonly StandbyState[];
  /** V of the supply in place of the battery. */
  readonly battery: number;
  /** s measured in each state: whole wake periods many times over. */
  readonly seconds: number;
  /** s that a state is left alone before it is measured. */
  readonly settle: number;
  /** s after which the output is expected to have switched itself off. */
  readonly autoOff: number;
  /** V down to which the battery is taken to make the module cut off, and V at which it is measured then. */
  readonly cutTo: number;
  readonly cutAt: number;
  /** Burden of the ammeter in this range, Ω. */
  readonly shunt: number;
  readonly every: number;
  readonly timeLimit: number;
}

export const STANDBY_ROLES: readonly Role[] = ["batteryCurrent", "batteryVoltage", "outputVoltage"];

/** Self-discharge of an ordinary lithium cell: two per cent of its capacity a month, as a current for 1 Ah. */
const SELF_DISCHARGE = 0.02 / (30 * 24);

/** The states that claims speak of, and those that cost a forgotten cell its life. */
export function planStandby(context: PlanContext): Result<RunSetup<StandbyPlan>> {
  const { claims, rules, rig, cell } = context;
  const named = new Set(
    claims
      .flatMap((c) => c.readings)
      .flatMap((r) =>
        r.characteristic === "standby.current" && r.conditions.state && "word" in r.conditions.state
          ? [r.conditions.state.word]
          : [],
      ),
  );
  const autoOff = claims.some((c) => c.readings.some((r) => r.characteristic.startsWith("standby.auto-off")));
  const protects = claims.some((c) => c.readings.some((r) => r.characteristic.startsWith("protect.over-discharge")));
  const cut = claimedNominal(claims, "protect.over-discharge-voltage") ?? 2.8;
  const states = STANDBY_STATES.filter(
    (s) => s === "no-load" || named.has(s) || (s === "auto-off" && autoOff) || (s === "cut-off" && protects),
  );
  const capacity = cell?.capacity ?? 2.2;
  const nominal = nominalOutput(context);
  return ok({
    conditions: {
      ...(nominal ? { nominalOutput: nominal } : {}),
      usableCapacity: Number((0.95 * capacity).toFixed(3)),
      cellSelfDischargeCurrent: Number((capacity * SELF_DISCHARGE).toPrecision(2)),
      supplyCurrentLimit: 0.5,
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: {
      ...accuraciesFor(STANDBY_ROLES, rig.instruments),
      batteryCurrent: { gain: 0.001, counts: 4, resolution: 1e-6, assumed: true },
    },
    plan: {
      states,
      battery: rules.batteryNominal,
      seconds: 240,
      settle: 5,
      autoOff: 60,
      cutTo: Number((cut - 0.4).toFixed(2)),
      cutAt: Number((cut - 0.1).toFixed(2)),
      shunt: 0.1,
      every: 0.5,
      timeLimit: 4 * 3600,
    },
  });
}

/** Standby life is stated for a cell: 95 % of what it is rated for, and its own self-discharge. */
export const standbyOf = (setup: RunSetup<StandbyPlan>, cell: PlannedCell): RunSetup<StandbyPlan> => ({
  ...setup,
  conditions: {
    ...setup.conditions,
    usableCapacity: Number((0.95 * cell.capacity).toFixed(3)),
    cellSelfDischargeCurrent: Number((cell.capacity * SELF_DISCHARGE).toPrecision(2)),
  },
});

export const STANDBY_FIELDS: readonly (PlanField | PlanChoice)[] = [
  {
    key: "states",
    label: "Idle states to measure",
    many: true,
    of: [
      { value: "no-load", label: "output on, no load" },
      { value: "output-off", label: "output switched off by its button" },
      { value: "auto-off", label: "after it switched itself off" },
      { value: "cut-off", label: "after the over-discharge cut" },
    ],
  },
  { key: "battery", label: "Battery at", unit: "V", low: 2, high: 4.5 },
  {
    key: "seconds",
    label: "Measured in each state for",
    unit: "s",
    low: 10,
    high: 7200,
    why: "many wake pulses: a snapshot is wrong",
  },
  { key: "settle", label: "Left alone before that for", unit: "s", low: 0, high: 600 },
  { key: "autoOff", label: "Switches itself off within", unit: "s", low: 1, high: 3600 },
  { key: "cutTo", label: "To cut it off, go down to", unit: "V", low: 1, high: 3.5 },
  { key: "cutAt", label: "and measure it then at", unit: "V", low: 1, high: 3.6 },
  {
    key: "shunt",
    label: "Burden of the ammeter in its range",
    unit: "Ω",
    low: 0,
    high: 20000,
    why: "as its data sheet has it; microamp ranges have hundreds of ohms",
  },
];

/** What stands against the planned measurement, worst first. */
export function standbyRemarks(setup: RunSetup<StandbyPlan>): PlanRemark[] {
  const { plan } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  if (plan.states.length === 0) out.push({ severity: "refused", text: "Choose at least one idle state." });
  if (plan.seconds < 60)
    out.push({
      severity: "care",
      text: "Less than a minute may miss the wake pulses of a gauge or a radio: their mean is what counts.",
    });
  if (plan.shunt > 50)
    out.push({
      severity: "care",
      text: `A burden of ${formatQuantity(plan.shunt, "Ω")} takes ${formatQuantity(0.01 * plan.shunt, "V")} at a pulse of 10 mA: start the board with the ammeter bypassed, and watch the battery voltage.`,
    });
  const meter = setup.instruments.batteryCurrent;
  if (meter && meter.counts * meter.resolution > 5e-5)
    out.push({
      severity: "care",
      text: `The ammeter is sure only to ±${formatQuantity(meter.counts * meter.resolution, "A")} near zero: a standby of microamps needs a finer range.`,
    });
  out.push({
    severity: "fine",
    text: `It takes about ${formatDuration(Math.ceil((plan.states.length * (plan.seconds + plan.settle + 10)) / 60) * 60)}.`,
  });
  return out;
}
