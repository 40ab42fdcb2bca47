"use client";

import dynamic from "next/dynamic";
import type { PlotProps } from "./plot-data";

/** A chart; the drawing package is loaded only where one stands. */
export const Chart = dynamic<PlotProps>(() => import("./plot").then((m) => m.Plot), {
  ssr: false,
  loading: () => <div className="h-80 border border-rule hatch" role="status" aria-label="The chart is being drawn" />,
});
export { type PlotProps, type ClaimLine } from "./plot-data";
