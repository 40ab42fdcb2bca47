import { accuracyAt } from "../../instruments";
import {
  ELEMENTS,
  fitLine,
  formatDuration,
  formatQuantity,
  median,
  rectangular,
  seriesValues,
  uncertain,
  withPart,
  sampling,
} from "../../quantities";
import { finite, indexAt, plateaus, type Plateau } from "../../traces";
import { cleanLog, logCharts, outputLevel } from "../kit/guided";
import { logFinding, meterReading } from "../kit/log-reading";
import type { Corrections, Role, Analysis, ChartSpec, Finding, Note, ReadingsOf, RunSetup } from "../../measurement";
import type { Wanted } from "../contract";
import type { LightLoadPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const ROLES = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"] as const satisfies readonly Role[];
/** Share of the nominal output under which it counts as switched off. */
const OFF = 0.5;
/** s at each load that most boards' switch-off does not outlast. */
const PATIENT = 30;
/** How far above the switch-off a bleed resistor should keep the load. */
const MARGIN = 1.15;

/** The load under which the output switches itself off, how long that takes, and what keeps it on. */
export function analyseLightLoad(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<LightLoadPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const log = cleanLog(trace, setup, ROLES);
  const { outputVoltage: volts, outputCurrent: amps } = log?.columns ?? {};
  if (!log || !volts || !amps)
    return {
      findings: [],
      notes: [
        { code: "no-output", message: "The log lacks output voltage or current, so no switch-off can be found." },
      ],
      charts: [],
    };
  const { time } = log;
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const level = outputLevel(setup.conditions.nominalOutput, volts);
  const off = switchOff(volts, OFF * level);
  const meter = setup.instruments.outputCurrent;
  const step = Math.max(0.0004, meter ? 1.5 * meter.resolution : 0);
  const end = off ?? time.length;
  const loads = plateaus(time.subarray(0, end), amps.subarray(0, end), step, 1).filter(
    (p) => p.end - p.first >= 3 || p.to - p.from >= 2 * log.usual,
  );
  const low = loads[loads.length - 1];
  const spans: { from: number; to: number; label: string }[] = loads.map((p) => ({
    from: p.from,
    to: p.to,
    label: q(p.value, "A", { digits: 2 }),
  }));
  if (off === null || !low) {
    if (low) {
      const f = logFinding(
        "standby.auto-off-current",
        meterReading(low.value, "outputCurrent", setup, "lowest", low.end - low.first),
        setup,
        { bound: "at-most" },
      );
      if (f) findings.push(f);
      notes.push({
        code: "stays-on",
        message: `It never switched itself off, down to ${q(low.value, "A", { digits: 2 })}${low.to - low.from < 60 ? "; wait longer at the least load to be sure" : ""}.`,
      });
    }
  } else {
    spans.push({ from: sampleAt(time, off), to: sampleAt(time, time.length - 1), label: "off" });
    switchedOff(loads, low, off, { time, columns: log.columns, usual: log.usual }, setup, findings, notes);
  }
  return {
    findings,
    notes,
    charts: wanted === "findings" ? [] : charts(log, spans, setup.conditions.nominalOutput, trace.events),
  };
}

/** First row from which the output is off for good: three in a row below `limit` after it was on. */
function switchOff(volts: Float64Array, limit: number): number | null {
  let on = false;
  let first = -1;
  let lasting = 0;
  for (let k = 0; k < volts.length; k++) {
    const v = sampleAt(volts, k);
    if (v - v !== 0) continue;
    if (v >= limit) {
      on = true;
      lasting = 0;
    } else if (on) {
      if (lasting++ === 0) first = k;
      if (lasting >= 3) return first;
    }
  }
  return null;
}

function switchedOff(
  loads: readonly Plateau[],
  low: Plateau,
  off: number,
  log: { time: Float64Array; columns: Readonly<Partial<Record<Role, Float64Array>>>; usual: number },
  setup: RunSetup<LightLoadPlan>,
  findings: Finding[],
  notes: Note[],
): void {
  const { time } = log;
  const between = (k: number) => (sampleAt(time, k) + sampleAt(time, Math.max(0, k - 1))) / 2;
  const gap = (k: number) => sampleAt(time, k) - sampleAt(time, Math.max(0, k - 1));
  const before = loads[loads.length - 2];
  const offAt = between(off);
  // The load goes down somewhere between the last sample of the level before and the first that stands at the new one.
  const amps = log.columns.outputCurrent as Float64Array;
  let settled = low.first;
  while (
    before &&
    settled < low.end - 1 &&
    !(Math.abs(sampleAt(amps, settled) - low.value) <= 0.1 * Math.abs(before.value - low.value) + 1e-9)
  )
    settled++;
  const [wasAt, isAt] = [before ? sampleAt(time, before.end - 1) : low.from, sampleAt(time, settled)];
  const began = before ? (wasAt + isAt) / 2 : low.from;
  const delay = offAt - began;
  if (!before) {
    notes.push({
      code: "one-load",
      message: `It switched off at the first load, ${q(low.value, "A", { digits: 2 })}: begin higher.`,
    });
    const f = logFinding("standby.auto-off-current", meterReading(low.value, "outputCurrent", setup, "lowest"), setup, {
      bound: "at-least",
    });
    if (f) findings.push(f);
    return;
  }
  // A load that stood for less than the switch-off takes may be the one that caused it.
  const upper =
    [...loads]
      .slice(0, -1)
      .reverse()
      .find((p) => p.to - p.from >= 0.95 * delay) ?? before;
  const doubtful = upper !== before;
  const middle = (upper.value + low.value) / 2;
  const x = withPart(
    meterReading(middle, "outputCurrent", setup, "auto-off", low.end - low.first),
    sampling("step between loads"),
    rectangular((upper.value - low.value) / 2),
  );
  const f = logFinding("standby.auto-off-current", x, setup);
  if (f) findings.push(f);
  const stood = before.to - before.from;
  if (!doubtful && stood < PATIENT)
    notes.push({
      code: "dwell-short",
      message: `Each load was held for ${formatDuration(stood)}: a slower switch-off would be assigned to a later load, with too short a delay. Hold each load for at least half a minute.`,
    });
  if (doubtful)
    notes.push({
      code: "dwell-short",
      message: `Loads were held for only ${formatDuration(before.to - before.from)} before ${q(low.value, "A", { digits: 2 })}, which may be shorter than the switch-off delay: which load caused it is uncertain. Hold each load longer.`,
    });
  const u = Math.hypot(rectangular(gap(off) / 2), rectangular((isAt - wasAt) / 2));
  const d = logFinding(
    "standby.auto-off-delay",
    uncertain(delay, [
      [sampling(), u],
      ...(doubtful ? [[sampling("dwell too short"), rectangular(before.to - before.from)] as const] : []),
    ]),
    setup,
  );
  if (d) findings.push(d);
  bleed(upper, log, setup, notes);
}

/** The resistor across the output that keeps it on, and what it costs. */
function bleed(
  upper: Plateau,
  log: { time: Float64Array; columns: Readonly<Partial<Record<Role, Float64Array>>> },
  setup: RunSetup<LightLoadPlan>,
  notes: Note[],
): void {
  const { batteryCurrent, outputCurrent, outputVoltage } = log.columns;
  const volts = median(finite(outputVoltage, upper.first, upper.end));
  const need =
    MARGIN *
    (upper.value + accuracyAt(setup.instruments.outputCurrent ?? { gain: 0, counts: 0, resolution: 0 }, upper.value));
  const ohms = seriesValues("E24", volts / need / 1.2, volts / need).at(-1) ?? volts / need;
  const draws = volts / ohms;
  let text = `A bleed resistor of ${q(ohms, "Ω")} across the output keeps it on: it draws ${q(draws, "A", { digits: 2 })} and turns ${q(volts * draws, "W", { digits: 2 })} into heat (take at least ${q(2 * volts * draws, "W", { digits: 1 })}).`;
  if (batteryCurrent && outputCurrent) {
    const end = indexAt(log.time, upper.to);
    const [x, y]: [number[], number[]] = [[], []];
    const stride = Math.max(1, Math.floor(end / 2000));
    for (let k = 0; k < end; k += stride)
      if (Number.isFinite(outputCurrent[k]) && Number.isFinite(batteryCurrent[k])) {
        x.push(sampleAt(outputCurrent, k));
        y.push(sampleAt(batteryCurrent, k));
      }
    const line = fitLine(x, y);
    const capacity = setup.conditions.usableCapacity;
    if (line && line.slope > 0) {
      const costs = line.intercept + line.slope * draws;
      text += ` From the battery that is about ${q(costs, "A", { digits: 2 })}, the converter's own current in it`;
      text += capacity
        ? `: a cell of ${q(capacity, "Ah", { digits: 3 })} lasts ${formatDuration((3600 * capacity) / costs)} at it.`
        : ".";
    }
  }
  notes.push({ code: "bleed", message: text });
}

function charts(
  log: { readonly time: Float64Array; readonly columns: Readonly<Partial<Record<Role, Float64Array>>> },
  spans: NonNullable<ChartSpec["spans"]>,
  nominal: number | undefined,
  events: Parameters<typeof logCharts>[3]["events"],
): ChartSpec[] {
  return logCharts(
    log.time,
    log.columns,
    [
      {
        id: "current",
        title: "Load and battery current",
        label: "Current",
        unit: "A",
        roles: [
          ["outputCurrent", "load", 1],
          ["batteryCurrent", "battery", 0],
        ],
        claims: [{ characteristic: "standby.auto-off-current", axis: "y" }],
      },
      {
        id: "voltage",
        title: nominal ? `Output voltage, nominal ${q(nominal, "V")}` : "Output voltage",
        label: "Voltage",
        unit: "V",
        roles: [["outputVoltage", "output", 1]],
      },
    ],
    { spans, events },
  );
}
