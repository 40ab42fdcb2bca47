import { CHEMISTRY_LIMITS } from "../../cells";
import { checkChargeCurrent, forecastCharge, type CurrentCheck, type Forecast } from "../../fit";
import { formatQuantity, formatRoughly, ok, type Result } from "../../quantities";
import { accuraciesFor, type PlannedCell, type RunSetup } from "../../measurement";
import { claimedEnds, claimedNominal } from "../kit/claimed";
import type { PlanContext, PlanRemark, PredictedCurve, PredictedFigure, WorkStretch } from "../contract";

export interface ChargePlan {
  /** Null until one is chosen. */
  readonly cell: PlannedCell | null;
  /** V that the rested cell shows before it is connected; null until it was measured. */
  readonly startVoltage: number | null;
  /** V that the charger regulates to, as claimed. */
  readonly fullVoltage: number;
  /** The input at its source, V, what it can give, A, and its cable there and back, Ω. */
  readonly supplyVoltage: number;
  readonly supplyLimit: number;
  readonly cable: number;
  /** Linear where nothing is said, and the share of the input's power that reaches the cell where it switches. */
  readonly charger?: "linear" | "switching";
  readonly efficiency?: number;
  /** Part's rise a watt, K/W: a guess until it was measured. */
  readonly thermalResistance: number;
  /** Least input that the charger is claimed to work from, V. */
  readonly leastInput: number;
  /** s between samples. */
  readonly every: number;
  readonly partLimit: number;
  readonly cellLimit: number;
  readonly rejectFloor: number;
  /** s after which the charge is stopped, whatever it does. */
  readonly timeLimit: number;
}

/** Roles that a charge logs. */
export const CHARGE_ROLES = ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent", "partTemperature"] as const;
/** Series resistance of an ordinary cell and its wires, Ω Ah: 0.15 Ω for 1 Ah. */
const OHM_HOURS = 0.15;

/** V that a charger of this kind is usually fed with. */
const USUAL_INPUT = 5;

/** The input of the next charge: the usual one first, then the ends of the range that claims give and no run has reached yet, V. */
function nextInput({ claims, measured }: PlanContext): number {
  const tested = measured?.["charge.cc-current"] !== undefined;
  const [low] = claimedEnds(claims, ["charge.input-minimum"]);
  const [high] = claimedEnds(claims, ["charge.input-maximum"]);
  if (tested && low !== undefined && (measured?.["charge.input-minimum"] ?? USUAL_INPUT) > low * 1.01) return low;
  if (tested && high !== undefined && (measured?.["charge.input-maximum"] ?? USUAL_INPUT) < high * 0.99) return high;
  return USUAL_INPUT;
}

/** The charge that claims, house rules and rig suggest; the cell is chosen where it is prepared. */
export function planCharge(context: PlanContext): Result<RunSetup<ChargePlan>> {
  const { claims, rules, rig, cell } = context;
  const claimed = (name: string) => claimedNominal(claims, name);
  const current = claimed("charge.cc-current");
  return ok({
    conditions: {
      ...(current ? { programmedCurrent: current } : {}),
      ...(cell ? { cellCapacity: cell.capacity } : {}),
      ambientTemperature: 22,
      partLimitTemperature: rules.partLimit,
      ...(context.configuration?.words ? { configuration: context.configuration.words } : {}),
    },
    instruments: accuraciesFor([...CHARGE_ROLES], rig.instruments),
    plan: {
      cell: cell ?? null,
      startVoltage: null,
      fullVoltage: claimed("charge.cv-voltage") ?? rules.chargeFull,
      supplyVoltage: nextInput(context),
      supplyLimit: rig.supplyCurrentLimit,
      cable: 0.1,
      charger: "linear",
      efficiency: context.measured?.["charge.efficiency"] ?? claimed("charge.efficiency") ?? 0.88,
      // On a board that boosts, a soak by its load warmed another part than the charger.
      thermalResistance:
        (context.functions?.includes("boost") ? undefined : context.measured?.["heat.thermal-resistance"]) ?? 40,
      leastInput: 4.5,
      every: 1,
      partLimit: rules.partLimit,
      cellLimit: rules.cellLimit,
      rejectFloor: rules.rejectFloor,
      timeLimit: 12 * 3600,
    },
  });
}

/** What stands against a planned charge, worst first; a charge with anything refused isn't started. */
export function checkChargePlan(setup: RunSetup<ChargePlan>): PlanRemark[] {
  const { plan, conditions } = setup;
  if (!plan) return [];
  const out: PlanRemark[] = [];
  const put = (severity: PlanRemark["severity"], text: string) => out.push({ severity, text });
  const current = conditions.programmedCurrent;
  const { cell, startVoltage } = plan;
  if (!cell) put("refused", "Choose the cell that is to be charged.");
  if (!current) put("refused", "Enter the charge current.");
  if (cell) {
    const limits = CHEMISTRY_LIMITS[cell.chemistry];
    const floor = Math.max(
      limits.rejectFloor,
      cell.chemistry === "lithium-ion" ? plan.rejectFloor : limits.rejectFloor,
    );
    if (plan.fullVoltage > limits.maximum)
      put(
        "refused",
        `The charger goes to ${formatQuantity(plan.fullVoltage, "V")}; a ${limits.label.split(",")[0]} cell must never exceed ${formatQuantity(limits.maximum, "V")}. Do not charge this cell with it.`,
      );
    else if (plan.fullVoltage > cell.fullVoltage + 0.03)
      put(
        "care",
        `The charger goes to ${formatQuantity(plan.fullVoltage, "V")}, above the ${formatQuantity(cell.fullVoltage, "V")} that this cell's rule asks for: it ages faster.`,
      );
    if (startVoltage === null) put("refused", "Measure the rested cell before connecting it, and enter its voltage.");
    else if (startVoltage <= 0)
      put(
        "refused",
        `The cell shows ${formatQuantity(startVoltage, "V")}: the leads are reversed, or it is dead. Do not connect it.`,
      );
    else if (startVoltage < floor)
      put(
        "refused",
        `The cell shows ${formatQuantity(startVoltage, "V")}, under the floor of ${formatQuantity(floor, "V")}: reject it, mark it and take it to a collection point. A cell that low can short inside while it charges.`,
      );
    else if (startVoltage > plan.fullVoltage + 0.02)
      put(
        "refused",
        `The cell shows ${formatQuantity(startVoltage, "V")}, more than the charger goes to: it is full, or another cell than written.`,
      );
    else if (startVoltage > plan.fullVoltage - 0.12)
      put("care", "The cell is nearly full: the constant-current phase will be short or missing.");
    if (current) {
      const check: CurrentCheck = checkChargeCurrent(current, cell.capacity, cell.chargeRateLimit, cell.chargeRate);
      put(check.verdict === "refused" ? "refused" : check.verdict === "within" ? "fine" : "care", check.message);
    }
  }
  const f = forecastFor(setup);
  if (f && current) {
    if (f.supply.amps > plan.supplyLimit)
      put(
        "care",
        `The supply gives at most ${formatQuantity(plan.supplyLimit, "A")}, the charger needs ${formatQuantity(f.supply.amps, "A", { digits: 3 })}: the supply would limit the current, and the test would not be fair.`,
      );
    if (plan.supplyVoltage < f.supply.leastVoltage)
      put(
        "care",
        `At full current the input would need about ${formatQuantity(f.supply.leastVoltage, "V", { digits: 3 })} at its source: near the end the supply, not the charger, sets the current. Use a shorter cable or a slightly higher voltage.`,
      );
    if (f.heat.temperature > plan.partLimit)
      put(
        "care",
        `The part may reach ${formatQuantity(f.heat.temperature, "°C", { digits: 2 })} near the beginning; it will reduce its current, or the stop rule at ${formatQuantity(plan.partLimit, "°C")} ends the charge. Cool it, or lower the input voltage.`,
      );
  }
  const rank = { refused: 0, care: 1, fine: 2 };
  return out.sort((a, b) => rank[a.severity] - rank[b.severity]);
}

/** What the planned charge will be like; null while cell, start voltage or current are missing. */
export function forecastFor({ plan, conditions }: RunSetup<ChargePlan>): Forecast | null {
  const current = conditions.programmedCurrent;
  if (!plan?.cell || plan.startVoltage === null || !(plan.startVoltage > 0) || !current) return null;
  const { chemistry, capacity } = plan.cell;
  return forecastCharge({
    chemistry,
    capacity,
    startVoltage: plan.startVoltage,
    current,
    fullVoltage: plan.fullVoltage,
    resistance: Math.max(0.05, OHM_HOURS / capacity),
    supplyVoltage: plan.supplyVoltage,
    cable: plan.cable,
    ambient: conditions.ambientTemperature ?? 22,
    thermalResistance: plan.thermalResistance,
    ...(plan.charger === "switching" ? { switching: plan.efficiency ?? 0.88 } : {}),
  });
}

/** The time a planned charge holds supply and logger, hands at its beginning; null where it can't be foreseen. */
export function chargeWork(setup: RunSetup<ChargePlan>): WorkStretch[] | null {
  const f = forecastFor(setup);
  return f
    ? [
        { minutes: 15, needs: ["hands", "supply", "logger"] },
        { minutes: Math.max(1, Math.ceil(f.total / 60)), needs: ["supply", "logger"] },
      ]
    : null;
}

/** The charge of a plan as curves, from its first current on; none where the cell, its voltage or the current is not known. */
export function predictCharge(setup: RunSetup<ChargePlan>): PredictedCurve[] {
  const curve = forecastFor(setup)?.curve;
  if (!curve || curve.time.length < 2) return [];
  return [
    { role: "cellCurrent", time: curve.time, values: curve.current },
    { role: "cellVoltage", time: curve.time, values: curve.voltage },
    { role: "partTemperature", time: curve.time, values: curve.temperature },
  ];
}

/** The prediction in figures: how long each phase takes, what the cell gets, how hot the part becomes, what the supply gives. */
export function chargeFigures(setup: RunSetup<ChargePlan>): PredictedFigure[] {
  const f = forecastFor(setup);
  if (!f) return [];
  return [
    { label: "total, about", text: formatRoughly(f.total), main: true },
    ...f.phases.map((ph) => ({ label: ph.name, text: formatRoughly(ph.seconds) })),
    { label: "charge delivered", text: formatQuantity(f.charge, "Ah", { digits: 3 }) },
    {
      label: `hottest, after ${formatRoughly(f.heat.at)}`,
      text: `${formatQuantity(f.heat.watts, "W", { digits: 2 })}, part at ${formatQuantity(f.heat.temperature, "°C", { digits: 2 })}`,
    },
    {
      label: "supply current",
      text: `${formatQuantity(f.supply.amps, "A", { digits: 3 })} at ${formatQuantity(f.supply.leastVoltage, "V", { digits: 3 })}`,
    },
  ];
}

/** The set-up for a cell of the drawer; its voltage has to be read anew. */
export const chargeOf = (setup: RunSetup<ChargePlan>, cell: PlannedCell): RunSetup<ChargePlan> =>
  setup.plan
    ? {
        ...setup,
        conditions: { ...setup.conditions, cellCapacity: cell.capacity },
        plan: { ...setup.plan, cell, startVoltage: null },
      }
    : setup;
