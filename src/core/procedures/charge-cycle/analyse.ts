import { accuracyAt, sourceName } from "../../instruments";
import { meterReading as read, meterDifference as readDifference, logFinding } from "../log-reading";
import { formatDuration, formatQuantity, median, rectangular, uncertain, withPart, type Uncertain } from "../../quantities";
import type { Role } from "../roles";
import type { Analysis, Corrections, Finding, Note, Readings, RunSetup } from "../shape";
import { BOUNDARIES, chargeCharts, type Boundary } from "./charts";
import { analyseLights } from "./lights";
import { findPhases, type Phases } from "./phases";
import { extremeOfFive, finite, highestMean, indexAt, integrateTogether, valueBefore } from "../../traces";

/** s of rest that a rest voltage needs. */
const REST = 60;
interface Work {
  readonly p: Phases;
  readonly setup: RunSetup;
  readonly findings: Finding[];
  readonly notes: Note[];
}

function find(w: Work, name: string, x: Uncertain, unfair: Finding["unfair"] = []): void {
  const f = logFinding(name, x, w.setup, { unfair });
  if (f) w.findings.push(f);
}

/** Half a sampling interval either way at an edge, s, as a standard uncertainty. */
const edgeTime = (p: Phases): number => rectangular(p.usual / 2);

/**
 * The named quantities of a charge cycle, each only where the log shows it.
 *
 * What needs the start or the stop is absent where the log lacks it. The full current is the median of the
 * constant-current phase without the stretches that heat cut; a current held down by the supply belongs to it.
 */
export function analyseCharge(readings: Readings, setup: RunSetup, corrections: Corrections): Analysis {
  if (readings.kind !== "trace") throw new Error("internal: a charge cycle is a log over time");
  const p = findPhases(readings.trace, setup, corrections.boundaries);
  const w: Work | null = p && { p, setup, findings: [], notes: [] };
  if (!w) return { findings: [], notes: [{ code: "no-cell-readings", message: "The log has no cell voltage or no cell current: nothing can be said of the charge." }], charts: [] };
  if (w.p.spikes) w.notes.push({ code: "spikes", message: `${w.p.spikes} single-sample ${w.p.spikes === 1 ? "spike was" : "spikes were"} passed over.` });
  for (const [id, b] of corrections.boundaries) w.notes.push({ code: "boundary-moved", message: `${BOUNDARIES[id as Boundary] ?? id}: moved to ${formatDuration(b.time)} by the tester: ${b.why}.` });
  if (!w.p.events.length) w.notes.push({ code: "no-charge", message: "No charging current was seen to start or stop." });
  precharge(w);
  constantCurrent(w);
  constantVoltage(w);
  ending(w);
  wholeCharge(w);
  heat(w);
  const lights = analyseLights(w.p, readings.trace.events, (value, role, count) => read(value, role, setup, "done", count));
  w.findings.push(...lights.findings);
  w.notes.push(...lights.notes);
  return { findings: w.findings, notes: w.notes, charts: chargeCharts(w.p, readings.trace.events, corrections.boundaries) };
}

function precharge({ p, setup, findings, notes, ...rest }: Work): void {
  const w = { p, setup, findings, notes, ...rest };
  if (p.step === null) return;
  const to = indexAt(p.time, p.step - p.usual);
  const from = p.start === null ? 0 : indexAt(p.time, p.start + p.usual);
  const amps = finite(p.cellCurrent, from, to);
  if (amps.length) find(w, "charge.precharge-current", read(median(amps), "cellCurrent", setup, "precharge", amps.length));
  const last = valueBefore(p.time, p.cellVoltage, to + 1, p.step, 12);
  if (last) find(w, "charge.precharge-threshold", withPart(read(last.value, "cellVoltage", setup, "precharge-threshold", last.count), "sampling", Math.abs(last.slope) * edgeTime(p)));
}

/** The constant-current phase in s; null where the log lacks its end, or begins with it under way and shows none. */
function fullCurrentPhase(p: Phases): { from: number; to: number } | null {
  const from = p.step ?? p.start ?? (p.time[0] as number);
  const to = p.onset?.time ?? p.stop ?? (p.events.length || p.start !== null ? (p.time[p.time.length - 1] as number) : null);
  return to !== null && to > from ? { from, to } : null;
}

function constantCurrent(w: Work): void {
  const { p, setup } = w;
  const phase = fullCurrentPhase(p);
  if (!phase) return;
  const hot = p.cuts.filter((c) => c.heat);
  const [first, end] = [indexAt(p.time, phase.from + p.usual), indexAt(p.time, phase.to)];
  const kept = hot.length ? p.cellCurrent.map((a, k) => (hot.some((c) => (p.time[k] as number) >= c.from && (p.time[k] as number) <= (c.to ?? phase.to)) ? NaN : a)) : p.cellCurrent;
  const amps = finite(kept, first, end);
  if (amps.length < 5) return;
  const sag = inputSag(p);
  const low = sag && sag.lowest < 4.5 && p.cuts.some((c) => !c.heat);
  const unfair: Finding["unfair"] = low
    ? [{ code: "input-sagged", message: `The input fell to ${formatQuantity(sag.lowest, "V", { digits: 3 })} while charging.`, remedy: "Use a shorter or thicker cable, or a stronger supply, and charge again.", pushes: "low" }]
    : [];
  find(w, "charge.cc-current", read(median(amps), "cellCurrent", setup, "cc", amps.length), unfair);
  if (low) w.notes.push({ code: "input-sagged", message: `The current fell while the input sagged to ${formatQuantity(sag.lowest, "V", { digits: 3 })}: that is the supply's doing, not the charger's.` });
  const { onset } = p;
  if (!onset) return;
  const blur = Math.hypot(rectangular(onset.blur), onset.scatter);
  if (p.step !== null || p.start !== null) find(w, "charge.cc-duration", uncertain(onset.time - phase.from, [["change to constant voltage", blur], ["sampling", edgeTime(p)]]));
  // At the change the terminals stand on the regulation line, R·I below the reference.
  const k = indexAt(p.time, onset.time);
  const level = median(finite(p.cellCurrent, k - 15, k));
  const volts = Number.isFinite(onset.reference) ? onset.reference - onset.wire * level : (valueBefore(p.time, p.cellVoltage, k, onset.time)?.value ?? NaN);
  const climb = Math.abs((valueBefore(p.time, p.cellVoltage, k, onset.time, 40)?.slope ?? 0) * blur);
  find(w, "charge.cc-end-voltage", withPart(read(volts, "cellVoltage", setup, "cc-end", 12), "change to constant voltage", climb));
}

function constantVoltage({ p, setup, ...rest }: Work): void {
  if (!p.onset) return;
  const to = p.stop ?? (p.time[p.time.length - 1] as number);
  const volts = finite(p.cellVoltage, indexAt(p.time, p.onset.time), indexAt(p.time, to));
  if (volts.length >= 5) find({ p, setup, ...rest }, "charge.cv-voltage", read(median(volts), "cellVoltage", setup, "cv", volts.length));
}

function ending(w: Work): void {
  const { p, setup } = w;
  if (p.stop !== null) {
    const end = indexAt(p.time, p.stop);
    const amps = valueBefore(p.time, p.cellCurrent, end, p.stop);
    const volts = valueBefore(p.time, p.cellVoltage, end, p.stop);
    if (amps) find(w, "charge.termination-current", withPart(read(amps.value, "cellCurrent", setup, "termination", amps.count), "sampling", Math.abs(amps.slope) * edgeTime(p)));
    if (volts) find(w, "charge.termination-voltage", withPart(read(volts.value, "cellVoltage", setup, "termination", volts.count), "sampling", Math.abs(volts.slope) * edgeTime(p)));
    const last = p.time[p.time.length - 1] as number;
    const floor = 2 * accuracyAt(setup.instruments.cellCurrent ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.002;
    const after = finite(p.cellCurrent, end + 2, p.time.length);
    if (last - p.stop >= REST && p.restart === null && after.every((a) => Math.abs(a) <= floor)) {
      const resting = finite(p.cellVoltage, indexAt(p.time, last - 15), p.time.length);
      if (resting.length) find(w, "charge.rest-voltage", read(median(resting), "cellVoltage", setup, "rest", resting.length));
    }
  }
  if (p.restart !== null) {
    const before = valueBefore(p.time, p.cellVoltage, indexAt(p.time, p.restart), p.restart);
    if (before) find(w, "charge.recharge-threshold", withPart(read(before.value, "cellVoltage", setup, "recharge", before.count), "sampling", Math.abs(before.slope) * edgeTime(p)));
  }
}

/** Sources of an integral ∫a·b dt: gain of each meter on the whole, offset of each on the integral of the other. */
function energySources(value: number, volts: Role, amps: Role, charge: number, voltSeconds: number, setup: RunSetup): [string, number][] {
  const a = setup.instruments[amps];
  const v = setup.instruments[volts];
  return [
    ...(v ? ([[sourceName(volts, "gain"), rectangular(1) * v.gain * value], [sourceName(volts, "offset"), rectangular(v.counts * v.resolution) * charge]] as [string, number][]) : []),
    ...(a ? ([[sourceName(amps, "gain"), rectangular(1) * a.gain * value], [sourceName(amps, "offset"), rectangular(a.counts * a.resolution) * voltSeconds]] as [string, number][]) : []),
  ];
}

function wholeCharge(w: Work): void {
  const { p, setup } = w;
  const sag = inputSag(p);
  if (sag) find(w, "charge.input-sag", readDifference(sag.unloaded - sag.lowest, "inputVoltage", setup, "sag"));
  if (p.start === null || p.stop === null) return;
  const { start, stop } = p;
  find(w, "charge.total-time", uncertain(stop - start, [["sampling", Math.SQRT2 * edgeTime(p)]]));
  const agree = (before: number, after: number) => {
    const [a, b] = [p.cellCurrent[before] as number, p.cellCurrent[after] as number];
    return Math.abs(a - b) <= 0.1 * Math.max(Math.abs(a), Math.abs(b)) + 0.005;
  };
  const over = (f: Float64Array, g: Float64Array) => integrateTogether(p.time, f, g, start, stop, p.usual, agree);
  const { f: voltSeconds, g: charge, product: delivered } = over(p.cellVoltage, p.cellCurrent);
  for (const gap of charge.bridged) w.notes.push({ code: "gap-bridged", message: `A gap of ${formatDuration(gap)} in the log was bridged: the current on both sides agrees.` });
  for (const gap of charge.open) w.notes.push({ code: "gap-open", message: `Between ${formatDuration(gap.from)} and ${formatDuration(gap.to)} the log has a gap, and the current on its two sides differs: charge and energy are not stated.` });
  if (charge.open.length) return;
  // The two ends are known to half an interval, at the current that flows there.
  const ends = Math.hypot(Math.abs(p.cellCurrent[indexAt(p.time, start + 2 * p.usual)] ?? 0), Math.abs(p.cellCurrent[indexAt(p.time, stop) - 1] ?? 0)) * edgeTime(p);
  const gaps = charge.bridged.reduce((s, g) => s + g, 0);
  const share = rectangular(1) * 0.02 * (gaps / (stop - start));
  const a = setup.instruments.cellCurrent;
  find(
    w,
    "charge.capacity",
    uncertain(charge.value / 3600, [
      ...(a ? ([[sourceName("cellCurrent", "gain"), (rectangular(1) * a.gain * charge.value) / 3600], [sourceName("cellCurrent", "offset"), (rectangular(a.counts * a.resolution) * (stop - start)) / 3600]] as [string, number][]) : []),
      ["sampling", ends / 3600],
      ["gaps", (share * charge.value) / 3600],
    ]),
  );
  const mean = delivered.value / charge.value;
  const out = uncertain(delivered.value / 3600, [
    ...energySources(delivered.value / 3600, "cellVoltage", "cellCurrent", charge.value / 3600, voltSeconds.value / 3600, setup),
    ["sampling", (ends * mean) / 3600],
    ["gaps", (share * delivered.value) / 3600],
  ]);
  find(w, "charge.energy-delivered", out);
  if (!p.inputVoltage || !p.inputCurrent) return;
  const [vi, ii] = [p.inputVoltage, p.inputCurrent];
  const { f: inVolts, g: inCharge, product: drawnBy } = over(vi, ii);
  const early = integrateTogether(p.time, p.cellCurrent, ii, start, start + (stop - start) / 4, p.usual, agree);
  const drawn = uncertain(drawnBy.value / 3600, [
    ...energySources(drawnBy.value / 3600, "inputVoltage", "inputCurrent", inCharge.value / 3600, inVolts.value / 3600, setup),
    ["sampling", (ends * mean) / 3600],
    ["gaps", (share * drawnBy.value) / 3600],
  ]);
  find(w, "charge.energy-drawn", drawn);
  const ratio = out.value / drawn.value;
  const parts = new Map<string, number>();
  for (const [source, u] of out.parts) parts.set(source, u / drawn.value);
  for (const [source, u] of drawn.parts) parts.set(source, (parts.get(source) ?? 0) - (u * ratio) / drawn.value);
  find(w, "charge.efficiency", uncertain(ratio, parts));
  converterKind(w, ratio, { whole: charge.value / inCharge.value, early: early.f.value / early.g.value }, voltSeconds.value / inVolts.value);
  dissipation(w, start, stop);
}

/**
 * Whether the charger passes the input's current on or switches, and what its efficiency is to be held against. `amps` is charge in the
 * cell ÷ charge from the input: one throughout for a linear charger; one that switches gives more while the cell is low than later.
 */
function converterKind(w: Work, efficiency: number, amps: { readonly whole: number; readonly early: number }, volts: number): void {
  const q = (x: number) => formatQuantity(x, "1", { digits: 3 });
  if (amps.early > 1.04 || amps.early - amps.whole > 0.03) w.notes.push({ code: "switching", message: `The cell got ${formatQuantity(amps.whole, "", { digits: 3 })} times the charge that came from the input, ${formatQuantity(amps.early, "", { digits: 3 })} times while it was low: the charger switches. Its efficiency of ${q(efficiency)} stands against the ${q(volts)} that a linear one would reach here.` });
  else if (Math.abs(amps.whole - 1) < 0.04) w.notes.push({ code: "linear", message: `As much charge went into the cell as came from the input, early and late: the charger is linear, and its efficiency of ${q(efficiency)} is little else than cell volts ÷ input volts. The rest is heat in the part.` });
}

function dissipation(w: Work, start: number, stop: number): void {
  const { p, setup } = w;
  const [vi, ii] = [p.inputVoltage as Float64Array, p.inputCurrent as Float64Array];
  const peak = p.heat && highestMean(p.time, p.heat, start, stop, 60);
  if (!peak) return;
  const from = indexAt(p.time, (p.time[peak.end] as number) - 60);
  const mean = (c: Float64Array) => median(finite(c, from, peak.end + 1));
  const count = Math.max(1, peak.end - from);
  const x = { vi: read(mean(vi), "inputVoltage", setup, "peak", count), ii: read(mean(ii), "inputCurrent", setup, "peak", count), vc: read(mean(p.cellVoltage), "cellVoltage", setup, "peak", count), ic: read(mean(p.cellCurrent), "cellCurrent", setup, "peak", count) };
  const parts = new Map<string, number>();
  const share = (u: Uncertain, by: number) => u.parts.forEach((v, s) => parts.set(s, (parts.get(s) ?? 0) + v * by));
  share(x.vi, x.ii.value);
  share(x.ii, x.vi.value);
  share(x.vc, -x.ic.value);
  share(x.ic, -x.vc.value);
  find(w, "charge.peak-dissipation", uncertain(peak.value, parts));
}

/** Input volts before the charge, or else after it, and the lowest while charging (medians of five, so that no spike decides). */
function inputSag(p: Phases): { readonly unloaded: number; readonly lowest: number } | null {
  if (!p.inputVoltage) return null;
  const from = p.start === null ? 0 : indexAt(p.time, p.start);
  const to = p.stop === null ? p.time.length : indexAt(p.time, p.stop);
  const free = p.start !== null ? finite(p.inputVoltage, 0, from) : p.stop !== null ? finite(p.inputVoltage, to + 2, p.time.length) : [];
  if (free.length < 3) return null;
  const lowest = extremeOfFive(finite(p.inputVoltage, from + 1, to), 1);
  return Number.isFinite(lowest) ? { unloaded: median(free), lowest } : null;
}

function heat(w: Work): void {
  const { p, setup } = w;
  const part = p.partTemperature;
  if (!part) return;
  const from = p.start === null ? 0 : indexAt(p.time, p.start);
  const to = p.stop === null ? p.time.length : indexAt(p.time, p.stop);
  const highest = extremeOfFive(finite(part, from, to), -1);
  const around = p.ambientTemperature ? median(finite(p.ambientTemperature, from, to)) : setup.conditions.ambientTemperature;
  if (around !== undefined && Number.isFinite(highest)) {
    const ambient = p.ambientTemperature ? read(around, "ambientTemperature", setup, "ambient", 100) : uncertain(around, [["ambient as stated", rectangular(0.5)]]);
    const top = read(highest, "partTemperature", setup, "peak");
    find(w, "charge.peak-temperature-rise", uncertain(highest - around, [...top.parts, ...ambient.parts]));
  }
  const cut = p.cuts.find((c) => c.heat);
  if (!cut) return;
  const at = indexAt(p.time, cut.from);
  const onset = median(finite(part, at - 3, at + 4));
  // Between the first sign and 5 % of current lost the part warms on.
  const later = median(finite(part, indexAt(p.time, cut.from + 30) - 3, indexAt(p.time, cut.from + 30) + 4));
  find(w, "charge.foldback-onset-temperature", withPart(read(onset, "partTemperature", setup, "foldback", 4), "beginning of the cut", rectangular(Math.abs(later - onset))));
  w.notes.push({ code: "foldback", message: `At about ${formatQuantity(onset, "°C", { digits: 3 })} the charger cut its own current because of heat${cut.to === null ? "" : `, for ${formatDuration(cut.to - cut.from)}`}: that is not a wrong programme resistor.` });
}
