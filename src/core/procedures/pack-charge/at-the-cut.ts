import { CHEMISTRY_LIMITS, openCircuit, stateOfCharge, type Chemistry } from "../../cells";
import { meterSource } from "../../instruments";
import {
  rectangular,
  uncertain,
  withPart,
  type Uncertain,
  scatter,
  sampling,
  propagate,
  model,
} from "../../quantities";
import { integrate, valueBefore } from "../../traces";
import { meterDifference, meterReading } from "../kit/log-reading";
import type { Role, RunSetup } from "../../measurement";
import type { PackPlan } from "./plan";

/** A cell's voltage in the last instant before a change, from a line through the readings before it. */
export interface CellEdge {
  readonly number: number;
  readonly role: Role;
  readonly volts: number;
  readonly count: number;
}

/** Column of a cell. */
interface CellColumn {
  readonly number: number;
  readonly role: Role;
  readonly volts: Float64Array;
}

interface CutLog {
  readonly time: Float64Array;
  readonly amps: Float64Array;
  readonly cells: readonly CellColumn[];
}

/** s after the cut at which a cell's fall is read. */
const REBOUND = 60;
/** s of rest from which a cell's voltage says how full it is, with the more doubt the shorter it was. */
const RESTED = 60;
/** What a cell may still fall by, as a multiple of its fall over the second half of the rest: its slow relaxation takes up to 20 min. */
const TO_COME = 2;
/** V by which the open-circuit curve of a chemistry may differ from a cell's own; share by which a cell's capacity may differ from its rating. */
const CURVE = 0.015;
const RATING = 0.1;
/** V between those of a rested, charged cell of either chemistry. */
const BETWEEN_CHEMISTRIES = 3.75;
/** A under which no current flows. */
const NO_CURRENT = 0.02;

/**
 * Sum of the cells' voltages, V. Where one instrument reads several cells its gain and offset are the same for all of them and add up; those
 * of different instruments, and every reading's own noise, are independent.
 */
export function packVoltage(edges: readonly CellEdge[], setup: RunSetup): Uncertain {
  const sum = edges.reduce((s, e) => s + e.volts, 0);
  const shared = new Map<string, { gain: number; offset: number }>();
  let own = 0;
  for (const e of edges) {
    const a = setup.instruments[e.role];
    if (!a) return uncertain(sum, []);
    const meter = setup.meters?.[e.role]?.instrumentId ?? e.role;
    const before = shared.get(meter) ?? { gain: 0, offset: 0 };
    shared.set(meter, {
      gain: before.gain + rectangular(a.gain) * e.volts,
      offset: before.offset + rectangular(a.counts * a.resolution),
    });
    own += Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) ** 2 / Math.max(1, e.count);
  }
  const meters = [...shared.values()];
  return uncertain(sum, [
    [{ kind: "gain", id: "cell meters" }, Math.hypot(...meters.map((m) => m.gain))],
    [{ kind: "offset", id: "cell meters" }, Math.hypot(...meters.map((m) => m.offset))],
    [scatter("readings of the cells"), Math.sqrt(own)],
  ]);
}

/** Charge put in from the first charging current to the cut at `at` (s), Ah; null where a gap hides what flowed. */
export function chargeUntil(log: CutLog, at: number, setup: RunSetup): Uncertain | null {
  const first = log.amps.findIndex((a) => a > NO_CURRENT);
  if (first < 0) return null;
  const usual = ((log.time.at(-1) ?? 0) - (log.time[0] ?? 0)) / Math.max(1, log.time.length - 1);
  // It began somewhere between the reading before and the first one with a current.
  const start = first > 0 ? ((log.time[first - 1] ?? 0) + (log.time[first] ?? 0)) / 2 : (log.time[0] ?? 0);
  const agree = (x: number, y: number): boolean =>
    Math.abs((log.amps[x] ?? 0) - (log.amps[y] ?? 0)) <= 0.1 * Math.abs(log.amps[x] ?? 0);
  const whole = integrate(log.time, log.amps, null, start, at, usual, agree);
  if (whole.open.length || !(whole.value > 0)) return null;
  const a = setup.instruments.cellCurrent;
  const flowing = log.amps[first] ?? 0;
  return uncertain(whole.value / 3600, [
    ...(a
      ? ([
          [meterSource("cellCurrent", "gain"), (rectangular(a.gain) * whole.value) / 3600],
          [meterSource("cellCurrent", "offset"), (rectangular(a.counts * a.resolution) * (at - start)) / 3600],
        ] as const)
      : []),
    // The current begins and ends somewhere between two readings.
    [sampling(), (Math.SQRT2 * rectangular(usual / 2) * flowing) / 3600],
  ]);
}

/** s from the cut for which no current flows either way, up to the end of the log. */
export function restAfter(log: CutLog, row: number): { readonly until: number; readonly end: number } {
  let end = row;
  while (end < log.time.length && Math.abs(log.amps[end] ?? 0) < NO_CURRENT) end++;
  return { until: end > row ? (log.time[end - 1] ?? 0) : (log.time[row] ?? 0), end };
}

/** Row from which a column's last readings before `until` are read. */
const rowAt = (time: Float64Array, until: number): number => {
  let k = 0;
  while (k < time.length && (time[k] ?? 0) <= until) k++;
  return k;
};

/** Fall of a cell's voltage in the minute after the cut at `at`; null where the log holds no whole minute without current. */
export function rebound(
  log: CutLog,
  cell: CellColumn,
  edge: CellEdge,
  at: number,
  until: number,
  setup: RunSetup,
): Uncertain | null {
  if (until - at < REBOUND) return null;
  const later = valueBefore(log.time, cell.volts, rowAt(log.time, at + REBOUND), at + REBOUND, 4);
  if (!later) return null;
  const before = log.time[Math.max(0, rowAt(log.time, at) - 1)] ?? at;
  // The cut lies somewhere between two readings: the minute may be that much off.
  return withPart(
    meterDifference(edge.volts - later.value, cell.role, setup, `cell ${cell.number}`),
    sampling("sampling of the minute"),
    Math.abs(later.slope) * rectangular(Math.max(1, at - before)),
  );
}

/**
 * What a cell lacked to full when the pack was cut, Ah: its capacity × (state of charge when full − state of charge at its rested voltage). The
 * voltage is taken at the end of the rest (1 min at least, else null); several times what it fell by in the second half of the rest stays as
 * doubt, as do the curve of its chemistry and its rating.
 */
export function missingCharge(
  log: CutLog,
  cell: CellColumn,
  at: number,
  rest: { readonly until: number; readonly end: number },
  setup: RunSetup<PackPlan>,
): Uncertain | null {
  const capacity = setup.conditions.cellCapacity;
  if (!capacity || rest.until - at < RESTED) return null;
  const [last, half] = [
    valueBefore(log.time, cell.volts, rest.end, rest.until, 8),
    valueBefore(log.time, cell.volts, rowAt(log.time, (at + rest.until) / 2), (at + rest.until) / 2, 8),
  ];
  if (!last || !half) return null;
  // Without a plan the chemistry is told by the voltage at which the cell was cut: no two have theirs near each other.
  const chemistry: Chemistry =
    (setup.plan?.cellMaximum ?? last.value) < BETWEEN_CHEMISTRIES ? "iron-phosphate" : "lithium-ion";
  const full = setup.plan?.cellMaximum ?? CHEMISTRY_LIMITS[chemistry].full;
  const soc = stateOfCharge(chemistry, last.value);
  const missing = capacity * (stateOfCharge(chemistry, full) - soc);
  const step = 0.005;
  const slope = (openCircuit(chemistry, soc + step) - openCircuit(chemistry, soc - step)) / (2 * step);
  const volts = withPart(
    withPart(
      meterReading(last.value, cell.role, setup, `cell ${cell.number}`, last.count),
      model("still settling"),
      TO_COME * Math.abs(half.value - last.value),
    ),
    model("open-circuit curve"),
    rectangular(CURVE),
  );
  const perVolt = capacity / Math.max(slope, 0.05);
  return withPart(
    propagate(missing, [[perVolt, volts]]),
    model("rated capacity"),
    rectangular(RATING) * Math.abs(missing),
  );
}
