import { readingOf, type Accuracy } from "../../instruments";
import {
  add,
  divide,
  ELEMENTS,
  exact,
  multiply,
  rectangular,
  subtract,
  uncertain,
  type Uncertain,
  leads,
} from "../../quantities";
import {
  currentOfSetting,
  type Role,
  type Corrections,
  type LoadSetting,
  type Point,
  type RunConditions,
  type RunSetup,
} from "../../measurement";

const { nth } = ELEMENTS;

/** Share of a stated lead resistance that is taken as its half width of uncertainty. */
export const LEAD_RESISTANCE_SHARE = 0.02;
/** A run without set voltages is split into columns wherever the battery volts jump by more than this, in V. */
const COLUMN_GAP = 0.15;

/** One point at the module's own terminals, lead drops taken out. */
export interface SweepPoint {
  readonly id: string;
  readonly batteryV: Uncertain;
  readonly batteryI: Uncertain;
  readonly outputV: Uncertain;
  readonly outputI: Uncertain;
  /** Efficiency, or null with no load or no battery power. */
  readonly efficiency: Uncertain | null;
  readonly loss: Uncertain;
  readonly inBand: boolean;
  /** Below the band, which is what a collapse is; above it is merely out of regulation. */
  readonly fell: boolean;
  /** Stood long enough to count as held (or nobody recorded how long). */
  readonly dwelt: boolean;
  readonly fromOff: boolean;
  /** How the load draws. */
  readonly mode: LoadSetting["mode"];
  /** The load that was set, in A: what a collapse is named by, since the current itself falls. */
  readonly loadSet: number;
  /** Battery current at the supply's stated limit. */
  readonly atLimit: boolean;
  /** Battery voltage below what was set by more than the leads explain. */
  readonly sagged: boolean;
  /** The supply's own limit in force, A, where it is known. */
  readonly supplyLimit: number | undefined;
  readonly leftOut: string | null;
}

/** The points of one battery voltage. */
export interface SweepColumn {
  /** The voltage that the supply was set to, in V. */
  readonly battery: number;
  /** Ascending in load. */
  readonly points: readonly SweepPoint[];
  readonly leftOut: readonly SweepPoint[];
}

export const cellValue = (p: Point, role: Role): number | null => {
  const c = p.cells[role];
  return c && c.status === "ok" && c.value !== null ? c.value : null;
};

const lead = (ohms: number | undefined, source: string, errors: boolean): Uncertain =>
  ohms && !errors
    ? exact(ohms)
    : ohms
      ? uncertain(ohms, [[leads(source), rectangular(LEAD_RESISTANCE_SHARE) * ohms]])
      : exact(0);

interface Leads {
  readonly input: Uncertain;
  readonly output: Uncertain;
}
/** The same for all points of a run. */
const leadsMade = { plain: new WeakMap<RunConditions, Leads>(), withErrors: new WeakMap<RunConditions, Leads>() };
function leadsOf(conditions: RunConditions, errors: boolean): Leads {
  const cache = errors ? leadsMade.withErrors : leadsMade.plain;
  const there = cache.get(conditions);
  if (there) return there;
  const fresh: Leads = {
    input: lead(conditions.inputLeadResistance, "input lead resistance", errors),
    output: lead(conditions.outputLeadResistance, "output lead resistance", errors),
  };
  cache.set(conditions, fresh);
  return fresh;
}

/** The band's limits in V, or null where no nominal output is known. */
export function regulationBand(setup: RunSetup): { low: number; high: number } | null {
  const nominal = setup.conditions.nominalOutput;
  if (!nominal) return null;
  const band = setup.conditions.regulationBand ?? 0.05;
  return { low: nominal * (1 - band), high: nominal * (1 + band) };
}

/**
 * The load a point was set to, in A: the set current, power ÷ nominal, or nominal ÷ resistance; the measured current
 * where nothing was set.
 */
export function loadSetOf(point: Point, setup: RunSetup): number | null {
  const load = point.settings.load;
  const nominal = setup.conditions.nominalOutput ?? cellValue(point, "outputVoltage") ?? undefined;
  return load ? currentOfSetting(load, nominal) : cellValue(point, "outputCurrent");
}

/** The supply's limit in force at a point, in A, where one is known. */
export const supplyLimitOf = (point: Point, setup: RunSetup): number | undefined =>
  point.settings.supplyCurrentLimit ?? setup.conditions.supplyCurrentLimit;

/** Share by which a battery current may lie above the supply's stated limit and still be that limit: the supply's own display is no better. */
export const LIMIT_SPREAD = 0.03;

/** Whether the battery current is the supply's own limit, within 2 % below and 3 % above; one that lies higher shows another limit than the stated one. */
export function atSupplyLimit(point: Point, setup: RunSetup): boolean {
  const current = cellValue(point, "batteryCurrent");
  const limit = supplyLimitOf(point, setup);
  return current !== null && limit !== undefined && current >= 0.98 * limit && current <= (1 + LIMIT_SPREAD) * limit;
}

/** Whether the supply's volts gave way: more than 3 % below what was set after the drop in the input leads. */
export const supplySagged = (point: Point, setup: RunSetup): boolean =>
  batteryShortfall(point, setup) > 0.03 * (point.settings.supplyVoltage ?? Infinity);

/** V by which the battery volts lie below the set voltage beyond what the input leads explain; 0 where unknown. */
export function batteryShortfall(point: Point, setup: RunSetup): number {
  const set = point.settings.supplyVoltage;
  const volts = cellValue(point, "batteryVoltage");
  if (set === undefined || volts === null) return 0;
  const leads = (setup.conditions.inputLeadResistance ?? 0) * Math.max(0, cellValue(point, "batteryCurrent") ?? 0);
  return Math.max(0, set - leads - volts);
}

interface Known {
  readonly setup: RunSetup;
  readonly dwell: number;
  readonly leftOut: string | null;
  readonly point: SweepPoint | null;
}
/** Points never change, and guidance looks at all of them at every key: what was made of one under a setup is kept. */
const made = { plain: new WeakMap<Point, Known>(), withErrors: new WeakMap<Point, Known>() };

/**
 * A point's four readings at the module's terminals with their error sources; null where one is missing. Guidance at
 * the bench needs no uncertainties and leaves them out (`errors` false): it is asked at every key.
 */
export function sweepPoint(
  point: Point,
  setup: RunSetup,
  corrections: Corrections,
  requiredDwell: number,
  errors = true,
): SweepPoint | null {
  const cache = errors ? made.withErrors : made.plain;
  const leftOut = corrections.leftOut.get(point.id) ?? null;
  const cached = cache.get(point);
  if (cached && cached.setup === setup && cached.dwell === requiredDwell && cached.leftOut === leftOut)
    return cached.point;
  const fresh = makeSweepPoint(point, setup, leftOut, requiredDwell, errors);
  cache.set(point, { setup, dwell: requiredDwell, leftOut, point: fresh });
  return fresh;
}

function makeSweepPoint(
  point: Point,
  setup: RunSetup,
  leftOut: string | null,
  requiredDwell: number,
  errors: boolean,
): SweepPoint | null {
  const read = (role: Role): Uncertain | null => {
    const v = cellValue(point, role);
    const accuracy: Accuracy | undefined = setup.instruments[role];
    return v === null ? null : readingOf(v, role, point.id, errors ? accuracy : undefined);
  };
  const vb = read("batteryVoltage");
  const ib = read("batteryCurrent");
  const vo = read("outputVoltage");
  const io = read("outputCurrent");
  if (!vb || !ib || !vo || !io) return null;
  const { input, output } = leadsOf(setup.conditions, errors);
  const batteryV = subtract(vb, multiply(ib, input));
  const outputV = add(vo, multiply(io, output));
  const pIn = multiply(batteryV, ib);
  const pOut = multiply(outputV, io);
  let loss: Uncertain | null = null;
  const band = regulationBand(setup);
  const inBand = !band || (outputV.value >= band.low && outputV.value <= band.high);
  return {
    id: point.id,
    batteryV,
    batteryI: ib,
    outputV,
    outputI: io,
    efficiency: pIn.value > 0 && !isNoLoad(io.value, setup) ? divide(pOut, pIn) : null,
    // Only the loss model asks for it.
    get loss() {
      return (loss ??= subtract(pIn, pOut));
    },
    inBand,
    fell: band !== null && outputV.value < band.low,
    dwelt: point.dwell === undefined || point.dwell >= requiredDwell - 0.05,
    fromOff: point.settings.fromOff === true,
    mode: point.settings.load?.mode ?? "current",
    loadSet: loadSetOf(point, setup) ?? io.value,
    atLimit: atSupplyLimit(point, setup),
    sagged: supplySagged(point, setup),
    supplyLimit: supplyLimitOf(point, setup),
    leftOut,
  };
}

/** Whether a load current is none at all, to within the meter's offset and resolution. */
export function isNoLoad(amps: number, setup: RunSetup): boolean {
  const a = setup.instruments.outputCurrent;
  return Math.abs(amps) <= Math.max(0.0005, a ? (a.counts + 1) * a.resolution : 0);
}

/**
 * Sorts points into columns by the voltage that the supply was set to.
 *
 * Where the settings say nothing (an imported table) a column begins wherever the battery volts jump by more than
 * 0.15 V, and is named by the median rounded to 50 mV: a tester sets round voltages.
 */
export function sweepColumns(
  points: readonly Point[],
  setup: RunSetup,
  corrections: Corrections,
  requiredDwell: number,
  errors = true,
): SweepColumn[] {
  const columns = new Map<number, SweepPoint[]>();
  const loose: SweepPoint[] = [];
  for (const p of points) {
    const s = sweepPoint(p, setup, corrections, requiredDwell, errors);
    if (!s) continue;
    const set = p.settings.supplyVoltage;
    if (set === undefined) loose.push(s);
    else {
      const column = columns.get(set);
      if (column) column.push(s);
      else columns.set(set, [s]);
    }
  }
  const byVolts = [...loose].sort((a, b) => b.batteryV.value - a.batteryV.value);
  let group: SweepPoint[] = [];
  const close = () => {
    if (group.length === 0) return;
    // The least loaded points show what was set; leads and sag pull the rest down.
    const light = [...group].sort((a, b) => a.outputI.value - b.outputI.value).slice(0, 3);
    const volts = nth(
      light.map((p) => p.batteryV.value).sort((a, b) => a - b),
      light.length >> 1,
    );
    const name = Number((Math.round(volts / 0.05) * 0.05).toFixed(2));
    columns.set(name, [...(columns.get(name) ?? []), ...group]);
    group = [];
  };
  for (const p of byVolts) {
    const previous = group[group.length - 1];
    if (previous && previous.batteryV.value - p.batteryV.value > COLUMN_GAP) close();
    group.push(p);
  }
  close();
  return [...columns]
    .sort(([a], [b]) => b - a)
    .map(([battery, all]) => {
      const sorted = [...all].sort((a, b) => a.loadSet - b.loadSet || a.outputI.value - b.outputI.value);
      return {
        battery,
        points: sorted.filter((p) => p.leftOut === null),
        leftOut: sorted.filter((p) => p.leftOut !== null),
      };
    });
}
