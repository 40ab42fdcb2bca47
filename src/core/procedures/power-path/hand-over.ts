import {
  ELEMENTS,
  fitLine,
  formatDuration,
  formatQuantity,
  highest,
  median,
  numeric,
  rectangular,
  uncertain,
  withPart,
  sampling,
  model,
} from "../../quantities";
import { accuracyAt } from "../../instruments";
import { finite } from "../../traces";
import { logFinding, meterDifference, meterReading } from "../kit/log-reading";
import type { Finding, Note, RunSetup } from "../../measurement";
import type { CleanColumns } from "../kit/guided";
import type { PathPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;

/** Rows [first, end) between two comings or goings of the input. */
export interface Stretch {
  readonly first: number;
  readonly end: number;
  readonly input: "absent" | "present";
  /** What it began with; null for the beginning of the log. */
  readonly event: "plugged" | "unplugged" | null;
}

/** Rows of a stretch under which its readings were typed or logged too slowly for a transient. */
const FEW = 20;
/** Share of a stretch, at its end, in which the output has settled. */
const SETTLED = 0.4;

export interface HandOver {
  readonly event: "plugged" | "unplugged";
  readonly settled: number;
  readonly low: number;
  readonly high: number;
  /** V by which the extremes may have been missed between two samples. */
  readonly missedLow: number;
  readonly missedHigh: number;
  /** s out of band; null where it was out of it to the end, or nothing tells. */
  readonly outside: number | null;
  /** V/s at the crossing of the band, for what the meter's doubt is worth in time. */
  readonly slope: number;
  /** From a scope's cursors rather than from the log. */
  readonly typed: boolean;
  /** Standard deviation of the settled samples, V. */
  readonly noise: number;
}

export const settledOf = (volts: Float64Array, s: Stretch): number =>
  median(finite(volts, Math.floor(s.end - Math.max(1, SETTLED * (s.end - s.first))), s.end));

/** What the output did in a stretch; null where its readings are too few and no scope's were typed. */
export function handOver(
  time: Float64Array,
  c: CleanColumns,
  s: Stretch,
  band: { readonly low: number; readonly high: number },
): HandOver | null {
  const volts = c.outputVoltage as Float64Array;
  if (!s.event) return null;
  const settled = settledOf(volts, s);
  const typedLow = extreme(c.outputLow, s, 1);
  const typedHigh = extreme(c.outputHigh, s, -1);
  const typedTime = extreme(c.outsideTime, s, -1);
  if (typedLow !== null || typedHigh !== null || typedTime !== null)
    return {
      event: s.event,
      settled,
      low: typedLow ?? settled,
      high: typedHigh ?? settled,
      missedLow: 0,
      missedHigh: 0,
      outside: typedTime,
      slope: Infinity,
      typed: true,
      noise: 0,
    };
  if (s.end - s.first < FEW || sampleAt(time, s.end - 1) - sampleAt(time, s.first) > (s.end - s.first) * 0.05)
    return null;
  const tail = finite(volts, Math.floor(s.end - SETTLED * (s.end - s.first)), s.end);
  const noise = Math.sqrt(tail.reduce((sum, v) => sum + (v - settled) ** 2, 0) / tail.length);
  const low = turning(volts, s, 1, noise);
  const high = turning(volts, s, -1, noise);
  return {
    event: s.event,
    settled,
    low: low.value,
    high: high.value,
    missedLow: low.missed,
    missedHigh: high.missed,
    ...outOfBand(time, volts, s, band),
    typed: false,
    noise,
  };
}

function extreme(column: Float64Array | undefined, s: Stretch, sign: 1 | -1): number | null {
  let best: number | null = null;
  for (const v of finite(column, s.first, s.end)) if (best === null || sign * v < sign * best) best = v;
  return best;
}

/**
 * The lowest (or, with −1, highest) value of a stretch. On a flat bottom it is the middle one of three, so that noise does not widen it. At
 * the end of a jump the turn lies between two samples: a line through the four on its gentle side is taken half a sample back.
 */
function turning(
  volts: Float64Array,
  s: Stretch,
  sign: 1 | -1,
  noise: number,
): { readonly value: number; readonly missed: number } {
  let at = s.first;
  for (let k = s.first; k < s.end; k++) if (sign * sampleAt(volts, k) < sign * sampleAt(volts, at)) at = k;
  const value = sampleAt(volts, at);
  const near = (k: number) => Math.abs(sampleAt(volts, Math.min(s.end - 1, Math.max(s.first, k))) - value);
  const [before, after] = [near(at - 1), near(at + 1)];
  if (Math.max(before, after) <= 4 * noise)
    return {
      value: median(volts.subarray(Math.max(s.first, at - 1), Math.min(s.end, at + 2))),
      missed: Math.max(before, after) / 2,
    };
  const way = after <= before ? 1 : -1;
  const side = [0, 1, 2, 3].map((k) => at + way * k).filter((k) => k >= s.first && k < s.end);
  const line = fitLine(
    side.map((_, k) => k),
    side.map((k) => sampleAt(volts, k)),
  );
  if (!line) return { value, missed: Math.min(before, after) };
  const step = Math.max(0, sign * line.slope);
  return { value: line.intercept - (sign * step) / 2, missed: step / 2 + noise };
}

/** s out of band, crossings placed by straight lines; null where it never comes back for good. */
function outOfBand(
  time: Float64Array,
  volts: Float64Array,
  s: Stretch,
  band: { readonly low: number; readonly high: number },
): Pick<HandOver, "outside" | "slope"> {
  let outside = 0;
  let slope = Infinity;
  const away = (v: number) => Math.max(band.low - v, v - band.high);
  for (let k = s.first; k + 1 < s.end; k++) {
    const [a, b] = [away(sampleAt(volts, k)), away(sampleAt(volts, k + 1))];
    const dt = sampleAt(time, k + 1) - sampleAt(time, k);
    if (a > 0 && b > 0) outside += dt;
    else if (a > 0 !== b > 0) {
      outside += dt * (Math.max(a, b) / Math.abs(a - b));
      slope = Math.min(slope, Math.abs(a - b) / dt);
    }
  }
  return away(sampleAt(volts, s.end - 1)) > 0 ? { outside: null, slope } : { outside, slope };
}

/** Findings of all hand-overs: the worst of each kind counts. */
export function handOverFindings(
  all: readonly HandOver[],
  usual: number,
  setup: RunSetup<PathPlan>,
  band: { readonly low: number; readonly high: number },
  findings: Finding[],
  notes: Note[],
): void {
  for (const event of ["plugged", "unplugged"] as const) {
    const own = all.filter((h) => h.event === event);
    if (own.length === 0) continue;
    const put = (name: string, x: Parameters<typeof logFinding>[1], bound?: "at-most") => {
      const f = logFinding(name, x, setup, { conditions: { event }, ...(bound ? { bound } : {}) });
      if (f) findings.push(f);
    };
    const worst = (of: (h: HandOver) => number) => own.reduce((w, h) => (of(h) > of(w) ? h : w));
    const swing = (name: string, h: HandOver, by: number, missed: number, role: "outputLow" | "outputHigh") => {
      const least = Math.max(4 * h.noise, setup.instruments.outputVoltage?.resolution ?? 0);
      const x = withPart(
        meterDifference(Math.max(0, by), h.typed ? role : "outputVoltage", setup, event),
        sampling("between samples"),
        rectangular(missed),
      );
      put(name, x, by < least && !h.typed ? "at-most" : undefined);
    };
    const dip = worst((h) => h.settled - h.low);
    const over = worst((h) => h.high - h.settled);
    swing("path.dip", dip, dip.settled - dip.low, dip.missedLow, "outputLow");
    swing("path.overshoot", over, over.high - over.settled, over.missedHigh, "outputHigh");
    const withTime = own.filter((h) => h.outside !== null);
    if (withTime.length) {
      const long = withTime.reduce((w, h) => (numeric(h.outside) > numeric(w.outside) ? h : w));
      const doubt = Number.isFinite(long.slope)
        ? accuracyAt(
            setup.instruments.outputVoltage ?? { gain: 0, counts: 0, resolution: 0 },
            (band.low + band.high) / 2,
          ) / long.slope
        : 0;
      put(
        "path.handover-time",
        uncertain(numeric(long.outside), [
          [sampling(), long.typed ? rectangular(0.05 * numeric(long.outside)) : rectangular(usual)],
          [model("voltage at the crossing"), rectangular(doubt)],
        ]),
      );
    }
    if (own.some((h) => h.outside === null && !h.typed))
      notes.push({
        code: "stays-out",
        message: `Once ${event}, the output stays outside its band of ${q(band.low, "V", { digits: 3 })} to ${q(band.high, "V", { digits: 3 })}: not a handover, but another output voltage.`,
      });
    words(event, own, dip, over, setup, notes);
  }
}

function words(
  event: "plugged" | "unplugged",
  own: readonly HandOver[],
  dip: HandOver,
  over: HandOver,
  setup: RunSetup<PathPlan>,
  notes: Note[],
): void {
  const counted = own.length > 1 ? `the worst of ${own.length}` : "one seen";
  const long = highest(own.map((h) => h.outside ?? 0));
  notes.push({
    code: `handover-${event}`,
    message: `${event === "plugged" ? "Plugged in" : "Pulled"} under load (${counted}): down to ${q(dip.low, "V", { digits: 3 })}, up to ${q(over.high, "V", { digits: 3 })}, ${long > 0 ? `out of its band for ${long < 1 ? `${q(1000 * long, "", { digits: 2 })} ms` : formatDuration(long)}: ${long > 0.02 ? "a recorder may restart" : "most loads ride through it on their capacitors"}` : "never out of its band"}.`,
  });
  const most = setup.plan?.loadMaximum;
  if (most && over.high > most)
    notes.push({
      code: "overshoot-high",
      message: `The output reaches ${q(over.high, "V", { digits: 3 })}, more than the load's limit of ${q(most, "V")}: add a clamp or a capacitor, or use another board.`,
    });
}

/** What the output stands at with the input absent and present. */
export function outputFindings(
  volts: Float64Array,
  stretches: readonly Stretch[],
  setup: RunSetup,
  findings: Finding[],
): void {
  for (const input of ["absent", "present"] as const) {
    const own = stretches.filter((s) => s.input === input && s.end > s.first);
    if (own.length === 0) continue;
    const count = own.reduce((n, s) => n + Math.ceil(SETTLED * (s.end - s.first)), 0);
    const f = logFinding(
      "path.output-voltage",
      meterReading(median(own.map((s) => settledOf(volts, s))), "outputVoltage", setup, input, count),
      setup,
      { conditions: { input } },
    );
    if (f) findings.push(f);
  }
}
