"use client";

import { memo, useEffect, useMemo } from "react";
import { useXAxisScale, useYAxisScale } from "recharts";
import type { ChartSeries } from "@/core/measurement";
import { pointsToDraw } from "./plot-data";
import { shape, TONES } from "./plot-marks";

type Placed = ChartSeries["points"][number] & { readonly cx: number; readonly cy: number };
const paths = (tone: number, points: readonly Placed[], r: number): string =>
  points.map((p) => shape(tone, p.cx, p.cy, r)).join("");
const round = (v: number): number => Math.round(v * 10) / 10;

/** The fitted curve of a series, or its counted points joined, cut off at the edges of the plot. */
export const PlotCurve = memo(function PlotCurve({
  series,
  dash,
  low,
  high,
}: Pick<PlotPointsProps, "series" | "low" | "high"> & { dash: string }) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  const line = series.fit?.length ? series.fit : pointsToDraw(series).filter((p) => p.state === "counts");
  if (!x || !y || line.length < 2) return null;
  const inside = (p: { readonly y: number }) => p.y >= low && p.y <= high;
  const d = line
    .map((p, i) =>
      inside(p)
        ? `${i > 0 && inside(line[i - 1] as typeof p) ? "L" : "M"}${round(x(p.x) ?? 0)} ${round(y(p.y) ?? 0)}`
        : "",
    )
    .join("");
  return (
    <path
      d={d}
      fill="none"
      stroke={TONES[series.tone % 4]}
      strokeWidth={1.8}
      strokeDasharray={dash}
      data-curve={series.id}
    />
  );
});

/** Says once that the axes have their scales, so that the curves are there. */
export function Standing({ onDrawn }: { onDrawn: (() => void) | undefined }) {
  const ready = useXAxisScale() !== undefined;
  useEffect(() => {
    if (ready) onDrawn?.();
  }, [ready, onDrawn]);
  return null;
}

export interface PlotPointsProps {
  readonly series: ChartSeries;
  /** The vertical axis: points outside it are not drawn. */
  readonly low: number;
  readonly high: number;
  readonly marked?: string | undefined;
  readonly onPick?: ((id: string) => void) | undefined;
}

/**
 * A series' points, all of one state in one path: some hundred elements would take longer to draw than a key may take.
 * Filled: counts. Hollow with an arrow: fell out of band. Struck through: left out. The marked one is larger.
 */
export const PlotPoints = memo(function PlotPoints({ series, low, high, marked, onPick }: PlotPointsProps) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  const placed = useMemo<readonly Placed[]>(
    () =>
      x && y
        ? pointsToDraw(series)
            .filter((p) => p.y >= low && p.y <= high)
            .map((p) => ({ ...p, cx: round(x(p.x) ?? 0), cy: round(y(p.y) ?? 0) }))
        : [],
    [series, low, high, x, y],
  );
  const color = TONES[series.tone % 4];
  const of = (state: Placed["state"]) => placed.filter((p) => p.state === state);
  const [counts, fell, leftOut, large] = [
    of("counts"),
    of("fell"),
    of("left-out"),
    placed.filter((p) => p.id === marked),
  ];
  const line = { stroke: color, strokeWidth: 1.6 };
  const pick = (e: React.MouseEvent<SVGGElement>) => {
    const box = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!box || !onPick) return;
    const away = (p: Placed) => Math.hypot(p.cx - (e.clientX - box.left), p.cy - (e.clientY - box.top));
    const nearest = placed.reduce<Placed | null>((best, p) => (best && away(best) <= away(p) ? best : p), null);
    if (nearest) onPick(nearest.id);
  };
  return (
    <g {...(onPick ? { onClick: pick, cursor: "pointer" } : {})}>
      {onPick ? (
        <path
          d={placed.map((p) => `M${p.cx} ${p.cy}h0.01`).join("")}
          stroke="transparent"
          strokeWidth={18}
          strokeLinecap="round"
          pointerEvents="all"
          data-reach=""
        />
      ) : null}
      <path d={paths(series.tone, counts, 4)} fill={color} {...line} data-points={counts.length} />
      {fell.length ? <path d={paths(series.tone, fell, 4)} fill="var(--sheet)" {...line} /> : null}
      {fell.length ? (
        <path d={fell.map((p) => `M${p.cx} ${p.cy + 6}v7m-3 -3l3 3l3 -3`).join("")} fill="none" {...line} />
      ) : null}
      {leftOut.length ? (
        <path d={paths(series.tone, leftOut, 4)} fill="var(--sheet)" {...line} strokeDasharray="2 2" />
      ) : null}
      {leftOut.length ? (
        <path
          d={leftOut.map((p) => `M${p.cx - 6} ${p.cy + 6}L${p.cx + 6} ${p.cy - 6}`).join("")}
          fill="none"
          {...line}
        />
      ) : null}
      {large.length ? (
        <path d={paths(series.tone, large, 7)} fill={large[0]?.state === "counts" ? color : "var(--sheet)"} {...line} />
      ) : null}
    </g>
  );
});
