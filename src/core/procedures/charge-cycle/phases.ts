import { fitLine, median } from "../../quantities";
import { finite, heatPower, indexAt, interval, withoutSpikes } from "../../traces";
import { NO_CORRECTIONS, type Corrections, type RunSetup, type Trace } from "../shape";
import { ChargeStream, type ChargeEvent } from "./stream";

/** A charge log put in order: columns without spikes, its events, and the boundaries of its phases in s. */
export interface Phases {
  readonly time: Float64Array;
  readonly cellVoltage: Float64Array;
  readonly cellCurrent: Float64Array;
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
  readonly stop: number | null;
  readonly restart: number | null;
  /** Where the current was cut for another reason than the voltage; `to` is null where it never came back. */
  readonly cuts: readonly { readonly from: number; readonly to: number | null; /** Because of heat, not of the input. */ readonly heat: boolean }[];
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

/** Finds the phases of a charge log. Null where it has no cell voltage or current. */
export function findPhases(trace: Trace, setup: RunSetup, moved: Corrections["boundaries"] = NO_CORRECTIONS.boundaries): Phases | null {
  const { time, cellVoltage, cellCurrent } = trace.columns;
  if (!time || !cellVoltage || !cellCurrent) return null;
  const stepOf = (role: keyof RunSetup["instruments"], other: number) => setup.instruments[role]?.resolution ?? other;
  const v = withoutSpikes(cellVoltage, stepOf("cellVoltage", 0.001));
  const i = withoutSpikes(cellCurrent, stepOf("cellCurrent", 0.001));
  const other = (role: "inputVoltage" | "inputCurrent" | "partTemperature" | "ambientTemperature", step: number) => {
    const column = trace.columns[role];
    return column ? withoutSpikes(column, stepOf(role, step)) : undefined;
  };
  const [inputVoltage, inputCurrent, partTemperature, ambientTemperature] = [other("inputVoltage", 0.001), other("inputCurrent", 0.001), other("partTemperature", 0.1), other("ambientTemperature", 0.1)];
  const stream = new ChargeStream({ floor: currentFloor(setup), programmed: setup.conditions.programmedCurrent });
  const events = stream.pushAll(time, v.values, i.values);
  const first = (kind: ChargeEvent["kind"]) => events.find((e) => e.kind === kind)?.time ?? null;
  const by = (id: string): number | null => moved.get(id)?.time ?? null;
  const stop = by("stop") ?? first("stop");
  const before = (e: ChargeEvent) => stop === null || e.time < stop;
  const sharp = (t: number | null) => (t === null ? null : edge(time, i.values, t, currentFloor(setup)));
  const rough = events.find((e) => e.kind === "constant-voltage" && before(e))?.time ?? null;
  const end = by("stop") ?? sharp(stop);
  const usual = interval(time);
  const found = rough === null ? null : voltageOnset(time, v.values, i.values, by("constant-voltage") ?? rough, end ?? (time[time.length - 1] as number));
  const onset = by("constant-voltage");
  return {
    time,
    cellVoltage: v.values,
    cellCurrent: i.values,
    inputVoltage: inputVoltage?.values,
    inputCurrent: inputCurrent?.values,
    partTemperature: partTemperature?.values,
    ambientTemperature: ambientTemperature?.values,
    heat: heatPower({ inputVoltage: inputVoltage?.values, inputCurrent: inputCurrent?.values, cellVoltage: v.values, cellCurrent: i.values }),
    usual,
    spikes: new Set([v, i, inputVoltage, inputCurrent, partTemperature, ambientTemperature].flatMap((c) => c?.spikes ?? [])).size,
    events,
    start: by("start") ?? sharp(first("start")),
    step: by("full-current") ?? events.find((e) => e.kind === "full-current" && before(e))?.time ?? null,
    // Where the tester sees it, it is known to the distance of the samples.
    onset: onset === null ? found : { reference: NaN, wire: 0, ...found, time: onset, blur: 0, scatter: usual },
    stop: end,
    restart: by("restart") ?? sharp(first("restart")),
    cuts: events.filter((e) => e.kind === "cut-back" && before(e)).map((e) => ({ from: e.time, heat: isHeat(time, e.time, partTemperature?.values, inputVoltage?.values, v.values), to: events.find((x) => x.kind === "cut-back-over" && x.time > e.time && before(x))?.time ?? null })),
  };
}

/** °C from which a part may cut its own current because of heat. */
const HOT = 60;
/** V between input and cell below which a charger has no room left: a falling current is then the input's doing. */
const HEADROOM = 0.5;

/** A cut is heat's where the part was hot, and the input left the charger room to work. */
function isHeat(time: Float64Array, from: number, part: Float64Array | undefined, input: Float64Array | undefined, cell: Float64Array): boolean {
  const at = indexAt(time, from);
  if (!(median(finite(part, at - 10, at + 10)) >= HOT)) return false;
  return !(median(finite(input, at, at + 20)) - median(finite(cell, at, at + 20)) < HEADROOM);
}

/** The instant at which the current crosses the floor, nearest to where the stream saw it: the middle of two samples. */
function edge(time: Float64Array, amps: Float64Array, near: number, floor: number): number {
  const centre = indexAt(time, near);
  let best = near;
  let away = Infinity;
  let last = -1;
  for (let k = Math.max(0, centre - 6); k < Math.min(time.length, centre + 6); k++) {
    if (!Number.isFinite(amps[k])) continue;
    if (last >= 0 && (amps[last] as number) > floor !== (amps[k] as number) > floor) {
      const middle = ((time[last] as number) + (time[k] as number)) / 2;
      if (Math.abs(middle - near) < away) {
        away = Math.abs(middle - near);
        best = middle;
      }
    }
    last = k;
  }
  return best;
}

/**
 * Where the voltage loop takes over. While it holds, the cell's terminals follow V = V_ref − R·I, with the few
 * milliohms of wire between the charger's sense point and the cell; before it, V + R·I lies below V_ref and rises. The
 * line is fitted to the voltage phase, and the rise towards it (its last 25 mV) is carried on to where it meets V_ref.
 */
function voltageOnset(time: Float64Array, volts: Float64Array, amps: Float64Array, rough: number, end: number): VoltageOnset | null {
  const k0 = indexAt(time, rough);
  const kEnd = indexAt(time, end) - 1;
  const level = median([...amps.slice(Math.max(0, k0 - 15), k0)].filter(Number.isFinite));
  const room = Math.max(0, kEnd - k0);
  const [x, y] = [new Float64Array(room), new Float64Array(room)];
  let points = 0;
  for (let k = k0; k < kEnd; k++) {
    const a = amps[k] as number;
    const v = volts[k] as number;
    if (v - v !== 0 || !(a < 0.85 * level)) continue;
    x[points] = a;
    y[points++] = v;
  }
  const line = points >= 20 ? fitLine(x.subarray(0, points), y.subarray(0, points)) : null;
  if (!line) return { time: rough, blur: 0, scatter: 30, reference: NaN, wire: 0 };
  const reference = line.intercept;
  const wire = Math.max(0, -line.slope);
  const effective = (k: number) => (volts[k] as number) + wire * (amps[k] as number);
  const [t, e]: [number[], number[]] = [[], []];
  for (let k = k0 + 40; k >= 0; k--) {
    const v = effective(k);
    if (!Number.isFinite(v)) continue;
    if (v < reference - 0.025) break;
    if (v < reference - 0.003 && (time[k] as number) < rough + 60) {
      t.push((time[k] as number) - rough);
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
    if ((amps[k] as number) < 0.97 * level) {
      lost = time[k] as number;
      break;
    }
  const spread = rise?.scatter ?? 0.001;
  return { time: at, blur: Math.max(0, lost - at) / 2, scatter: slope > 0 ? (2 * spread) / Math.sqrt(Math.max(1, t.length)) / slope : 20, reference, wire };
}
