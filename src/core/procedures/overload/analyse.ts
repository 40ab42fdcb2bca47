import { accuracyAt } from "../../instruments";
import {
  ELEMENTS,
  formatDuration,
  formatQuantity,
  highest,
  lowest,
  median,
  rectangular,
  withPart,
  sampling,
} from "../../quantities";
import { finite, indexAt, interval, plateaus } from "../../traces";
import { logCharts, marksOf } from "../kit/guided";
import { logFinding, meterReading, wordFinding } from "../kit/log-reading";
import type {
  Corrections,
  Analysis,
  Finding,
  Note,
  ReadingsOf,
  Recovery,
  RunSetup,
  Trace,
  TraceEvent,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { supplyFor, type OverloadPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
/** s after which a short counts as steady. */
const STEADY = 1;
/** Share of the supply's limit within which a current is the supply's own. */
const OWN_LIMIT = 0.015;
/** Rows in a row that a fall must last. */
const LASTING = 3;

interface Work {
  readonly time: Float64Array;
  readonly battery: Float64Array;
  readonly output: Float64Array;
  readonly load: Float64Array;
  readonly usual: number;
  readonly limit: number;
  readonly setup: RunSetup<OverloadPlan>;
  readonly events: readonly TraceEvent[];
  readonly findings: Finding[];
  readonly notes: Note[];
}

/** Where a module limits or trips, what a short draws, and what brings its output back. Single-sample peaks are kept: a short's first moment is one. */
export function analyseOverload(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<OverloadPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const { time, batteryCurrent: battery, outputVoltage: output, outputCurrent: load } = trace.columns;
  if (!time || !battery || !output || !load || time.length < 3)
    return {
      findings: [],
      notes: [
        {
          code: "no-readings",
          message: "The log lacks battery current, output voltage or load current, so the overload can't be analysed.",
        },
      ],
      charts: [],
    };
  const nominal = setup.conditions.nominalOutput ?? median(finite(output, 0, Math.min(time.length, 50)));
  const w: Work = {
    time,
    battery,
    output,
    load,
    usual: interval(time),
    limit: nominal * (1 - (setup.conditions.regulationBand ?? 0.05)),
    setup,
    events: trace.events,
    findings: [],
    notes: [],
  };
  overCurrent(w, nominal);
  short(w, nominal);
  return {
    findings: w.findings,
    notes: w.notes,
    charts: wanted === "findings" ? [] : chartsOf(w, trace, nominal),
  };
}

/** What is drawn of an overload: currents, output and temperature, the shorts shaded. */
function chartsOf(w: Work, { columns, events }: Trace, nominal: number): ReturnType<typeof logCharts> {
  const ends = marksOf(events, "short-off");
  const spans = marksOf(events, "short-on").map((from) => ({
    from,
    to: ends.find((t) => t > from) ?? sampleAt(w.time, w.time.length - 1),
    label: "short",
  }));
  return logCharts(
    w.time,
    columns,
    [
      {
        id: "current",
        title: "Load and battery current",
        label: "Current",
        unit: "A",
        roles: [
          ["outputCurrent", "load", 1],
          ["batteryCurrent", "battery", 0],
        ],
        claims: [{ characteristic: "protect.over-current", axis: "y" }],
      },
      {
        id: "voltage",
        title: "Output voltage",
        label: "Voltage",
        unit: "V",
        roles: [["outputVoltage", "output", 1]],
        band: { low: w.limit, high: 2 * nominal - w.limit, label: "band" },
      },
      {
        id: "temperature",
        title: "Part temperature",
        label: "Temperature",
        unit: "°C",
        roles: [["partTemperature", "part", 2]],
      },
    ],
    { spans, events: events.filter((e) => (e.kind ?? e.what) !== "short-off") },
  );
}

/** First row at which the output leaves its band for good, after it was in it and before `before`; null where it never does. */
function fall(w: Work, before: number): number | null {
  let held = false;
  let first = -1;
  let lasting = 0;
  for (let k = 0; k < w.time.length && sampleAt(w.time, k) < before; k++) {
    const v = sampleAt(w.output, k);
    if (v - v !== 0) continue;
    if (v >= w.limit) {
      held = true;
      lasting = 0;
    } else if (held) {
      if (lasting++ === 0) first = k;
      if (lasting >= LASTING) return first;
    }
  }
  return null;
}

function supplyGaveUp(w: Work, from: number, to: number): Unfairness[] {
  const limit = w.setup.conditions.supplyCurrentLimit;
  if (!limit) return [];
  const most = highest(finite(w.battery, from, to));
  // A current well above the stated limit shows that the supply gives more: no excuse then.
  if (most < (1 - OWN_LIMIT) * limit || most > 1.05 * limit) return [];
  return [
    {
      code: "supply-limit",
      message: `The supply was at its own limit of ${q(limit, "A")} when the output fell: the supply limited, not the module.`,
      remedy: "Raise the supply's limit past the claimed trip, as far as the wiring and the maker's limits allow.",
      pushes: "low",
    },
  ];
}

function overCurrent(w: Work, nominal: number): void {
  const { time, load, setup, findings, notes } = w;
  const firstShort = marksOf(w.events, "short-on")[0] ?? Infinity;
  const fell = fall(w, firstShort);
  const end = fell ?? indexAt(time, firstShort);
  const meter = setup.instruments.outputCurrent;
  const steps = plateaus(
    time.subarray(0, end),
    load.subarray(0, end),
    Math.max(0.008, meter ? 2 * meter.resolution : 0),
    w.usual < 1 ? 3 : 1,
  );
  // The output was in its band at all of them, or the fall would have come earlier.
  const levels = [...new Set(steps.map((p) => Number(p.value.toPrecision(5))))].sort((a, b) => a - b);
  const held = levels[levels.length - 1];
  if (held === undefined) {
    notes.push({ code: "no-load", message: "No load was held long enough." });
    return;
  }
  const x = meterReading(held, "outputCurrent", setup, "held", 5);
  if (fell === null) {
    const f = logFinding("protect.over-current", x, setup, { bound: "at-least" });
    if (f) findings.push(f);
    notes.push({
      code: "not-reached",
      message: `Up to ${q(held, "A", { digits: 3 })} it neither limited nor tripped: it limits higher up, or not at all.`,
    });
    return;
  }
  // Whoever sees it fall takes the load back at once: only the rows that made it a fall speak of it.
  const after = median(finite(load, fell, fell + LASTING));
  const below = levels[levels.length - 2];
  const usualStep = setup.plan?.step ?? (below === undefined ? 0.1 * held : held - below);
  // An electronic load keeps its current while the output droops; after a trip nothing tells the step but the ones before.
  const top = after > held * 1.005 && after < held + 3 * usualStep ? after : held + usualStep;
  const middle = (held + top) / 2;
  const unfair = supplyGaveUp(w, Math.max(0, fell - 3), fell + 4);
  const f = logFinding(
    "protect.over-current",
    withPart(
      meterReading(middle, "outputCurrent", setup, "over-current", 5),
      sampling("step between loads"),
      rectangular((top - held) / 2),
    ),
    setup,
    { unfair },
  );
  if (f) findings.push(f);
  const drops = median(finite(w.output, fell, fell + LASTING));
  notes.push({
    code: drops < 0.5 * nominal ? "trips" : "limits",
    message: `It held ${q(held, "A", { digits: 3 })} and ${drops < 0.5 * nominal ? `switched off` : `limited: the output fell to ${q(drops, "V", { digits: 3 })}`} at the next step.`,
  });
  for (const u of unfair) notes.push({ code: u.code, message: u.message });
}

interface Short {
  readonly on: number;
  readonly off: number;
  readonly steady: number;
  readonly peak: number;
  readonly readings: number;
  readonly recovery: Recovery | null;
}

/** Every short of the log, with what flowed and what it took to get the output back. */
function shortsOf(w: Work): Short[] {
  const { time, battery, events } = w;
  const end = sampleAt(time, time.length - 1);
  const ons = marksOf(events, "short-on");
  return ons.flatMap((on, k) => {
    const off = marksOf(events, "short-off").find((t) => t > on) ?? end;
    const settled = Math.min(STEADY, (off - on) / 2);
    const steady = finite(battery, indexAt(time, on + settled), indexAt(time, off - w.usual / 2));
    const early = finite(battery, indexAt(time, on - 1e-6), indexAt(time, Math.min(off, on + STEADY)) + 1);
    if (steady.length === 0) return [];
    return [
      {
        on,
        off,
        steady: median(steady),
        peak: early.reduce((m, v) => Math.max(m, v), -Infinity),
        readings: steady.length,
        recovery: recoveryAfter(w, off, ons[k + 1] ?? Infinity),
      },
    ];
  });
}

/** What it took to get the output back after `from`; null where the log does not show it. */
function recoveryAfter(w: Work, from: number, until: number): Recovery | null {
  const { time, output, events, limit } = w;
  let back: number | null = null;
  for (let k = indexAt(time, from), run = 0; k < time.length && sampleAt(time, k) < until; k++) {
    const v = sampleAt(output, k);
    if (v - v !== 0) continue;
    run = v >= limit ? run + 1 : 0;
    if (run >= Math.min(LASTING, 2)) {
      back = sampleAt(time, k);
      break;
    }
  }
  const between = (kind: string) =>
    marksOf(events, kind).some((t) => t >= from && t < (back ?? Math.min(until, sampleAt(time, time.length - 1))));
  if (back === null) return between("supply-on") ? "none" : null;
  if (between("supply-on")) return "power-cycle";
  if (between("load-off")) return "load-removal";
  return "automatic";
}

const WORST: readonly Recovery[] = ["automatic", "load-removal", "power-cycle", "none"];

/** A short that drew the supply's own limit: the module limits nothing below it, unless its claimed trip lies above what the supply gives. */
function ownLimit({ setup, findings, notes }: Work, nominal: number, current: number, limit: number): void {
  const trip = setup.plan?.claimedTrip ?? null;
  const needs = trip === null ? 0 : supplyFor(trip, nominal, setup.plan?.battery ?? 3.7);
  if (needs > limit) {
    findings.push(
      wordFinding("protect.short-present", "not stated", [
        {
          code: "supply-below-trip",
          message: `The short drew the supply's own limit of ${q(limit, "A")}, and the claimed trip, which draws about ${q(needs, "A", { digits: 2 })}, is above it.`,
          remedy: "Raise the supply's limit past the claimed trip, as far as the wiring and the maker's limits allow.",
          pushes: "either",
        },
      ]),
    );
    notes.push({
      code: "supply-below-trip",
      message: `Whether the module limits a short is not known: the supply's limit of ${q(limit, "A")} is below its claimed trip.`,
    });
  } else {
    findings.push(wordFinding("protect.short-present", "no"));
    notes.push({
      code: "unprotected",
      message: `The short drew ${q(current, "A", { digits: 3 })}, the supply's own limit: the module limits nothing below it. A cell would deliver its full short-circuit current.`,
    });
  }
}

function short(w: Work, nominal: number): void {
  const { setup, findings, notes } = w;
  const shorts = shortsOf(w);
  if (shorts.length === 0) {
    if (marksOf(w.events, "short-on").length === 0)
      notes.push({
        code: "no-short",
        message: "No short is marked in this log. If there was one, mark when it began and ended.",
      });
    return;
  }
  const current = median(shorts.map((s) => s.steady));
  const peak = highest(shorts.map((s) => s.peak));
  const readings = lowest(shorts.map((s) => s.readings));
  const x = meterReading(current, "batteryCurrent", setup, "short", readings);
  const steady = logFinding("protect.short-current", x, setup);
  if (steady) findings.push(steady);
  const first = logFinding("protect.short-peak", meterReading(peak, "batteryCurrent", setup, "peak"), setup, {
    bound: "at-least",
  });
  if (first) findings.push(first);
  const limit = setup.conditions.supplyCurrentLimit;
  const recoveries = shorts.map((s) => s.recovery);
  const seen = recoveries.filter((r): r is Recovery => r !== null);
  const worst = [...WORST].reverse().find((r) => seen.includes(r)) ?? null;
  if (limit === undefined) {
    notes.push({
      code: "no-limit",
      message: "The supply's limit is not stated: it is unknown whether the module or the supply limited the short.",
    });
    return;
  }
  const meter = setup.instruments.batteryCurrent;
  const own = Math.abs(current - limit) <= OWN_LIMIT * limit + (meter ? accuracyAt(meter, limit) : 0);
  if (worst === "none") {
    // What flowed into a dead module says nothing of a limit.
    findings.push(wordFinding("protect.short-present", "no"), wordFinding("protect.short-recovery", "none"));
  } else if (own) {
    ownLimit(w, nominal, current, limit);
  } else {
    findings.push(wordFinding("protect.short-present", "yes"));
    if (worst) findings.push(wordFinding("protect.short-recovery", worst));
    else
      notes.push({
        code: "recovery-unseen",
        message: "The log ends before the output recovered, so the recovery is unknown.",
      });
  }
  if (shorts.length > 1) {
    const good = shorts.filter((s) => s.recovery !== null && s.recovery !== "none").length;
    notes.push({
      code: "repeats",
      message: `${good} of ${shorts.length} shorts survived, of ${formatDuration(median(shorts.map((s) => s.off - s.on)))} each${new Set(seen).size > 1 ? `; they differed in what it took: ${seen.join(", ")}` : ""}.`,
    });
  }
  if (seen.includes("none"))
    notes.push({ code: "dead", message: "Nothing restored the output after a short: the module did not survive." });
}
