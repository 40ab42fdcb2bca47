"use client";

import {
  memo,
  startTransition,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from "react";
import { scaleLinear } from "d3-scale";
import type { ChartSpec } from "@/core/measurement";
import { Crosshair } from "./crosshair";
import { ChartHead, dash, SaveChart } from "./chart-frame";
import { axisScale, clockScale, linePath, logAxis, timeAxis, type ClaimLine, type LogColumn } from "./plot-data";
import { TONES } from "./plot-marks";

/** A column thinned for the screen. */
export interface LogCurve {
  readonly x: LogColumn;
  readonly y: LogColumn;
}

export interface LogPlotProps {
  readonly spec: ChartSpec;
  readonly claims: readonly ClaimLine[];
  /** The stretch of time that is shown, s. */
  readonly view: { readonly from: number; readonly to: number };
  /** The stretch's own curves by series; where there is none, the series' fit is drawn. */
  readonly curves?: Readonly<Record<string, LogCurve | undefined>> | undefined;
  readonly height?: number;
  /** Laid over the plot area, within its edges. */
  readonly overlay?: ReactNode;
  /** Drawn small as a log grows: no file to save yet, the axis speaks for itself. */
  readonly live?: boolean;
}

const MARGIN = { top: 10, right: 18, bottom: 44, left: 68 };
const MARGIN_LIVE = { ...MARGIN, bottom: 26 };

/** Phases by their usual abbreviations, where there is no room for their names. */
const SHORT: Readonly<Record<string, string>> = { "constant current": "CC", "constant voltage": "CV" };
/** What is written in a stretch so wide, px: its name, else its abbreviation, else nothing. */
const named = (label: string, width: number): string =>
  [label, SHORT[label] ?? ""].find((t) => width > 7.2 * t.length) ?? "";

const curveOf = (s: ChartSpec["series"][number], curves: LogPlotProps["curves"]): LogCurve =>
  curves?.[s.id] ?? { x: (s.fit ?? []).map((p) => p.x), y: (s.fit ?? []).map((p) => p.y) };

/** The width of an element, px, as it changes; 0 until it is known. */
function useWidth(holder: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const el = holder.current;
    if (!el) return;
    // Told once the page is laid out: asking before would have it laid out for every chart by itself. Drawn in slices, so that it answers meanwhile.
    const watch = new ResizeObserver(() => startTransition(() => setWidth(el.clientWidth)));
    watch.observe(el);
    return () => watch.disconnect();
  }, [holder]);
  return width;
}

/** Where a chart's numbers stand on the screen. */
interface Layout {
  readonly spec: ChartSpec;
  readonly plot: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
  readonly across: ReturnType<typeof timeAxis>;
  readonly up: ReturnType<typeof logAxis>;
  x(t: number): number;
  y(v: number): number;
}

/** Phases, shaded and named where there is room. */
function Spans({ spec, plot, across, x }: Layout) {
  const inside = (t: number) => Math.min(across.high, Math.max(across.low, t));
  return (spec.spans ?? []).map((s, k) => {
    const [a, b] = [x(inside(s.from)), x(inside(s.to))];
    if (!(b > a)) return null;
    return (
      <g key={s.label + s.from} data-span={s.label}>
        <rect
          x={a}
          y={plot.top}
          width={b - a}
          height={plot.height}
          fill="var(--pencil)"
          fillOpacity={k % 2 ? 0.05 : 0.11}
        />
        {named(s.label, b - a) ? (
          <text x={(a + b) / 2} y={plot.top + plot.height - 6} textAnchor="middle" fontSize="11" fill="var(--pencil)">
            {named(s.label, b - a)}
          </text>
        ) : null}
      </g>
    );
  });
}

/** Grid, axes, ticks and their units. A live chart is small: its time axis speaks for itself. */
function Axes({
  spec,
  plot,
  across,
  up,
  x,
  y,
  live,
  height,
}: Layout & { readonly live: boolean; readonly height: number }) {
  const clock = clockScale(across.low, across.high, across.ticks);
  const scale = axisScale(spec.y.unit, up);
  const bottom = plot.top + plot.height;
  return (
    <>
      <path
        d={
          up.ticks.map((v) => `M${plot.left} ${y(v)}h${plot.width}`).join("") +
          across.ticks.map((t) => `M${x(t)} ${plot.top}v${plot.height}`).join("")
        }
        stroke="var(--rule)"
        strokeWidth="0.7"
      />
      <path
        d={`M${plot.left} ${plot.top}V${bottom}H${plot.left + plot.width}${up.ticks.map((v) => `M${plot.left} ${y(v)}h-5`).join("")}${across.ticks.map((t) => `M${x(t)} ${bottom}v5`).join("")}`}
        stroke="var(--pencil)"
        fill="none"
      />
      {/* By place, not by value: a step of a zoom rewrites the ticks that are there, which takes less than taking them away. */}
      {up.ticks.map((v, k) => (
        <text key={k} x={plot.left - 8} y={y(v) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
          {scale.tick(v)}
        </text>
      ))}
      {across.ticks.map((t, k) => (
        <text key={k} x={x(t)} y={bottom + 18} textAnchor="middle" fontSize="12" fill="var(--ink)">
          {clock.tick(t)}
        </text>
      ))}
      {live ? null : (
        <text x={plot.left + plot.width / 2} y={height - 8} textAnchor="middle" fontSize="12" fill="var(--pencil)">
          {spec.x.label} ({clock.unit})
        </text>
      )}
      <text
        transform={`translate(13 ${plot.top + plot.height / 2}) rotate(-90)`}
        textAnchor="middle"
        fontSize="12"
        fill="var(--pencil)"
      >
        {spec.y.label} ({scale.unit})
      </text>
    </>
  );
}

interface DrawnSeries {
  readonly s: ChartSpec["series"][number];
  readonly curve: LogCurve;
}

/** Claims, marks and curves, within the plot's edges. */
function Drawing({
  spec,
  plot,
  x,
  y,
  claims,
  drawn,
}: Layout & { readonly claims: readonly ClaimLine[]; readonly drawn: readonly DrawnSeries[] }) {
  return (
    <>
      {claims.map((c) =>
        c.axis === "y" ? (
          <g key={c.label}>
            <path
              d={`M${plot.left} ${y(c.at)}h${plot.width}`}
              stroke="var(--margin-line)"
              strokeWidth="1.4"
              strokeDasharray="8 4"
            />
            <text x={plot.left + 6} y={y(c.at) - 5} fontSize="11" fill="var(--margin-line)">
              {c.label}
            </text>
          </g>
        ) : null,
      )}
      {(spec.marks ?? []).map((m, k) => (
        <g key={m.at + m.label}>
          <path d={`M${x(m.at)} ${plot.top}v${plot.height}`} stroke="var(--ink)" strokeDasharray="1.5 2.5" />
          <text x={x(m.at) + 4} y={plot.top + 11 + 13 * (k % 3)} fontSize="11" fill="var(--ink)">
            {m.label}
          </text>
        </g>
      ))}
      {drawn.map(({ s, curve }) =>
        s.predicted ? (
          <path
            key={s.id}
            d={linePath(curve.x, curve.y, x, y)}
            fill="none"
            stroke="var(--pencil)"
            strokeWidth="1.2"
            strokeDasharray="1 4"
            strokeLinecap="round"
            data-predicted={s.id}
          />
        ) : (
          <path
            key={s.id}
            d={linePath(curve.x, curve.y, x, y)}
            fill="none"
            stroke={TONES[s.tone % 4]}
            strokeWidth="1.8"
            strokeLinejoin="round"
            strokeDasharray={dash(spec, s.tone)}
            data-curve={s.id}
          />
        ),
      )}
    </>
  );
}

/**
 * One chart of a log, drawn straight into SVG: several of them are redrawn at every step of a zoom, which a charting
 * package takes too long for. Phases shaded, claims drawn in, an overlay on top for what can be dragged.
 */
export const LogPlot = memo(function LogPlot({
  spec,
  claims,
  view,
  curves,
  height = 230,
  overlay,
  live = false,
}: LogPlotProps) {
  const holder = useRef<HTMLDivElement>(null);
  const width = useWidth(holder);
  const clip = useId();
  const margin = live ? MARGIN_LIVE : MARGIN;
  const plot = {
    left: margin.left,
    top: margin.top,
    width: Math.max(10, width - margin.left - margin.right),
    height: height - margin.top - margin.bottom,
  };
  const drawn = useMemo(() => spec.series.map((s) => ({ s, curve: curveOf(s, curves) })), [spec, curves]);
  const up = useMemo(
    () =>
      logAxis(
        drawn.map((d) => d.curve),
        claims.filter((c) => c.axis === "y").map((c) => c.at),
      ),
    [drawn, claims],
  );
  const across = useMemo(() => timeAxis(view.from, Math.max(view.to, view.from + 1e-9)), [view]);
  const layout: Layout = {
    spec,
    plot,
    across,
    up,
    x: scaleLinear([across.low, across.high], [plot.left, plot.left + plot.width]),
    y: scaleLinear([up.low, up.high], [plot.top + plot.height, plot.top]),
  };
  return (
    <figure aria-label={spec.title}>
      <ChartHead spec={spec} />
      <div
        ref={holder}
        className="figures relative overflow-hidden text-xs [contain:layout_paint]"
        style={{ height }}
        data-chart={spec.id}
        data-from={view.from}
        data-to={view.to}
      >
        {width > 0 ? (
          <svg
            width={width}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            className="block"
            data-drawing=""
            aria-hidden
          >
            <defs>
              <clipPath id={clip}>
                <rect x={plot.left} y={plot.top} width={plot.width} height={plot.height} />
              </clipPath>
            </defs>
            <Spans {...layout} />
            <Axes {...layout} live={live} height={height} />
            <g clipPath={`url(#${clip})`}>
              <Drawing {...layout} claims={claims} drawn={drawn} />
            </g>
          </svg>
        ) : null}
        {width > 0 && !live ? (
          <Crosshair
            title={spec.title}
            area={plot}
            across={{ low: across.low, high: across.high, unit: "s", label: "time" }}
            up={{ low: up.low, high: up.high, unit: spec.y.unit }}
            series={drawn.map(({ s, curve }) => ({ id: s.id, label: s.label, tone: s.tone, ...curve }))}
            holder={holder}
          />
        ) : null}
        {overlay ? (
          <div className="absolute" style={{ left: plot.left, top: plot.top, width: plot.width, height: plot.height }}>
            {overlay}
          </div>
        ) : null}
      </div>
      {live ? null : (
        <div className="no-print flex text-sm text-pencil">
          <SaveChart spec={spec} holder={holder} />
        </div>
      )}
    </figure>
  );
});
