"use client";

import { useRef } from "react";
import { CartesianGrid, ComposedChart, Line, ReferenceArea, ReferenceLine, ResponsiveContainer, Scatter, XAxis, YAxis } from "recharts";
import { formatParts, formatQuantity } from "@/core/quantities";
import type { ChartSpec } from "@/core/procedures";
import { Button } from "./button";
import { axis, drawn, type PlotProps } from "./plot-data";
import { chartSvg, svgToPng } from "./chart-export";
import { download, fileName } from "@/session/download";

export { type PlotProps, type ClaimLine } from "./plot-data";

const TONES = ["var(--tone-0)", "var(--tone-1)", "var(--tone-2)", "var(--tone-3)"];
const DASHES = ["", "7 3", "2 3", "9 3 2 3"];

/** Point shapes differ by series, so that colour is not needed to tell them apart. */
function shape(tone: number, x: number, y: number, r: number): string {
  switch (tone % 4) {
    case 0:
      return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
    case 1:
      return `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}z`;
    case 2:
      return `M${x} ${y - r * 1.3}l${r * 1.3} ${r * 1.3}l${-r * 1.3} ${r * 1.3}l${-r * 1.3} ${-r * 1.3}z`;
    default:
      return `M${x} ${y - r * 1.2}l${r * 1.2} ${r * 2}h${-r * 2.4}z`;
  }
}

interface DotProps {
  readonly cx?: number;
  readonly cy?: number;
  readonly payload?: { readonly id: string; readonly state: string };
}

function Dot({ cx = 0, cy = 0, payload, tone, marked, onPick }: DotProps & { tone: number; marked: boolean; onPick?: ((id: string) => void) | undefined }) {
  const color = TONES[tone % 4];
  const r = marked ? 7 : 4;
  const state = payload?.state;
  return (
    <g {...(onPick && payload ? { onClick: () => onPick(payload.id), cursor: "pointer" } : {})}>
      <path d={shape(tone, cx, cy, r)} fill={state === "counts" ? color : "var(--sheet)"} stroke={color} strokeWidth={1.6} strokeDasharray={state === "left-out" ? "2 2" : undefined} />
      {state === "left-out" ? <path d={`M${cx - 6} ${cy + 6}L${cx + 6} ${cy - 6}`} stroke={color} strokeWidth={1.6} /> : null}
      {state === "fell" ? <path d={`M${cx} ${cy + 6}v7m-3 -3l3 3l3 -3`} stroke={color} strokeWidth={1.6} fill="none" /> : null}
    </g>
  );
}

function limits(spec: ChartSpec, claims: PlotProps["claims"]) {
  const all = spec.series.flatMap((s) => s.points);
  const claimed = (a: "x" | "y") => (claims ?? []).filter((c) => c.axis === a).map((c) => c.at);
  // A reading a hair below zero is zero with an offset; it must not open a negative half of the axis.
  const far = Math.max(0, ...all.map((p) => p.x), ...claimed("x"));
  const x = axis([0, far, ...all.map((p) => p.x).filter((v) => v < -0.02 * far)], 8);
  const counted = all.filter((p) => p.state !== "fell");
  const ys = (counted.length ? counted : all).map((p) => p.y);
  // Collapsed points may lie far below; they may stretch the axis, but only so far that the rest stays readable.
  const low = Math.min(...ys, ...claimed("y"), spec.band?.low ?? Infinity);
  const high = Math.max(...ys, ...claimed("y"), spec.band?.high ?? -Infinity);
  const fallen = all.filter((p) => p.state === "fell").map((p) => Math.max(p.y, low - 0.6 * (high - low)));
  return { x, y: axis([low, high, ...fallen].filter(Number.isFinite), 6) };
}

/** A chart from its data: points by series, fitted curves, the claim and the band drawn in, excluded points visible. */
export function Plot({ spec, claims = [], height = 320, marked, onPick }: PlotProps) {
  const holder = useRef<HTMLDivElement>(null);
  const { x, y } = limits(spec, claims);
  const tick = (unit: ChartSpec["x"]["unit"]) => (v: number) => formatParts(v, unit, { digits: 3 }).number.replace(/(\.\d*?)0+$/, "$1").replace(/\.$/, "");
  const xScale = Math.max(Math.abs(x.high), Math.abs(x.low)) >= 1 || spec.x.unit !== "A" ? 1 : 1000;
  const xTick = (v: number) => (spec.x.unit === "A" ? String(Number((v * xScale).toPrecision(6))) : tick(spec.x.unit)(v));
  const xUnit = spec.x.unit === "A" && xScale === 1000 ? "mA" : spec.x.unit;
  const save = async (kind: "svg" | "png") => {
    const svg = holder.current?.querySelector("svg.recharts-surface");
    if (!(svg instanceof SVGSVGElement)) return;
    const text = chartSvg(svg, spec);
    if (kind === "svg") download(fileName(spec.title, "svg"), text, "image/svg+xml");
    else download(fileName(spec.title, "png"), await svgToPng(text), "image/png");
  };
  return (
    <figure aria-label={spec.title}>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-2">
        <figcaption className="font-semibold">{spec.title}</figcaption>
        <ul className="flex flex-wrap gap-x-4 text-sm">
          {spec.series.map((s) => (
            <li key={s.id} className="inline-flex items-center gap-1.5">
              <svg width="26" height="12" aria-hidden>
                <line x1="0" x2="26" y1="6" y2="6" stroke={TONES[s.tone % 4]} strokeWidth="1.8" strokeDasharray={DASHES[s.tone % 4]} />
                <path d={shape(s.tone, 13, 6, 3.6)} fill={TONES[s.tone % 4]} />
              </svg>
              {s.label}
            </li>
          ))}
        </ul>
      </div>
      <div ref={holder} className="figures text-xs" data-chart={spec.id}>
        <ResponsiveContainer width="100%" height={height}>
          <ComposedChart margin={{ top: 18, right: 18, bottom: 22, left: 8 }} accessibilityLayer={false}>
            <CartesianGrid stroke="var(--rule)" strokeWidth={0.7} />
            {spec.band ? <ReferenceArea y1={Math.max(spec.band.low, y.low)} y2={Math.min(spec.band.high, y.high)} fill="var(--meets)" fillOpacity={0.09} stroke="none" /> : null}
            <XAxis type="number" dataKey="x" domain={[x.low, x.high]} ticks={x.ticks} tickFormatter={xTick} stroke="var(--pencil)" tick={{ fill: "var(--ink)", fontSize: 12 }} allowDataOverflow label={{ value: `${spec.x.label} (${xUnit})`, position: "insideBottom", offset: -14, fill: "var(--pencil)", fontSize: 12 }} />
            <YAxis type="number" dataKey="y" domain={[y.low, y.high]} ticks={y.ticks} tickFormatter={tick(spec.y.unit)} stroke="var(--pencil)" tick={{ fill: "var(--ink)", fontSize: 12 }} width={58} allowDataOverflow label={{ value: `${spec.y.label} (${spec.y.unit === "1" ? "%" : spec.y.unit})`, angle: -90, position: "insideLeft", offset: 4, fill: "var(--pencil)", fontSize: 12 }} />
            {spec.series.map((s) => (
              <Line key={`${s.id}-fit`} data={[...(s.fit?.length ? s.fit : drawn(s).filter((p) => p.state === "counts"))]} dataKey="y" type="linear" dot={false} activeDot={false} isAnimationActive={false} stroke={TONES[s.tone % 4]} strokeWidth={1.8} strokeDasharray={DASHES[s.tone % 4]} />
            ))}
            {spec.series.map((s) => (
              <Scatter key={s.id} name={s.label} data={[...drawn(s)].filter((p) => p.y >= y.low && p.y <= y.high)} dataKey="y" isAnimationActive={false} shape={(p: unknown) => <Dot {...(p as DotProps)} tone={s.tone} marked={marked !== undefined && (p as DotProps).payload?.id === marked} onPick={onPick} />} />
            ))}
            {claims.map((c) => (
              <ReferenceLine
                key={c.axis + c.label}
                {...(c.axis === "x" ? { x: c.at } : { y: c.at })}
                stroke="var(--margin-line)"
                strokeWidth={1.4}
                strokeDasharray="8 4"
                label={{ value: c.label, position: c.axis === "x" ? "top" : "insideBottomLeft", fill: "var(--margin-line)", fontSize: 11 }}
              />
            ))}
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <div className="no-print flex flex-wrap items-center gap-3 text-sm text-pencil">
        {spec.band ? <span>Shaded: {spec.band.label}, {formatQuantity(spec.band.low, spec.y.unit)} to {formatQuantity(spec.band.high, spec.y.unit)}.</span> : null}
        <span>Hollow with an arrow: fell out of band. Struck through: left out.</span>
        <span className="ml-auto inline-flex gap-3">
          <Button look="bare" onClick={() => void save("svg")}>Save SVG</Button>
          <Button look="bare" onClick={() => void save("png")}>Save PNG</Button>
        </span>
      </div>
    </figure>
  );
}
