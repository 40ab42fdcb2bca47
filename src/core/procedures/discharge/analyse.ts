import { accuracyAt, meterSource } from "../../instruments";
import {
  ELEMENTS,
  fitLine,
  formatDuration,
  formatQuantity,
  median,
  rectangular,
  uncertain,
  withPart,
  type ErrorSource,
  sampling,
  divide,
  model,
  type Uncertain,
} from "../../quantities";
import { finite, finiteWithin, indexAt, integrate, valueBefore } from "../../traces";
import { changingLoad } from "../kit/changing-load";
import { cleanLog, logCharts, type CleanColumns } from "../kit/guided";
import { logFinding, meterDifference } from "../kit/log-reading";
import type { Corrections, Role, Analysis, Finding, Note, NotStated, ReadingsOf, RunSetup } from "../../measurement";
import type { Wanted } from "../contract";
import { restedFull, type DischargePlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const ROLES = [
  "batteryVoltage",
  "batteryCurrent",
  "cellVoltage",
  "cellCurrent",
  "cellTemperature",
] as const satisfies readonly Role[];

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
  return {
    time,
    volts,
    amps,
    voltRole: c.cellVoltage ? "cellVoltage" : "batteryVoltage",
    ampRole: c.batteryCurrent ? "batteryCurrent" : "cellCurrent",
    usual,
  };
}

/** Capacity at the rate and to the floor that the log shows, and resistance from the rebound. */
export function analyseDischarge(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<DischargePlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const clean = cleanLog(readings.trace, setup, ROLES);
  const log = clean && dischargeLog(clean.time, clean.columns, clean.usual);
  if (!clean || !log)
    return {
      findings: [],
      notes: [
        { code: "no-cell", message: "The log lacks the cell voltage or current, so the capacity can't be found." },
      ],
      charts: [],
    };
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const a = setup.instruments[log.ampRole];
  const floor = 2 * accuracyAt(a ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.002;
  const notStated: NotStated[] = [];
  const flows = segments(log, floor);
  const last = flows[flows.length - 1];
  if (!last) notes.push({ code: "no-discharge", message: "No current was seen to flow out of the cell." });
  else {
    capacity(log, flows, setup, findings, notes, notStated);
    notes.push(...changingLoad(log.time, log.amps, flows));
    if (last.end < log.time.length) resistance(log, last.end, setup, findings);
  }
  const at = (row: number) => sampleAt(log.time, Math.min(log.time.length - 1, row));
  const spans = flows.map((s) => ({ from: at(s.first), to: at(s.end), label: "discharging" }));
  return {
    findings,
    notes,
    notStated,
    charts:
      wanted === "findings"
        ? []
        : logCharts(
            log.time,
            clean.columns,
            [
              {
                id: "voltage",
                title: "Cell voltage",
                label: "Voltage",
                unit: "V",
                roles: [
                  ["cellVoltage", "cell", 0],
                  ["batteryVoltage", "cell", 0],
                ],
              },
              {
                id: "current",
                title: "Current out of the cell",
                label: "Current",
                unit: "A",
                roles: [
                  ["batteryCurrent", "cell", 1],
                  ["cellCurrent", "into the cell", 1],
                ],
              },
              {
                id: "temperature",
                title: "Cell temperature",
                label: "Temperature",
                unit: "°C",
                roles: [["cellTemperature", "cell", 2]],
              },
            ],
            { spans, events: readings.trace.events },
          ),
  };
}

/** Rows in which the load draws current, [first, end). */
interface Segment {
  readonly first: number;
  readonly end: number;
}

/** The stretches of a discharge: one, or several where the load had slipped off meanwhile. */
function segments(log: Log, floor: number): Segment[] {
  const out: Segment[] = [];
  for (let from = 0; ;) {
    const first = firstRow(log, from, (x) => x > floor);
    if (first === null) return out;
    const end = firstRow(log, first, (x) => x <= floor) ?? log.time.length;
    out.push({ first, end });
    if (end >= log.time.length) return out;
    from = end;
  }
}

/** s without a load that a capacity may have in it, all together. */
const PAUSES = 1800;

/** First row from which `holds` is true twice in a row. */
function firstRow(log: Log, from: number, holds: (amps: number) => boolean): number | null {
  for (let k = from; k + 1 < log.amps.length; k++)
    if (holds(sampleAt(log.amps, k)) && holds(sampleAt(log.amps, k + 1))) return k;
  return null;
}

/** Where the volts cross the floor under load, s, and in which segment; on a straight line between two samples. */
function crossing(
  log: Log,
  flows: readonly Segment[],
  floor: number,
): { readonly at: number; readonly segment: number } | null {
  for (const [segment, { first, end }] of flows.entries())
    for (let k = first; k < end; k++) {
      const v = sampleAt(log.volts, k);
      if (!(v <= floor)) continue;
      const b = k > first ? sampleAt(log.volts, k - 1) : NaN;
      const t = sampleAt(log.time, k);
      return {
        segment,
        at: b > floor ? sampleAt(log.time, k - 1) + ((b - floor) / (b - v)) * (t - sampleAt(log.time, k - 1)) : t,
      };
    }
  return null;
}

/** What was drawn, as a charge in As with the moments (s) and the rate (A) that it was drawn with. */
interface Drawn {
  readonly drawn: number;
  readonly rate: number;
  readonly floor: number;
  readonly start: number;
  readonly stop: number;
  readonly paused: number;
  readonly gaps: number;
}

/** The charge that was drawn, Ah, with its sources. */
function chargeDrawn(log: Log, { drawn, rate, floor, start, stop, paused, gaps }: Drawn, setup: RunSetup): Uncertain {
  const a = setup.instruments[log.ampRole];
  const v = setup.instruments[log.voltRole];
  const slope = Math.abs(valueBefore(log.time, log.volts, indexAt(log.time, stop), stop, 8)?.slope ?? 0);
  const late = v && slope > 0 ? rectangular(accuracyAt(v, floor)) / slope : 0;
  return uncertain(drawn / 3600, [
    ...(a
      ? ([
          [meterSource(log.ampRole, "gain"), (rectangular(a.gain) * drawn) / 3600],
          [meterSource(log.ampRole, "offset"), (rectangular(a.counts * a.resolution) * (stop - start - paused)) / 3600],
        ] as [ErrorSource, number][])
      : []),
    [model("voltage at the floor"), (late * rate) / 3600],
    [sampling(), (Math.sqrt(1 + 2 * gaps) * rectangular(log.usual / 2) * rate) / 3600],
    // The cell recovers in a pause and gives a little more then; beyond what a pause of minutes does it is not stated.
    [model("recovery in the pauses"), paused > 0 ? rectangular(0.01 * Math.sqrt(paused / PAUSES)) * (drawn / 3600) : 0],
  ]);
}

/** What was drawn, from the first load to the floor or the log's end. */
function drawnCharge(log: Log, flows: readonly Segment[], plan: DischargePlan | undefined) {
  const [begin, last] = [flows[0] as Segment, flows[flows.length - 1] as Segment];
  const rate = median(finiteWithin(log.amps, flows));
  const floor = plan?.floor ?? lowestHeld(log, last.first, last.end);
  const crossed = crossing(log, flows, floor);
  const used = flows.slice(0, (crossed?.segment ?? flows.length - 1) + 1);
  const edge = (row: number) =>
    row > 0 && row < log.time.length
      ? (sampleAt(log.time, row - 1) + sampleAt(log.time, row)) / 2
      : sampleAt(log.time, Math.min(row, log.time.length - 1));
  const start = edge(begin.first);
  const stop = crossed?.at ?? sampleAt(log.time, (used[used.length - 1] as Segment).end - 1);
  const agree = (x: number, y: number) => Math.abs(sampleAt(log.amps, x) - sampleAt(log.amps, y)) <= 0.1 * rate;
  const parts = used.map((s, k) =>
    integrate(log.time, log.amps, null, edge(s.first), k === used.length - 1 ? stop : edge(s.end), log.usual, agree),
  );
  const drawn = parts.reduce((sum, p) => sum + p.value, 0);
  const gaps = used.slice(1).map((s, k) => edge(s.first) - edge((used[k] as Segment).end));
  const paused = gaps.reduce((sum, g) => sum + g, 0);
  const rested = begin.first > 0 ? median(finite(log.volts, Math.max(0, begin.first - 12), begin.first)) : NaN;
  const open = parts.some((p) => p.open.length);
  return { last, rate, floor, crossed, start, stop, drawn, gaps, paused, rested, open };
}

/** Why what was drawn is no capacity: the note that says so, and what stands in its place; null where it is one. */
function noCapacity(
  d: ReturnType<typeof drawnCharge>,
  plan: DischargePlan | undefined,
): { readonly note: Note; readonly code: NotStated["code"]; readonly reason: string } | null {
  if (d.open)
    return {
      note: {
        code: "gap-open",
        message: "The log has a gap, and the current differs on its two sides: the capacity is not stated.",
      },
      code: "disturbed",
      reason: "The log has a gap, and the current on its two sides differs.",
    };
  if (d.paused > PAUSES)
    return {
      note: loadOff(d),
      code: "disturbed",
      reason: `The load was off for ${formatDuration(d.paused)} in all: the cell recovers in so long a pause.`,
    };
  if (d.rested >= restedFull(plan)) return null;
  const shown = Number.isFinite(d.rested);
  const began = `The cell began at ${q(d.rested, "V", { digits: 3 })} rested`;
  const unseen = "The log doesn't show the rested cell before the load";
  return {
    note: {
      code: "not-from-full",
      message: `${shown ? `${began}, not full` : unseen}: the ${q(d.drawn / 3600, "Ah", { digits: 3 })} delivered are not its capacity. The cell is still ready for a repeated charge.`,
    },
    code: shown ? "did-not-happen" : "not-in-log",
    reason: shown ? `${began}: it was not full.` : `${unseen}.`,
  };
}

const loadOff = ({ gaps, paused }: { readonly gaps: readonly number[]; readonly paused: number }): Note => ({
  code: "load-off",
  message: `The load was off ${gaps.length === 1 ? "once" : `${gaps.length} times`}, for ${formatDuration(paused)} in all${paused > PAUSES ? `: the cell recovers in so long a pause, and its capacity is not stated` : "; the stretches are added"}.`,
});

function capacity(
  log: Log,
  flows: readonly Segment[],
  setup: RunSetup<DischargePlan>,
  findings: Finding[],
  notes: Note[],
  notStated: NotStated[],
): void {
  const { plan } = setup;
  const d = drawnCharge(log, flows, plan);
  const { last, rate, floor, crossed, start, stop, drawn, gaps, paused } = d;
  const no = noCapacity(d, plan);
  if (paused > 0 && paused <= PAUSES && !d.open) notes.push(loadOff(d));
  if (no) {
    notes.push(no.note);
    notStated.push({ characteristic: "cell.capacity", code: no.code, reason: no.reason });
    return;
  }
  const x = chargeDrawn(log, { drawn, rate, floor, start, stop, paused, gaps: gaps.length }, setup);
  const f = logFinding("cell.capacity", x, setup, {
    conditions: {
      rate: Number((plan && Math.abs(plan.rate - rate) < 0.05 * plan.rate ? plan.rate : rate).toPrecision(2)),
      floor: Number(floor.toPrecision(3)),
    },
    ...(crossed ? {} : { bound: "at-least" as const }),
  });
  if (f) findings.push(f);
  if (!crossed)
    notes.push({
      code: "floor-not-reached",
      message: `The log ends at ${q(sampleAt(log.volts, last.end - 1), "V", { digits: 3 })}, above the floor of ${q(floor, "V")}: the capacity is at least that.`,
    });
  const rated = setup.conditions.cellCapacity ?? plan?.capacity;
  const share = rated
    ? `, ${q(x.value / rated, "1", { digits: 3 })} of the ${q(rated, "Ah")} that it is rated for`
    : "";
  notes.push({
    code: "delivered",
    message: `It gave ${q(x.value, "Ah", { digits: 3 })} in ${formatDuration(stop - start - paused)} at ${q(rate, "A", { digits: 3 })} down to ${q(floor, "V")}${share}.`,
  });
}

/** Where nobody said a floor, the volts that the log ends its discharge at. */
const lowestHeld = (log: Log, first: number, end: number): number =>
  Number(
    finite(log.volts, Math.max(first, end - 5), end)
      .reduce((m, v) => Math.min(m, v), Infinity)
      .toFixed(2),
  );

/** The step of the volts as the load goes off ÷ the step of the current, both carried to that instant. */
function resistance(log: Log, end: number, setup: RunSetup, findings: Finding[]): void {
  const at = (sampleAt(log.time, end - 1) + sampleAt(log.time, end)) / 2;
  const before = valueBefore(log.time, log.volts, end, at, 8);
  const rows = Array.from({ length: Math.min(6, log.time.length - end) }, (_, k) => end + k).filter((k) =>
    Number.isFinite(log.volts[k]),
  );
  const after =
    rows.length >= 3
      ? fitLine(
          rows.map((k) => sampleAt(log.time, k) - at),
          rows.map((k) => sampleAt(log.volts, k)),
        )
      : null;
  const amps = valueBefore(log.time, log.amps, end, at, 8);
  if (!before || !after || !amps || amps.value < 0.01) return;
  const step = after.intercept - before.value;
  const apart = Math.abs(after.intercept - sampleAt(log.volts, end));
  // The cell begins to recover within the first interval: what it did in it can't be told from its resistance.
  const drop = withPart(
    meterDifference(step, log.voltRole, setup, "rebound"),
    sampling("recovery within an interval"),
    rectangular(apart + Math.abs(before.slope) * log.usual),
  );
  const gain = setup.instruments[log.ampRole]?.gain ?? 0;
  const x = divide(drop, uncertain(amps.value, [[meterSource(log.ampRole, "gain"), rectangular(gain) * amps.value]]));
  const f = logFinding("cell.resistance", x, setup);
  if (f) findings.push(f);
}
