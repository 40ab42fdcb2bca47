import { accuracyAt, sourceName } from "../../instruments";
import { fitLine, formatDuration, formatQuantity, median, rectangular, uncertain, withPart } from "../../quantities";
import { finite, indexAt, integrate, valueBefore } from "../../traces";
import { cleanLog, logCharts, type CleanColumns } from "../guided";
import { logFinding, meterDifference } from "../log-reading";
import type { Role } from "../roles";
import type { Analysis, Finding, Note, Readings, RunSetup } from "../shape";
import { FULL_WITHIN, type DischargePlan } from "./plan";

const q = formatQuantity;
const ROLES = ["batteryVoltage", "batteryCurrent", "cellVoltage", "cellCurrent", "cellTemperature"] as const satisfies readonly Role[];

interface Log {
  readonly time: Float64Array;
  readonly volts: Float64Array;
  /** A out of the cell. */
  readonly amps: Float64Array;
  readonly voltRole: Role;
  readonly ampRole: Role;
  readonly usual: number;
}

function dischargeLog(time: Float64Array, c: CleanColumns, usual: number): Log | null {
  const volts = c.cellVoltage ?? c.batteryVoltage;
  const amps = c.batteryCurrent ?? c.cellCurrent?.map((a) => -a);
  if (!volts || !amps) return null;
  return { time, volts, amps, voltRole: c.cellVoltage ? "cellVoltage" : "batteryVoltage", ampRole: c.batteryCurrent ? "batteryCurrent" : "cellCurrent", usual };
}

/** Capacity at the rate and to the floor that the log shows, and resistance from the rebound. */
export function analyseDischarge(readings: Readings, setup: RunSetup<DischargePlan>): Analysis {
  if (readings.kind !== "trace") throw new Error("internal: a discharge is a log over time");
  const clean = cleanLog(readings.trace, setup, ROLES);
  const log = clean && dischargeLog(clean.time, clean.columns, clean.usual);
  if (!clean || !log) return { findings: [], notes: [{ code: "no-cell", message: "The log lacks the cell's volts or amps: nothing can be said of what came out of it." }], charts: [] };
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const a = setup.instruments[log.ampRole];
  const floor = 2 * accuracyAt(a ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.002;
  const first = firstRow(log, 0, (x) => x > floor);
  if (first === null) notes.push({ code: "no-discharge", message: "No current was seen to flow out of the cell." });
  else {
    const end = firstRow(log, first, (x) => x <= floor) ?? log.time.length;
    capacity(log, first, end, setup, findings, notes);
    if (end < log.time.length) resistance(log, end, setup, findings);
  }
  const spans = first === null ? [] : [{ from: log.time[first] as number, to: log.time[Math.min(log.time.length - 1, firstRow(log, first, (x) => x <= floor) ?? log.time.length - 1)] as number, label: "discharging" }];
  return {
    findings,
    notes,
    charts: logCharts(
      log.time,
      clean.columns,
      [
        { id: "voltage", title: "Cell volts", label: "Voltage", unit: "V", roles: [["cellVoltage", "cell", 0], ["batteryVoltage", "cell", 0]] },
        { id: "current", title: "Current out of the cell", label: "Current", unit: "A", roles: [["batteryCurrent", "cell", 1], ["cellCurrent", "into the cell", 1]] },
        { id: "temperature", title: "Cell temperature", label: "Temperature", unit: "°C", roles: [["cellTemperature", "cell", 2]] },
      ],
      { spans, events: readings.trace.events },
    ),
  };
}

/** First row from which `holds` is true twice in a row. */
function firstRow(log: Log, from: number, holds: (amps: number) => boolean): number | null {
  for (let k = from; k + 1 < log.amps.length; k++) if (holds(log.amps[k] as number) && holds(log.amps[k + 1] as number)) return k;
  return null;
}

function capacity(log: Log, first: number, end: number, setup: RunSetup<DischargePlan>, findings: Finding[], notes: Note[]): void {
  const { plan } = setup;
  const rate = median(finite(log.amps, first, end));
  const full = plan?.fullVoltage ?? 4.2;
  const floor = plan?.floor ?? lowestHeld(log, first, end);
  // Where the volts crossed the floor, on a straight line between two samples.
  let at: number | null = null;
  for (let k = first + 1; k < end; k++) {
    const [b, v] = [log.volts[k - 1] as number, log.volts[k] as number];
    if (v <= floor && b > floor) {
      at = (log.time[k - 1] as number) + ((b - floor) / (b - v)) * ((log.time[k] as number) - (log.time[k - 1] as number));
      break;
    }
  }
  const start = first > 0 ? ((log.time[first - 1] as number) + (log.time[first] as number)) / 2 : (log.time[first] as number);
  const stop = at ?? (log.time[end - 1] as number);
  const agree = (x: number, y: number) => Math.abs((log.amps[x] as number) - (log.amps[y] as number)) <= 0.1 * rate;
  const drawn = integrate(log.time, log.amps, null, start, stop, log.usual, agree);
  if (drawn.open.length) {
    notes.push({ code: "gap-open", message: "The log has a gap on whose two sides the current differs: what came out of the cell is not stated." });
    return;
  }
  const rested = first > 0 ? median(finite(log.volts, Math.max(0, first - 12), first)) : NaN;
  const isFull = rested >= full - (plan?.series ?? 1) * FULL_WITHIN;
  if (!isFull) {
    notes.push({ code: "not-from-full", message: `${Number.isFinite(rested) ? `The cell began at ${q(rested, "V", { digits: 3 })} rested, not full` : "The log does not show the rested cell before the load"}: the ${q(drawn.value / 3600, "Ah", { digits: 3 })} that came out are no capacity. It is prepared for a repeated charge all the same.` });
    return;
  }
  const a = setup.instruments[log.ampRole];
  const v = setup.instruments[log.voltRole];
  const slope = Math.abs(valueBefore(log.time, log.volts, indexAt(log.time, stop), stop, 8)?.slope ?? 0);
  const late = v && slope > 0 ? rectangular(accuracyAt(v, floor)) / slope : 0;
  const x = uncertain(drawn.value / 3600, [
    ...(a ? ([[sourceName(log.ampRole, "gain"), (rectangular(a.gain) * drawn.value) / 3600], [sourceName(log.ampRole, "offset"), (rectangular(a.counts * a.resolution) * (stop - start)) / 3600]] as [string, number][]) : []),
    ["volts at the floor", (late * rate) / 3600],
    ["sampling", (rectangular(log.usual / 2) * rate) / 3600],
  ]);
  const f = logFinding("cell.capacity", x, setup, { conditions: { rate: Number((plan && Math.abs(plan.rate - rate) < 0.05 * plan.rate ? plan.rate : rate).toPrecision(2)), floor: Number(floor.toPrecision(3)) }, ...(at === null ? { bound: "at-least" as const } : {}) });
  if (f) findings.push(f);
  if (at === null) notes.push({ code: "floor-not-reached", message: `The log ends at ${q(log.volts[end - 1] as number, "V", { digits: 3 })}, above the floor of ${q(floor, "V")}: the capacity is at least that.` });
  const rated = setup.conditions.cellCapacity ?? plan?.capacity;
  const share = rated ? `, ${q(x.value / rated, "1", { digits: 3 })} of the ${q(rated, "Ah")} that it is rated for` : "";
  notes.push({ code: "delivered", message: `It gave ${q(x.value, "Ah", { digits: 3 })} in ${formatDuration(stop - start)} at ${q(rate, "A", { digits: 3 })} down to ${q(floor, "V")}${share}.` });
}

/** Where nobody said a floor, the volts that the log ends its discharge at. */
const lowestHeld = (log: Log, first: number, end: number): number => Number(Math.min(...finite(log.volts, Math.max(first, end - 5), end)).toFixed(2));

/** The step of the volts as the load goes off ÷ the step of the current, both carried to that instant. */
function resistance(log: Log, end: number, setup: RunSetup, findings: Finding[]): void {
  const at = ((log.time[end - 1] as number) + (log.time[end] as number)) / 2;
  const before = valueBefore(log.time, log.volts, end, at, 8);
  const rows = Array.from({ length: Math.min(6, log.time.length - end) }, (_, k) => end + k).filter((k) => Number.isFinite(log.volts[k]));
  const after = rows.length >= 3 ? fitLine(rows.map((k) => (log.time[k] as number) - at), rows.map((k) => log.volts[k] as number)) : null;
  const amps = valueBefore(log.time, log.amps, end, at, 8);
  if (!before || !after || !amps || amps.value < 0.01) return;
  const step = after.intercept - before.value;
  const apart = Math.abs(after.intercept - (log.volts[end] as number));
  // The cell begins to recover within the first interval: what it did in it can't be told from its resistance.
  const drop = withPart(meterDifference(step, log.voltRole, setup, "rebound"), "recovery within an interval", rectangular(apart + Math.abs(before.slope) * log.usual));
  const gain = setup.instruments[log.ampRole]?.gain ?? 0;
  const r = step / amps.value;
  const x = uncertain(r, [...[...drop.parts].map(([s, u]) => [s, u / amps.value] as const), [sourceName(log.ampRole, "gain"), rectangular(gain) * r]]);
  const f = logFinding("cell.resistance", x, setup);
  if (f) findings.push(f);
}
