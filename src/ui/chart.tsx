"use client";

import dynamic from "next/dynamic";
import type { PlotProps } from "./plot-data";

const load = () => import("./plot");

/** Starts loading the drawing package: said by a page that will show a chart, while it still reads its data. */
export function chartsAhead(): void {
  void load();
}

/** A chart; the drawing package is loaded only where one stands. */
export const Chart = dynamic<PlotProps>(() => load().then((m) => m.Plot), {
  ssr: false,
  loading: () => <div className="h-80 border border-rule hatch" role="status" aria-label="The chart is being drawn" />,
});
export { type PlotProps, type ClaimLine } from "./plot-data";
