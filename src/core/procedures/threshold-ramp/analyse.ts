import { accuracyAt, meterSource } from "../../instruments";
import {
  ELEMENTS,
  fitLine,
  formatDuration,
  formatQuantity,
  median,
  rectangular,
  withPart,
  type Uncertain,
  sampling,
} from "../../quantities";
import { finite, indexAt } from "../../traces";
import { cleanLog, logCharts, marksOf } from "../kit/guided";
import { logFinding, meterReading, wordFinding } from "../kit/log-reading";
import type {
  Corrections,
  Role,
  Analysis,
  Finding,
  Note,
  ReadingsOf,
  RunSetup,
  TraceEvent,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { currentEdges, flowLevel, valueAtEdge, type Edge } from "./edges";
import type { RampPlan } from "./plan";

const { sampleAt } = ELEMENTS;

/** A that may still flow after a real disconnect, and as a share of what flowed before. */
const RESIDUAL = { amps: 2e-3, share: 0.02 };
/** V down to which a ramp without a cut shows that there is none. */
const DEEP = 2.3;
/** Longest detection delay that is reckoned with where none is stated, s. */
const DELAY = 0.3;
/** Share of the usual current above which the battery is still connected. */
const FLOWS = 0.2;
/** s after the cut that the residual current is not yet read. */
const SETTLE = 1;

const ROLES = [
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "cellVoltage",
  "cellCurrent",
  "partTemperature",
] as const satisfies readonly Role[];
const q = formatQuantity;

interface Ramp {
  readonly time: Float64Array;
  readonly volts: Float64Array;
  readonly amps: Float64Array;
  readonly output: Float64Array | undefined;
  readonly role: "batteryVoltage" | "cellVoltage";
  readonly current: "batteryCurrent" | "cellCurrent";
  readonly setup: RunSetup<RampPlan>;
  readonly level: number;
  readonly edges: readonly Edge[];
  readonly findings: Finding[];
  readonly notes: Note[];
}

/** V at the module's terminals where the meter's clips sit at the far ends of the leads. */
function atModule(volts: Float64Array, amps: Float64Array, ohms: number): Float64Array {
  return ohms > 0 ? volts.map((v, k) => v - ohms * sampleAt(amps, k)) : volts;
}

/**
 * The thresholds that a ramp shows: where the current is cut off and comes back, what still flows then, and where the output drops out.
 *
 * A ramp of s V/s with a detection delay d reads s·d too far in its own direction. Where the plan states the longest delay, the
 * reading is corrected by half of s·d and the other half is its bound; otherwise the bound alone is kept.
 */
export function analyseRamp(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<RampPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const log = cleanLog(trace, setup, ROLES);
  const c = log?.columns;
  const charge = c?.cellVoltage !== undefined && c.cellCurrent !== undefined;
  const volts = charge ? c?.cellVoltage : c?.batteryVoltage;
  const amps = charge ? c?.cellCurrent : c?.batteryCurrent;
  if (!log || !c || !volts || !amps)
    return {
      findings: [],
      notes: [
        {
          code: "no-ramp",
          message:
            "The log has neither battery voltage and current nor cell voltage and current, so no threshold can be found.",
        },
      ],
      charts: [],
    };
  const level = flowLevel(amps);
  const own = atModule(volts, amps, charge ? 0 : (setup.conditions.inputLeadResistance ?? 0));
  const { edges, slips } = withoutSlips(
    { time: log.time, volts: own, output: c.outputVoltage },
    currentEdges(log.time, amps, level),
    charge,
  );
  const ramp: Ramp = {
    time: log.time,
    volts: own,
    amps,
    output: c.outputVoltage,
    role: charge ? "cellVoltage" : "batteryVoltage",
    current: charge ? "cellCurrent" : "batteryCurrent",
    setup,
    level,
    edges,
    findings: [],
    notes: [],
  };
  for (const s of slips)
    ramp.notes.push({
      code: "interrupted",
      message: `At ${formatDuration(s.time)} the current was off for ${formatDuration(s.seconds)} at ${q(s.volts, "V", { digits: 3 })} ${s.loadOff ? "with the output still up" : "although the voltage had not turned round, or with the supply's own voltage gone"}: a lead or the load had slipped off, which is no threshold.`,
    });
  if (charge) overCharge(ramp);
  else overDischarge(ramp, trace.events);
  return {
    findings: ramp.findings,
    notes: ramp.notes,
    charts: wanted === "findings" ? [] : chartsOf(ramp, c, charge, trace.events),
  };
}

/** What the ramp draws: the voltage that was ramped, its current, and the output. */
function chartsOf(
  ramp: Ramp,
  c: Parameters<typeof logCharts>[1],
  charge: boolean,
  events: readonly TraceEvent[],
): ReturnType<typeof logCharts> {
  const band = ramp.setup.conditions.regulationBand ?? 0.05;
  const nominal = ramp.setup.conditions.nominalOutput;
  return logCharts(
    ramp.time,
    c,
    [
      charge
        ? {
            id: "voltage",
            title: "Cell voltage",
            label: "Voltage",
            unit: "V",
            roles: [["cellVoltage", "cell", 0]],
            claims: [
              { characteristic: "protect.over-charge-voltage", axis: "y" },
              { characteristic: "protect.over-charge-release", axis: "y" },
            ],
          }
        : {
            id: "voltage",
            title: "Battery voltage",
            label: "Voltage",
            unit: "V",
            roles: [["batteryVoltage", "battery", 0]],
            claims: [
              { characteristic: "protect.over-discharge-voltage", axis: "y" },
              { characteristic: "protect.over-discharge-release", axis: "y" },
            ],
          },
      {
        id: "current",
        title: charge ? "Current into the cell" : "Current out of the battery",
        label: "Current",
        unit: "A",
        roles: charge
          ? [["cellCurrent", "cell", 0]]
          : [
              ["batteryCurrent", "battery", 0],
              ["outputCurrent", "load", 1],
            ],
      },
      {
        id: "output",
        title: "Output voltage",
        label: "Voltage",
        unit: "V",
        roles: [["outputVoltage", "output", 1]],
        ...(nominal
          ? { band: { low: nominal * (1 - band), high: nominal * (1 + band), label: `±${Math.round(band * 100)} %` } }
          : {}),
      },
    ],
    { spans: spansOf(ramp), events },
  );
}

/** V by which a battery must have been raised (or a cell lowered) for a board to let the current flow again; less is a lead that slipped. */
const TURNED = 0.01;

/**
 * The edges without those that are no threshold: current that comes back although the voltage has not turned round, and a battery
 * current that falls to what the board takes without load while its output stays up.
 */
function withoutSlips(
  r: Pick<Ramp, "time" | "volts" | "output">,
  edges: readonly Edge[],
  charge: boolean,
): {
  readonly edges: readonly Edge[];
  readonly slips: readonly {
    readonly time: number;
    readonly seconds: number;
    readonly volts: number;
    readonly loadOff: boolean;
  }[];
} {
  const remaining: Edge[] = [];
  const slips: { time: number; seconds: number; volts: number; loadOff: boolean }[] = [];
  const level = (edge: Edge) => valueAtEdge(r.time, r.volts, edge, 0.001)?.value ?? NaN;
  for (let k = 0; k < edges.length; k++) {
    const off = edges[k] as Edge;
    const on = edges[k + 1];
    if (off.kind !== "off") {
      remaining.push(off);
      continue;
    }
    const back = on?.kind === "on" ? on : undefined;
    const turned = back ? (charge ? level(off) - level(back) : level(back) - level(off)) : Infinity;
    const end = back?.index ?? r.time.length;
    const up = !charge && r.output !== undefined && outputUp(r, off, end);
    if (turned >= TURNED && !up && !supplyGone(r, off, end)) {
      remaining.push(off);
      continue;
    }
    slips.push({
      time: off.time,
      seconds: (back?.time ?? sampleAt(r.time, r.time.length - 1)) - off.time,
      volts: level(off),
      loadOff: up,
    });
    if (back) k++;
  }
  return { edges: remaining, slips };
}

/** Whether the supply's own voltage, or its lead, went away with the current: a board that disconnects leaves it standing. */
function supplyGone(r: Pick<Ramp, "volts">, off: Edge, end: number): boolean {
  const before = median(finite(r.volts, off.index - 6, off.index - 1));
  const after = finite(r.volts, off.index + 1, Math.min(off.index + 5, end));
  return after.length > 0 && median(after) < 0.7 * before;
}

/** Whether the output stayed where it was while the battery current was nearly off. */
function outputUp(r: Pick<Ramp, "time" | "volts" | "output">, off: Edge, end: number): boolean {
  const out = r.output as Float64Array;
  const before = median(finite(out, off.index - 6, off.index - 1));
  const between = finite(out, off.index + 2, Math.max(off.index + 3, end - 1));
  return between.length > 0 && median(between) > 0.9 * before;
}

function spansOf({ edges, time }: Ramp): { from: number; to: number; label: string }[] {
  const end = sampleAt(time, time.length - 1);
  return edges.map((e, k) => ({
    from: e.time,
    to: edges[k + 1]?.time ?? end,
    label: e.kind === "off" ? "cut off" : "back on",
  }));
}

/** The volts at an edge with sampling, meter and what the detection delay leaves; `along` is the ramp's direction there. */
function threshold(r: Ramp, edge: Edge): { readonly x: Uncertain; readonly slope: number } | null {
  const at = valueAtEdge(r.time, r.volts, edge, r.setup.instruments[r.role]?.resolution ?? 0.001);
  if (!at) return null;
  const stated = r.setup.plan?.delay;
  const longest = stated ?? DELAY;
  const shift = stated === undefined ? 0 : (-at.slope * longest) / 2;
  let x = meterReading(at.value + shift, r.role, r.setup, edge.kind, at.count);
  x = withPart(x, sampling(), rectangular(at.halfStep + (Math.abs(at.slope) * edge.gap) / 2));
  x = withPart(
    x,
    sampling("detection delay"),
    rectangular((Math.abs(at.slope) * longest) / (stated === undefined ? 1 : 2)),
  );
  return { x, slope: at.slope };
}

function put(r: Ramp, name: string, x: Uncertain, unfair: readonly Unfairness[] = []): void {
  const f = logFinding(name, x, r.setup, { unfair });
  if (f) r.findings.push(f);
}

function speedNote(r: Ramp, slope: number): void {
  const longest = r.setup.plan?.delay ?? DELAY;
  const s = Math.abs(slope);
  if (s === 0) {
    r.notes.push({
      code: "steps",
      message:
        "The voltage was set in steps: the threshold is between the last reading before the change and the next step.",
    });
    return;
  }
  if (s > 0.0055)
    r.notes.push({
      code: "fast-ramp",
      message: `The ramp moved ${q(1000 * s, "", { digits: 2 })} mV a second at the cut: 5 or less would leave less of the detection delay in it.`,
    });
  r.notes.push({
    code: "delay",
    message: `With a detection delay of up to ${q(longest, "s")} a ramp of ${q(1000 * s, "", { digits: 2 })} mV/s reads up to ${q(s * longest, "V", { digits: 2 })} too far${r.setup.plan ? "; the reading is corrected by half of that" : ""}.`,
  });
}

function overCharge(r: Ramp): void {
  const cut = r.edges.find((e) => e.kind === "off");
  if (!cut) {
    const highest = finite(r.volts, 0, r.volts.length).reduce((m, v) => Math.max(m, v), -Infinity);
    r.notes.push({
      code: "no-cut",
      message: `The charging current was not cut up to ${q(highest, "V", { digits: 4 })}.`,
    });
    const f = logFinding("protect.over-charge-voltage", meterReading(highest, r.role, r.setup, "highest"), r.setup, {
      bound: "at-least",
    });
    if (f && r.level > 0) r.findings.push(f);
    return;
  }
  // A charger's own voltage loop takes the current down over many samples; a cut takes it at once.
  const before = median(finite(r.amps, cut.index - 4, cut.index));
  if (before < 0.6 * r.level) {
    r.notes.push({
      code: "tapered",
      message:
        "The current had already fallen before it stopped: that is the charger's own regulation, not a cut. Ramp with a source that can push current above the charger's full voltage.",
    });
    return;
  }
  const unfair = preloadMissing(r, cut);
  const at = threshold(r, cut);
  if (at) {
    put(r, "protect.over-charge-voltage", at.x, unfair);
    speedNote(r, at.slope);
  }
  const back = r.edges.find((e) => e.kind === "on" && e.index > cut.index);
  const again = back && threshold(r, back);
  if (again) put(r, "protect.over-charge-release", again.x);
  else r.notes.push({ code: "no-release", message: "Charging was not allowed again as far down as the log goes." });
}

/** A source without enough preload is lifted by the charging current, and falls the moment that stops. */
function preloadMissing(r: Ramp, cut: Edge): Unfairness[] {
  const [before, after] = [
    median(finite(r.volts, cut.index - 3, cut.index)),
    median(finite(r.volts, cut.index + 1, cut.index + 4)),
  ];
  const { plan } = r.setup;
  const jump = before - after;
  if (!(jump > 0.15) && !(plan && plan.preload < plan.chargeCurrent)) return [];
  return [
    {
      code: "no-preload",
      message: `The source in place of the cell could not sink the charging current: its voltage fell by ${q(jump, "V", { digits: 2 })} when it stopped.`,
      remedy: "Preload the source with a resistor that draws more than the charging current, and ramp again.",
      pushes: "either",
    },
  ];
}

function overDischarge(r: Ramp, events: readonly TraceEvent[]): void {
  const { setup, notes } = r;
  const cut = r.edges.find((e) => e.kind === "off");
  const joined: Unfairness[] = setup.plan?.groundsJoined
    ? [
        {
          code: "grounds-joined",
          message:
            "A meter or logger joined battery minus and output minus, which bypasses a protection in the minus wire.",
          remedy: "Disconnect the earthed meter and ramp again.",
          pushes: "either",
        },
      ]
    : [];
  dropout(r, cut);
  if (!cut) {
    // Only where current still flowed: a supply that was off shows no board without a cut.
    const lowest = r.volts.reduce((m, v, k) => (sampleAt(r.amps, k) > FLOWS * r.level && v < m ? v : m), Infinity);
    if (lowest <= Math.min(DEEP, (setup.plan?.expected ?? Infinity) - 0.1)) {
      r.findings.push(wordFinding("protect.over-discharge-present", "no", joined));
      notes.push({
        code: "not-disconnected",
        message: `Down to ${q(lowest, "V", { digits: 3 })} the battery was never disconnected, and ${q(r.level, "A", { digits: 3 })} still flowed: a forgotten cell is ruined.`,
      });
    } else
      notes.push({
        code: "ramp-too-short",
        message: `The ramp ended at ${q(lowest, "V", { digits: 3 })} without a cut-off: there may be one lower down. Ramp down to ${q(DEEP, "V")}.`,
      });
    return;
  }
  const back = r.edges.find((e) => e.kind === "on" && e.index > cut.index);
  const residual = residualOf(r, cut, back);
  const limit = Math.min(RESIDUAL.amps, RESIDUAL.share * r.level);
  if (residual && residual.value > limit + residual.doubt) {
    r.findings.push(wordFinding("protect.over-discharge-present", "no", joined));
    notes.push({
      code: "still-flowing",
      message: `The converter stops near ${q(valueAtEdge(r.time, r.volts, cut, 0.001)?.value ?? NaN, "V", { digits: 3 })}, but ${q(residual.value, "A", { digits: 2 })} still flows: the battery is not disconnected.`,
    });
    return;
  }
  if (residual && residual.value + residual.doubt > limit)
    notes.push({
      code: "meter-too-coarse",
      message: `After the cut the ammeter shows ${q(residual.value, "A", { digits: 2 })} but is sure only to ±${q(residual.doubt, "A", { digits: 1 })}: read the residual current in a finer range.`,
    });
  else r.findings.push(wordFinding("protect.over-discharge-present", "yes"));
  const at = threshold(r, cut);
  if (at) {
    put(r, "protect.over-discharge-voltage", at.x);
    speedNote(r, at.slope);
  }
  if (residual) put(r, "protect.residual-current", residual.x);
  release(r, cut, back, events);
}

/** What flows between the cut and the release, or the end; null where too little of it is logged. */
function residualOf(
  r: Ramp,
  cut: Edge,
  back: Edge | undefined,
): { readonly value: number; readonly doubt: number; readonly x: Uncertain } | null {
  const from = Math.max(cut.index + 1, indexAt(r.time, cut.time + SETTLE));
  const amps = finite(r.amps, from, (back?.index ?? r.time.length) - 1);
  if (amps.length < 2) return null;
  const value = median(amps);
  const meter = r.setup.instruments[r.current];
  const x = meterReading(value, r.current, r.setup, "residual", amps.length);
  return { value, doubt: meter ? accuracyAt(meter, value) : 0, x };
}

function release(r: Ramp, cut: Edge, back: Edge | undefined, events: readonly TraceEvent[]): void {
  const { notes } = r;
  const end = sampleAt(r.time, r.time.length - 1);
  const helped =
    [...marksOf(events, "load-off"), ...marksOf(events, "charger-on")]
      .filter((t) => t > cut.time)
      .sort((a, b) => a - b)[0] ?? Infinity;
  if (back && back.time < helped) {
    if (back.time - cut.time < 2)
      notes.push({
        code: "chatters",
        message:
          "It reconnected within two seconds of the cut-off: without the load the battery voltage rises above the release. On a real cell it would chatter.",
      });
    const at = threshold(r, back);
    if (!at) return;
    put(r, "protect.over-discharge-release", at.x);
    notes.push({ code: "restarts-loaded", message: "It restarts on its own with the load still on." });
    return;
  }
  const highest = finite(r.volts, cut.index, r.volts.length).reduce((m, v) => Math.max(m, v), -Infinity);
  const charger = marksOf(events, "charger-on").find((t) => t > cut.time);
  const from = valueAtEdge(r.time, r.volts, cut, 0.001)?.value ?? NaN;
  if (charger !== undefined) {
    const woke = back !== undefined && back.time > charger;
    notes.push({
      code: "latched",
      message: `It stays off, latched, up to ${q(highest, "V", { digits: 3 })}; ${woke ? "a charger wakes it" : "not even a charger woke it"}.`,
    });
  } else if (helped < Infinity)
    notes.push({
      code: "load-removal",
      message: `With the load on it stays off up to ${q(highest, "V", { digits: 3 })}; it restarts when the load is removed.`,
    });
  else if (highest - from > 0.3)
    notes.push({
      code: "latched",
      message: `It stays off up to ${q(highest, "V", { digits: 3 })}, as far as the log goes until ${q(end, "s", { digits: 4 })}: latched, or released higher up.`,
    });
  else
    notes.push({
      code: "no-release",
      message: "The log ends before the battery was raised far enough to see it come back.",
    });
}

/** Where the output leaves its band on the way down while the battery still feeds it. */
function dropout(r: Ramp, cut: Edge | undefined): void {
  const nominal = r.setup.conditions.nominalOutput;
  const out = r.output;
  if (!nominal || !out) return;
  const limit = nominal * (1 - (r.setup.conditions.regulationBand ?? 0.05));
  const end = cut ? cut.index - 1 : r.time.length;
  let last = -1;
  let below = 0;
  let first = -1;
  for (let k = 0; k < end; k++) {
    const v = sampleAt(out, k);
    if (v - v !== 0) continue;
    if (v >= limit) {
      if (below >= 3) break;
      last = k;
      below = 0;
    } else if (last >= 0 && below++ === 0) first = k;
  }
  if (below < 3 || last < 0 || first < 0) return;
  const [x, y]: [number[], number[]] = [[], []];
  const scale = Math.max(0.05, 0.03 * nominal);
  for (let k = Math.max(0, first - 40); k < Math.min(end, first + 40); k++)
    if (Math.abs(sampleAt(out, k) - limit) < scale && Number.isFinite(r.volts[k])) {
      x.push(sampleAt(out, k));
      y.push(sampleAt(r.volts, k));
    }
  const line = x.length >= 5 ? fitLine(x, y) : null;
  const [va, vb] = [sampleAt(r.volts, last), sampleAt(r.volts, first)];
  const [oa, ob] = [sampleAt(out, last), sampleAt(out, first)];
  const value = line ? line.intercept + line.slope * limit : va + ((vb - va) * (oa - limit)) / Math.max(1e-9, oa - ob);
  const slope = line?.slope ?? (va - vb) / Math.max(1e-9, oa - ob);
  const meter = r.setup.instruments.outputVoltage;
  let u = meterReading(value, r.role, r.setup, "dropout", Math.max(1, x.length / 4));
  if (meter)
    u = withPart(u, meterSource("outputVoltage", "offset"), rectangular(Math.abs(slope) * accuracyAt(meter, limit)));
  u = withPart(u, sampling(), line ? line.scatter / Math.sqrt(x.length) : rectangular(Math.abs(va - vb) / 2));
  const supply = r.setup.conditions.supplyCurrentLimit;
  const atDrop = median(finite(r.amps, first - 2, first + 3));
  const unfair: Unfairness[] =
    supply && atDrop > 0.97 * supply && atDrop < 1.05 * supply
      ? [
          {
            code: "supply-limit",
            message: `The supply was at its limit of ${q(supply, "A")} there.`,
            remedy: "Raise the supply's limit, or take a smaller load.",
            pushes: "high",
          },
        ]
      : [];
  put(r, "boost.dropout-voltage", u, unfair);
}
