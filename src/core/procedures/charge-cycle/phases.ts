import { ELEMENTS, fitLine, median } from "../../quantities";
import { finite, heatPower, indexAt, interval, withoutSpikes } from "../../traces";
import { NO_CORRECTIONS, type Corrections, type RunSetup, type Trace } from "../../measurement";
import { edge, findSegments, type Columns, type Halt, type Pause } from "./segments";
import { ChargeStream, HEADROOM, HOT, type ChargeEvent, type StreamOptions } from "./stream";

const { sampleAt } = ELEMENTS;

/** A charge log put in order: columns without spikes, its events, and the boundaries of its phases in s. */
export interface Phases {
  readonly time: Float64Array;
  readonly cellVoltage: Float64Array;
  readonly cellCurrent: Float64Array;
  /** The same without pauses and what follows an interruption: NaN there. */
  readonly activeVoltage: Float64Array;
  readonly activeCurrent: Float64Array;
  readonly inputVoltage: Float64Array | undefined;
  readonly inputCurrent: Float64Array | undefined;
  readonly partTemperature: Float64Array | undefined;
  readonly ambientTemperature: Float64Array | undefined;
  /** Power turned into heat, W; null where the log has no input readings. */
  readonly heat: Float64Array | null;
  /** Usual distance of the samples, s. */
  readonly usual: number;
  readonly spikes: number;
  readonly events: readonly ChargeEvent[];
  /** First charging current; null where the log begins while it flows. */
  readonly start: number | null;
  /** The step from pre-charge to full current. */
  readonly step: number | null;
  /** From here the voltage loop sets the current. */
  readonly onset: VoltageOnset | null;
  /** Where the charge ended; null where the log holds no end. */
  readonly stop: number | null;
  /** Where the current stopped for good otherwise than by the end, or nobody can tell. */
  readonly halt: Halt | null;
  /** Stretches without current inside the charge. */
  readonly pauses: readonly Pause[];
  /** The last instant of this charge in the log: its end, its interruption, or the end of the log. */
  readonly through: number;
  /** Whether any charging current was seen. */
  readonly flows: boolean;
  readonly restart: number | null;
  /** The input had been gone before that restart. */
  readonly replugged: boolean;
  /** Where the current was cut for another reason than the voltage; `to` is null where it never came back. */
  readonly cuts: readonly {
    readonly from: number;
    readonly to: number | null;
    /** Because of heat, not of the input. */ readonly heat: boolean;
  }[];
}

export interface VoltageOnset {
  readonly time: number;
  /** Half the time until the current has lost 3 %: how sharp the change is. */
  readonly blur: number;
  /** Standard uncertainty of the instant from the scatter of the readings, s. */
  readonly scatter: number;
  /** Regulated volts with no current, and the wire's resistance to the cell's terminals (Ω): V = reference − R·I. */
  readonly reference: number;
  readonly wire: number;
}

/** The least current that is one: what offset and steps of the meter can't feign, or 1 % of what was set. */
export function currentFloor(setup: RunSetup): number {
  const a = setup.instruments.cellCurrent;
  return Math.max(a ? 1.5 * (a.counts + 2) * a.resolution : 0.002, 0.01 * (setup.conditions.programmedCurrent ?? 0));
}

type BesideRole = "inputVoltage" | "inputCurrent" | "partTemperature" | "ambientTemperature";

/** The columns that a charge is understood by, their spikes taken out; null where one of the first three is lacking. */
function cleaned(trace: Trace, setup: RunSetup) {
  const { time, cellVoltage, cellCurrent } = trace.columns;
  if (!time || !cellVoltage || !cellCurrent || time.length === 0) return null;
  const stepOf = (role: keyof RunSetup["instruments"], other: number) => setup.instruments[role]?.resolution ?? other;
  const other = (role: BesideRole, step: number) => {
    const column = trace.columns[role];
    return column && holds(column) ? withoutSpikes(column, stepOf(role, step)) : undefined;
  };
  return {
    time,
    rawVoltage: cellVoltage,
    rawCurrent: cellCurrent,
    v: withoutSpikes(cellVoltage, stepOf("cellVoltage", 0.001)),
    i: withoutSpikes(cellCurrent, stepOf("cellCurrent", 0.001)),
    inputVoltage: other("inputVoltage", 0.001),
    inputCurrent: other("inputCurrent", 0.001),
    partTemperature: other("partTemperature", 0.1),
    ambientTemperature: other("ambientTemperature", 0.1),
  };
}

/** Finds the phases of a charge log. Null where it has no cell voltage or current. */
export function findPhases(
  trace: Trace,
  setup: RunSetup,
  moved: Corrections["boundaries"] = NO_CORRECTIONS.boundaries,
): Phases | null {
  const log = cleaned(trace, setup);
  if (!log) return null;
  const { time, v, i, inputVoltage, inputCurrent, partTemperature, ambientTemperature } = log;
  const floor = currentFloor(setup);
  const stream = new ChargeStream(streamOptions(setup));
  const events = stream.pushAll(time, v.values, i.values, inputVoltage?.values, partTemperature?.values);
  const usual = interval(time);
  const by = (id: string): number | null => moved.get(id)?.time ?? null;
  const columns: Columns = {
    time,
    rawVoltage: log.rawVoltage,
    rawCurrent: log.rawCurrent,
    cellVoltage: v.values,
    cellCurrent: i.values,
    rawInput: inputVoltage ? trace.columns.inputVoltage : undefined,
    usual,
    floor,
  };
  const regulated = regulations(events);
  const level = regulated.map((e) => median(finite(v.values, indexAt(time, e.time), indexAt(time, e.time) + 60)));
  const segments = findSegments(columns, events, trace.events, level[0] ?? NaN);
  // Where the tester sees the end, the charge ended.
  const stop = by("stop") ?? segments.stop;
  const halt = by("stop") === null ? segments.halt : null;
  const last = sampleAt(time, time.length - 1);
  const through = stop ?? halt?.time ?? last;
  const pauses = segments.pauses.filter((p) => p.to < through);
  const before = (e: ChargeEvent) => e.time < through;
  const flowing = (column: Float64Array) => active(time, column, usual, pauses, stop === null ? halt : null);
  const [activeVoltage, activeCurrent] = [flowing(v.values), flowing(i.values)];
  const rough = regulated.find(before)?.time ?? null;
  const begins = events.find((e) => e.kind === "start")?.time ?? null;
  const onset = by("constant-voltage");
  const fitted = rough === null ? null : voltageOnset(time, activeVoltage, activeCurrent, onset ?? rough, through);
  return {
    time,
    cellVoltage: v.values,
    cellCurrent: i.values,
    activeVoltage,
    activeCurrent,
    inputVoltage: inputVoltage?.values,
    inputCurrent: inputCurrent?.values,
    partTemperature: partTemperature?.values,
    ambientTemperature: ambientTemperature?.values,
    heat: heatPower({
      inputVoltage: inputVoltage?.values,
      inputCurrent: inputCurrent?.values,
      cellVoltage: v.values,
      cellCurrent: i.values,
    }),
    usual,
    spikes: spikesOutside(time, pauses, [v, i, inputVoltage, inputCurrent, partTemperature, ambientTemperature]),
    events,
    start: by("start") ?? (begins === null ? null : edge(columns, begins).time),
    step: by("full-current") ?? events.find((e) => e.kind === "full-current" && before(e))?.time ?? null,
    // Where the tester sees it, it is known to the distance of the samples.
    onset: onset === null ? fitted : { reference: NaN, wire: 0, ...fitted, time: onset, blur: 0, scatter: usual },
    stop,
    halt,
    pauses,
    through,
    flows: events.length > 0 || stream.underWay,
    restart: by("restart") ?? segments.restart,
    replugged: segments.replugged,
    cuts: cutsOf(events, before, (from) =>
      isHeat(
        time,
        from,
        partTemperature?.values,
        ambientTemperature?.values ?? null,
        setup.conditions.ambientTemperature,
        inputVoltage?.values,
        v.values,
      ),
    ),
  };
}

const medianOf = (c: Float64Array): number => median(finite(c, 0, c.length));
/** Whether a column has any reading at all. */
const holds = (c: Float64Array): boolean => c.some((x) => x - x === 0);

/** What the stream is told beforehand: what is a current, what was set, what ends it, what is too hot. */
export function streamOptions(setup: RunSetup): StreamOptions {
  const { programmedCurrent, terminationCurrent, partLimitTemperature } = setup.conditions;
  return {
    floor: currentFloor(setup),
    programmed: programmedCurrent,
    termination: terminationCurrent,
    partLimit: partLimitTemperature,
  };
}

/** Where the voltage loop takes over, those left out that the stream took back. */
function regulations(events: readonly ChargeEvent[]): ChargeEvent[] {
  const back = new Set(events.filter((e) => e.kind === "constant-voltage-over").map((e) => e.time));
  return events.filter((e) => e.kind === "constant-voltage" && !back.has(e.time));
}

/** A voltage phase that was taken back was a cut of the current all along. */
function cutsOf(
  events: readonly ChargeEvent[],
  before: (e: ChargeEvent) => boolean,
  heat: (from: number) => boolean,
): Phases["cuts"] {
  const cuts = events.filter((e) => (e.kind === "cut-back" || e.kind === "constant-voltage-over") && before(e));
  const over = (from: number) =>
    events.find((x) => x.kind === "cut-back-over" && x.time > from && before(x))?.time ?? null;
  return cuts.map((e) => ({ from: e.time, heat: heat(e.time), to: over(e.time) }));
}

/** The column without what lies in a pause or after a halt, the samples at their edges included. */
function active(
  time: Float64Array,
  column: Float64Array,
  usual: number,
  pauses: readonly Pause[],
  halt: Halt | null,
): Float64Array {
  if (pauses.length === 0 && halt === null) return column;
  const out = Float64Array.from(column);
  const blank = (from: number, to: number) => out.fill(NaN, indexAt(time, from), indexAt(time, to));
  for (const p of pauses) blank(p.from - 0.6 * usual, p.to + 0.6 * usual);
  if (halt) out.fill(NaN, indexAt(time, halt.time - 0.6 * usual));
  return out;
}

function spikesOutside(
  time: Float64Array,
  pauses: readonly Pause[],
  columns: readonly ({ readonly spikes: readonly number[] } | undefined)[],
): number {
  const own = new Set(columns.flatMap((c) => c?.spikes ?? []));
  return [...own].filter((k) => !pauses.some((p) => sampleAt(time, k) >= p.from && sampleAt(time, k) <= p.to)).length;
}

/** A cut is heat's where the part was hot, well above where it began, and the input left the charger room to work. */
function isHeat(
  time: Float64Array,
  from: number,
  part: Float64Array | undefined,
  ambient: Float64Array | null,
  stated: number | undefined,
  input: Float64Array | undefined,
  cell: Float64Array,
): boolean {
  if (!part) return false;
  const at = indexAt(time, from);
  const around = ambient ? medianOf(ambient) : Math.min(stated ?? Infinity, median(finite(part, 0, 5)));
  const hot = median(finite(part, at - 10, at + 10));
  if (!(hot >= HOT.least && hot >= around + HOT.rise)) return false;
  return !(median(finite(input, at, at + 20)) - median(finite(cell, at, at + 20)) < HEADROOM);
}

/**
 * Where the voltage loop takes over. While it holds, the cell's terminals follow V = V_ref − R·I, with the few
 * milliohms of wire between the charger's sense point and the cell; before it, V + R·I lies below V_ref and rises. The
 * line is fitted to the voltage phase, and the rise towards it (its last 25 mV) is carried on to where it meets V_ref.
 */
function voltageOnset(
  time: Float64Array,
  volts: Float64Array,
  amps: Float64Array,
  rough: number,
  end: number,
): VoltageOnset | null {
  const k0 = indexAt(time, rough);
  const kEnd = indexAt(time, end) - 1;
  const level = median([...amps.slice(Math.max(0, k0 - 15), k0)].filter(Number.isFinite));
  const room = Math.max(0, kEnd - k0);
  const [x, y] = [new Float64Array(room), new Float64Array(room)];
  let points = 0;
  for (let k = k0; k < kEnd; k++) {
    const a = sampleAt(amps, k);
    const v = sampleAt(volts, k);
    if (v - v !== 0 || !(a < 0.85 * level)) continue;
    x[points] = a;
    y[points++] = v;
  }
  const line = points >= 20 ? fitLine(x.subarray(0, points), y.subarray(0, points)) : null;
  if (!line) return { time: rough, blur: 0, scatter: 30, reference: NaN, wire: 0 };
  const reference = line.intercept;
  const wire = Math.max(0, -line.slope);
  const effective = (k: number) => sampleAt(volts, k) + wire * sampleAt(amps, k);
  const [t, e]: [number[], number[]] = [[], []];
  for (let k = Math.min(k0 + 40, time.length - 1); k >= 0; k--) {
    const v = effective(k);
    if (!Number.isFinite(v)) continue;
    if (v < reference - 0.025) break;
    if (v < reference - 0.003 && sampleAt(time, k) < rough + 60) {
      t.push(sampleAt(time, k) - rough);
      e.push(v);
    }
  }
  const rise = t.length >= 8 ? fitLine(t, e) : null;
  const slope = rise?.slope ?? 0;
  const met = rise && slope > 0 ? rough + (reference - rise.intercept) / slope : rough;
  const at = Math.min(Math.max(met, rough - 300), rough + 300);
  // How long until 3 % of the current is gone.
  let lost = at;
  for (let k = indexAt(time, at); k < kEnd; k++)
    if (sampleAt(amps, k) < 0.97 * level) {
      lost = sampleAt(time, k);
      break;
    }
  const spread = rise?.scatter ?? 0.001;
  return {
    time: at,
    blur: Math.max(0, lost - at) / 2,
    scatter: slope > 0 ? (2 * spread) / Math.sqrt(Math.max(1, t.length)) / slope : 20,
    reference,
    wire,
  };
}
