"use client";

import type { RefObject } from "react";
import type { ChartSpec } from "@/core/measurement";
import { download, fileName } from "@/browser/download";
import { Button } from "./button";
import { chartSvg, svgToPng } from "./chart-export";
import { DASHES, shape, TONES } from "./plot-marks";

/** A line that is alone needs no dashes to be told apart. */
export const dash = (spec: ChartSpec, tone: number): string =>
  spec.series.filter((s) => !s.predicted).length > 1 ? (DASHES[tone % DASHES.length] ?? "") : "";

/** A chart's title, and what each of its lines is. */
export function ChartHead({ spec }: { spec: ChartSpec }) {
  return (
    <div className="mb-1 flex flex-wrap items-baseline justify-between gap-2">
      <figcaption className="font-semibold">{spec.title}</figcaption>
      <ul className="flex flex-wrap gap-x-4 text-sm">
        {spec.series.map((s) => (
          <li key={s.id} className="inline-flex items-center gap-1.5">
            <svg width="26" height="12" aria-hidden>
              {s.predicted ? (
                <line
                  x1="1"
                  x2="26"
                  y1="6"
                  y2="6"
                  stroke="var(--pencil)"
                  strokeWidth="1.4"
                  strokeDasharray="1 4"
                  strokeLinecap="round"
                />
              ) : (
                <line
                  x1="0"
                  x2="26"
                  y1="6"
                  y2="6"
                  stroke={TONES[s.tone % 4]}
                  strokeWidth="1.8"
                  strokeDasharray={dash(spec, s.tone)}
                />
              )}
              {s.points.length ? <path d={shape(s.tone, 13, 6, 3.6)} fill={TONES[s.tone % 4]} /> : null}
            </svg>
            {s.label}
          </li>
        ))}
      </ul>
      {spec.note ? <p className="w-full text-sm text-close">{spec.note}</p> : null}
    </div>
  );
}

/** Takes the drawing out as a file. */
export function SaveChart({ spec, holder }: { spec: ChartSpec; holder: RefObject<HTMLDivElement | null> }) {
  const save = async (kind: "svg" | "png") => {
    const svg = holder.current?.querySelector("svg.recharts-surface, svg[data-drawing]");
    if (!(svg instanceof SVGSVGElement)) return;
    const text = chartSvg(svg, spec);
    if (kind === "svg") download(fileName(spec.title, "svg"), text, "image/svg+xml");
    else download(fileName(spec.title, "png"), await svgToPng(text), "image/png");
  };
  return (
    <span className="no-print ml-auto inline-flex gap-3">
      <Button look="bare" onClick={() => void save("svg")}>
        Save SVG
      </Button>
      <Button look="bare" onClick={() => void save("png")}>
        Save PNG
      </Button>
    </span>
  );
}
