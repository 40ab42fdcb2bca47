import { characteristic } from "../../characteristics";
import { meterSource } from "../../instruments";
import {
  budget,
  expandedUncertainty,
  formatDuration,
  formatQuantity,
  highest,
  lowest,
  numeric,
  rectangular,
  scatterOfMean,
  uncertain,
  type Uncertain,
  sampling,
  scatter,
} from "../../quantities";
import type { Role, Analysis, ChartSpec, Corrections, Finding, Note, ReadingsOf, RunSetup } from "../../measurement";
import {
  boundsText,
  chargeAfter,
  isWhole,
  readingOf,
  signals,
  type ChargeBounds,
  type Signal,
  type WholeSignal,
} from "./signals";

const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;

/** The mean of several repeats read with one meter: its gain and offset stay, and what the repeats scatter by is in it (JCGM 100, 4.2.3). */
function meanReading(values: readonly number[], role: Role, setup: RunSetup): Uncertain {
  const a = setup.instruments[role];
  const m = mean(values);
  const spread = scatterOfMean(values);
  if (!a) return uncertain(m, [[scatter("scatter of the repeats"), spread]]);
  const own = Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) / Math.sqrt(values.length);
  return uncertain(m, [
    [meterSource(role, "gain"), rectangular(1) * a.gain * m],
    [meterSource(role, "offset"), rectangular(a.counts * a.resolution)],
    // The scatter of the repeats holds the readings' own noise; of one reading nothing else is known.
    spread > own ? [scatter("scatter of the repeats"), spread] : [meterSource(role, "own"), own],
  ]);
}

function finding(
  name: string,
  x: Uncertain,
  points: readonly string[],
  conditions: Finding["conditions"] = {},
): Finding {
  return {
    characteristic: name,
    conditions,
    value: x.value,
    unit: characteristic(name)?.unit ?? "",
    expandedUncertainty: expandedUncertainty(x),
    budget: budget(x),
    points,
    unfair: [],
  };
}

/**
 * Several chargers on one cell, each with a done signal of its own: where each quits, how far apart, and which light tells
 * the truth. One row a channel and charge: cell voltage, total current into the cell and time when that channel signals done.
 */
export function analyseChannels(readings: ReadingsOf<"points">, setup: RunSetup, corrections: Corrections): Analysis {
  const all = signals(readings.points.filter((p) => !corrections.leftOut.has(p.id)));
  const findings: Finding[] = [];
  const notes: Note[] = readings.points.flatMap((p) => {
    const why = corrections.leftOut.get(p.id);
    return why === undefined
      ? []
      : [
          {
            code: "left-out",
            message: `Channel ${readingOf(p, "channel") ?? "?"} of charge ${readingOf(p, "repeat") ?? 1} excluded: ${why}.`,
            points: [p.id],
          },
        ];
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
    if (amps.length)
      findings.push(finding("channels.done-current", meanReading(amps, "cellCurrent", setup), ids, { channel }));
  }
  const ranked = [...means].sort((a, b) => a.mean - b.mean);
  const [lowest, highest] = [ranked[0], ranked[ranked.length - 1]];
  if (lowest && highest && lowest !== highest) {
    const a = setup.instruments.cellVoltage;
    const spread = highest.mean - lowest.mean;
    const own = a
      ? Math.hypot(rectangular(a.resolution / 2), a.resolution / 2) *
        Math.sqrt(1 / lowest.volts.length + 1 / highest.volts.length)
      : 0;
    const wander = Math.hypot(scatterOfMean(lowest.volts), scatterOfMean(highest.volts));
    // One meter reads both, so that its offset is gone and its gain acts on the difference.
    findings.push(
      finding(
        "channels.voltage-spread",
        uncertain(spread, [
          ...(a ? ([[meterSource("cellVoltage", "gain"), rectangular(1) * a.gain * spread]] as const) : []),
          wander > own ? [scatter("scatter of the repeats"), wander] : [meterSource("cellVoltage", "own"), own],
        ]),
        [...lowest.ids, ...highest.ids],
      ),
    );
  }
  early(all, channels, setup, findings, notes);
  return { findings, notes, charts: charts(all) };
}

/** Whole charges in which every channel gave a signal, each in the order of its times. */
const wholeRuns = (
  all: readonly Signal[],
  channels: readonly number[],
): { readonly runs: Signal[][]; readonly of: number } => {
  const repeats = [...new Set(all.map((s) => s.repeat))].map((r) => all.filter((s) => s.repeat === r));
  const runs = repeats.filter((r) => channels.every((c) => r.some((s) => s.channel === c && s.time !== null)));
  return {
    runs: runs.map((r) => r.filter((s) => s.time !== null).sort((a, b) => numeric(a.time) - numeric(b.time))),
    of: repeats.length,
  };
};

/** From the first done signal of a charge to its last, over the charges in which every channel gave one. */
function early(
  all: readonly Signal[],
  channels: readonly number[],
  setup: RunSetup,
  findings: Finding[],
  notes: Note[],
): void {
  const { runs, of } = wholeRuns(all, channels);
  if (channels.length < 2 || runs.length === 0) return;
  if (runs.length < of)
    notes.push({
      code: "incomplete-run",
      message: `${of - runs.length} of ${of} charges lack a channel's time and don't count for the time from first to last.`,
    });
  const times = runs.map((r) => r.map((s) => numeric(s.time)));
  const spans = times.map((t) => highest(t) - lowest(t));
  const ids = runs.flat().map((s) => s.id);
  const whenIsDone = uncertain(mean(spans), [
    [sampling("time as written"), (Math.SQRT2 * rectangular(0.5)) / Math.sqrt(spans.length)],
    [scatter("scatter of the repeats"), scatterOfMean(spans)],
  ]);
  findings.push(finding("channels.early-time", whenIsDone, ids));
  const one = (list: readonly (Signal | undefined)[]) => [...new Set(list.map((s) => s?.channel))];
  const [first, last] = [one(runs.map((r) => r[0])), one(runs.map((r) => r[r.length - 1]))];
  const rest = runs.flatMap((r) => r.filter((s) => first.includes(s.channel)).flatMap((s) => s.amps ?? []));
  notes.push({
    code: "first-and-last",
    message: `Channel ${first.join(" or ")} signals done first, ${formatDuration(mean(spans))} before channel ${last.join(" or ")}${rest.length ? `, while ${formatQuantity(mean(rest), "A", { digits: 3 })} still flow into the cell` : ""}. Use the light of channel ${last.join(" or ")}.`,
  });
  order(runs, notes);
  missed(runs, channels, setup, findings, notes);
}

/** Whether the channels always signal in the same order. */
function order(runs: readonly (readonly Signal[])[], notes: Note[]): void {
  if (runs.length < 2) return;
  const orders = [...new Set(runs.map((r) => r.map((s) => s.channel).join(", ")))];
  notes.push(
    orders.length === 1
      ? {
          code: "same-order",
          message: `The channels signal done in the same order in all ${runs.length} charges: ${orders[0]}.`,
        }
      : {
          code: "order-changes",
          message: `The order changes from charge to charge: ${orders.join("; ")}. The channels' references differ by less than they wander.`,
        },
  );
}

const meanBounds = (list: readonly ChargeBounds[]): ChargeBounds => ({
  low: mean(list.map((b) => b.low)),
  high: mean(list.map((b) => b.high)),
});

/** Charge that is missed by whoever trusts a channel's light: nobody reads the current between the signals, so that it lies between two limits. */
function missed(
  runs: readonly (readonly Signal[])[],
  channels: readonly number[],
  setup: RunSetup,
  findings: Finding[],
  notes: Note[],
): void {
  const read = runs.filter((r): r is WholeSignal[] => r.every(isWhole));
  if (read.length === 0) return;
  const after = read.map((r) => chargeAfter(r, 0));
  const { low, high } = meanBounds(after);
  const middle = (low + high) / 2;
  const a = setup.instruments.cellCurrent;
  const hours = mean(read.map((r) => ((r[r.length - 1] as WholeSignal).time - (r[0] as WholeSignal).time) / 3600));
  findings.push(
    finding(
      "channels.early-charge",
      uncertain(middle, [
        [sampling("current between the signals"), rectangular((high - low) / 2)],
        ...(a
          ? [
              [meterSource("cellCurrent", "gain"), rectangular(1) * a.gain * middle] as const,
              [meterSource("cellCurrent", "offset"), rectangular(a.counts * a.resolution) * hours] as const,
            ]
          : []),
        [scatter("scatter of the repeats"), scatterOfMean(after.map((b) => (b.low + b.high) / 2))],
      ]),
      read.flat().map((s) => s.id),
    ),
  );
  const each = channels.map((c) => ({
    channel: c,
    bounds: meanBounds(
      read.map((r) =>
        chargeAfter(
          r,
          r.findIndex((s) => s.channel === c),
        ),
      ),
    ),
  }));
  const told = each.filter((e) => e.bounds.high > 0).map((e) => `channel ${e.channel} ${boundsText(e.bounds)}`);
  if (told.length)
    notes.push({
      code: "charge-missed",
      message: `Charge missed by trusting the light of each: ${told.join(", ")}. The current between two signals is not read, so each lies between two limits.`,
    });
}

/** The current that still flows at each done signal, over the time of its charge: one line a charge. */
function charts(all: readonly Signal[]): ChartSpec[] {
  const read = all.filter(isWhole);
  if (read.length === 0) return [];
  const repeats = [...new Set(read.map((s) => s.repeat))].sort((a, b) => a - b);
  return [
    {
      id: "done-signals",
      title: "Current at each done signal",
      x: { label: "Hours since the charge began", unit: "" },
      y: { label: "Cell current", unit: "A" },
      claims: [],
      series: repeats.map((repeat, k) => ({
        id: `repeat${repeat}`,
        label: `charge ${repeat}`,
        tone: k % 6,
        points: read
          .filter((s) => s.repeat === repeat)
          .sort((a, b) => a.time - b.time)
          .map((s) => ({ x: s.time / 3600, y: s.amps, id: s.id, state: "counts" as const })),
      })),
    },
  ];
}
