import { CHEMISTRY_LIMITS, type Chemistry } from "../cells";
import { forecastCharge } from "../fit";
import { formatQuantity, highest } from "../quantities";
import type { StationPlan } from "./station";

/** A cell as a bay gets it. */
export interface BayCell {
  readonly chemistry: Chemistry;
  /** Cells in series; a bay charges one. */
  readonly series?: number;
  /** Ah. */
  readonly capacity: number;
  /** Highest charge current its maker allows, as a multiple of the capacity an hour. */
  readonly chargeRateLimit: number;
  readonly fullVoltage?: number;
  /** V before the charge; null where it was not read: then it is taken to be empty. */
  readonly volts: number | null;
}

/** A charge as it is predicted: how long, and what the bay draws at its times. */
export interface BayForecast {
  /** s. */
  readonly seconds: number;
  /** s from its start, and A that the bay draws from the line then. */
  readonly time: readonly number[];
  readonly current: readonly number[];
}

/** Ω·Ah that a cell's resistance and capacity make, about; a bay's wires and contacts, Ω. */
const OHM_HOURS = 0.15;
const CONTACTS = 0.05;
const MOST_MOMENTS = 60;

/** Forecasts that were worked out already, by their numbers: a station asks for those of all its bays at every start. */
const forecasts = new Map<string, BayForecast>();
/** As many as are remembered: a station of 150 bays with twice as many cells. */
const REMEMBERED = 500;

/** What a charge of a cell in a bay will be like; the bay draws the cell's current, as high as its tolerance allows, and its own. */
export function forecastBay(plan: StationPlan, cell: BayCell): BayForecast {
  const key = [
    cell.chemistry,
    cell.capacity,
    cell.volts,
    cell.fullVoltage,
    plan.chargeCurrent,
    plan.currentTolerance,
    plan.quiescent,
    plan.volts,
    plan.segmentResistance,
    plan.ambient,
    plan.thermalResistance,
  ].join();
  const before = forecasts.get(key);
  if (before) return before;
  if (forecasts.size >= REMEMBERED) forecasts.delete(forecasts.keys().next().value as string);
  const forecast = workOut(plan, cell);
  forecasts.set(key, forecast);
  return forecast;
}

function workOut(plan: StationPlan, cell: BayCell): BayForecast {
  const limits = CHEMISTRY_LIMITS[cell.chemistry];
  const f = forecastCharge({
    chemistry: cell.chemistry,
    capacity: cell.capacity,
    startVoltage: cell.volts ?? limits.empty,
    current: plan.chargeCurrent,
    fullVoltage: cell.fullVoltage ?? limits.full,
    resistance: CONTACTS + OHM_HOURS / cell.capacity,
    supplyVoltage: plan.volts,
    cable: plan.segmentResistance,
    ambient: plan.ambient,
    thermalResistance: plan.thermalResistance,
  });
  const { time, current } = f.curve;
  const every = Math.max(1, Math.ceil(time.length / MOST_MOMENTS));
  const rows = time.map((_, k) => k).filter((k) => k % every === 0 || k === time.length - 1);
  return {
    seconds: f.total,
    time: rows.map((k) => time[k] ?? 0),
    current: rows.map((k) => (current[k] ?? 0) * (1 + plan.currentTolerance) + plan.quiescent),
  };
}

/** A that a bay draws so many s after its start; nothing before it and after its end. */
export function drawnAt({ seconds, time, current }: BayForecast, at: number): number {
  if (at < 0 || at > seconds) return 0;
  let [low, high] = [0, time.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((time[middle] ?? 0) <= at) low = middle;
    else high = middle - 1;
  }
  return current[low] ?? 0;
}

/** A charge under way in a bay: what it is predicted to draw, and s since it began. */
export interface BayCharge {
  readonly bay: number;
  readonly cellId: string;
  readonly forecast: BayForecast;
  readonly gone: number;
}

/** What all bays draw together, over s from now on: at each moment at which one of them changes. */
export function stackOverTime(
  charges: readonly BayCharge[],
  span: number,
): { readonly time: readonly number[]; readonly amps: readonly number[] } {
  const moments = [
    ...new Set(
      [
        0,
        span,
        ...charges.flatMap((c) => [...c.forecast.time.map((t) => t - c.gone), c.forecast.seconds - c.gone]),
      ].filter((t) => t >= 0 && t <= span),
    ),
  ].sort((a, b) => a - b);
  return {
    time: moments,
    amps: moments.map((t) => charges.reduce((sum, c) => sum + drawnAt(c.forecast, c.gone + t), 0)),
  };
}

/** Bays of a lane: they share one supply. */
export const laneOf = (bay: number, baysPerLane: number): number => Math.floor((bay - 1) / Math.max(1, baysPerLane));

/** Why a charge can't start in a bay, with what to do; what only has to be known is a caution. */
export interface StartCheck {
  readonly refused: readonly string[];
  readonly cautions: readonly string[];
  /** s from now at which the supply has room for it; 0 where it has now, null where it never has. */
  readonly roomIn: number | null;
}

export interface StartAsked {
  readonly plan: StationPlan;
  readonly baysPerLane: number;
  readonly bay: number;
  readonly cell: BayCell;
  readonly cellId: string;
  readonly title: string;
  /** Why it must not be charged any more; null where nothing speaks against it. */
  readonly rejected: string | null;
  /** V under which a cell of its kind must not be charged. */
  readonly floor: number;
  /** Charges under way in this station, and where else the cell charges. */
  readonly charges: readonly BayCharge[];
  readonly elsewhere: string | null;
  /** How a cell that charges in a bay is called. */
  titleOf(cellId: string): string;
}

const MINUTE = 60;
/** s for which a bay is still taken whose cell should be done by now. */
const OVERRUN = 600;

/** A drawn in each minute from now on, the most within it; a charge that is to begin later has `gone` below zero. */
function byMinute(charges: readonly Pick<BayCharge, "forecast" | "gone">[]): Float64Array {
  const minutes = Math.ceil(highest([0, ...charges.map((c) => c.forecast.seconds - c.gone)]) / MINUTE) + 1;
  const out = new Float64Array(minutes);
  for (const { forecast, gone } of charges)
    for (let m = Math.max(0, Math.floor(-gone / MINUTE)); m < minutes && gone + m * MINUTE <= forecast.seconds; m++)
      out[m] =
        (out[m] ?? 0) +
        highest([
          drawnAt(forecast, gone + m * MINUTE),
          drawnAt(forecast, Math.min(forecast.seconds, gone + (m + 1) * MINUTE)),
        ]);
  return out;
}

/** When the bays that share a supply of so many A leave room for a further charge, whole minutes in s from now; null where they never do. */
export function roomFor(
  asked: BayForecast,
  charges: readonly Pick<BayCharge, "forecast" | "gone">[],
  amps: number,
): number | null {
  const own = byMinute([{ forecast: asked, gone: 0 }]);
  const most = own.reduce((m, x) => Math.max(m, x), 0);
  if (most > amps) return null;
  const lane = byMinute(charges);
  for (let from = 0; from < lane.length; from++) {
    let fits = true;
    for (let m = 0; fits && m < own.length && from + m < lane.length; m++)
      fits = (own[m] ?? 0) + (lane[from + m] ?? 0) <= amps;
    if (fits) return from * MINUTE;
  }
  return lane.length * MINUTE;
}

/** Whether a cell may be charged in a bay now. */
export function checkStart(a: StartAsked): StartCheck {
  const { plan, cell } = a;
  const amps = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  const there = a.charges.find((c) => c.bay === a.bay);
  const own = a.charges.find((c) => c.cellId === a.cellId);
  const limit = cell.chargeRateLimit * cell.capacity;
  const most = plan.chargeCurrent * (1 + plan.currentTolerance);
  const forecast = forecastBay(plan, cell);
  const lane = a.charges.filter((c) => laneOf(c.bay, a.baysPerLane) === laneOf(a.bay, a.baysPerLane));
  const roomIn = roomFor(forecast, lane, plan.amps);
  const highestVolts = CHEMISTRY_LIMITS[cell.chemistry].maximum;
  const refused = [
    ...(a.rejected === null ? [] : [`${a.title} is not charged any more: ${a.rejected}.`]),
    ...(Number.isInteger(a.bay) && a.bay >= 1 && a.bay <= plan.bays
      ? []
      : [`There is no bay ${a.bay}; this station has bays 1 to ${plan.bays}.`]),
    ...(there ? [`Bay ${a.bay} is taken by ${a.titleOf(there.cellId)}. Take it out first, or use another bay.`] : []),
    ...(own && own.bay !== a.bay ? [`${a.title} charges in bay ${own.bay} already.`] : []),
    ...(a.elsewhere ? [`${a.title} charges ${a.elsewhere} already. Finish that charge first.`] : []),
    ...((cell.series ?? 1) > 1 ? [`${a.title} has ${cell.series} cells in series; a bay charges one.`] : []),
    ...(most > limit * (1 + 1e-9)
      ? [`The bay gives up to ${amps(most)}, more than the ${amps(limit)} that ${a.title} may be charged with.`]
      : []),
    ...(cell.volts !== null && cell.volts < a.floor
      ? [
          `${formatQuantity(cell.volts, "V", { digits: 3 })} is under the floor of ${formatQuantity(a.floor, "V")}: never charge a deeply discharged cell. Reject it.`,
        ]
      : []),
    ...(cell.volts !== null && cell.volts > highestVolts
      ? [
          `${formatQuantity(cell.volts, "V", { digits: 3 })} is above the ${formatQuantity(highestVolts, "V")} that such a cell may have: overcharged, or a typing error.`,
        ]
      : []),
  ];
  const wait =
    roomIn === null
      ? `One bay draws more than the ${amps(plan.amps)} of the supply.`
      : `The supply is full: with this charge its lane would draw more than ${amps(plan.amps)}. There is room in about ${Math.ceil(roomIn / 60)} min.`;
  const full = cell.volts !== null && cell.volts >= (cell.fullVoltage ?? CHEMISTRY_LIMITS[cell.chemistry].full) - 0.03;
  return {
    refused: refused.length ? refused : roomIn === 0 ? [] : [wait],
    cautions: [
      ...(cell.volts === null ? ["Its voltage was not read: the end is predicted for an empty cell."] : []),
      ...(full ? [`At ${formatQuantity(cell.volts ?? 0, "V", { digits: 3 })} it is full already.`] : []),
    ],
    roomIn,
  };
}

/** A cell that waits for a charge. */
export interface Waiting {
  readonly cellId: string;
  readonly cell: BayCell;
}

/** Bay and s from now of each start. */
export interface PlannedStart {
  readonly cellId: string;
  readonly bay: number;
  readonly at: number;
  readonly forecast: BayForecast;
}

/**
 * Starts for many cells so that no lane ever draws more than its supply gives: the lowest first, each in the free bay (free by then) that
 * lets it begin soonest. Cells whose charge alone is more than the supply gives are left out.
 */
export function plannedStarts(
  plan: StationPlan,
  baysPerLane: number,
  waiting: readonly Waiting[],
  charges: readonly BayCharge[],
): PlannedStart[] {
  const out: PlannedStart[] = [];
  const lowestFirst = [...waiting].sort((a, b) => (a.cell.volts ?? 0) - (b.cell.volts ?? 0));
  /** All charges seen from now on, as under way. */
  const all: BayCharge[] = [...charges];
  for (const w of lowestFirst) {
    const forecast = forecastBay(plan, w.cell);
    let best: PlannedStart | null = null;
    /** Bays of one lane that are free at the same time find the same room. */
    const tried = new Set<string>();
    for (let bay = 1; bay <= plan.bays && best?.at !== 0; bay++) {
      const free =
        Math.ceil(
          highest([0, ...all.filter((c) => c.bay === bay).map((c) => Math.max(OVERRUN, c.forecast.seconds - c.gone))]) /
            MINUTE,
        ) * MINUTE;
      const key = `${laneOf(bay, baysPerLane)} ${free}`;
      if (tried.has(key) || (best && free >= best.at)) continue;
      tried.add(key);
      const lane = all.filter((c) => laneOf(c.bay, baysPerLane) === laneOf(bay, baysPerLane));
      const room = roomFor(
        forecast,
        lane.map((c) => ({ ...c, gone: c.gone + free })),
        plan.amps,
      );
      if (room !== null && (!best || free + room < best.at))
        best = { cellId: w.cellId, bay, at: free + room, forecast };
    }
    if (!best) continue;
    out.push(best);
    all.push({ bay: best.bay, cellId: best.cellId, forecast, gone: -best.at });
  }
  return out;
}
