import { ELEMENTS, formatDuration, formatQuantity, median } from "../../quantities";
import { finite, indexAt, interval, plateaus } from "../../traces";
import { logCharts, marksOf, type CleanColumns } from "../kit/guided";
import { logFinding, meterReading, wordFinding } from "../kit/log-reading";
import type {
  Corrections,
  Role,
  Analysis,
  ChartSpec,
  Finding,
  Note,
  ReadingsOf,
  RunSetup,
  TraceEvent,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { ChargeEnding, type Ending } from "./ending";
import { currentFloor } from "./guide";
import { handOver, handOverFindings, outputFindings, type Stretch } from "./hand-over";
import { pathLoads, type PathPlan } from "./plan";

const { nth, sampleAt } = ELEMENTS;

const q = formatQuantity;
/** Input voltage under which a low charging current is the supply's doing. */
const SAGGED = 4.5;
const ROLES = [
  "outputVoltage",
  "outputCurrent",
  "inputVoltage",
  "inputCurrent",
  "cellVoltage",
  "cellCurrent",
  "outputLow",
  "outputHigh",
  "outsideTime",
] as const satisfies readonly Role[];

/** Hand-overs of the output, and charging while it carries a load. */
export function analysePath(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<PathPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const { time } = trace.columns;
  // No spike is taken out: a dip of one sample is what is looked for.
  const columns: CleanColumns = Object.fromEntries(
    ROLES.flatMap((r) => (trace.columns[r] ? [[r, trace.columns[r]]] : [])),
  );
  const volts = columns.outputVoltage;
  if (!time || time.length < 2 || !volts)
    return {
      findings: [],
      notes: [{ code: "no-output", message: "The log lacks the output voltage, so the handover can't be analysed." }],
      charts: [],
    };
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const stretches = stretchesOf(time, columns, trace.events);
  const nominal = setup.conditions.nominalOutput;
  // Where nobody stated one, out of band is away from what the output itself settles at.
  const level = nominal ?? median(finite(volts, 0, volts.length));
  const share = setup.conditions.regulationBand ?? 0.05;
  const band = { low: level * (1 - share), high: level * (1 + share) };
  outputFindings(volts, stretches, setup, findings);
  const events = stretches.filter((s) => s.event);
  const seen = events.flatMap((s) => handOver(time, columns, s, band) ?? []);
  const loaded = columns.outputCurrent ? median(finite(columns.outputCurrent, 0, time.length)) : NaN;
  if (events.length === 0 && !columns.cellCurrent)
    notes.push({
      code: "no-event",
      message:
        "Neither the input voltage nor a mark shows when the input was plugged or unplugged: mark it on the log (“input plugged in”, “input pulled”).",
    });
  if (events.length && seen.length === 0)
    notes.push({
      code: "too-slow",
      message: `The log has a reading every ${formatDuration(interval(time))}: too slow for a dip of milliseconds. Type what a scope shows, or import its waveform.`,
    });
  if (seen.length && loaded <= 0.002)
    notes.push({ code: "no-load", message: "The output carried no load, so the handover says little." });
  handOverFindings(seen, interval(time), setup, band, findings, notes);
  if (columns.cellCurrent && columns.inputCurrent && columns.outputCurrent)
    charging(time, columns, stretches, trace.events, setup, findings, notes);
  const spans = stretches.map((s) => ({
    from: sampleAt(time, s.first),
    to: sampleAt(time, Math.min(s.end, time.length - 1)),
    label: `input ${s.input}`,
  }));
  return {
    findings,
    notes,
    charts: wanted === "findings" ? [] : charts(time, columns, spans, trace.events, band, nominal),
  };
}

/** The log cut where the input came or went: by its volts where they were logged, else by marks. */
function stretchesOf(time: Float64Array, c: CleanColumns, events: readonly TraceEvent[]): Stretch[] {
  const n = time.length;
  const input = c.inputVoltage;
  const cuts: { row: number; event: "plugged" | "unplugged" }[] = [];
  let first: Stretch["input"] = "absent";
  let most = 0;
  if (input) for (let k = 0; k < n; k++) if (sampleAt(input, k) > most) most = sampleAt(input, k);
  if (input && most > 1) {
    let on: boolean | null = null;
    for (let k = 0; k < n; k++) {
      const v = sampleAt(input, k);
      if (v - v !== 0) continue;
      // Hysteresis: a connector that chatters within one sample is one event.
      const now: boolean | null = v > 0.6 * most ? true : v < 0.4 * most ? false : on;
      if (now !== null && on !== null && now !== on) cuts.push({ row: k, event: now ? "plugged" : "unplugged" });
      if (on === null && now !== null) first = now ? "present" : "absent";
      if (now !== null) on = now;
    }
  } else {
    const marks = [
      ...marksOf(events, "plugged").map((t) => ({ t, event: "plugged" as const })),
      ...marksOf(events, "unplugged").map((t) => ({ t, event: "unplugged" as const })),
    ].sort((a, b) => a.t - b.t);
    for (const m of marks) {
      let row = indexAt(time, m.t);
      while (row < n && sampleAt(time, row) <= m.t) row++;
      if (row < n) cuts.push({ row, event: m.event });
    }
    first = cuts[0] ? (cuts[0].event === "plugged" ? "absent" : "present") : c.cellCurrent ? "present" : "absent";
  }
  const edges = [0, ...cuts.map((x) => x.row), n];
  return edges.slice(0, -1).flatMap((from, k) => {
    const end = nth(edges, k + 1);
    const event = k === 0 ? null : (cuts[k - 1] as (typeof cuts)[number]).event;
    return end > from
      ? [
          {
            first: from,
            end,
            event,
            input: event ? (event === "plugged" ? ("present" as const) : ("absent" as const)) : first,
          },
        ]
      : [];
  });
}

/** Charging currents and what the input carries at each load, and whether the charge ends under the heaviest. */
function charging(
  time: Float64Array,
  c: CleanColumns,
  stretches: readonly Stretch[],
  events: readonly TraceEvent[],
  setup: RunSetup<PathPlan>,
  findings: Finding[],
  notes: Note[],
): void {
  const [cell, input, output] = [
    c.cellCurrent as Float64Array,
    c.inputCurrent as Float64Array,
    c.outputCurrent as Float64Array,
  ];
  const planned = setup.plan ? pathLoads(setup.plan) : [];
  const named = (amps: number) =>
    planned.find((p) => Math.abs(p - amps) <= 0.03 * p + 0.003) ?? Number(Math.max(0, amps).toPrecision(2));
  const levels: { load: number; charge: number; input: number }[] = [];
  let last: { load: number; first: number; end: number } | null = null;
  for (const s of stretches.filter((x) => x.input === "present")) {
    const step = Math.max(0.004, 3 * (setup.instruments.outputCurrent?.resolution ?? 0.001));
    for (const p of plateaus(time.subarray(s.first, s.end), output.subarray(s.first, s.end), step, 3)) {
      const [first, end] = [s.first + p.first, s.first + p.end];
      const width = Math.min(p.to - p.from, setup.plan?.dwell ?? 90);
      const [a, b] = [indexAt(time, p.from + 0.15 * width), indexAt(time, p.from + width) + 1];
      const load = named(p.value);
      const [charge, drawn] = [finite(cell, a, Math.min(b, end)), finite(input, a, Math.min(b, end))];
      if (!charge.length || !drawn.length) continue;
      last = { load, first, end };
      if (levels.some((f) => f.load === load)) continue;
      const unfair = supplyFault(c, a, Math.min(b, end), median(drawn), setup);
      levels.push({ load, charge: median(charge), input: median(drawn) });
      const put = (name: string, value: number, role: Role, count: number) => {
        const f = logFinding(name, meterReading(value, role, setup, `load ${load}`, count), setup, {
          conditions: { load },
          unfair,
        });
        if (f) findings.push(f);
      };
      put("path.charge-current", median(charge), "cellCurrent", charge.length);
      put("path.input-current", median(drawn), "inputCurrent", drawn.length);
    }
  }
  shares(levels, notes);
  if (last && last.load > 0) ends(time, cell, last, events, setup, findings, notes);
}

function supplyFault(
  c: CleanColumns,
  from: number,
  to: number,
  drawn: number,
  setup: RunSetup<PathPlan>,
): readonly Unfairness[] {
  const volts = c.inputVoltage ? median(finite(c.inputVoltage, from, to)) : NaN;
  if (volts < SAGGED)
    return [
      {
        code: "input-sagged",
        message: `The input was at ${q(volts, "V", { digits: 3 })}.`,
        remedy: "Use a shorter or thicker cable, or a stronger supply.",
        pushes: "low",
      },
    ];
  const limit = setup.plan?.inputLimit;
  return limit && drawn > 0.98 * limit
    ? [
        {
          code: "supply-limit",
          message: `The input drew ${q(drawn, "A", { digits: 3 })}, all that the supply gives.`,
          remedy: "Raise the supply's limit past what load and charging take together.",
          pushes: "low",
        },
      ]
    : [];
}

/** Who carries the load: the input beside the charging current, or the cell out of it. */
function shares(
  found: readonly { readonly load: number; readonly charge: number; readonly input: number }[],
  notes: Note[],
): void {
  const [bare, heavy] = [found.find((f) => f.load === 0), found[found.length - 1]];
  const most = found.reduce((m, f) => Math.max(m, f.input), 0);
  if (most > 0)
    notes.push({
      code: "input-carries",
      message: `The input draws up to ${q(most, "A", { digits: 3 })}: use a supply of at least ${q(1.25 * most, "A", { digits: 2 })}, a quarter more.`,
    });
  if (!bare || !heavy || heavy.load === 0) return;
  const [more, less] = [heavy.input - bare.input, bare.charge - heavy.charge];
  if (more > 0.7 * heavy.load && less < 0.3 * heavy.load)
    notes.push({
      code: "fed-from-input",
      message: `With ${q(heavy.load, "A")} on the output the input draws ${q(more, "A", { digits: 2 })} more and the charge current is unchanged: the input feeds the load.`,
    });
  else if (more > 0.2 * heavy.load)
    notes.push({
      code: "shared",
      message: `With ${q(heavy.load, "A")} on the output the input draws ${q(more, "A", { digits: 2 })} more and the charge current falls by ${q(less, "A", { digits: 2 })}: the load comes first, and the rest charges.`,
    });
  else
    notes.push({
      code: "fed-from-cell",
      message: `With ${q(heavy.load, "A")} on the output the input current is unchanged and the charge current falls by ${q(less, "A", { digits: 2 })}: the cell feeds the load.`,
    });
}

function ends(
  time: Float64Array,
  cell: Float64Array,
  last: { readonly load: number; readonly first: number; readonly end: number },
  events: readonly TraceEvent[],
  setup: RunSetup<PathPlan>,
  findings: Finding[],
  notes: Note[],
): void {
  const e = new ChargeEnding(currentFloor(setup), setup.plan?.patience ?? 1800);
  const [from, to] = [sampleAt(time, last.first), sampleAt(time, last.end - 1)];
  let outcome: Exclude<Ending, "charging"> | null = null;
  for (let k = last.first; k < last.end && !outcome; k++) {
    const state = e.push(sampleAt(time, k), sampleAt(cell, k));
    if (state !== "charging") outcome = state;
  }
  const light = marksOf(events, "done-light").find((t) => t >= from && t <= to);
  if (!outcome && light !== undefined) outcome = "ended";
  const load = q(last.load, "A");
  if (!outcome) {
    if (to - from > 600)
      notes.push({
        code: "not-to-the-end",
        message: `The log ends before the charge under ${load} did: whether it ever ends is not known.`,
      });
    return;
  }
  findings.push(wordFinding("path.finishes-under-load", outcome === "ended" ? "yes" : "no", [], { load: last.load }));
  notes.push(
    outcome === "ended"
      ? {
          code: "ends",
          message: `With ${load} on the output the charge ended after ${formatDuration((light ?? e.at) - from)}.`,
        }
      : outcome === "discharges"
        ? {
            code: "empties",
            message: `With ${load} on the output the cell was emptied for ${formatDuration(to - e.at)} though the input was in: the load takes more than the charger gives.`,
          }
        : {
            code: "never-ends",
            message: `With ${load} on the output the cell's current fell to nothing and stayed there for ${formatDuration(setup.plan?.patience ?? 1800)}, yet the charger never stopped: it feeds the load and never reaches its termination current. The cell stays at full voltage, which ages it, and the done light never comes on.`,
          },
  );
}

function charts(
  time: Float64Array,
  c: CleanColumns,
  spans: NonNullable<ChartSpec["spans"]>,
  events: readonly TraceEvent[],
  band: { readonly low: number; readonly high: number },
  nominal: number | undefined,
): ChartSpec[] {
  return logCharts(
    time,
    c,
    [
      {
        id: "output",
        title: nominal ? `Output voltage, nominal ${q(nominal, "V")}` : "Output voltage",
        label: "Voltage",
        unit: "V",
        roles: [["outputVoltage", "output", 1]],
        band: { ...band, label: "regulation band" },
      },
      {
        id: "current",
        title: "Input, cell and load current",
        label: "Current",
        unit: "A",
        roles: [
          ["inputCurrent", "input", 2],
          ["cellCurrent", "cell", 0],
          ["outputCurrent", "load", 1],
        ],
      },
      {
        id: "voltage",
        title: "Input and cell voltage",
        label: "Voltage",
        unit: "V",
        roles: [
          ["inputVoltage", "input", 2],
          ["cellVoltage", "cell", 0],
        ],
      },
    ],
    { spans, events },
  );
}
