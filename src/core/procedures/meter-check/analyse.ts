import { meterSource, type Accuracy } from "../../instruments";
import { ELEMENTS, fitLine, formatQuantity, highest, numeric, rectangular, uncertain, scatter } from "../../quantities";
import { finite, plateaus } from "../../traces";
import { cleanLog, logCharts, type CleanColumns } from "../kit/guided";
import { logFinding } from "../kit/log-reading";
import {
  roleLabel,
  type Role,
  type Analysis,
  type BenchCorrection,
  type ChartSpec,
  type Corrections,
  type Finding,
  type Note,
  type ReadingsOf,
  type RunSetup,
} from "../../measurement";
import type { Wanted } from "../contract";
import { CHECKED, CURRENT_OF, isCurrent, type Checked, type MeterCheckPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;

interface Step {
  readonly amps: number;
  readonly difference: number;
  readonly count: number;
  readonly reference: number;
}

/** Offset and lead resistance from the difference of two meters over current, and the correction that follows for the bench. */
export function analyseMeterCheck(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<MeterCheckPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const checks: Checked | undefined =
    setup.plan?.checks ??
    CHECKED.find(
      (c) =>
        trace.columns[c] &&
        trace.columns[isCurrent(c) ? "referenceCurrent" : "referenceVoltage"] &&
        (isCurrent(c) || trace.columns[CURRENT_OF[c]]),
    );
  const reference: Role = checks && isCurrent(checks) ? "referenceCurrent" : "referenceVoltage";
  // Two ammeters in series: the trusted one says what flows.
  const amps: Role = checks ? (isCurrent(checks) ? "referenceCurrent" : CURRENT_OF[checks]) : "outputCurrent";
  const log = checks ? cleanLog(trace, setup, [...new Set([checks, reference, amps])]) : null;
  const [own, ref, current] = log && checks ? [log.columns[checks], log.columns[reference], log.columns[amps]] : [];
  if (!log || !checks || !own || !ref || !current)
    return {
      findings: [],
      notes: [
        {
          code: "no-pair",
          message: "The log needs the meter under check, the reference beside it and the current between them.",
        },
      ],
      charts: [],
    };
  const steps = stepsOf(log.time, own, ref, current, setup.instruments[amps]);
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const line =
    steps.length >= 2
      ? fitLine(
          steps.map((s) => s.amps),
          steps.map((s) => s.difference),
        )
      : null;
  if (!line)
    notes.push({
      code: "one-current",
      message: "The log has one current only: a slope needs at least two, better three.",
    });
  else verdict(checks, line, steps, amps, setup, findings, notes);
  const correction = line && !isCurrent(checks) ? correctionOf(checks, line, findings) : null;
  return {
    findings,
    notes,
    charts: wanted === "findings" ? [] : charts(log.time, log.columns, checks, reference, amps, steps, line),
    ...(correction ? { correction } : {}),
  };
}

/** Levels of the current, each with the mean difference of the meters over it. */
function stepsOf(
  time: Float64Array,
  own: Float64Array,
  ref: Float64Array,
  amps: Float64Array,
  meter: Accuracy | undefined,
): Step[] {
  const step = Math.max(0.002, 6 * (meter?.resolution ?? 0.001));
  return plateaus(time, amps, step, 2).flatMap((p) => {
    let [sum, n, volts] = [0, 0, 0];
    for (let k = p.first; k < p.end; k++) {
      const d = sampleAt(own, k) - sampleAt(ref, k);
      if (d - d !== 0) continue;
      sum += d;
      volts += sampleAt(ref, k);
      n++;
    }
    const current = finite(amps, p.first, p.end);
    return n >= 2
      ? [
          {
            amps: current.reduce((s, v) => s + v, 0) / current.length,
            difference: sum / n,
            count: n,
            reference: volts / n,
          },
        ]
      : [];
  });
}

function verdict(
  checks: Checked,
  line: { readonly intercept: number; readonly slope: number; readonly scatter: number },
  steps: readonly Step[],
  amps: Role,
  setup: RunSetup,
  findings: Finding[],
  notes: Note[],
): void {
  const unit = isCurrent(checks) ? "A" : "V";
  const [a, b] = [
    setup.instruments[checks],
    setup.instruments[isCurrent(checks) ? "referenceCurrent" : "referenceVoltage"],
  ];
  const ra = a?.resolution ?? 0;
  const rb = b?.resolution ?? 0;
  // What a mean keeps of the steps of two meters: the part that noise does not stir up. A fifth of a step is what steady readings leave.
  const each = steps.map(
    (s) => Math.hypot(ra, rb) * Math.hypot(Math.hypot(1 / 3, 1 / Math.sqrt(12)) / Math.sqrt(s.count), 0.1),
  );
  const mean = steps.reduce((s, x) => s + x.amps, 0) / steps.length;
  const square = steps.reduce((s, x) => s + (x.amps - mean) ** 2, 0);
  const typical = Math.max(
    Math.sqrt(each.reduce((s, u) => s + u * u, 0) / each.length),
    steps.length > 2 ? line.scatter * Math.sqrt(steps.length / (steps.length - 2)) : 0,
  );
  const uSlope = typical / Math.sqrt(square);
  const uOffset = typical * Math.sqrt(1 / steps.length + (mean * mean) / square);
  const offset = logFinding(
    "meter.offset",
    uncertain(line.intercept, [[scatter("scatter of the differences"), uOffset]]),
    setup,
  );
  if (offset) findings.push({ ...offset, unit });
  const name = roleLabel(checks).toLowerCase();
  const u = (f: Finding | null | undefined) => f?.expandedUncertainty ?? 0;
  const most = highest(steps.map((s) => s.amps));
  if (isCurrent(checks)) {
    notes.push({
      code: "gain",
      message: `Over ${q(most, "A")} the ${name} read ${q(Math.abs(line.slope), "1", { digits: 2 })} ${line.slope < 0 ? "less" : "more"} than the reference, beside an offset of ${q(line.intercept, "A", { uncertainty: u(offset) })}.`,
    });
  } else {
    // Both meters' gains act on the volts, which sag with the current: that much of the slope may be theirs.
    const sag =
      fitLine(
        steps.map((s) => s.amps),
        steps.map((s) => s.reference),
      )?.slope ?? 0;
    const gain = setup.instruments[amps]?.gain ?? 0;
    const r = logFinding(
      "meter.lead-resistance",
      uncertain(Math.abs(line.slope), [
        [scatter("scatter of the differences"), uSlope],
        [meterSource(checks, "gain"), rectangular((a?.gain ?? 0) * sag)],
        [meterSource("referenceVoltage", "gain"), rectangular((b?.gain ?? 0) * sag)],
        [meterSource(amps, "gain"), rectangular(gain * line.slope)],
      ]),
      setup,
    );
    if (r) findings.push(r);
    const clear = r && numeric(r.value) > u(r);
    notes.push({
      code: "leads",
      message: clear
        ? `The ${name} read ${q(Math.abs(line.slope), "V", { digits: 2 })} ${line.slope < 0 ? "less" : "more"} for each ampere: ${q(numeric(r.value), "Ω", { uncertainty: u(r) })} of leads and contacts are between that meter and the terminals. At ${q(most, "A", { digits: 3 })} it is off by ${q(Math.abs(line.slope * most), "V", { digits: 2 })}.`
        : `No lead resistance shows beyond ${q(u(r), "Ω", { digits: 1 })}: the ${name} sit on the terminals.`,
    });
    notes.push({
      code: "trust",
      message: clear ? "Use the reference, or apply this correction." : "Either of the two can be trusted.",
    });
  }
  const allowed =
    (a ? a.gain * (steps[0]?.reference ?? 0) + a.counts * a.resolution : 0) +
    (b ? b.gain * (steps[0]?.reference ?? 0) + b.counts * b.resolution : 0);
  if (a && b && Math.abs(line.intercept) - u(offset) > allowed)
    notes.push({
      code: "out-of-accuracy",
      message: `With no current the two differ by ${q(Math.abs(line.intercept), unit, { digits: 2 })}, more than both may together (${q(allowed, unit, { digits: 2 })}): one of them is not as accurate as stated. Check it against a third.`,
    });
}

/** What later runs of the bench may take over: the lead resistance on its side, and the offset of the meter. */
function correctionOf(
  checks: Checked,
  line: { readonly intercept: number; readonly slope: number },
  findings: readonly Finding[],
): BenchCorrection | null {
  const r = findings.find((f) => f.characteristic === "meter.lead-resistance");
  const o = findings.find((f) => f.characteristic === "meter.offset");
  const ohms = r && numeric(r.value) > (r.expandedUncertainty ?? 0) ? numeric(r.value) : null;
  const offset = o && Math.abs(numeric(o.value)) > (o.expandedUncertainty ?? 0) ? line.intercept : null;
  // The bench knows leads to the load and to the battery; those of a charger's input or of a cell are said, not taken over.
  const leads =
    checks === "outputVoltage"
      ? ("outputLeadResistance" as const)
      : checks === "batteryVoltage"
        ? ("inputLeadResistance" as const)
        : null;
  if ((ohms === null || !leads) && offset === null) return null;
  return { role: checks, ...(ohms !== null && leads ? { leads, ohms } : {}), ...(offset !== null ? { offset } : {}) };
}

function charts(
  time: Float64Array,
  c: CleanColumns,
  checks: Checked,
  reference: Role,
  amps: Role,
  steps: readonly Step[],
  line: { readonly intercept: number; readonly slope: number } | null,
): ChartSpec[] {
  const unit = isCurrent(checks) ? ("A" as const) : ("V" as const);
  const made = logCharts(
    time,
    c,
    [
      {
        id: "pair",
        title: "Both meters",
        label: unit === "V" ? "Voltage" : "Current",
        unit,
        roles: [
          [checks, "under check", 1],
          [reference, "reference", 0],
        ],
      },
      ...(isCurrent(checks)
        ? []
        : [
            {
              id: "current",
              title: "Current",
              label: "Current",
              unit: "A" as const,
              roles: [[amps, "current", 2] as const],
            },
          ]),
    ],
    { spans: [], events: [] },
  );
  if (!line || steps.length < 2) return made;
  const most = highest(steps.map((s) => s.amps));
  const along = Array.from({ length: 21 }, (_, k) => (k * most) / 20);
  // Beside the log itself: the differences over the current, with the line that was laid through them.
  const over: ChartSpec = {
    id: "difference",
    title: "Under check less reference, over the current",
    x: { label: "Current", unit: "A" },
    y: { label: "Difference", unit },
    claims: [],
    series: [
      {
        id: "difference",
        label: "difference",
        tone: 1,
        points: steps.map((s, k) => ({ x: s.amps, y: s.difference, id: `step ${k + 1}`, state: "counts" as const })),
        fit: along.map((x) => ({ x, y: line.intercept + line.slope * x })),
      },
    ],
  };
  return [...made, over];
}
