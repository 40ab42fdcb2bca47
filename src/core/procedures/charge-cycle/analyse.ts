import { accuracyAt, meterSource } from "../../instruments";
import { meterReading as read, meterDifference as readDifference } from "../kit/log-reading";
import type { Role, Analysis, Corrections, Finding, NotStated, ReadingsOf, RunSetup } from "../../measurement";
import type { Wanted } from "../contract";
import {
  divide,
  ELEMENTS,
  formatDuration,
  formatQuantity,
  median,
  rectangular,
  uncertain,
  withPart,
  type Uncertain,
  sampling,
  type ErrorSource,
} from "../../quantities";
import { dissipation, heat } from "./heat";
import { BOUNDARIES, chargeCharts, type Boundary } from "./charts";
import { CAUSE_TEXT } from "./ending";
import { analyseLights } from "./lights";
import { chargeMeasures } from "./measures";
import { findPhases, type Phases } from "./phases";
import { edgeTime, find, silent, type Work } from "./work";
import { flowing, NO_RECHARGE, pausedWithin } from "./segments";
import {
  extremeOfFive,
  finite,
  indexAt,
  integrateTogether,
  valueBefore,
  type Integral,
  type Together,
} from "../../traces";

const { sampleAt } = ELEMENTS;

/** s of rest that a rest voltage needs. */
const REST = 60;
/** What only a charge that ended has. */
const NEEDS_END = [
  "charge.termination-current",
  "charge.termination-voltage",
  "charge.rest-voltage",
  "charge.total-time",
  "charge.capacity",
  "charge.energy-delivered",
  "charge.energy-drawn",
  "charge.efficiency",
  "charge.recharge-threshold",
];
/** What counts from the first current. */
const NEEDS_START = [
  "charge.total-time",
  "charge.capacity",
  "charge.energy-delivered",
  "charge.energy-drawn",
  "charge.efficiency",
  "charge.cc-duration",
];

/**
 * The named quantities of a charge cycle, each only where the log shows it.
 *
 * A stop of the current is not the end of the charge (`judgeStop`): an interrupted one gives what it holds, and nothing that needs the
 * end; one that goes on is the sum of its segments, pauses told apart. The full current is the median of the constant-current phase
 * without the stretches that heat cut; a current held down by the supply belongs to it.
 */
export function analyseCharge(
  readings: ReadingsOf<"trace">,
  setup: RunSetup,
  corrections: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const p = findPhases(readings.trace, setup, corrections.boundaries);
  const w: Work | null = p && { p, setup, findings: [], notes: [], notStated: [] };
  if (!w)
    return {
      findings: [],
      notes: [
        {
          code: "no-cell-readings",
          message: "The log has no cell voltage or no cell current: the charge can't be analysed.",
        },
      ],
      charts: [],
      notStated: [],
    };
  if (w.p.spikes)
    w.notes.push({
      code: "spikes",
      message: `${w.p.spikes} single-sample ${w.p.spikes === 1 ? "spike was" : "spikes were"} passed over.`,
    });
  for (const [id, b] of corrections.boundaries)
    w.notes.push({
      code: "boundary-moved",
      message: `${BOUNDARIES[id as Boundary] ?? id}: moved to ${formatDuration(b.time)} by the tester: ${b.why}.`,
    });
  if (!w.p.flows) {
    w.notes.push({ code: "no-charge", message: "No charging current was seen." });
    silent(
      w,
      "did-not-happen",
      "No charging current was seen in the log.",
      ...chargeMeasures.filter((m) => m.startsWith("charge.")),
    );
    return {
      findings: [],
      notes: w.notes,
      charts: wanted === "findings" ? [] : chargeCharts(w.p, readings.trace.events, corrections.boundaries),
      notStated: w.notStated,
    };
  }
  how(
    w,
    readings.trace.events.some((e) => e.kind === "stopped"),
  );
  precharge(w);
  constantCurrent(w);
  constantVoltage(w);
  ending(w);
  wholeCharge(w);
  interruptions(w);
  dissipation(w);
  heat(w);
  const lights = analyseLights(w.p, readings.trace.events, (value, role, count) =>
    read(value, role, setup, "done", count),
  );
  w.findings.push(...lights.findings);
  w.notes.push(...lights.notes);
  return {
    findings: w.findings,
    notes: w.notes,
    charts: wanted === "findings" ? [] : chargeCharts(w.p, readings.trace.events, corrections.boundaries),
    notStated: w.notStated,
  };
}

const amperes = (a: number): string => formatQuantity(a, "A", { digits: 2 });

/** Whether it ended, was interrupted, went on: what follows from it for what can be stated. */
function how(w: Work, stopped: boolean): void {
  const { p } = w;
  const began = p.start !== null;
  if (!began)
    silent(
      w,
      "not-in-log",
      "The log starts while current flows, so the start of the charge is missing.",
      ...NEEDS_START,
    );
  if (p.stop !== null) {
    if (began) silent(w, "did-not-happen", "The log covers the whole charge.", "charge.partial-capacity");
    return;
  }
  const { halt } = p;
  if (halt?.ended === false) {
    const why = halt.cause ? CAUSE_TEXT[halt.cause] : "the cause is unknown without an input column";
    const reason = `The charge was interrupted while ${amperes(halt.amps)} was still flowing: ${why}.`;
    w.notes.push({ code: "interrupted", message: `${reason} The end of the charge is missing.` });
    silent(w, "disturbed", reason, ...NEEDS_END);
  } else if (halt) {
    const reason = `The current stopped at ${amperes(halt.amps)}, and the log can't tell an end from an interruption.`;
    w.notes.push({
      code: "end-unknown",
      message: `${reason} An input voltage column would tell; so does a mark on the log (“unplugged”, “cell removed”, “charge ended”).`,
    });
    for (const characteristic of NEEDS_END)
      w.notStated.push({ characteristic, code: "needs", reason, needs: { roles: ["inputVoltage"] } });
  } else if (stopped) {
    const amps = median(finite(p.cellCurrent, Math.max(0, p.time.length - 8), p.time.length));
    const reason = `Stopped by the tester while ${amperes(amps)} was flowing: the charge has no end.`;
    w.notes.push({ code: "stopped", message: reason });
    silent(w, "stopped", reason, ...NEEDS_END);
  } else {
    silent(w, "not-in-log", "The log ends while current flows, so the end of the charge is missing.", ...NEEDS_END);
  }
}

/** How often the charge was interrupted, and for how long where it went on. */
function interruptions(w: Work): void {
  const { p } = w;
  const paused = p.pauses.reduce((s, x) => s + x.to - x.from, 0);
  if (p.pauses.length) {
    const causes = [...new Set(p.pauses.map((x) => (x.cause ? CAUSE_TEXT[x.cause] : "cause not seen")))].join("; ");
    w.notes.push({
      code: "paused",
      message: `The charge was interrupted ${p.pauses.length === 1 ? "once" : `${p.pauses.length} times`}, for ${formatDuration(paused)} in all (${causes}), and resumed: its segments are added without the pauses.`,
    });
  }
  const count = p.pauses.length + (p.halt?.ended === false ? 1 : 0);
  if (count) find(w, "charge.interruptions", uncertain(count, []));
  else silent(w, "did-not-happen", "The charge was not interrupted.", "charge.interruptions", "charge.paused-time");
  if (p.pauses.length) find(w, "charge.paused-time", uncertain(paused, [[sampling(), pauseDoubt(p)]]));
}

/** Standard uncertainty of the pauses' lengths, s: each edge lies anywhere between two samples. */
const pauseDoubt = (p: Phases): number => Math.hypot(...p.pauses.map((x) => rectangular(x.doubt)));

function precharge(w: Work): void {
  const { p, setup } = w;
  if (p.step === null) {
    const names = ["charge.precharge-current", "charge.precharge-threshold"] as const;
    if (p.start === null)
      silent(w, "not-in-log", "The log begins while current flows: a pre-charge before it is not in it.", ...names);
    else
      silent(
        w,
        "did-not-happen",
        "The charge began with its full current: the cell was not low enough for a pre-charge.",
        ...names,
      );
    return;
  }
  const to = indexAt(p.time, p.step - p.usual);
  const from = p.start === null ? 0 : indexAt(p.time, p.start + p.usual);
  const amps = finite(p.activeCurrent, from, to);
  if (amps.length)
    find(w, "charge.precharge-current", read(median(amps), "cellCurrent", setup, "precharge", amps.length));
  const last = valueBefore(p.time, p.cellVoltage, to + 1, p.step, 12);
  if (last)
    find(
      w,
      "charge.precharge-threshold",
      withPart(
        read(last.value, "cellVoltage", setup, "precharge-threshold", last.count),
        sampling(),
        Math.abs(last.slope) * edgeTime(p),
      ),
    );
}

/** The constant-current phase in s; null where the log shows none. */
function fullCurrentPhase(p: Phases): { from: number; to: number } | null {
  const from = p.step ?? p.start ?? sampleAt(p.time, 0);
  const to = p.onset?.time ?? p.through;
  return to > from ? { from, to } : null;
}

/** s that the full current must have been held, and the samples, to be stated where heat cut it. */
const HELD_FOR = { seconds: 20, samples: 5 };

function constantCurrent(w: Work): void {
  const { p, setup } = w;
  const phase = fullCurrentPhase(p);
  if (!phase) {
    silent(
      w,
      "not-in-log",
      "The log doesn't show the constant-current phase.",
      "charge.cc-current",
      "charge.cc-duration",
      "charge.cc-end-voltage",
    );
    return;
  }
  const hot = p.cuts.filter((c) => c.heat);
  const [first, end] = [indexAt(p.time, phase.from + p.usual), indexAt(p.time, phase.to)];
  const cut = (t: number) => hot.some((c) => t >= c.from && t <= (c.to ?? phase.to));
  const currents = hot.length ? p.activeCurrent.map((a, k) => (cut(sampleAt(p.time, k)) ? NaN : a)) : p.activeCurrent;
  const amps = finite(currents, first, end);
  const enough = amps.length >= HELD_FOR.samples && (hot.length === 0 || amps.length * p.usual >= HELD_FOR.seconds);
  if (enough) fullCurrent(w, amps, median(finite(p.inputVoltage, first, end)));
  else
    silent(
      w,
      hot.length ? "disturbed" : "not-in-log",
      hot.length
        ? "The charger cut its own current because of heat before it had held its full current."
        : "The log has too few samples of the constant current.",
      "charge.cc-current",
    );
  const { onset } = p;
  if (!onset) {
    const why: readonly [NotStated["code"], string] = p.halt
      ? ["disturbed", "The current stopped before the voltage loop took over."]
      : p.stop !== null
        ? ["did-not-happen", "No constant-voltage phase was seen."]
        : ["not-in-log", "The log ends before the voltage loop takes over."];
    silent(w, ...why, "charge.cc-duration", "charge.cc-end-voltage");
    return;
  }
  const blur = Math.hypot(rectangular(onset.blur), onset.scatter);
  const paused = pausedWithin(p.pauses, phase.from, onset.time);
  if (p.step !== null || p.start !== null)
    find(
      w,
      "charge.cc-duration",
      uncertain(onset.time - phase.from - paused, [
        [sampling("change to constant voltage"), blur],
        [sampling(), Math.hypot(edgeTime(p), paused > 0 ? pauseDoubt(p) : 0)],
      ]),
    );
  // At the change the terminals stand on the regulation line, R·I below the reference.
  const k = indexAt(p.time, onset.time);
  const level = median(finite(p.activeCurrent, k - 15, k));
  const volts =
    Number.isFinite(onset.reference) && Number.isFinite(level)
      ? onset.reference - onset.wire * level
      : (valueBefore(p.time, p.activeVoltage, k, onset.time)?.value ?? NaN);
  const climb = Math.abs((valueBefore(p.time, p.activeVoltage, k, onset.time, 40)?.slope ?? 0) * blur);
  find(
    w,
    "charge.cc-end-voltage",
    withPart(read(volts, "cellVoltage", setup, "cc-end", 12), sampling("change to constant voltage"), climb),
  );
}

function fullCurrent(w: Work, amps: Float64Array, input: number): void {
  const { p, setup } = w;
  const sag = inputSag(p);
  const low = sag && sag.lowest < 4.5 && p.cuts.some((c) => !c.heat);
  const unfair: Finding["unfair"] = low
    ? [
        {
          code: "input-sagged",
          message: `The input fell to ${formatQuantity(sag.lowest, "V", { digits: 3 })} while charging.`,
          remedy: "Use a shorter or thicker cable, or a stronger supply, and charge again.",
          pushes: "low",
        },
      ]
    : [];
  // What it was fed with while it gave that current, not over the whole log: the tail leaves the cable its volts.
  find(
    w,
    "charge.cc-current",
    read(median(amps), "cellCurrent", setup, "cc", amps.length),
    unfair,
    Number.isFinite(input) ? { under: { inputVoltage: input } } : {},
  );
  if (low)
    w.notes.push({
      code: "input-sagged",
      message: `The current fell while the input sagged to ${formatQuantity(sag.lowest, "V", { digits: 3 })}: that is the supply's doing, not the charger's.`,
    });
}

function constantVoltage(w: Work): void {
  const { p, setup } = w;
  if (!p.onset) {
    if (p.halt) silent(w, "disturbed", "The current stopped before the voltage loop took over.", "charge.cv-voltage");
    else if (p.stop === null)
      silent(w, "not-in-log", "The log ends before the voltage loop takes over.", "charge.cv-voltage");
    return;
  }
  const volts = finite(p.activeVoltage, indexAt(p.time, p.onset.time), indexAt(p.time, p.through));
  if (volts.length >= 5) find(w, "charge.cv-voltage", read(median(volts), "cellVoltage", setup, "cv", volts.length));
}

function ending(w: Work): void {
  const { p, setup } = w;
  if (p.stop === null) return;
  const end = indexAt(p.time, p.stop);
  const amps = valueBefore(p.time, p.activeCurrent, end, p.stop);
  const volts = valueBefore(p.time, p.activeVoltage, end, p.stop);
  if (amps)
    find(
      w,
      "charge.termination-current",
      withPart(
        read(amps.value, "cellCurrent", setup, "termination", amps.count),
        sampling(),
        Math.abs(amps.slope) * edgeTime(p),
      ),
    );
  if (volts)
    find(
      w,
      "charge.termination-voltage",
      withPart(
        read(volts.value, "cellVoltage", setup, "termination", volts.count),
        sampling(),
        Math.abs(volts.slope) * edgeTime(p),
      ),
    );
  resting(w, p.stop, end);
  if (p.restart === null)
    silent(w, "did-not-happen", "Charging did not begin again in the log.", "charge.recharge-threshold");
  else recharge(w, p.restart);
}

function resting(w: Work, stop: number, end: number): void {
  const { p, setup } = w;
  const name = "charge.rest-voltage";
  const last = sampleAt(p.time, p.time.length - 1);
  if (last - stop < REST)
    return silent(w, "not-in-log", `The log has less than ${formatDuration(REST)} of rest after the end.`, name);
  if (p.restart !== null)
    return silent(w, "disturbed", "Charging began again: the cell was not at rest at the end of the log.", name);
  const floor = 2 * accuracyAt(setup.instruments.cellCurrent ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.002;
  const after = finite(p.cellCurrent, end + 2, p.time.length);
  if (!after.every((a) => Math.abs(a) <= floor))
    return silent(w, "disturbed", "Current flowed after the end: the cell was not at rest.", name);
  const volts = finite(p.cellVoltage, indexAt(p.time, last - 15), p.time.length);
  if (volts.length) find(w, name, read(median(volts), "cellVoltage", setup, "rest", volts.length));
}

function recharge(w: Work, restart: number): void {
  const { p, setup } = w;
  const name = "charge.recharge-threshold";
  if (p.replugged)
    return silent(
      w,
      "disturbed",
      "Charging began again because the input returned, not because the cell fell to a threshold.",
      name,
    );
  const before = valueBefore(p.time, p.cellVoltage, indexAt(p.time, restart), restart);
  if (!before) return;
  const full = p.onset && Number.isFinite(p.onset.reference) ? p.onset.reference : NaN;
  if (!p.inputVoltage && before.value > full - NO_RECHARGE)
    return silent(
      w,
      "disturbed",
      "Charging began again while the cell was still full: somebody plugged the input in again, which shows no threshold.",
      name,
    );
  find(
    w,
    name,
    withPart(
      read(before.value, "cellVoltage", setup, "recharge", before.count),
      sampling(),
      Math.abs(before.slope) * edgeTime(p),
    ),
  );
}

/** Sources of an integral ∫a·b dt: gain of each meter on the whole, offset of each on the integral of the other. */
function energySources(
  value: number,
  volts: Role,
  amps: Role,
  charge: number,
  voltSeconds: number,
  setup: RunSetup,
): [ErrorSource, number][] {
  const a = setup.instruments[amps];
  const v = setup.instruments[volts];
  return [
    ...(v
      ? ([
          [meterSource(volts, "gain"), rectangular(1) * v.gain * value],
          [meterSource(volts, "offset"), rectangular(v.counts * v.resolution) * charge],
        ] as [ErrorSource, number][])
      : []),
    ...(a
      ? ([
          [meterSource(amps, "gain"), rectangular(1) * a.gain * value],
          [meterSource(amps, "offset"), rectangular(a.counts * a.resolution) * voltSeconds],
        ] as [ErrorSource, number][])
      : []),
  ];
}

/** ∫f, ∫g and ∫f·g dt over the segments of the charge, each cut at its edges. */
function overSegments(p: Phases, f: Float64Array, g: Float64Array, from: number, to: number): Together {
  const agree = (before: number, after: number) => {
    const [a, b] = [sampleAt(p.cellCurrent, before), sampleAt(p.cellCurrent, after)];
    return Math.abs(a - b) <= 0.1 * Math.max(Math.abs(a), Math.abs(b)) + 0.005;
  };
  const parts = flowing(p.pauses, from, to).map((s) => integrateTogether(p.time, f, g, s.from, s.to, p.usual, agree));
  const sum = (of: (t: Together) => Integral): Integral => ({
    value: parts.reduce((n, t) => n + of(t).value, 0),
    bridged: parts.flatMap((t) => of(t).bridged),
    open: parts.flatMap((t) => of(t).open),
  });
  return { f: sum((t) => t.f), g: sum((t) => t.g), product: sum((t) => t.product) };
}

/** A charge in Ah with its sources; `ends` is the standard uncertainty that its edges leave, As. */
function chargeOf(w: Work, charge: Integral, seconds: number, ends: number): Uncertain {
  const a = w.setup.instruments.cellCurrent;
  return uncertain(charge.value / 3600, [
    ...(a
      ? ([
          [meterSource("cellCurrent", "gain"), (rectangular(1) * a.gain * charge.value) / 3600],
          [meterSource("cellCurrent", "offset"), (rectangular(a.counts * a.resolution) * seconds) / 3600],
        ] as [ErrorSource, number][])
      : []),
    [sampling(), ends / 3600],
    [sampling("gaps"), (gapShare(charge, seconds) * charge.value) / 3600],
  ]);
}
const gapShare = (charge: Integral, seconds: number): number =>
  rectangular(1) * 0.02 * (charge.bridged.reduce((s, g) => s + g, 0) / seconds);

function wholeCharge(w: Work): void {
  const { p } = w;
  const sag = inputSag(p);
  if (sag) find(w, "charge.input-sag", readDifference(sag.unloaded - sag.lowest, "inputVoltage", w.setup, "sag"));
  const from = p.start ?? sampleAt(p.time, 0);
  const { through } = p;
  const {
    f: voltSeconds,
    g: charge,
    product: delivered,
  } = overSegments(p, p.activeVoltage, p.activeCurrent, from, through);
  for (const gap of charge.bridged)
    w.notes.push({
      code: "gap-bridged",
      message: `A gap of ${formatDuration(gap)} in the log was bridged: the current on both sides agrees.`,
    });
  for (const gap of charge.open)
    w.notes.push({
      code: "gap-open",
      message: `Between ${formatDuration(gap.from)} and ${formatDuration(gap.to)} the log has a gap, and the current on its two sides differs: charge and energy are not stated.`,
    });
  // The ends are known to half an interval, at the current that flows there; so are the edges of each pause.
  const at = (time: number, by: number) =>
    Math.abs(
      finite(p.activeCurrent, indexAt(p.time, time) + Math.min(0, by), indexAt(p.time, time) + Math.max(0, by))[0] ?? 0,
    );
  const ends = Math.hypot(
    Math.hypot(p.start === null ? 0 : at(from, 3), p.stop === null && p.halt === null ? 0 : at(through, -3)) *
      edgeTime(p),
    ...p.pauses.map((x) => x.amps * rectangular(x.doubt)),
  );
  const seconds = through - from - pausedWithin(p.pauses, from, through);
  const whole = p.start !== null && p.stop !== null;
  if (whole)
    find(
      w,
      "charge.total-time",
      uncertain(seconds, [[sampling(), Math.hypot(Math.SQRT2 * edgeTime(p), pauseDoubt(p))]]),
    );
  if (charge.open.length) {
    silent(
      w,
      "disturbed",
      "The log has a gap, and the current on its two sides differs.",
      "charge.capacity",
      "charge.partial-capacity",
      "charge.energy-delivered",
      "charge.energy-drawn",
      "charge.efficiency",
    );
    return;
  }
  find(w, whole ? "charge.capacity" : "charge.partial-capacity", chargeOf(w, charge, seconds, ends));
  if (whole) energies(w, { from, to: through, seconds, ends }, { voltSeconds, charge, delivered });
}

interface Span {
  readonly from: number;
  readonly to: number;
  readonly seconds: number;
  readonly ends: number;
}

function energies(
  w: Work,
  span: Span,
  cell: { readonly voltSeconds: Integral; readonly charge: Integral; readonly delivered: Integral },
): void {
  const { p, setup } = w;
  const { charge, delivered, voltSeconds } = cell;
  const mean = delivered.value / charge.value;
  const share = gapShare(charge, span.seconds);
  const own = (value: number): [ErrorSource, number][] => [
    [sampling(), (span.ends * mean) / 3600],
    [sampling("gaps"), (share * value) / 3600],
  ];
  const out = uncertain(delivered.value / 3600, [
    ...energySources(
      delivered.value / 3600,
      "cellVoltage",
      "cellCurrent",
      charge.value / 3600,
      voltSeconds.value / 3600,
      setup,
    ),
    ...own(delivered.value),
  ]);
  find(w, "charge.energy-delivered", out);
  if (!p.inputVoltage || !p.inputCurrent) return;
  const [vi, ii] = [p.inputVoltage, p.inputCurrent];
  const { f: inVolts, g: inCharge, product: drawnBy } = overSegments(p, vi, ii, span.from, span.to);
  const early = overSegments(p, p.activeCurrent, ii, span.from, span.from + (span.to - span.from) / 4);
  const drawn = uncertain(drawnBy.value / 3600, [
    ...energySources(
      drawnBy.value / 3600,
      "inputVoltage",
      "inputCurrent",
      inCharge.value / 3600,
      inVolts.value / 3600,
      setup,
    ),
    ...own(drawnBy.value),
  ]);
  find(w, "charge.energy-drawn", drawn);
  const efficiency = divide(out, drawn);
  find(w, "charge.efficiency", efficiency);
  converterKind(
    w,
    efficiency.value,
    { whole: charge.value / inCharge.value, early: early.f.value / early.g.value },
    voltSeconds.value / inVolts.value,
  );
}

/**
 * Whether the charger passes the input's current on or switches, and what its efficiency is to be held against. `amps` is charge in the
 * cell ÷ charge from the input: one throughout for a linear charger; one that switches gives more while the cell is low than later.
 */
function converterKind(
  w: Work,
  efficiency: number,
  amps: { readonly whole: number; readonly early: number },
  volts: number,
): void {
  const q = (x: number) => formatQuantity(x, "1", { digits: 3 });
  if (amps.early > 1.04 || amps.early - amps.whole > 0.03)
    w.notes.push({
      code: "switching",
      message: `The cell got ${formatQuantity(amps.whole, "", { digits: 3 })} times the charge that came from the input, ${formatQuantity(amps.early, "", { digits: 3 })} times while it was low: the charger switches. Its efficiency is ${q(efficiency)}; a linear charger would reach ${q(volts)} here.`,
    });
  else if (Math.abs(amps.whole - 1) < 0.04)
    w.notes.push({
      code: "linear",
      message: `As much charge went into the cell as came from the input, early and late: the charger is linear, and its efficiency of ${q(efficiency)} is about cell voltage ÷ input voltage. The rest is heat.`,
    });
}

/** Samples at each edge of a pause or of an interruption in which a plug falls or comes. */
const FALLING = 3;

/** Input voltage before the charge, or else after it, and the lowest while charging (medians of five, so that no spike decides). */
function inputSag(p: Phases): { readonly unloaded: number; readonly lowest: number } | null {
  if (!p.inputVoltage) return null;
  const [from, to] = [p.start === null ? 0 : indexAt(p.time, p.start), indexAt(p.time, p.through)];
  const loaded = Float64Array.from(p.inputVoltage);
  const blank = (a: number, b: number) => loaded.fill(NaN, Math.max(0, a), Math.max(0, b));
  for (const x of p.pauses) blank(indexAt(p.time, x.from) - FALLING, indexAt(p.time, x.to) + FALLING);
  const lowest = extremeOfFive(finite(loaded, from + FALLING, p.halt ? to - FALLING : to), 1);
  if (!Number.isFinite(lowest)) return null;
  // An input that was not plugged in yet shows nothing of the supply.
  const there = (c: Float64Array) => c.filter((v) => v > 0.9 * lowest);
  const before = p.start === null ? new Float64Array() : there(finite(p.inputVoltage, 0, from));
  const after =
    p.stop === null
      ? new Float64Array()
      : there(finite(p.inputVoltage, to + 2, p.restart === null ? p.time.length : indexAt(p.time, p.restart)));
  const free = before.length >= 3 ? before : after;
  return free.length >= 3 ? { unloaded: median(free), lowest } : null;
}
