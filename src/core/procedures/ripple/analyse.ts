import { ELEMENTS, formatQuantity, highest, lowest, numeric, type Uncertain } from "../../quantities";
import { logCharts } from "../kit/guided";
import { logFinding, meterDifference } from "../kit/log-reading";
import type { Corrections, Analysis, Finding, Note, NotStated, ReadingsOf, RunSetup } from "../../measurement";
import type { Wanted } from "../contract";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const NAME = "boost.ripple";
/** Samples below which a record is no waveform, periods below which its peaks may lie outside it, and samples a period below which they may lie between two. */
const LEAST = 100;
const PERIODS = 3;
const PER_PERIOD = 8;
/** Share of the peak-to-peak that has to be crossed either way before a crossing of the middle counts: noise crosses it many times. */
const HYSTERESIS = 0.25;

interface Waveform {
  readonly time: Float64Array;
  readonly volts: Float64Array;
}

/** The samples in which both were read. */
function waveformOf(time: Float64Array | undefined, volts: Float64Array | undefined): Waveform {
  const rows = Array.from(volts ?? [], (v, k) => k).filter(
    (k) => Number.isFinite((volts as Float64Array)[k]) && Number.isFinite(time?.[k]),
  );
  return {
    time: Float64Array.from(rows, (k) => numeric(time?.[k])),
    volts: Float64Array.from(rows, (k) => sampleAt(volts as Float64Array, k)),
  };
}

/** s from one rise through the middle to the next, over all of them; null where there are fewer than two. */
function period({ time, volts }: Waveform, low: number, high: number): number | null {
  const [under, over] = [low + HYSTERESIS * (high - low), high - HYSTERESIS * (high - low)];
  let wasUnder = sampleAt(volts, 0) < under;
  let [first, last, count] = [NaN, NaN, 0];
  for (let k = 0; k < volts.length; k++) {
    const v = sampleAt(volts, k);
    if (v < under) wasUnder = true;
    else if (wasUnder && v > over) {
      wasUnder = false;
      count++;
      last = sampleAt(time, k);
      if (count === 1) first = last;
    }
  }
  return count < 2 ? null : (last - first) / (count - 1);
}

/** Why the record may have missed a peak, in sentences; none where it holds enough of it. */
function missed({ time }: Waveform, repeats: number | null, bandwidth: number): string[] {
  const span = sampleAt(time, time.length - 1) - sampleAt(time, 0);
  const rate = (time.length - 1) / span;
  const out: string[] = [];
  if (repeats === null || span < PERIODS * repeats)
    out.push(`The record of ${q(span, "s")} holds fewer than ${PERIODS} periods: peaks may lie outside it.`);
  else if (rate * repeats < PER_PERIOD)
    out.push(
      `The record has ${q(rate, "Hz", { digits: 2 })} samples, fewer than ${PER_PERIOD} a period: peaks may lie between two.`,
    );
  if (rate < 2 * bandwidth)
    out.push(
      `It was sampled at ${q(rate, "Hz", { digits: 2 })}, less than twice its bandwidth of ${q(bandwidth, "Hz")}: what is faster is missed.`,
    );
  return out;
}

/**
 * Peak to peak of an output from a waveform of it: its highest less its lowest sample, within the bandwidth that was stated. The offset of the
 * instrument falls out of the difference, so that a record without its direct voltage will do. Where a peak may have been missed it is a lower
 * limit.
 */
export function analyseRipple(
  readings: ReadingsOf<"trace">,
  setup: RunSetup,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { columns, events } = readings.trace;
  const w = waveformOf(columns.time, columns.outputVoltage);
  const charts =
    wanted !== "findings" && columns.time && columns.outputVoltage
      ? logCharts(
          columns.time,
          { outputVoltage: columns.outputVoltage },
          [{ id: "waveform", title: "Output", label: "Voltage", unit: "V", roles: [["outputVoltage", "output", 0]] }],
          { spans: [], events },
        )
      : [];
  const silent = (code: NotStated["code"], reason: string, needs?: NotStated["needs"]): Analysis => ({
    findings: [],
    notes: [{ code: "no-ripple", message: reason }],
    charts,
    notStated: [{ characteristic: NAME, code, reason, ...(needs ? { needs } : {}) }],
  });
  if (w.volts.length < LEAST)
    return silent(
      "not-in-log",
      `The record has ${w.volts.length} samples of the output; a waveform takes at least ${LEAST}.`,
    );
  const { bandwidth, battery, load } = setup.conditions;
  if (bandwidth === undefined)
    return silent("needs", "The bandwidth of the instrument is not stated: without it a ripple says nothing.", {
      condition: "bandwidth",
    });
  const [low, high] = [lowest(w.volts), highest(w.volts)];
  const ripple: Uncertain = meterDifference(high - low, "outputVoltage", setup, "peaks");
  const repeats = period(w, low, high);
  const doubts = missed(w, repeats, bandwidth);
  const finding = logFinding(NAME, ripple, setup, {
    conditions: { ...(battery === undefined ? {} : { battery }), ...(load === undefined ? {} : { load }) },
    ...(doubts.length ? { bound: "at-least" } : {}),
  });
  const notes: Note[] = [
    { code: "bandwidth", message: `Within a bandwidth of ${q(bandwidth, "Hz")}, noise included.` },
    ...(repeats !== null
      ? [{ code: "repeats", message: `It repeats at about ${q(1 / repeats, "Hz", { digits: 2 })}.` }]
      : []),
    ...doubts.map((message) => ({ code: "peaks-missed", message })),
  ];
  return { findings: finding ? [finding satisfies Finding] : [], notes, charts };
}
