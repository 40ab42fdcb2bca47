"use client";

import { useEffect, useState, type ComponentType } from "react";
import type { PlotProps } from "./plot-data";

let drawing: ComponentType<PlotProps> | null = null;
const load = async (): Promise<ComponentType<PlotProps>> => (drawing ??= (await import("./plot")).Plot);

/** Starts loading the drawing package: said by a page's module that will show a chart, before its data is read. */
export function chartsAhead(): void {
  if (typeof window !== "undefined") void load().catch(() => undefined);
}

/**
 * A chart; the drawing package is loaded only where one stands. Not by a suspended component: React holds back what
 * replaces a fallback for 300 ms, which is as long as a chart may take.
 */
export function Chart(props: PlotProps) {
  const [Plot, setPlot] = useState<ComponentType<PlotProps> | null>(() => drawing);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    let gone = false;
    load().then(
      (p) => !gone && setPlot(() => p),
      () => !gone && setFailed(true),
    );
    return () => {
      gone = true;
    };
  }, []);
  if (Plot) return <Plot {...props} />;
  return (
    <div className="hatch flex h-80 items-center justify-center border border-rule" role="status" aria-label={failed ? undefined : "The chart is being drawn"}>
      {failed ? "The chart's code could not be loaded. Reload the page; the points are safe." : null}
    </div>
  );
}

/** A page's charts, each mounted once the one before it stands, so that the first is there soon. */
export function Charts({ charts }: { charts: readonly PlotProps[] }) {
  const [standing, setStanding] = useState(0);
  return charts.slice(0, standing + 1).map((props, i) => <Chart key={props.spec.id} {...props} {...(i === standing ? { onDrawn: () => setStanding(i + 1) } : {})} />);
}

export { type PlotProps, type ClaimLine } from "./plot-data";
