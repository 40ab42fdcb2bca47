import type { ChartSpec } from "../shape";
import type { Phases } from "./phases";

/** Most points of a curve: twice as many as a wide plot has pixels show nothing more. */
const MOST = 1600;

/** The column thinned by keeping the lowest and highest of each stretch, so that no spike and no step is lost. */
function curve(time: Float64Array, values: Float64Array): { x: number; y: number }[] {
  const out: { x: number; y: number }[] = [];
  const size = Math.max(1, Math.ceil((2 * time.length) / MOST));
  for (let from = 0; from < time.length; from += size) {
    let low = -1;
    let high = -1;
    for (let k = from; k < Math.min(time.length, from + size); k++) {
      if (!Number.isFinite(values[k])) continue;
      if (low < 0 || (values[k] as number) < (values[low] as number)) low = k;
      if (high < 0 || (values[k] as number) > (values[high] as number)) high = k;
    }
    if (low < 0) continue;
    for (const k of low === high ? [low] : [Math.min(low, high), Math.max(low, high)]) out.push({ x: time[k] as number, y: values[k] as number });
  }
  return out;
}

/** The phases as stretches of time, each from where it begins to where the next one does. */
export function phaseSpans(p: Phases): { from: number; to: number; label: string }[] {
  const end = p.time[p.time.length - 1] as number;
  const full = p.step ?? p.start ?? (p.onset ? (p.time[0] as number) : null);
  const spans: { from: number; to: number; label: string }[] = [];
  const put = (from: number | null, to: number | null, label: string) => {
    if (from !== null && to !== null && to > from) spans.push({ from, to, label });
  };
  if (p.step !== null) put(p.start ?? (p.time[0] as number), p.step, "pre-charge");
  put(full, p.onset?.time ?? p.stop ?? end, "constant current");
  if (p.onset) put(p.onset.time, p.stop ?? end, "constant voltage");
  put(p.stop, p.restart ?? end, "rest");
  put(p.restart, end, "recharge");
  return spans;
}

/** Cell amps, volts and temperature over time, the phases shaded and the claims drawn in. */
export function chargeCharts(p: Phases): ChartSpec[] {
  const spans = phaseSpans(p);
  const x = { label: "Time", unit: "s" as const };
  const series = (id: string, label: string, tone: number, values: Float64Array | undefined) => (values ? [{ id, label, tone, points: [], fit: curve(p.time, values) }] : []);
  const charts: ChartSpec[] = [
    { id: "current", title: "Current into the cell", x, y: { label: "Current", unit: "A" }, spans, claims: [{ characteristic: "charge.cc-current", axis: "y" }, { characteristic: "charge.termination-current", axis: "y" }], series: series("cell-current", "cell", 0, p.cellCurrent) },
    { id: "voltage", title: "Cell volts", x, y: { label: "Voltage", unit: "V" }, spans, claims: [{ characteristic: "charge.cv-voltage", axis: "y" }], series: series("cell-voltage", "cell", 0, p.cellVoltage) },
  ];
  if (p.inputVoltage) charts.push({ id: "input", title: "Input volts", x, y: { label: "Voltage", unit: "V" }, spans, claims: [], series: series("input-voltage", "input", 1, p.inputVoltage) });
  if (p.partTemperature) charts.push({ id: "temperature", title: "Part temperature", x, y: { label: "Temperature", unit: "°C" }, spans, claims: [], series: [...series("part", "part", 2, p.partTemperature), ...series("ambient", "ambient", 3, p.ambientTemperature)] });
  return charts;
}
