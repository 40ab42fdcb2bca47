import { envelope } from "../../traces";
import type { Role, ChartSpec, Corrections, TraceEvent } from "../../measurement";
import type { Phases } from "./phases";
import { ELEMENTS } from "../../quantities";

const { sampleAt } = ELEMENTS;

/** The column thinned so that no spike and no step is lost. */
function curve(time: Float64Array, values: Float64Array): { x: number; y: number }[] {
  const { x, y } = envelope(time, values);
  return Array.from(x, (v, k) => ({ x: v, y: sampleAt(y, k) }));
}

interface Span {
  readonly from: number;
  readonly to: number;
  readonly label: string;
}

/** The phases as stretches of time, each from where it begins to where the next one does; interruptions stand apart. */
export function phaseSpans(p: Phases): Span[] {
  const end = sampleAt(p.time, p.time.length - 1);
  const full = p.step ?? p.start ?? (p.onset ? sampleAt(p.time, 0) : null);
  const spans: Span[] = [];
  const put = (from: number | null, to: number | null, label: string) => {
    if (from !== null && to !== null && to > from) spans.push({ from, to, label });
  };
  if (p.step !== null) put(p.start ?? sampleAt(p.time, 0), p.step, "pre-charge");
  // Heat that cuts the current stands apart from the constant current around it.
  const fullEnd = p.onset?.time ?? p.through;
  let from = full;
  for (const c of p.cuts)
    if (c.heat && from !== null && c.from < fullEnd) {
      put(from, c.from, "constant current");
      from = Math.min(c.to ?? fullEnd, fullEnd);
      put(c.from, from, "foldback");
    }
  put(from, fullEnd, "constant current");
  if (p.onset) put(p.onset.time, p.through, "constant voltage");
  const charging = spans.flatMap((span) => without(span, p.pauses));
  spans.splice(0, spans.length, ...charging);
  if (p.stop === null && p.halt) put(p.halt.time, end, p.halt.ended === null ? "current stopped" : "interrupted");
  put(p.stop, p.restart ?? end, "rest");
  put(p.restart, end, "recharge");
  return spans;
}

/** A phase with the interruptions inside it cut out as stretches of their own. */
function without(span: Span, pauses: Phases["pauses"]): Span[] {
  const out: Span[] = [];
  let from = span.from;
  for (const pause of pauses) {
    if (pause.to <= from || pause.from >= span.to) continue;
    if (pause.from > from) out.push({ ...span, from, to: pause.from });
    out.push({ from: Math.max(from, pause.from), to: Math.min(span.to, pause.to), label: "interrupted" });
    from = Math.min(span.to, pause.to);
  }
  return from < span.to ? [...out, { ...span, from }] : out;
}

/** The boundaries of a charge that the tester may move, by the phase that begins there. */
export const BOUNDARIES = {
  start: "charging begins",
  "full-current": "full current",
  "constant-voltage": "constant voltage",
  stop: "charging stops",
  restart: "charging begins again",
} as const;
export type Boundary = keyof typeof BOUNDARIES;

function handles(p: Phases, moved: Corrections["boundaries"]): NonNullable<ChartSpec["handles"]> {
  const at: Readonly<Record<Boundary, number | null>> = {
    start: p.start,
    "full-current": p.step,
    "constant-voltage": p.onset?.time ?? null,
    stop: p.stop,
    restart: p.restart,
  };
  return (Object.keys(BOUNDARIES) as Boundary[]).flatMap((id) => {
    const t = at[id];
    const why = moved.get(id)?.why;
    return t === null ? [] : [{ id, label: BOUNDARIES[id], at: t, ...(why ? { moved: why } : {}) }];
  });
}

/** Cell current, voltage, input and temperature over time, the phases shaded, boundaries and marks drawn and the claims too. */
export function chargeCharts(p: Phases, marks: readonly TraceEvent[], moved: Corrections["boundaries"]): ChartSpec[] {
  const common = {
    x: { label: "Time", unit: "s" as const },
    spans: phaseSpans(p),
    handles: handles(p, moved),
    marks: marks.map((m) => ({ at: m.time, label: m.what })),
  };
  const series = (role: Role, label: string, tone: number, values: Float64Array | undefined) =>
    values ? [{ id: role, role, label, tone, points: [], fit: curve(p.time, values) }] : [];
  const charts: ChartSpec[] = [
    {
      ...common,
      id: "current",
      title: "Current into the cell",
      y: { label: "Current", unit: "A" },
      claims: [
        { characteristic: "charge.cc-current", axis: "y" },
        { characteristic: "charge.termination-current", axis: "y" },
      ],
      series: series("cellCurrent", "cell", 0, p.cellCurrent),
    },
    {
      ...common,
      id: "voltage",
      title: "Cell voltage",
      y: { label: "Voltage", unit: "V" },
      claims: [{ characteristic: "charge.cv-voltage", axis: "y" }],
      series: series("cellVoltage", "cell", 0, p.cellVoltage),
    },
  ];
  if (p.inputVoltage)
    charts.push({
      ...common,
      id: "input",
      title: "Input voltage",
      y: { label: "Voltage", unit: "V" },
      claims: [],
      series: series("inputVoltage", "input", 1, p.inputVoltage),
    });
  if (p.heat)
    charts.push({
      ...common,
      id: "heat",
      title: "Power turned into heat",
      y: { label: "Power", unit: "W" },
      claims: [{ characteristic: "charge.peak-dissipation", axis: "y" }],
      series: [
        { id: "heat", role: "heatPower", label: "input less cell", tone: 3, points: [], fit: curve(p.time, p.heat) },
      ],
    });
  if (p.partTemperature)
    charts.push({
      ...common,
      id: "temperature",
      title: "Part temperature",
      y: { label: "Temperature", unit: "°C" },
      claims: [],
      series: [
        ...series("partTemperature", "part", 2, p.partTemperature),
        ...series("ambientTemperature", "ambient", 3, p.ambientTemperature),
      ],
    });
  return charts;
}
