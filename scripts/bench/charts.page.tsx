/**
 * Runs in a page of its own: three charts of a log over the same time, each zoomed or panned at every step, drawn by the log's own chart or by
 * Recharts with the same axes, curves, phases and claims.
 */
import { createRoot } from "react-dom/client";
import { flushSync } from "react-dom";
import { CartesianGrid, ComposedChart, Line, ReferenceArea, ReferenceLine, XAxis, YAxis } from "recharts";
import type { ChartSpec } from "@/core/measurement";
import { LogPlot, type LogCurve } from "@/ui/log-plot";
import { clockScale, logAxis, timeAxis } from "@/ui/plot-data";

const POINTS = 1400;
const LONG = 9000;
const WIDTH = 800;

const specOf = (id: string, unit: "V" | "A" | "°C"): ChartSpec => ({
  id,
  title: id,
  x: { label: "Time", unit: "s" },
  y: { label: id, unit },
  series: [{ id, label: id, tone: 0, points: [] }],
  spans: [
    { from: 0, to: 900, label: "pre-charge" },
    { from: 900, to: 6000, label: "constant current" },
    { from: 6000, to: LONG, label: "constant voltage" },
  ],
  claims: [],
});
const SPECS = [specOf("Current", "A"), specOf("Voltage", "V"), specOf("Temperature", "°C")];
const CLAIM = { axis: "y" as const, at: 1, label: "claim: 1" };

const curveOf = (k: number, from: number, to: number): LogCurve => {
  const x = Float64Array.from({ length: POINTS }, (_, n) => from + ((to - from) * n) / (POINTS - 1));
  return { x, y: x.map((t) => 1 + k + Math.sin(t / 700) + 0.02 * Math.sin(t * 13)) };
};

interface Drawing {
  readonly spec: ChartSpec;
  readonly curve: LogCurve;
  readonly view: { readonly from: number; readonly to: number };
}

function Recharted({ spec, curve, view }: Drawing) {
  const across = timeAxis(view.from, view.to);
  const up = logAxis([curve], [CLAIM.at]);
  const clock = clockScale(across.low, across.high, across.ticks);
  const data = Array.from(curve.x, (x, k) => ({ x, y: curve.y[k] }));
  return (
    <ComposedChart width={WIDTH} height={230} data={data} margin={{ top: 10, right: 18, bottom: 44, left: 68 }}>
      {(spec.spans ?? []).map((s, k) => (
        <ReferenceArea key={s.label} x1={s.from} x2={s.to} fillOpacity={k % 2 ? 0.05 : 0.11} ifOverflow="hidden" />
      ))}
      <CartesianGrid />
      <XAxis
        dataKey="x"
        type="number"
        domain={[across.low, across.high]}
        ticks={across.ticks}
        tickFormatter={clock.tick}
        allowDataOverflow
      />
      <YAxis type="number" domain={[up.low, up.high]} ticks={up.ticks} allowDataOverflow />
      <ReferenceLine y={CLAIM.at} strokeDasharray="8 4" />
      <Line dataKey="y" type="linear" dot={false} isAnimationActive={false} />
    </ComposedChart>
  );
}

const Own = ({ spec, curve, view }: Drawing) => (
  <LogPlot spec={spec} claims={[CLAIM]} view={view} curves={{ [spec.id]: curve }} />
);

/** ms of each step, from the new view to the task after its paint. */
async function zoomed(kind: "own" | "recharts", steps: number): Promise<number[]> {
  const holder = document.body.appendChild(document.createElement("div"));
  holder.style.width = `${WIDTH}px`;
  const root = createRoot(holder);
  const Chart = kind === "own" ? Own : Recharted;
  const times: number[] = [];
  for (let n = 0; n < steps; n++) {
    const width = LONG / (1 + (n % 8));
    const from = ((LONG - width) * (n % 5)) / 5;
    const view = { from, to: from + width };
    const curves = SPECS.map((_, k) => curveOf(k, view.from, view.to));
    const began = performance.now();
    flushSync(() =>
      root.render(SPECS.map((s, k) => <Chart key={s.id} spec={s} curve={curves[k] as LogCurve} view={view} />)),
    );
    await new Promise<void>((resolve) =>
      requestAnimationFrame(() => {
        const c = new MessageChannel();
        c.port1.onmessage = () => resolve();
        c.port2.postMessage(null);
      }),
    );
    // The first ones mount the charts and warm the code up.
    if (n >= 5) times.push(performance.now() - began);
  }
  if (holder.querySelectorAll("svg path[d]").length < 3) throw new Error(`${kind} drew nothing`);
  root.unmount();
  holder.remove();
  return times;
}
Object.assign(window, { zoomed });
