import {
  ELEMENTS,
  formatDuration,
  formatQuantity,
  median,
  rectangular,
  withPart,
  type Uncertain,
  scatter,
  sampling,
  propagate,
} from "../../quantities";
import { finite, indexAt } from "../../traces";
import { cleanLog, logCharts, outputLevel } from "../kit/guided";
import { logFinding, meterReading } from "../kit/log-reading";
import type {
  Corrections,
  Analysis,
  Finding,
  Note,
  ReadingsOf,
  RunSetup,
  Trace,
  TraceEvent,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { STANDBY_STATES, type StandbyPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const YEAR = 365.25 * 86400;
/** Years beyond which a cell's own ageing decides. */
const AGEING = 5;
/** V of burden beyond which the module was not fed what it would be. */
const BURDEN = 0.2;
/** V of it that are worth a word. */
const WORTH = 0.005;

interface Stretch {
  readonly state: string;
  readonly from: number;
  readonly to: number;
}

/** The stretches of a log that stand in one idle state each: between its marks, or all of it in the state that the set-up names. */
export function stretches(time: Float64Array, events: readonly TraceEvent[], named: string | undefined): Stretch[] {
  const marks = events.filter((e) => (e.kind ?? "").startsWith("state:")).sort((a, b) => a.time - b.time);
  const end = sampleAt(time, time.length - 1);
  if (marks.length === 0) return named ? [{ state: named, from: sampleAt(time, 0), to: end }] : [];
  return marks.flatMap((m, k) => {
    const state = (m.kind as string).slice(6);
    const to = marks[k + 1]?.time ?? end;
    return state === "end" || to <= m.time ? [] : [{ state, from: m.time, to }];
  });
}

export interface MeanCurrent {
  readonly value: number;
  readonly peak: number;
  readonly seconds: number;
  /** Wake pulses: s from one to the next, and the charge of one above the floor, A s; null where fewer than three were whole. */
  readonly wakes: {
    readonly period: number;
    readonly charge: number;
    readonly scatter: number;
    readonly count: number;
  } | null;
  /** A between the pulses. */
  readonly floor: number;
  readonly samples: number;
}

/** A pulse that stands whole in a stretch: its charge above the floor, A s, and when its middle was. */
interface Pulse {
  readonly charge: number;
  readonly at: number;
}

/** Pulses above `gate`, each with the sample before and after it; those cut by an end of the stretch are left out. */
function pulsesIn(time: Float64Array, amps: Float64Array, a: number, b: number, floor: number, gate: number): Pulse[] {
  const out: Pulse[] = [];
  let first = -1;
  for (let k = a; k < b; k++) {
    if (sampleAt(amps, k) > gate) {
      if (first < 0) first = k;
      continue;
    }
    if (first < 0) continue;
    const [from, to] = [first - 1, k];
    first = -1;
    if (from <= a) continue;
    let [charge, moment] = [0, 0];
    for (let j = from; j <= to; j++) {
      const v = sampleAt(amps, j);
      const dt = sampleAt(time, j) - sampleAt(time, j - 1);
      if (v - v !== 0) continue;
      charge += (v - floor) * dt;
      moment += (v - floor) * dt * (sampleAt(time, j) - dt / 2);
    }
    if (charge > 0) out.push({ charge, at: moment / charge });
  }
  return out;
}

/**
 * Time-mean of a current over [from, to). Samples are taken as means over their interval, as loggers write them.
 *
 * Where it wakes in pulses, the mean is that between them and the pulses' mean charge over their period, from the middle of the first
 * to the middle of the last: a pulse more or less at an end of the stretch changes nothing.
 */
export function meanCurrent(time: Float64Array, amps: Float64Array, from: number, to: number): MeanCurrent | null {
  const [a, b] = [indexAt(time, from), indexAt(time, to + 1e-9)];
  let [high, low, n, charge, seconds] = [-Infinity, Infinity, 0, 0, 0];
  for (let k = Math.max(1, a); k < b; k++) {
    const v = sampleAt(amps, k);
    if (v - v !== 0) continue;
    n++;
    if (v > high) high = v;
    if (v < low) low = v;
    const dt = sampleAt(time, k) - sampleAt(time, k - 1);
    charge += v * dt;
    seconds += dt;
  }
  if (n < 3 || !(seconds > 0)) return null;
  const plain = charge / seconds;
  const usual = median(finite(amps, a, b));
  const gate = usual + Math.max(0.03 * (high - usual), 3 * (usual - low), 4e-6);
  const pulses = high - usual > 8 * (usual - low) ? pulsesIn(time, amps, a, b, usual, gate) : [];
  const [first, last] = [pulses[0], pulses[pulses.length - 1]];
  if (!first || !last || pulses.length < 3)
    return { value: plain, peak: high, seconds, wakes: null, floor: usual, samples: n };
  let [quiet, quiets] = [0, 0];
  for (let k = a + 1; k + 1 < b; k++) {
    const v = sampleAt(amps, k);
    if (v <= gate && sampleAt(amps, k - 1) <= gate && sampleAt(amps, k + 1) <= gate) {
      quiet += v;
      quiets++;
    }
  }
  const floor = quiets ? quiet / quiets : usual;
  const period = (last.at - first.at) / (pulses.length - 1);
  const each = pulses.reduce((s, p) => s + p.charge, 0) / pulses.length;
  const scatter = Math.sqrt(pulses.reduce((s, p) => s + (p.charge - each) ** 2, 0) / (pulses.length - 1));
  return {
    value: floor + each / period,
    peak: high,
    seconds,
    wakes: { period, charge: each, scatter, count: pulses.length },
    floor,
    samples: n,
  };
}

/** Idle currents by time-mean over wake pulses, and the life of the cell at each. */
export function analyseStandby(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<StandbyPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const { time, batteryCurrent } = trace.columns;
  // Wake pulses may be a single sample long: nothing is taken for a spike here.
  if (!time || !batteryCurrent || time.length < 3)
    return {
      findings: [],
      notes: [{ code: "no-current", message: "The log has no battery current: the standby can't be analysed." }],
      charts: [],
    };
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const parts = stretches(time, trace.events, setup.conditions.state);
  if (parts.length === 0)
    notes.push({
      code: "no-state",
      message: `The state is not stated: mark it (${STANDBY_STATES.join(", ")}), or name it in the set-up.`,
    });
  for (const part of parts) {
    const off = part.state === "no-load" ? goesOff(time, trace.columns.outputVoltage, part, setup) : null;
    if (off !== null)
      notes.push({
        code: "switched-off",
        message: `“no-load”: the output switched itself off after ${formatDuration(off - part.from)}; later readings are not used.`,
      });
    const whole = undisturbed(time, batteryCurrent, trace.columns.batteryVoltage, part.from, off ?? part.to);
    if (whole.lost > 0)
      notes.push({
        code: "interrupted",
        message: `“${part.state}”: the supply or a lead was off for ${formatDuration(whole.lost)}; the longest stretch without that, ${formatDuration(whole.to - whole.from)}, counts.`,
      });
    const mean = meanCurrent(time, batteryCurrent, whole.from, whole.to);
    if (!mean) {
      notes.push({ code: "too-short", message: `“${part.state}” has too few readings for a mean.` });
      continue;
    }
    state(part.state, mean, setup, findings, notes);
  }
  return { findings, notes, charts: wanted === "findings" ? [] : chartsOf(trace, parts, setup) };
}

/** What is drawn of a standby: the current of each state where it counts, and the voltages. */
function chartsOf(trace: Trace, parts: ReturnType<typeof stretches>, setup: RunSetup): ReturnType<typeof logCharts> {
  const { time, batteryCurrent } = trace.columns;
  if (!time || !batteryCurrent) return [];
  const log = cleanLog(trace, setup, ["batteryVoltage", "outputVoltage"]);
  const spans = parts.map((p) => ({ from: p.from, to: p.to, label: p.state }));
  // Starting the board takes thousands of times what it draws idle: the current is drawn where it was measured.
  const measured = parts.length
    ? batteryCurrent.map((v, k) =>
        parts.some((p) => sampleAt(time, k) > p.from && sampleAt(time, k) <= p.to) ? v : NaN,
      )
    : batteryCurrent;
  return logCharts(
    time,
    { ...log?.columns, batteryCurrent: measured },
    [
      {
        id: "current",
        title: "Current out of the battery",
        label: "Current",
        unit: "A",
        roles: [["batteryCurrent", "battery", 0]],
        claims: [{ characteristic: "standby.current", axis: "y" }],
      },
      {
        id: "voltage",
        title: "Voltage",
        label: "Voltage",
        unit: "V",
        roles: [
          ["batteryVoltage", "battery", 0],
          ["outputVoltage", "output", 1],
        ],
      },
    ],
    { spans, events: [] },
  );
}

/** Share of its usual voltage under which the supply of a standby is off, and samples without any current that are no sleep. */
const SUPPLY_OFF = 0.5;
const DEAD = 5;

/**
 * The longest stretch of [from, to] in which the board was fed: the battery's volts were there, and the current was not exactly nothing
 * for samples on end where it otherwise never is. `lost` is the time that was not, s.
 */
function undisturbed(
  time: Float64Array,
  amps: Float64Array,
  volts: Float64Array | undefined,
  from: number,
  to: number,
): { readonly from: number; readonly to: number; readonly lost: number } {
  const [a, b] = [indexAt(time, from), indexAt(time, to + 1e-9)];
  const usualVolts = volts ? median(finite(volts, a, b)) : NaN;
  const usual = median(finite(amps, a, b));
  const dead = 0.05 * usual;
  const off: { from: number; to: number }[] = [];
  let first = -1;
  for (let k = a; k <= b; k++) {
    const gone =
      k < b &&
      ((volts !== undefined && sampleAt(volts, k) < SUPPLY_OFF * usualVolts) ||
        (usual > 0 && Math.abs(sampleAt(amps, k)) <= dead));
    if (gone && first < 0) first = k;
    if (gone || first < 0) continue;
    const lost = volts !== undefined && sampleAt(volts, first) < SUPPLY_OFF * usualVolts;
    if (lost || k - first >= DEAD)
      off.push({ from: sampleAt(time, Math.max(a, first - 1)), to: sampleAt(time, Math.min(k, time.length - 1)) });
    first = -1;
  }
  if (off.length === 0) return { from, to, lost: 0 };
  let best = { from, to: from };
  let at = from;
  for (const o of [...off, { from: to, to }]) {
    if (o.from - at > best.to - best.from) best = { from: at, to: o.from };
    at = o.to;
  }
  return { ...best, lost: off.reduce((s, o) => s + o.to - o.from, 0) };
}

/** When an output that should be on goes off within a stretch, s; null where it stays on or is not logged. */
function goesOff(
  time: Float64Array,
  output: Float64Array | undefined,
  part: Stretch,
  setup: RunSetup<StandbyPlan>,
): number | null {
  if (!output) return null;
  const limit = 0.5 * outputLevel(setup.conditions.nominalOutput, output);
  let below = 0;
  for (let k = indexAt(time, part.from); k < time.length && sampleAt(time, k) <= part.to; k++) {
    const v = sampleAt(output, k);
    if (v - v !== 0) continue;
    below = v < limit ? below + 1 : 0;
    if (below === 3) return time[k - 3] ?? part.from;
  }
  return null;
}

function state(
  name: string,
  mean: MeanCurrent,
  setup: RunSetup<StandbyPlan>,
  findings: Finding[],
  notes: Note[],
): void {
  const conditions = { state: name };
  let x: Uncertain = meterReading(mean.value, "batteryCurrent", setup, name, mean.samples);
  const { wakes } = mean;
  if (wakes) x = withPart(x, scatter("scatter of the pulses"), wakes.scatter / Math.sqrt(wakes.count) / wakes.period);
  // With fewer than three whole pulses one more or less may stand in the mean.
  else if (mean.peak > 3 * Math.max(1e-7, mean.floor))
    x = withPart(x, sampling("pulses in the stretch"), rectangular(Math.max(0, mean.value - mean.floor)));
  const burden = (setup.plan?.shunt ?? 0) * mean.peak;
  const unfair: Unfairness[] =
    burden > BURDEN
      ? [
          {
            code: "burden",
            message: `At its highest the ammeter's burden took ${q(burden, "V", { digits: 2 })} from the board.`,
            remedy: "Measure in a range with less burden, or raise the supply by it.",
            pushes: "either",
          },
        ]
      : [];
  const f = logFinding("standby.current", x, setup, { conditions, unfair });
  if (f) findings.push(f);
  if (wakes)
    notes.push({
      code: "wakes",
      message: `“${name}”: it wakes every ${q(wakes.period, "s", { digits: 3 })} up to ${q(mean.peak, "A", { digits: 3 })}; a snapshot between shows ${q(mean.floor, "A", { digits: 2 })}, the mean is ${q(mean.value, "A", { digits: 3 })}.`,
    });
  if (setup.plan && burden > WORTH)
    notes.push({
      code: "burden",
      message: `“${name}”: the ammeter's burden of ${q(setup.plan.shunt, "Ω")} takes up to ${q(burden, "V", { digits: 2 })}.`,
    });
  const { usableCapacity, cellSelfDischargeCurrent } = setup.conditions;
  if (!usableCapacity || !(mean.value > 0)) return;
  const self = cellSelfDischargeCurrent ?? 0;
  const drain = mean.value + self;
  const life = (3600 * usableCapacity) / drain;
  const l = logFinding("standby.life", propagate(life, [[-life / drain, x]]), setup, { conditions, unfair });
  if (l) findings.push(l);
  const naive = (3600 * usableCapacity) / mean.value;
  notes.push({
    code: "life",
    message: `“${name}”: ${formatDuration(life)} with the cell's own discharge of ${q(self, "A", { digits: 2 })}, ${formatDuration(naive)} without${life > AGEING * YEAR ? `; beyond some ${AGEING} years the cell's own ageing decides, not this figure` : ""}.`,
  });
}
