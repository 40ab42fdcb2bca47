import { characteristic } from "../../characteristics";
import { sourceName } from "../../instruments";
import { budget, expandedUncertainty, formatDuration, formatQuantity, highest, lowest, rectangular, scatterOfMean, uncertain, type Uncertain } from "../../quantities";
import type { Role } from "../roles";
import type { Analysis, Corrections, Finding, Note, Point, Procedure, Readings, RunSetup } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { likeness } from "./likeness";

/** One channel's done signal in one run. */
interface Signal {
  readonly id: string;
  readonly channel: number;
  readonly repeat: number;
  readonly time: number | null;
  readonly volts: number | null;
  readonly amps: number | null;
}

const value = (p: Point, role: Role): number | null => {
  const c = p.cells[role];
  return c?.status === "ok" ? c.value : null;
};

function signals(points: readonly Point[]): Signal[] {
  return points.flatMap((p) => {
    const channel = value(p, "channel");
    return channel === null ? [] : [{ id: p.id, channel, repeat: value(p, "repeat") ?? 1, time: value(p, "time"), volts: value(p, "cellVoltage"), amps: value(p, "cellCurrent") }];
  });
}

const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;

/** The mean of several repeats read with one meter: its gain and offset stay, and what the repeats scatter by is in it (JCGM 100, 4.2.3). */
function meanReading(values: readonly number[], role: Role, setup: RunSetup): Uncertain {
  const a = setup.instruments[role];
  const m = mean(values);
  const scatter = scatterOfMean(values);
  if (!a) return uncertain(m, [["scatter of the repeats", scatter]]);
  const own = Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) / Math.sqrt(values.length);
  return uncertain(m, [
    [sourceName(role, "gain"), rectangular(1) * a.gain * m],
    [sourceName(role, "offset"), rectangular(a.counts * a.resolution)],
    // The scatter of the repeats holds the readings' own noise; of one reading nothing else is known.
    scatter > own ? ["scatter of the repeats", scatter] : [sourceName(role, "own"), own],
  ]);
}

function finding(name: string, x: Uncertain, points: readonly string[], conditions: Finding["conditions"] = {}): Finding {
  return { characteristic: name, conditions, value: x.value, unit: characteristic(name)?.unit ?? "", expandedUncertainty: expandedUncertainty(x), budget: budget(x), points, unfair: [] };
}

/**
 * Several chargers on one cell, each with a done signal of its own: where each quits, how far apart, and which light tells
 * the truth. One row a channel and run: volts, total current into the cell and time when that channel signals done.
 */
export function analyseChannels(readings: Readings, setup: RunSetup, corrections: Corrections): Analysis {
  if (readings.kind !== "points") throw new Error("internal: charger channels are a table of points");
  const all = signals(readings.points.filter((p) => !corrections.leftOut.has(p.id)));
  const findings: Finding[] = [];
  const notes: Note[] = readings.points.flatMap((p) => {
    const why = corrections.leftOut.get(p.id);
    return why === undefined ? [] : [{ code: "left-out", message: `Channel ${value(p, "channel") ?? "?"} of run ${value(p, "repeat") ?? 1} excluded: ${why}.`, points: [p.id] }];
  });
  const channels = [...new Set(all.map((s) => s.channel))].sort((a, b) => a - b);
  const means: { channel: number; volts: readonly number[]; mean: number; ids: string[] }[] = [];
  for (const channel of channels) {
    const own = all.filter((s) => s.channel === channel);
    const ids = own.map((s) => s.id);
    const volts = own.flatMap((s) => s.volts ?? []);
    const amps = own.flatMap((s) => s.amps ?? []);
    if (volts.length) {
      findings.push(finding("channels.done-voltage", meanReading(volts, "cellVoltage", setup), ids, { channel }));
      means.push({ channel, volts, mean: mean(volts), ids });
    }
    if (amps.length) findings.push(finding("channels.done-current", meanReading(amps, "cellCurrent", setup), ids, { channel }));
  }
  const ranked = [...means].sort((a, b) => a.mean - b.mean);
  const [lowest, highest] = [ranked[0], ranked[ranked.length - 1]];
  if (lowest && highest && lowest !== highest) {
    const a = setup.instruments.cellVoltage;
    const spread = highest.mean - lowest.mean;
    const own = a ? Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) * Math.sqrt(1 / lowest.volts.length + 1 / highest.volts.length) : 0;
    const scatter = Math.hypot(scatterOfMean(lowest.volts), scatterOfMean(highest.volts));
    // One meter reads both, so that its offset is gone and its gain acts on the difference.
    findings.push(finding("channels.voltage-spread", uncertain(spread, [...(a ? ([[sourceName("cellVoltage", "gain"), rectangular(1) * a.gain * spread]] as const) : []), scatter > own ? ["scatter of the repeats", scatter] : [sourceName("cellVoltage", "own"), own]]), [...lowest.ids, ...highest.ids]));
  }
  early(all, channels, findings, notes);
  return { findings, notes, charts: [] };
}

/** From the first done signal of a run to its last, over the runs in which every channel gave one. */
function early(all: readonly Signal[], channels: readonly number[], findings: Finding[], notes: Note[]): void {
  const repeats = [...new Set(all.map((s) => s.repeat))].map((r) => all.filter((s) => s.repeat === r));
  const whole = repeats.filter((r) => channels.every((c) => r.some((s) => s.channel === c && s.time !== null)));
  if (channels.length < 2 || whole.length === 0) return;
  if (whole.length < repeats.length) notes.push({ code: "incomplete-run", message: `${repeats.length - whole.length} of ${repeats.length} runs lack a channel's time and don't count for the time from first to last.` });
  const times = whole.map((r) => r.map((s) => s.time as number));
  const spans = times.map((t) => highest(t) - lowest(t));
  const whenIsDone = uncertain(mean(spans), [["time as written", (Math.SQRT2 * rectangular(0.5)) / Math.sqrt(spans.length)], ["scatter of the repeats", scatterOfMean(spans)]]);
  findings.push(finding("channels.early-time", whenIsDone, whole.flat().map((s) => s.id)));
  const order = (pick: (t: readonly number[]) => number) => [...new Set(whole.map((r) => r.reduce((b, s) => ((s.time as number) === pick(r.map((x) => x.time as number)) ? s : b)).channel))];
  const [first, last] = [order((t) => lowest(t)), order((t) => highest(t))];
  const rest = whole.flatMap((r) => r.filter((s) => first.includes(s.channel)).flatMap((s) => s.amps ?? []));
  notes.push({
    code: "first-and-last",
    message: `Channel ${first.join(" or ")} signals done first, ${formatDuration(mean(spans))} before channel ${last.join(" or ")}${rest.length ? `, while ${formatQuantity(mean(rest), "A", { digits: 3 })} still flow into the cell` : ""}. The light of channel ${last.join(" or ")} is the one to show.`,
  });
}

/** Several chargers on one cell, from a table of their done signals. So far it comes from files only. */
export const chargeChannels: Procedure = {
  id: "charge-channels",
  version: PROCEDURE_FACTS["charge-channels"].version,
  title: procedureTitle("charge-channels"),
  readings: PROCEDURE_FACTS["charge-channels"].readings,
  summary: "For boards with several charger ICs on one cell: where each signals done, how far apart they are, and whose light to show.",
  destructive: false,
  position: 35,
  work: [{ minutes: 15, needs: ["hands", "supply", "logger"] }, { minutes: 165, needs: ["supply", "logger"] }],
  calledForBy: ["charger"],
  silences: {
    "channels.done-voltage": { roles: ["channel", "cellVoltage"], otherwise: ["not-in-log", "No row names a channel."] },
    "channels.done-current": { roles: ["channel", "cellCurrent"], otherwise: ["not-in-log", "No row names a channel."] },
    "channels.voltage-spread": { roles: ["cellVoltage"], otherwise: ["not-in-log", "Only one channel is in the table."] },
    "channels.early-time": { roles: ["time"], otherwise: ["not-in-log", "No repeat has the times of two channels."] },
  },
  headline: ["channels.voltage-spread", "channels.early-time"],
  record: {
    roles: [
      { role: "channel", required: true },
      { role: "repeat", required: false },
      { role: "time", required: false },
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: false },
    ],
    derived: [],
  },
  asks: [],
  measures: ["channels.done-voltage", "channels.done-current", "channels.voltage-spread", "channels.early-time"],
  likeness,
  analyse: analyseChannels,
};
