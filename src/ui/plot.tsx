"use client";

import { memo, useEffect, useMemo, useRef, useState } from "react";
import {
  CartesianGrid,
  ComposedChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  usePlotArea,
  XAxis,
  YAxis,
} from "recharts";
import { Crosshair, type CrosshairProps } from "./crosshair";
import { formatQuantity, highest, lowest } from "@/core/quantities";
import type { ChartSpec } from "@/core/measurement";
import { axis, axisScale, type PlotProps } from "./plot-data";
import { PlotCurve, PlotPoints, Standing } from "./plot-points";
import { ChartHead, dash, SaveChart } from "./chart-frame";

export { type PlotProps, type ClaimLine } from "./plot-data";

function limits(spec: ChartSpec, claims: PlotProps["claims"]) {
  const lines = spec.series.flatMap((s) => (s.points.length ? [] : (s.fit ?? [])));
  const all = [...spec.series.flatMap((s) => s.points), ...lines.map((p) => ({ ...p, state: "counts" as const }))];
  const claimed = (a: "x" | "y") => (claims ?? []).filter((c) => c.axis === a).map((c) => c.at);
  // A reading a hair below zero is zero with an offset; it must not open a negative half of the axis.
  const far = highest([0, ...all.map((p) => p.x), ...claimed("x")]);
  // Loads and days begin at none; a battery's volts never do.
  const x =
    spec.x.unit === "V"
      ? axis([...all.map((p) => p.x), ...claimed("x")], 7)
      : axis([0, far, ...all.map((p) => p.x).filter((v) => v < -0.02 * far)], 7);
  const counted = all.filter((p) => p.state !== "fell");
  const drawnYs = (counted.length ? counted : all).map((p) => p.y);
  const top = highest([0, ...drawnYs, ...claimed("y")]);
  const ys = drawnYs.map((v) => (v < 0 && v > -0.02 * top ? 0 : v));
  // Collapsed points may lie far below; they may stretch the axis, but only so far that the rest stays readable.
  const low = lowest([...ys, ...claimed("y"), spec.band?.low ?? Infinity]);
  const high = highest([...ys, ...claimed("y"), spec.band?.high ?? -Infinity]);
  const fallen = all.filter((p) => p.state === "fell").map((p) => Math.max(p.y, low - 0.6 * (high - low)));
  return { x, y: axis([low, high, ...fallen].filter(Number.isFinite), 5) };
}

/** The same axis as before as long as it reads the same, so that a new point within it redraws no axis. */
function useSteady<T>(value: T): T {
  const key = JSON.stringify(value);
  return useMemo(() => JSON.parse(key) as T, [key]);
}

const MARGIN = { top: 18, right: 18, bottom: 22, left: 8 };
const NO_CLAIMS: NonNullable<PlotProps["claims"]> = [];

/** Says where the plot lies in its chart, whenever that changes. */
function Measured({ onArea }: { onArea(area: CrosshairProps["area"]): void }) {
  const area = usePlotArea();
  const [left, top, width, height] = [area?.x, area?.y, area?.width, area?.height];
  useEffect(() => {
    if (left !== undefined && top !== undefined && width && height) onArea({ left, top, width, height });
  }, [left, top, width, height, onArea]);
  return null;
}

/** What a crosshair reads of a series: its points as they were read, those that are excluded apart; a curve alone where it has none. */
function readSeries(s: ChartSpec["series"][number]): CrosshairProps["series"][number] {
  const points = (s.points.length ? s.points.filter((p) => p.state !== "left-out") : (s.fit ?? [])).toSorted(
    (a, b) => a.x - b.x,
  );
  return { id: s.id, label: s.label, tone: s.tone, x: points.map((p) => p.x), y: points.map((p) => p.y) };
}

interface FrameProps {
  readonly x: ReturnType<typeof limits>["x"];
  readonly y: ReturnType<typeof limits>["y"];
  readonly band: NonNullable<ChartSpec["band"]> | null;
  readonly lines: NonNullable<PlotProps["claims"]>;
  readonly labels: Pick<ChartSpec, "x" | "y">;
}

/** What stands behind the points: grid, axes, the band and the claims. */
function frameOf({ x, y, band, lines, labels }: FrameProps) {
  const across = axisScale(labels.x.unit, x);
  const up = axisScale(labels.y.unit, y);
  return (
    <>
      <CartesianGrid stroke="var(--rule)" strokeWidth={0.7} />
      {band ? (
        <ReferenceArea
          y1={Math.max(band.low, y.low)}
          y2={Math.min(band.high, y.high)}
          fill="var(--meets)"
          fillOpacity={0.09}
          stroke="none"
        />
      ) : null}
      <XAxis
        type="number"
        dataKey="x"
        domain={[x.low, x.high]}
        ticks={x.ticks}
        tickFormatter={across.tick}
        stroke="var(--pencil)"
        tick={{ fill: "var(--ink)", fontSize: 12 }}
        allowDataOverflow
        label={{
          value: across.unit ? `${labels.x.label} (${across.unit})` : labels.x.label,
          position: "insideBottom",
          offset: -14,
          fill: "var(--pencil)",
          fontSize: 12,
        }}
      />
      <YAxis
        type="number"
        dataKey="y"
        domain={[y.low, y.high]}
        ticks={y.ticks}
        tickFormatter={up.tick}
        stroke="var(--pencil)"
        tick={{ fill: "var(--ink)", fontSize: 12 }}
        width={58}
        allowDataOverflow
        label={{
          value: up.unit ? `${labels.y.label} (${up.unit})` : labels.y.label,
          angle: -90,
          position: "insideLeft",
          offset: 4,
          fill: "var(--pencil)",
          fontSize: 12,
        }}
      />
      {lines.map((c) => (
        <ReferenceLine
          key={c.axis + c.label}
          {...(c.axis === "x" ? { x: c.at } : { y: c.at })}
          stroke="var(--margin-line)"
          strokeWidth={1.4}
          strokeDasharray="8 4"
          label={{
            value: c.label,
            position: c.axis === "x" ? "top" : "insideBottomLeft",
            fill: "var(--margin-line)",
            fontSize: 11,
          }}
        />
      ))}
    </>
  );
}

/** A chart from its data: points by series, fitted curves, the claim and the band drawn in, excluded points visible. */
export const Plot = memo(function Plot({ spec, claims = NO_CLAIMS, height = 320, marked, onPick, onDrawn }: PlotProps) {
  const holder = useRef<HTMLDivElement>(null);
  const { x, y } = useSteady(limits(spec, claims));
  const band = useSteady(spec.band ?? null);
  const lines = useSteady(claims);
  const labels = useSteady({ x: spec.x, y: spec.y });
  const [area, setArea] = useState<CrosshairProps["area"] | null>(null);
  const readings = useMemo(() => spec.series.map(readSeries), [spec]);
  const frame = useMemo(() => frameOf({ x, y, band, lines, labels }), [x, y, band, lines, labels]);
  return (
    <figure aria-label={spec.title}>
      <ChartHead spec={spec} />
      <div
        ref={holder}
        className="figures relative text-xs will-change-transform [contain:layout_paint]"
        data-chart={spec.id}
      >
        <ResponsiveContainer width="100%" height={height}>
          <ComposedChart margin={MARGIN} accessibilityLayer={false}>
            {frame}
            {spec.series.map((s) => (
              <PlotCurve key={`${s.id}-curve`} series={s} dash={dash(spec, s.tone)} low={y.low} high={y.high} />
            ))}
            <Standing onDrawn={onDrawn} />
            {spec.series.map((s) => (
              <PlotPoints key={s.id} series={s} low={y.low} high={y.high} marked={marked} onPick={onPick} />
            ))}
            <Measured onArea={setArea} />
          </ComposedChart>
        </ResponsiveContainer>
        {area ? (
          <Crosshair
            title={spec.title}
            area={area}
            across={{ ...x, unit: spec.x.unit, label: spec.x.label }}
            up={{ ...y, unit: spec.y.unit }}
            series={readings}
            holder={holder}
          />
        ) : null}
      </div>
      <div className="no-print flex flex-wrap items-center gap-3 text-sm text-pencil">
        {spec.band ? (
          <span>
            Shaded: {spec.band.label}, {formatQuantity(spec.band.low, spec.y.unit)} to{" "}
            {formatQuantity(spec.band.high, spec.y.unit)}.
          </span>
        ) : null}
        {spec.series.some((s) => s.points.some((p) => p.state !== "counts")) ? (
          <span>Hollow with an arrow: fell out of band. Crossed out: excluded.</span>
        ) : null}
        <SaveChart spec={spec} holder={holder} />
      </div>
    </figure>
  );
});
