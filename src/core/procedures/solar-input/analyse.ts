import { meterSource } from "../../instruments";
import {
  ELEMENTS,
  formatDuration,
  formatQuantity,
  highest,
  lowest,
  median,
  rectangular,
  uncertain,
  withPart,
  type Uncertain,
  divide,
  sampling,
  model,
  type ErrorSource,
} from "../../quantities";
import { finite, interval } from "../../traces";
import { cleanLog, logCharts, type CleanColumns } from "../kit/guided";
import { logFinding, meterReading } from "../kit/log-reading";
import type { Corrections, Role, Analysis, ChartSpec, Finding, Note, ReadingsOf, RunSetup } from "../../measurement";
import type { Wanted } from "../contract";
import { LEAST_POWER } from "./guide";
import { setVoltage, SOLAR_ROLES, type SolarPlan } from "./plan";
import { SteadyFinder, type SteadyWindow } from "./steady";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const NEEDED = ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"] as const satisfies readonly Role[];

/** Conversion efficiency, panel volts and harvest over the windows in which the light held steady. */
export function analyseSolar(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<SolarPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const log = cleanLog(trace, setup, SOLAR_ROLES);
  const [vi, ii, vc, ic] = NEEDED.map((r) => log?.columns[r]);
  if (!log || !vi || !ii || !vc || !ic)
    return {
      findings: [],
      notes: [
        {
          code: "no-power",
          message: "The log lacks a voltage or current of panel or cell, so no efficiency can be found.",
        },
      ],
      charts: [],
    };
  const { time } = log;
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const finder = new SteadyFinder(LEAST_POWER);
  for (let k = 0; k < time.length; k++) finder.push(k, sampleAt(time, k), sampleAt(vi, k) * sampleAt(ii, k));
  const windows = finder.finish(time.length);
  if (windows.length === 0)
    notes.push({
      code: "no-steady-light",
      message:
        "The panel's power never stayed within 3 % for 10 s: no efficiency is stated. Log longer, or put the panel under a lamp.",
    });
  else overWindows(windows, { vi, ii, vc, ic }, setup, findings, notes, time);
  restarts(time, ic, vi, windows, notes);
  return { findings, notes, charts: wanted === "findings" ? [] : charts(time, log.columns, windows, trace.events) };
}

/** What a column reads inside the windows, gaps left out. */
function within(c: Float64Array, windows: readonly SteadyWindow[]): Float64Array {
  const out = new Float64Array(windows.reduce((n, w) => n + w.end - w.first, 0));
  let n = 0;
  for (const w of windows)
    for (let k = w.first; k < w.end; k++) {
      const v = sampleAt(c, k);
      if (v - v === 0) out[n++] = v;
    }
  return out.subarray(0, n);
}

interface Columns {
  readonly vi: Float64Array;
  readonly ii: Float64Array;
  readonly vc: Float64Array;
  readonly ic: Float64Array;
}

/** Sums of the readings and of the powers over windows, and the powers of each of them. */
function sumsOf(windows: readonly SteadyWindow[], c: Columns) {
  const each: { n: number; panel: number; cell: number }[] = [];
  const sum = { n: 0, vi: 0, ii: 0, vc: 0, ic: 0, panel: 0, cell: 0 };
  for (const w of windows) {
    let n = 0;
    let panel = 0;
    let cell = 0;
    for (let k = w.first; k < w.end; k++) {
      const vi = sampleAt(c.vi, k);
      const ii = sampleAt(c.ii, k);
      const vc = sampleAt(c.vc, k);
      const ic = sampleAt(c.ic, k);
      const all = vi + ii + vc + ic;
      if (all - all !== 0) continue;
      n++;
      panel += vi * ii;
      cell += vc * ic;
      sum.vi += vi;
      sum.ii += ii;
      sum.vc += vc;
      sum.ic += ic;
    }
    if (n === 0) continue;
    each.push({ n, panel, cell });
    sum.n += n;
    sum.panel += panel;
    sum.cell += cell;
  }
  return { each, sum };
}

/** What the windows come to together; every row that was read whole counts once. */
function overWindows(
  windows: readonly SteadyWindow[],
  c: Columns,
  setup: RunSetup<SolarPlan>,
  findings: Finding[],
  notes: Note[],
  time: Float64Array,
): void {
  const { each, sum } = sumsOf(windows, c);
  if (sum.n === 0 || !(sum.panel > 0)) return;
  const seconds = windows.reduce((s, w) => s + w.to - w.from, 0);
  const efficiency = sum.cell / sum.panel;
  // Windows in other light may have another efficiency: their scatter stays as doubt of the mean.
  const spread =
    each.length > 1
      ? Math.sqrt(
          each.reduce((s, e) => s + (e.n / sum.n) * (e.cell / e.panel - efficiency) ** 2, 0) / (each.length - 1),
        )
      : 0;
  const [panel, cell] = [sum.panel / sum.n, sum.cell / sum.n];
  const means = { vi: sum.vi / sum.n, ii: sum.ii / sum.n, vc: sum.vc / sum.n, ic: sum.ic / sum.n };
  const put = (name: string, x: Uncertain) => {
    const f = logFinding(name, x, setup);
    if (f) findings.push(f);
  };
  const given = meanPower(
    panel,
    [
      ["inputVoltage", means.vi],
      ["inputCurrent", means.ii],
    ],
    setup,
  );
  const got = meanPower(
    cell,
    [
      ["cellVoltage", means.vc],
      ["cellCurrent", means.ic],
    ],
    setup,
  );
  put("solar.conversion-efficiency", withPart(divide(got, given), sampling("windows"), spread));
  put(
    "solar.panel-voltage",
    withPart(
      meterReading(median(within(c.vi, windows)), "inputVoltage", setup, "panel", sum.n),
      sampling("windows"),
      spreadOf(windows.map((w) => median(finite(c.vi, w.first, w.end)))) / Math.sqrt(windows.length),
    ),
  );
  const most = setup.conditions.panelMaximumPower;
  if (most)
    put(
      "solar.harvest",
      divide(got, uncertain(most, [[model("panel's maximum as stated"), rectangular(0.02 * most)]])),
    );
  notes.push({
    code: "steady-windows",
    message: `${windows.length} steady ${windows.length === 1 ? "stretch" : "stretches"}, ${formatDuration(Math.round(seconds))} in all of ${formatDuration(sampleAt(time, time.length - 1) - sampleAt(time, 0))}: the panel gave ${q(panel, "W", { digits: 3 })}, the cell got ${q(cell, "W", { digits: 3 })}.`,
  });
  kind(efficiency, means, notes);
  held(means.vi, setup, notes);
  if (!most)
    notes.push({
      code: "no-maximum",
      message:
        "The panel's maximum power was not stated: a panel away from its best voltage still shows a good efficiency.",
    });
}

/** A mean power in W: each meter's gain acts on it whole, its offset by the share that it is of what the meter read in the mean. */
function meanPower(
  watts: number,
  meters: readonly (readonly [role: Role, mean: number])[],
  setup: RunSetup,
): Uncertain {
  return uncertain(
    watts,
    meters.flatMap(([role, mean]): [ErrorSource, number][] => {
      const a = setup.instruments[role];
      return a
        ? [
            [meterSource(role, "gain"), rectangular(a.gain) * watts],
            [meterSource(role, "offset"), (rectangular(a.counts * a.resolution) / mean) * watts],
          ]
        : [];
    }),
  );
}

function spreadOf(v: readonly number[]): number {
  const mean = v.reduce((s, x) => s + x, 0) / v.length;
  return Math.sqrt(v.reduce((s, x) => s + (x - mean) ** 2, 0) / Math.max(1, v.length - 1));
}

/** Whether it works as a linear charger: what the panel gives in amps, the cell gets. */
function kind(
  efficiency: number,
  m: { readonly vi: number; readonly ii: number; readonly vc: number; readonly ic: number },
  notes: Note[],
): void {
  const linear = m.vc / m.vi;
  const ratio = m.ic / m.ii;
  if (Math.abs(ratio - 1) < 0.03)
    notes.push({
      code: "linear",
      message: `Cell current equals panel current: it works as a linear charger, with an efficiency of cell voltage ÷ panel voltage, ${q(linear, "1", { digits: 3 })} here.`,
    });
  else if (ratio > 1.03)
    notes.push({
      code: "switching",
      message: `The cell gets ${q(ratio, "", { digits: 3 })} times the panel current: it is a switching charger. A linear charger would reach ${q(linear, "1", { digits: 3 })} here; this one reaches ${q(efficiency, "1", { digits: 3 })}.`,
    });
}

/** The volts that the panel is held at against those set. */
function held(volts: number, setup: RunSetup<SolarPlan>, notes: Note[]): void {
  const set = setVoltage(setup.plan);
  if (set === null) return;
  const off = volts - set;
  notes.push(
    Math.abs(off) <= 0.02 * set
      ? {
          code: "held-as-set",
          message: `It holds the panel at ${q(volts, "V", { digits: 3 })}, as the divider sets it (${q(set, "V", { digits: 3 })}).`,
        }
      : {
          code: "held-elsewhere",
          message: `It holds the panel at ${q(volts, "V", { digits: 3 })}, ${q(Math.abs(off), "V", { digits: 2 })} ${off < 0 ? "below" : "above"} the ${q(set, "V", { digits: 3 })} that the divider sets${off < 0 ? ": it pulls the panel below its best voltage" : ": there is more light than the cell can use"}.`,
        },
  );
}

/** How long it takes after a cloud until the cell gets its current again. */
function restarts(
  time: Float64Array,
  ic: Float64Array,
  vi: Float64Array,
  windows: readonly SteadyWindow[],
  notes: Note[],
): void {
  const usual = windows.length ? median(within(ic, windows.slice(0, 20))) : 0;
  if (!(usual > 0.01)) return;
  const volts = median(within(vi, windows.slice(0, 20)));
  const delays: number[] = [];
  let gone = -1;
  let back = NaN;
  for (let k = 0; k < time.length; k++) {
    const a = sampleAt(ic, k);
    const v = sampleAt(vi, k);
    if (a - a !== 0 || v - v !== 0) continue;
    if (a < 0.02 * usual) {
      if (gone < 0) gone = k;
      // With nothing drawn, the panel stands above the volts it is held at as soon as there is light.
      if (v > 1.01 * volts) back = Number.isNaN(back) ? sampleAt(time, k) : back;
      else back = NaN;
    } else {
      if (gone >= 0 && sampleAt(time, k) - sampleAt(time, gone) > 2 && !Number.isNaN(back))
        delays.push(sampleAt(time, k) - back);
      gone = -1;
      back = NaN;
    }
  }
  if (delays.length)
    notes.push({
      code: "restart",
      message: `After ${delays.length === 1 ? "a cloud" : `${delays.length} clouds`} it charged again ${q(median(delays), "s", { digits: 2 })} after the light was back${delays.length > 1 ? ` (${q(lowest(delays), "s", { digits: 2 })} to ${q(highest(delays), "s", { digits: 2 })})` : ""}, seen every ${q(interval(time), "s", { digits: 2 })}.`,
    });
}

function charts(
  time: Float64Array,
  c: CleanColumns,
  windows: readonly SteadyWindow[],
  events: Parameters<typeof logCharts>[3]["events"],
): ChartSpec[] {
  return logCharts(
    time,
    c,
    [
      {
        id: "current",
        title: "Panel and cell current, steady light shaded",
        label: "Current",
        unit: "A",
        roles: [
          ["inputCurrent", "panel", 1],
          ["cellCurrent", "cell", 0],
        ],
      },
      {
        id: "voltage",
        title: "Panel and cell voltage",
        label: "Voltage",
        unit: "V",
        roles: [
          ["inputVoltage", "panel", 1],
          ["cellVoltage", "cell", 0],
        ],
        claims: [{ characteristic: "solar.panel-voltage", axis: "y" }],
      },
    ],
    { spans: windows.map((w) => ({ from: w.from, to: w.to, label: "steady" })), events },
  );
}
