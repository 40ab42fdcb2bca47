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
  return Plot ? <Plot {...props} /> : <Place height={props.height} failed={failed} />;
}

/** Holds a chart's place at its full height, so that nothing below moves when it comes. */
function Place({ height = 320, failed = false }: { height?: number | undefined; failed?: boolean }) {
  return (
    <div
      className="hatch flex items-center justify-center border border-rule"
      style={{ height: height + 54 }}
      role="status"
      aria-label={failed ? undefined : "Drawing the chart"}
    >
      {failed ? "The chart could not be loaded. Reload the page; the points are safe." : null}
    </div>
  );
}

/** A page's charts, each mounted once the one before it stands, so that the first is there soon. */
export function Charts({ charts }: { charts: readonly PlotProps[] }) {
  const [standing, setStanding] = useState(0);
  return charts.map((props, i) =>
    i > standing ? (
      <Place key={props.spec.id} height={props.height} />
    ) : (
      <Chart key={props.spec.id} {...props} {...(i === standing ? { onDrawn: () => setStanding(i + 1) } : {})} />
    ),
  );
}

export { type PlotProps, type ClaimLine } from "./plot-data";
