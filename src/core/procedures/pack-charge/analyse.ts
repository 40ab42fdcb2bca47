import {
  ELEMENTS,
  fitLine,
  formatDuration,
  formatQuantity,
  highest,
  lowest,
  rectangular,
  subtract,
  withPart,
  type Uncertain,
  sampling,
  model,
} from "../../quantities";
import { valueBefore, withoutSpikes } from "../../traces";
import { logCharts } from "../kit/guided";
import { logFinding, meterReading, wordFinding } from "../kit/log-reading";
import type {
  Corrections,
  Role,
  Analysis,
  ChartSpec,
  Finding,
  Note,
  NotStated,
  ReadingsOf,
  RunSetup,
  Trace,
} from "../../measurement";
import type { Wanted } from "../contract";
import { chargeUntil, missingCharge, packVoltage, rebound, restAfter } from "./at-the-cut";
import { NO_CUT, packFloor } from "./guide";
import type { PackPlan } from "./plan";
import { PackStream, type PackEvent } from "./stream";

const { nth, sampleAt } = ELEMENTS;

const q = formatQuantity;

interface PackLog {
  readonly time: Float64Array;
  readonly amps: Float64Array;
  /** Columns of the cells, in their order. */
  readonly cells: readonly { readonly role: Role; readonly number: number; readonly volts: Float64Array }[];
}

function packLog(trace: Trace, setup: RunSetup): PackLog | null {
  const { time, cellCurrent } = trace.columns;
  const roles = (Object.keys(trace.columns) as Role[]).filter((r) => /^cell\d+Voltage$/.test(r));
  if (!time || time.length < 5 || !cellCurrent || roles.length < 2) return null;
  const cells = roles
    .map((role) => ({
      role,
      number: Number(/\d+/.exec(role)?.[0]),
      volts: withoutSpikes(trace.columns[role] as Float64Array, setup.instruments[role]?.resolution ?? 0.001).values,
    }))
    .sort((a, b) => a.number - b.number);
  return { time, amps: withoutSpikes(cellCurrent, setup.instruments.cellCurrent?.resolution ?? 0.001).values, cells };
}

interface Edge {
  readonly number: number;
  readonly role: Role;
  readonly volts: number;
  readonly slope: number;
  readonly count: number;
}

/** Every cell's volts in the last instant before a row, from a line through the readings before it; highest first. */
function cellsBefore(log: PackLog, row: number, count = 8): Edge[] {
  // The change lies between the sample before and this one.
  const at = (sampleAt(log.time, row) + sampleAt(log.time, row - 1)) / 2;
  return log.cells
    .flatMap((c) => {
      const e = valueBefore(log.time, c.volts, row, at, count);
      return e ? [{ number: c.number, role: c.role, volts: e.value, slope: e.slope, count: Math.max(1, e.count) }] : [];
    })
    .sort((a, b) => b.volts - a.volts);
}

/** A cell's volts at a change of the current; the sample before it may be up to one interval old. */
const edgeVolts = (log: PackLog, e: Edge, row: number, setup: RunSetup<PackPlan>): Uncertain =>
  withPart(
    meterReading(e.volts, e.role, setup, `cell ${e.number}`, e.count),
    sampling(`sampling of cell ${e.number}`),
    Math.abs(e.slope) * rectangular((sampleAt(log.time, row) - sampleAt(log.time, row - 1)) / 2),
  );

/** Cut, release, spread and low cut of a pack, and whether it was full when it was cut. */
export function analysePack(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<PackPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const log = packLog(readings.trace, setup);
  if (!log)
    return {
      findings: [],
      notes: [
        {
          code: "no-cells",
          message: "The log needs the pack current and the voltages of at least two cells (cell 1, cell 2, …).",
        },
      ],
      charts: [],
    };
  const stream = new PackStream(packFloor(setup), credibleCut(log, setup, readings.trace));
  const events: PackEvent[] = [];
  for (let k = 0; k < log.time.length; k++)
    events.push(...stream.push(k, sampleAt(log.time, k), sampleAt(log.amps, k), highestAt(log, k)));
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const put = (name: string, x: Uncertain, conditions: Finding["conditions"] = {}) => {
    const f = logFinding(name, x, setup, { conditions });
    if (f) findings.push(f);
  };
  const edge = (e: Edge, row: number) => edgeVolts(log, e, row, setup);
  const charges = withoutWaking(events);
  const cut = charges.find((e) => e.kind === "charge-cut");
  const tapered = charges.find((e) => e.kind === "tapered");
  if (cut) {
    const cells = cellsBefore(log, cut.row);
    const [top, low] = [cells[0], cells[cells.length - 1]];
    if (top && low) {
      put("pack.cutoff-cell-voltage", edge(top, cut.row));
      const [a, b] = [edge(top, cut.row), edge(low, cut.row)];
      put("pack.spread-at-cutoff", subtract(a, b));
      const amps = valueBefore(log.time, log.amps, cut.row, sampleAt(log.time, cut.row - 1), 8);
      if (amps) put("pack.current-at-cutoff", meterReading(amps.value, "cellCurrent", setup, "cut", amps.count));
      words(top, low, amps?.value ?? NaN, cut, notes);
      more(log, cells, cut.row, setup, put);
      headroom(cells, setup, notes);
    }
  } else if (tapered)
    notes.push({
      code: "tapered",
      message: `The current fell gently to nothing by ${formatDuration(tapered.time)}: the charger ended the charge, the board did not cut.`,
    });
  else if (!events.some((e) => e.kind === "interrupted"))
    notes.push({ code: "no-cut", message: "The log shows no cut of the charge." });
  const notStated = interruptions(log, events, cut !== undefined, notes);
  const again = cut && events.find((e) => e.kind === "charge-again" && e.time > cut.time);
  if (again) {
    const top = cellsBefore(log, again.row)[0];
    if (top) {
      put("pack.release-cell-voltage", edge(top, again.row));
      notes.push({
        code: "released",
        message: `Charging was allowed again after ${formatDuration(again.time - cut.time)}, when the highest cell had fallen to ${q(top.volts, "V", { digits: 4 })}.`,
      });
    }
  }
  lowCut(log, events, edge, put, notes);
  waking(events, readings.trace, findings, notes);
  resistor(log, events, notes);
  withinWindow(findings, setup, notes);
  return { findings, notes, notStated, charts: wanted === "findings" ? [] : charts(log, events, readings.trace) };
}

/** The cut of a discharge: the cell that caused it, and what the fullest still had. */
function lowCut(
  log: PackLog,
  events: readonly PackEvent[],
  edge: (e: Edge, row: number) => Uncertain,
  put: (name: string, x: Uncertain) => void,
  notes: Note[],
): void {
  const low = events.find((e) => e.kind === "low-cut");
  if (!low) return;
  // A weak cell falls ever faster near its end: its last readings count, and what a longer line would have said stays as doubt.
  const cells = cellsBefore(log, low.row, 4);
  const weak = cells[cells.length - 1];
  const long = weak && cellsBefore(log, low.row).find((c) => c.number === weak.number);
  if (weak && long) {
    put(
      "pack.low-cutoff-cell-voltage",
      withPart(edge(weak, low.row), model("ever faster fall"), Math.abs(long.volts - weak.volts)),
    );
    notes.push({
      code: "low-cut",
      message: `Discharging was cut by cell ${weak.number} at ${q(weak.volts, "V", { digits: 3 })}, while the fullest still had ${q((cells[0] as Edge).volts, "V", { digits: 3 })}.`,
    });
  }
}

/** Voltage of the pack, charge put in, and what each cell shows after the cut. */
function more(
  log: PackLog,
  cells: readonly Edge[],
  row: number,
  setup: RunSetup<PackPlan>,
  put: (name: string, x: Uncertain, conditions?: Finding["conditions"]) => void,
): void {
  const at = (sampleAt(log.time, row) + sampleAt(log.time, row - 1)) / 2;
  if (cells.length === log.cells.length) put("pack.voltage-at-cutoff", packVoltage(cells, setup));
  const charge = chargeUntil(log, at, setup);
  if (charge) put("pack.charge-at-cutoff", charge);
  const rest = restAfter(log, row);
  for (const cell of log.cells) {
    const edge = cells.find((c) => c.number === cell.number);
    const fall = edge && rebound(log, cell, edge, at, rest.until, setup);
    if (fall) put("pack.rebound", fall, { cell: cell.number });
    const missing = missingCharge(log, cell, at, rest, setup);
    if (missing) put("pack.missing-charge", missing, { cell: cell.number });
  }
}

/** How far the charger could have gone on: where it regulates less than the pack stood at, the board's cut was luck. */
function headroom(cells: readonly Edge[], { plan }: RunSetup<PackPlan>, notes: Note[]): void {
  if (!plan) return;
  const pack = cells.reduce((sum, c) => sum + c.volts, 0);
  const left = plan.chargerVolts - pack;
  notes.push({
    code: "headroom",
    message: `The charger regulates to ${q(plan.chargerVolts, "V", { digits: 4 })}, ${left >= 0 ? `${q(left, "V", { digits: 2 })} above` : `${q(-left, "V", { digits: 2 })} below`} the ${q(pack, "V", { digits: 4 })} of the pack at the cut.`,
  });
}

/** V that the highest cell of a pack at a cut lies within of the highest that it ever stood at. */
const NEAR_TOP = 0.08;
/** V between which no board of either chemistry cuts. */
const NO_CHEMISTRY = { low: 3.75, high: 4.02, least: 3.4 } as const;

const highestAt = (log: PackLog, k: number): number =>
  log.cells.reduce((m, c) => (sampleAt(c.volts, k) > m ? sampleAt(c.volts, k) : m), -Infinity);

/** V of the highest cell under which a stop of the charge is taken for a pulled plug rather than for the board's cut. */
function credibleCut(log: PackLog, setup: RunSetup<PackPlan>, trace: Trace): number {
  let top = -Infinity;
  for (let k = 0; k < log.time.length; k++) if (sampleAt(log.amps, k) > 0) top = Math.max(top, highestAt(log, k));
  const claimed = setup.plan ? setup.plan.cut - NO_CUT : -Infinity;
  const none = (top > NO_CHEMISTRY.low && top < NO_CHEMISTRY.high) || top < NO_CHEMISTRY.least;
  // A plug that the tester says was pulled: nothing before it counts.
  return trace.events.some((e) => e.kind === "cut-seen")
    ? -Infinity
    : none
      ? Infinity
      : Math.max(claimed, top - NEAR_TOP);
}

function interruptions(log: PackLog, events: readonly PackEvent[], cut: boolean, notes: Note[]): NotStated[] {
  const lost = events.filter((e) => e.kind === "interrupted");
  const [first] = lost;
  if (!first) return [];
  const back = events.some((e) => e.kind === "resumed" && e.time > (lost[lost.length - 1] as PackEvent).time);
  const reason = `The current stopped with the highest cell at only ${q(highestAt(log, Math.max(0, first.row - 1)), "V", { digits: 3 })}: a pulled plug or the charger, not the board's cut.`;
  notes.push({
    code: "interrupted",
    message: `${reason} ${back ? "The charge resumed afterwards." : "If the board did cut there, mark it on the log."}`,
  });
  if (cut) return [];
  return [
    "pack.cutoff-cell-voltage",
    "pack.current-at-cutoff",
    "pack.spread-at-cutoff",
    "pack.release-cell-voltage",
    "pack.voltage-at-cutoff",
    "pack.charge-at-cutoff",
    "pack.rebound",
    "pack.missing-charge",
  ].map((characteristic) => ({ characteristic, code: "disturbed" as const, reason }));
}

/** s of charging after a low cut that only wakes a board: its end is no cut. */
const WAKING = 300;

/** The events without the ends of short charges that follow a low cut. */
function withoutWaking(events: readonly PackEvent[]): readonly PackEvent[] {
  const low = events.find((e) => e.kind === "low-cut");
  return events.filter(
    (e, k) =>
      !(
        low &&
        e.time > low.time &&
        (e.kind === "charge-cut" || e.kind === "tapered") &&
        e.time - (events[k - 1]?.time ?? -Infinity) < WAKING
      ),
  );
}

/** What brought the output back after the low cut, as far as the current shows it; “never” only where a load was put on and nothing flowed. */
function waking(events: readonly PackEvent[], trace: Trace, findings: Finding[], notes: Note[]): void {
  const at = events.findIndex((e) => e.kind === "low-cut");
  if (at < 0) return;
  const later = events.slice(at + 1);
  const flows = later.findIndex((e) => e.kind === "discharge");
  const charged = later.findIndex((e) => e.kind === "charge" || e.kind === "charge-again");
  const tries = trace.events.filter((e) => e.kind === "load-again" && e.time >= (events[at] as PackEvent).time);
  const word =
    flows >= 0
      ? charged >= 0 && charged < flows
        ? "by a charger"
        : "by itself"
      : charged >= 0 && tries.length > 1
        ? "never"
        : null;
  if (!word) {
    if (tries.length)
      notes.push({
        code: "stays-off",
        message: "After the low cut the output stayed off. Waking it with a charger was not tried.",
      });
    return;
  }
  findings.push(wordFinding("behaviour.response", word, [], { action: "wakes after the cut-off" }));
  if (word === "by a charger")
    notes.push({
      code: "woken",
      message:
        "After the low cut it stays off until a charger wakes it: a pack that was run empty looks dead until then.",
    });
}

/** Share of its highest current under which a charge's fall is looked at, and share of the pack's volts by which they rise meanwhile where a resistor limits. */
const FALLING = 0.85;
const RISING = 0.03;

/**
 * A falling current at the end of a charge is a constant-voltage phase only where the pack's volts stand still meanwhile. Where they
 * rise as the current falls, in one straight line, a resistor limits: V = V₀ − R·I.
 */
function resistor(log: PackLog, events: readonly PackEvent[], notes: Note[]): void {
  const begin = events.find((e) => e.kind === "charge");
  const stop = begin && events.find((e) => (e.kind === "charge-cut" || e.kind === "tapered") && e.row > begin.row);
  if (!begin || !stop) return;
  const rows: number[] = [];
  let most = 0;
  for (let k = begin.row; k < stop.row; k++) most = Math.max(most, sampleAt(log.amps, k));
  for (let k = begin.row; k < stop.row; k++)
    if (sampleAt(log.amps, k) < FALLING * most && sampleAt(log.amps, k) > 0.05 * most) rows.push(k);
  if (rows.length < 12) return;
  const pack = (k: number) => log.cells.reduce((sum, c) => sum + sampleAt(c.volts, k), 0);
  const good = rows.filter((k) => Number.isFinite(pack(k)) && Number.isFinite(log.amps[k]));
  const line =
    good.length >= 12
      ? fitLine(
          good.map((k) => sampleAt(log.amps, k)),
          good.map(pack),
        )
      : null;
  if (!line) return;
  const amps = good.map((k) => sampleAt(log.amps, k));
  const [from, least] = [highest(amps), lowest(amps)];
  const fall = from - least;
  const rise = -line.slope * fall;
  const volts = pack(nth(good, good.length - 1));
  if (rise > RISING * volts && line.scatter < 0.15 * rise)
    notes.push({
      code: "resistor-limited",
      message: `While the current fell from ${q(from, "A", { digits: 2 })} the pack rose by ${q(rise, "V", { digits: 2 })} in proportion: about ${q(-line.slope, "Ω", { digits: 2 })} in series with ${q(line.intercept, "V", { digits: 3 })} limit it. This is not a constant-voltage phase; a small current doesn't mean a full pack.`,
    });
  else if (rise < 0.01 * volts)
    notes.push({
      code: "constant-voltage",
      message: `The current fell from ${q(from, "A", { digits: 2 })} with the pack at ${q(volts, "V", { digits: 4 })}: a real constant-voltage phase.`,
    });
}

/** The board's thresholds against what the cells stand, and against a long life. */
function withinWindow(findings: readonly Finding[], setup: RunSetup<PackPlan>, notes: Note[]): void {
  const value = (name: string) => findings.find((f) => f.characteristic === name)?.value as number | undefined;
  const [cut, low] = [value("pack.cutoff-cell-voltage"), value("pack.low-cutoff-cell-voltage")];
  const { plan } = setup;
  if (!plan) return;
  if (cut !== undefined && cut > plan.cellMaximum + 0.1)
    notes.push({
      code: "wrong-chemistry",
      message: `It cuts at ${q(cut, "V", { digits: 3 })}; these cells allow ${q(plan.cellMaximum, "V")} at most. It is made for another chemistry and is dangerous for these cells.`,
    });
  else if (cut !== undefined)
    notes.push({
      code: "upper-window",
      message: `Its cut of ${q(cut, "V", { digits: 3 })} is ${cut > plan.cellMaximum ? `${q(cut - plan.cellMaximum, "V", { digits: 2 })} above what the cells are charged to: a last resort` : "within the cells' limits"}; a long life would end at ${q(plan.longLife, "V", { digits: 3 })}.`,
    });
  if (low !== undefined)
    notes.push({
      code: "lower-window",
      message:
        low < plan.cellLeast
          ? `Below, it lets the weakest cell fall to ${q(low, "V", { digits: 3 })}, below its limit of ${q(plan.cellLeast, "V")}.`
          : `Below, its cut of ${q(low, "V", { digits: 3 })} leaves ${q(low - plan.cellLeast, "V", { digits: 2 })} of margin to the cells' limit.`,
    });
}

/** Taper or guillotine: was it full? */
function words(top: Edge, low: Edge, amps: number, cut: PackEvent, notes: Note[]): void {
  const apart = top.volts - low.volts;
  notes.push({
    code: "guillotine",
    message: `Cell ${top.number} cut the charge at ${q(top.volts, "V", { digits: 4 })} after ${formatDuration(cut.time)}, with ${q(amps, "A", { digits: 3 })} still flowing${apart > 0.03 ? ` and cell ${low.number} only at ${q(low.volts, "V", { digits: 4 })}: the pack is unbalanced and not full` : ""}. ${apart > 0.03 ? "Balance it, or charge the low cells singly." : "The cells are balanced; the board cuts before the charger tapers."}`,
  });
}

function charts(log: PackLog, events: readonly PackEvent[], trace: Trace): ChartSpec[] {
  const columns = Object.fromEntries([["cellCurrent", log.amps], ...log.cells.map((c) => [c.role, c.volts] as const)]);
  const words: Readonly<Record<PackEvent["kind"], string>> = {
    charge: "charging",
    interrupted: "interrupted",
    resumed: "charging",
    "charge-cut": "cut off",
    "charge-again": "charging again",
    tapered: "ended",
    discharge: "discharging",
    "low-cut": "cut off below",
    "discharge-end": "discharge ended",
  };
  const end = sampleAt(log.time, log.time.length - 1);
  const spans = events.map((e, k) => ({ from: e.time, to: events[k + 1]?.time ?? end, label: words[e.kind] }));
  return logCharts(
    log.time,
    columns,
    [
      {
        id: "current",
        title: "Pack current, positive while it charges",
        label: "Current",
        unit: "A",
        roles: [["cellCurrent", "pack", 0]],
      },
      {
        id: "voltage",
        title: "Cell voltages",
        label: "Voltage",
        unit: "V",
        roles: log.cells.map((c, k) => [c.role, `cell ${c.number}`, k % 6] as const),
        claims: [
          { characteristic: "pack.cutoff-cell-voltage", axis: "y" },
          { characteristic: "pack.low-cutoff-cell-voltage", axis: "y" },
        ],
      },
    ],
    { spans, events: trace.events },
  );
}
