"use client";

import { memo, useMemo, useRef } from "react";
import { CartesianGrid, ComposedChart, ReferenceArea, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { formatQuantity } from "@/core/quantities";
import type { ChartSpec } from "@/core/procedures";
import { Button } from "./button";
import { axis, axisScale, clockScale, timeAxis, type PlotProps } from "./plot-data";
import { DASHES, PlotCurve, PlotPoints, shape, Standing, TONES } from "./plot-points";
import { chartSvg, svgToPng } from "./chart-export";
import { download, fileName } from "@/session/download";

export { type PlotProps, type ClaimLine } from "./plot-data";

function limits(spec: ChartSpec, claims: PlotProps["claims"], view: PlotProps["view"]) {
  const lines = spec.series.flatMap((s) => (s.points.length ? [] : (s.fit ?? [])));
  const all = [...spec.series.flatMap((s) => s.points), ...lines.map((p) => ({ ...p, state: "counts" as const }))];
  const claimed = (a: "x" | "y") => (claims ?? []).filter((c) => c.axis === a).map((c) => c.at);
  // A reading a hair below zero is zero with an offset; it must not open a negative half of the axis.
  const far = Math.max(0, ...all.map((p) => p.x), ...claimed("x"));
  const x = spec.x.unit === "s" ? timeAxis(view?.from ?? 0, view?.to ?? Math.max(1, ...all.map((p) => p.x))) : axis([0, far, ...all.map((p) => p.x).filter((v) => v < -0.02 * far)], 8);
  const counted = all.filter((p) => p.state !== "fell");
  const drawnYs = (counted.length ? counted : all).map((p) => p.y);
  const top = Math.max(0, ...drawnYs, ...claimed("y"));
  const ys = drawnYs.map((v) => (v < 0 && v > -0.02 * top ? 0 : v));
  // Collapsed points may lie far below; they may stretch the axis, but only so far that the rest stays readable.
  const low = Math.min(...ys, ...claimed("y"), spec.band?.low ?? Infinity);
  const high = Math.max(...ys, ...claimed("y"), spec.band?.high ?? -Infinity);
  const fallen = all.filter((p) => p.state === "fell").map((p) => Math.max(p.y, low - 0.6 * (high - low)));
  return { x, y: axis([low, high, ...fallen].filter(Number.isFinite), 6) };
}

/** The same axis as before as long as it reads the same, so that a new point within it redraws no axis. */
function useSteady<T>(value: T): T {
  const key = JSON.stringify(value);
  return useMemo(() => JSON.parse(key) as T, [key]);
}

/** A line that is alone needs no dashes to be told apart. */
const dash = (spec: ChartSpec, tone: number): string => (spec.series.length > 1 ? (DASHES[tone % 4] ?? "") : "");

const MARGIN = { top: 18, right: 18, bottom: 22, left: 8 };
/** Where the plot area lies in the chart: inside the margins, the vertical axis and the horizontal one. */
const AXIS = { width: 58, height: 30 };
const PLOT_AREA = { left: MARGIN.left + AXIS.width, right: MARGIN.right, top: MARGIN.top, bottom: MARGIN.bottom + AXIS.height };
const NO_CLAIMS: NonNullable<PlotProps["claims"]> = [];

/** A chart from its data: points by series, fitted curves, the claim and the band drawn in, excluded points visible. */
export const Plot = memo(function Plot({ spec, claims = NO_CLAIMS, height = 320, marked, view, overlay, onPick, onDrawn }: PlotProps) {
  const holder = useRef<HTMLDivElement>(null);
  const { x, y } = useSteady(limits(spec, claims, view));
  const band = useSteady(spec.band ?? null);
  const lines = useSteady(claims);
  const labels = useSteady({ x: spec.x, y: spec.y });
  const spans = useSteady(spec.spans ?? []);
  const save = async (kind: "svg" | "png") => {
    const svg = holder.current?.querySelector("svg.recharts-surface");
    if (!(svg instanceof SVGSVGElement)) return;
    const text = chartSvg(svg, spec);
    if (kind === "svg") download(fileName(spec.title, "svg"), text, "image/svg+xml");
    else download(fileName(spec.title, "png"), await svgToPng(text), "image/png");
  };
  const frame = useMemo(() => {
    const across = axisScale(labels.x.unit, x);
    const up = axisScale(labels.y.unit, y);
    const { unit: xUnit, tick: xTick } = labels.x.unit === "s" ? clockScale(x.low, x.high, x.ticks) : across;
    const shown = spans.map((s) => ({ ...s, from: Math.max(s.from, x.low), to: Math.min(s.to, x.high) })).filter((s) => s.to > s.from);
    return (
      <>
        <CartesianGrid stroke="var(--rule)" strokeWidth={0.7} />
        {band ? <ReferenceArea y1={Math.max(band.low, y.low)} y2={Math.min(band.high, y.high)} fill="var(--meets)" fillOpacity={0.09} stroke="none" /> : null}
        <XAxis type="number" dataKey="x" domain={[x.low, x.high]} ticks={x.ticks} tickFormatter={xTick} stroke="var(--pencil)" tick={{ fill: "var(--ink)", fontSize: 12 }} height={AXIS.height} allowDataOverflow label={{ value: `${labels.x.label} (${xUnit})`, position: "insideBottom", offset: -14, fill: "var(--pencil)", fontSize: 12 }} />
        <YAxis type="number" dataKey="y" domain={[y.low, y.high]} ticks={y.ticks} tickFormatter={up.tick} stroke="var(--pencil)" tick={{ fill: "var(--ink)", fontSize: 12 }} width={AXIS.width} allowDataOverflow label={{ value: `${labels.y.label} (${up.unit})`, angle: -90, position: "insideLeft", offset: 4, fill: "var(--pencil)", fontSize: 12 }} />
        {shown.map((s, k) => (
          <ReferenceArea
            key={s.label + s.from}
            x1={s.from}
            x2={s.to}
            fill="var(--pencil)"
            fillOpacity={k % 2 ? 0.05 : 0.11}
            stroke="none"
            label={(s.to - s.from) / (x.high - x.low) > 0.08 ? { value: s.label, position: "insideBottom", fill: "var(--pencil)", fontSize: 11 } : undefined}
          />
        ))}
        {lines.map((c) => (
          <ReferenceLine
            key={c.axis + c.label}
            {...(c.axis === "x" ? { x: c.at } : { y: c.at })}
            stroke="var(--margin-line)"
            strokeWidth={1.4}
            strokeDasharray="8 4"
            label={{ value: c.label, position: c.axis === "x" ? "top" : "insideBottomLeft", fill: "var(--margin-line)", fontSize: 11 }}
          />
        ))}
      </>
    );
  }, [x, y, band, lines, labels, spans]);
  return (
    <figure aria-label={spec.title}>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-2">
        <figcaption className="font-semibold">{spec.title}</figcaption>
        <ul className="flex flex-wrap gap-x-4 text-sm">
          {spec.series.map((s) => (
            <li key={s.id} className="inline-flex items-center gap-1.5">
              <svg width="26" height="12" aria-hidden>
                <line x1="0" x2="26" y1="6" y2="6" stroke={TONES[s.tone % 4]} strokeWidth="1.8" strokeDasharray={dash(spec, s.tone)} />
                {s.points.length ? <path d={shape(s.tone, 13, 6, 3.6)} fill={TONES[s.tone % 4]} /> : null}
              </svg>
              {s.label}
            </li>
          ))}
        </ul>
      </div>
      <div ref={holder} className="figures relative text-xs will-change-transform [contain:layout_paint]" data-chart={spec.id} {...(view ? { "data-from": view.from, "data-to": view.to } : {})}>
        <ResponsiveContainer width="100%" height={height}>
          <ComposedChart margin={MARGIN} accessibilityLayer={false}>
            {frame}
            {spec.series.map((s) => (
              <PlotCurve key={`${s.id}-curve`} series={s} dash={dash(spec, s.tone)} low={y.low} high={y.high} left={x.low} right={x.high} />
            ))}
            <Standing onDrawn={onDrawn} />
            {spec.series.map((s) => (
              <PlotPoints key={s.id} series={s} low={y.low} high={y.high} marked={marked} onPick={onPick} />
            ))}
          </ComposedChart>
        </ResponsiveContainer>
        {overlay ? <div className="absolute" style={PLOT_AREA}>{overlay}</div> : null}
      </div>
      <div className="no-print flex flex-wrap items-center gap-3 text-sm text-pencil">
        {spec.band ? <span>Shaded: {spec.band.label}, {formatQuantity(spec.band.low, spec.y.unit)} to {formatQuantity(spec.band.high, spec.y.unit)}.</span> : null}
        {spec.series.some((s) => s.points.length) ? <span>Hollow with an arrow: fell out of band. Struck through: left out.</span> : null}
        <span className="ml-auto inline-flex gap-3">
          <Button look="bare" onClick={() => void save("svg")}>Save SVG</Button>
          <Button look="bare" onClick={() => void save("png")}>Save PNG</Button>
        </span>
      </div>
    </figure>
  );
});
