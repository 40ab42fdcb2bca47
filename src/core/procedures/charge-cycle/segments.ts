import { ELEMENTS, median } from "../../quantities";
import { finite, indexAt } from "../../traces";
import type { TraceEvent } from "../../measurement";
import type { StopCause, StopVerdict } from "./ending";
import type { ChargeEvent } from "./stream";

const { sampleAt } = ELEMENTS;

/** A stretch without current inside one charge, s. */
export interface Pause {
  readonly from: number;
  readonly to: number;
  readonly cause: StopCause | null;
  /** Current that was flowing before it, A. */
  readonly amps: number;
  /** How far its length may be off either way: half the distances of the samples around its two edges, s. */
  readonly doubt: number;
}

/** A stop of the current after which nothing of this charge follows in the log. */
export interface Halt {
  readonly time: number;
  /** False: interrupted; null: the log can't tell. */
  readonly ended: false | null;
  readonly cause: StopCause | null;
  readonly amps: number;
}

export interface Segments {
  /** Where the charge ended; null where the log holds no end. */
  readonly stop: number | null;
  readonly stopAmps: number;
  readonly halt: Halt | null;
  readonly pauses: readonly Pause[];
  /** Where charging began again after the end, and whether the input had been gone meanwhile. */
  readonly restart: number | null;
  readonly replugged: boolean;
}

/** What a mark of the tester says of a stop that it stands near. */
export const STOP_MARKS: Readonly<Record<string, StopVerdict>> = {
  unplugged: { ended: false, cause: "input" },
  "cell-out": { ended: false, cause: "cell" },
  ended: { ended: true, cause: null },
};
/** s, and sampling distances, within which a mark speaks of a stop. */
const NEAR = { seconds: 30, samples: 4 };
/** V under the full voltage down to which no charger starts again by itself. */
export const NO_RECHARGE = 0.06;
/** Share of the current of an earlier stop under which a later end shows that the earlier one was none. */
const LOWER_END = 0.75;

export interface Columns {
  readonly time: Float64Array;
  /** As they were read, and without single-sample spikes. */
  readonly rawVoltage: Float64Array;
  readonly rawCurrent: Float64Array;
  readonly cellVoltage: Float64Array;
  readonly cellCurrent: Float64Array;
  readonly rawInput: Float64Array | undefined;
  readonly usual: number;
  /** A current is a current above this, A. */
  readonly floor: number;
}

interface Stop {
  readonly time: number;
  readonly amps: number;
  readonly verdict: StopVerdict;
  /** The next beginning, and whether the input was gone before it. */
  readonly next: number | null;
  readonly replugged: boolean;
}

/**
 * One charge, put together from its segments: pauses between them, its end where there is one, or where it was interrupted for good.
 * Marks of the tester go before what the log shows; a stop that the log can't judge was an interruption where the charge goes on.
 */
export function findSegments(
  c: Columns,
  events: readonly ChargeEvent[],
  marks: readonly TraceEvent[],
  full: number,
): Segments {
  const stops = stopsOf(events).map((s, k, all) => withMark(c, goneOn(c, s, all[k + 1], full), marks));
  const pauses: Pause[] = [];
  const begun = events.find((e) => e.kind === "start")?.time ?? sampleAt(c.time, 0);
  for (const s of stops) {
    const at = edge(c, s.time);
    const next = s.next === null ? null : edge(c, s.next);
    if (s.verdict.ended === true)
      return {
        stop: at.time,
        stopAmps: s.amps,
        halt: null,
        pauses: withDropouts(c, pauses, begun, at.time),
        restart: next?.time ?? null,
        replugged: s.replugged,
      };
    if (next === null)
      return {
        stop: null,
        stopAmps: NaN,
        halt: { time: at.time, ended: s.verdict.ended, cause: s.verdict.cause, amps: s.amps },
        pauses: withDropouts(c, pauses, begun, at.time),
        restart: null,
        replugged: false,
      };
    pauses.push({ from: at.time, to: next.time, cause: s.verdict.cause, amps: s.amps, doubt: (at.gap + next.gap) / 2 });
  }
  return {
    stop: null,
    stopAmps: NaN,
    halt: null,
    pauses: withDropouts(c, pauses, begun, sampleAt(c.time, c.time.length - 1)),
    restart: null,
    replugged: false,
  };
}

function stopsOf(events: readonly ChargeEvent[]): Stop[] {
  const begins = (e: ChargeEvent) => e.kind === "resume" || e.kind === "restart";
  return events.flatMap((e, k) => {
    if (e.kind !== "stop" && e.kind !== "interruption") return [];
    const next = events.slice(k + 1).find(begins);
    return [
      {
        time: e.time,
        amps: e.amps ?? NaN,
        verdict: e.verdict ?? { ended: true, cause: null },
        next: next?.time ?? null,
        replugged: next?.replugged ?? false,
      },
    ];
  });
}

/**
 * What came after tells of a stop: a charge that goes on had not ended. Without an input column, a stop in the voltage phase looks like an
 * end; where the current comes back while the cell is still nearly full, and the end that follows lies at far less current, it was none.
 */
function goneOn(c: Columns, s: Stop, later: Stop | undefined, full: number): Stop {
  if (s.next === null || s.verdict.ended === false) return s;
  if (s.verdict.ended === null) return { ...s, verdict: { ended: false, cause: null } };
  if (c.rawInput || !later || !Number.isFinite(full)) return s;
  const k = indexAt(c.time, s.next);
  const before = median(finite(c.cellVoltage, k - 6, k - 1));
  return before > full - NO_RECHARGE && later.amps < LOWER_END * s.amps
    ? { ...s, verdict: { ended: false, cause: null } }
    : s;
}

function withMark(c: Columns, s: Stop, marks: readonly TraceEvent[]): Stop {
  const reach = Math.max(NEAR.seconds, NEAR.samples * c.usual);
  const own = marks.find((m) => STOP_MARKS[m.kind ?? ""] && Math.abs(m.time - s.time) <= reach);
  return own ? { ...s, verdict: STOP_MARKS[own.kind ?? ""] as StopVerdict } : s;
}

/** The instant at which the current crosses the floor, nearest to where the stream saw it: the middle of two samples, and their distance. */
export function edge(
  c: Pick<Columns, "time" | "cellCurrent" | "floor" | "usual">,
  near: number,
): { time: number; gap: number } {
  const { time, cellCurrent, floor } = c;
  const centre = indexAt(time, near);
  let best = { time: near, gap: c.usual };
  let away = Infinity;
  let last = -1;
  for (let k = Math.max(0, centre - 6); k < Math.min(time.length, centre + 6); k++) {
    if (!Number.isFinite(cellCurrent[k])) continue;
    if (last >= 0 && sampleAt(cellCurrent, last) > floor !== sampleAt(cellCurrent, k) > floor) {
      const [a, b] = [sampleAt(time, last), sampleAt(time, k)];
      const middle = (a + b) / 2;
      if (Math.abs(middle - near) < away) {
        away = Math.abs(middle - near);
        best = { time: middle, gap: b - a };
      }
    }
    last = k;
  }
  return best;
}

/** Most samples of a dropout that is too short for the stream. */
const SHORT = 4;

/**
 * Pauses of a sample or a few, which the stream passes over: a loose plug for seconds. One sample alone is a spike unless input or
 * terminals moved with it.
 */
function withDropouts(c: Columns, pauses: readonly Pause[], from: number, to: number): Pause[] {
  const out = [...pauses];
  const { time, rawCurrent } = c;
  const inside = (t: number) => pauses.some((p) => t >= p.from && t <= p.to);
  const end = indexAt(time, to);
  let last = -1;
  for (let k = indexAt(time, from) + 1; k < end; k++) {
    const a = sampleAt(rawCurrent, k);
    if (a - a !== 0) continue;
    if (a > c.floor) {
      last = k;
      continue;
    }
    if (last < 0 || inside(sampleAt(time, k))) continue;
    let next = k + 1;
    let count = 1;
    while (next < end && !(sampleAt(rawCurrent, next) > c.floor)) {
      if (Number.isFinite(rawCurrent[next])) count++;
      next++;
    }
    if (next >= end) break;
    const amps = sampleAt(rawCurrent, last);
    if (count <= SHORT && amps > 4 * c.floor && sampleAt(rawCurrent, next) > 4 * c.floor) {
      const cause = gone(c, last, k, next);
      if (cause !== null || count > 1) {
        const [start, stop] = [
          (sampleAt(time, last) + sampleAt(time, k)) / 2,
          (sampleAt(time, next - 1) + sampleAt(time, next)) / 2,
        ];
        out.push({
          from: start,
          to: stop,
          cause: cause === "input" ? "input" : null,
          amps,
          doubt: (sampleAt(time, k) - sampleAt(time, last) + sampleAt(time, next) - sampleAt(time, next - 1)) / 2,
        });
      }
    }
    k = next - 1;
  }
  return out.sort((a, b) => a.from - b.from);
}

/** Whether input or terminals moved with a sample that shows no current: then it is no spike of the ammeter. */
function gone(c: Columns, before: number, at: number, after: number): "input" | "terminals" | null {
  const least = (v: Float64Array) => Math.min(sampleAt(v, before), sampleAt(v, after));
  if (c.rawInput && sampleAt(c.rawInput, at) < 0.7 * least(c.rawInput)) return "input";
  const volts = sampleAt(c.rawVoltage, at);
  const most = Math.max(sampleAt(c.rawVoltage, before), sampleAt(c.rawVoltage, after));
  return least(c.rawVoltage) - volts > 0.008 || volts - most > 0.03 ? "terminals" : null;
}

/** s of a stretch that fall into pauses. */
export const pausedWithin = (pauses: readonly Pause[], from: number, to: number): number =>
  pauses.reduce((sum, p) => sum + Math.max(0, Math.min(p.to, to) - Math.max(p.from, from)), 0);

/** The stretches in which current flows, pauses cut out. */
export function flowing(pauses: readonly Pause[], from: number, to: number): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  let at = from;
  for (const p of pauses) {
    if (p.to <= from || p.from >= to) continue;
    if (p.from > at) out.push({ from: at, to: p.from });
    at = p.to;
  }
  if (to > at) out.push({ from: at, to });
  return out;
}
