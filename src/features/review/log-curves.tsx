"use client";

import { memo, useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import type { ChartSpec } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { forgetBoundary, moveBoundary, type RunDossier } from "@/notebook";
import { readingLogs, type WorkerClient } from "@/workers/client";
import { Button } from "@/ui/button";
import { LogPlot, type LogPlotProps } from "@/ui/log-plot";
import { ReasonDialog } from "@/ui/reason-dialog";
import { LogOverlay, type LogOverlayProps, type View } from "./log-overlay";

/** Shortest stretch that can be shown, s, and as a share of what is short itself. */
const LEAST = 0.02;
const SHARE = 0.01;

/** Charts that are in sight together. */
const IN_SIGHT = 3;

/** A stretch with its own curves, by chart and series. */
interface Near {
  readonly view: View;
  readonly bySeries: Readonly<Record<string, LogPlotProps["curves"]>>;
}

/** A stretch kept inside the log. */
function held(view: View, seconds: number): View | null {
  const span = Math.max(Math.min(LEAST, SHARE * seconds), view.to - view.from);
  if (span >= seconds) return null;
  const from = Math.min(Math.max(0, view.from), seconds - span);
  return { from, to: from + span };
}

/** A log that some worker holds, or finds in the database. */
export interface DrawnLog {
  readonly id: string;
  readonly rows: number;
  readonly seconds: number;
  /** The one that holds it; the usual one where it is stored. */
  readonly worker?: WorkerClient;
}

/** The charts of a log, linked: one stretch of time for all, zoomed and moved together, boundaries that can be dragged where it is a run's. */
export function LogCurves({
  log,
  run,
  charts,
}: {
  readonly log: DrawnLog;
  readonly run?: RunDossier;
  readonly charts: readonly Pick<LogPlotProps, "spec" | "claims">[];
}) {
  const { id, seconds, rows, worker } = log;
  const [view, setView] = useState<View | null>(null);
  const [near, setNear] = useState<Near | null>(null);
  const [moving, setMoving] = useState<{ readonly id: string; readonly label: string; readonly at: number } | null>(
    null,
  );
  const asked = useRef(0);
  const roles = [...new Set(charts.flatMap((c) => c.spec.series.flatMap((s) => (s.role ? [s.role] : []))))];
  const key = roles.join();
  const specs = useRef<readonly ChartSpec[]>([]);
  useEffect(() => {
    specs.current = charts.map((c) => c.spec);
  });
  useEffect(() => {
    if (!view) return;
    const number = ++asked.current;
    void attempt(async () => {
      const curves = await (worker ?? readingLogs()).ask("log-curves", {
        runId: id,
        rows,
        roles: key.split(",") as typeof roles,
        ...view,
      });
      const bySeries = Object.fromEntries(
        specs.current.map((spec) => [
          spec.id,
          Object.fromEntries(spec.series.map((x) => [x.id, x.role ? curves[x.role] : undefined])),
        ]),
      );
      if (number === asked.current) setNear({ view, bySeries });
    });
  }, [view, id, rows, key, worker]);
  const go = useCallback((next: View | null) => setView(next && held(next, seconds)), [seconds]);
  const now = view ?? { from: 0, to: seconds };
  const zoom = (factor: number) => {
    const half = ((now.to - now.from) * factor) / 2;
    const middle = (now.from + now.to) / 2;
    go({ from: middle - half, to: middle + half });
  };
  const pan = (share: number) =>
    go({ from: now.from + share * (now.to - now.from), to: now.to + share * (now.to - now.from) });
  useKeys(
    {
      "+": () => zoom(0.5),
      "=": () => zoom(0.5),
      "-": () => zoom(2),
      "0": () => go(null),
      ArrowLeft: () => pan(-0.25),
      ArrowRight: () => pan(0.25),
    },
    moving === null,
  );
  // What is drawn is the stretch whose curves are there; the one before stays until then.
  const shown = view ? near : null;
  // The first charts, those in sight, are drawn at once; the rest a moment later.
  const late = useDeferredValue(shown);
  const whole = useMemo(() => ({ from: 0, to: seconds }), [seconds]);
  return (
    <>
      <TimeRange view={view} now={now} movable={run !== undefined} zoom={zoom} pan={pan} onAll={() => go(null)} />
      <div className="space-y-6">
        {charts.map((c, k) => (
          <Linked
            key={c.spec.id}
            spec={c.spec}
            claims={c.claims}
            near={k < IN_SIGHT ? shown : late}
            whole={whole}
            step={seconds / Math.max(1, rows - 1)}
            onView={go}
            onMove={run ? setMoving : null}
          />
        ))}
      </div>
      {moving && run ? <MoveDialog d={run} {...moving} onClose={() => setMoving(null)} /> : null}
    </>
  );
}

interface TimeRangeProps {
  readonly view: View | null;
  readonly now: View;
  /** Boundaries can be dragged. */
  readonly movable: boolean;
  zoom(factor: number): void;
  pan(share: number): void;
  onAll(): void;
}

/** What of the log is shown, and how to see more or less of it. */
const TimeRange = ({ view, now, movable, zoom, pan, onAll }: TimeRangeProps) => (
  <div className="no-print mb-3 flex flex-wrap items-center gap-2 text-sm" role="group" aria-label="Time range">
    <Button keyName="+" onClick={() => zoom(0.5)}>
      Zoom in
    </Button>
    <Button keyName="-" onClick={() => zoom(2)} disabled={!view}>
      Zoom out
    </Button>
    <Button keyName="←" onClick={() => pan(-0.25)} disabled={!view}>
      Earlier
    </Button>
    <Button keyName="→" onClick={() => pan(0.25)} disabled={!view}>
      Later
    </Button>
    <Button keyName="0" onClick={onAll} disabled={!view}>
      Show all
    </Button>
    <span className="text-pencil" role="status">
      {view
        ? `${formatDuration(now.to - now.from)} from ${formatDuration(now.from)}`
        : movable
          ? "Drag across a chart to zoom; drag a boundary's grip to move it."
          : "Drag across a chart to zoom."}
    </span>
  </div>
);

interface LinkedProps extends Pick<LogPlotProps, "spec" | "claims"> {
  readonly near: Near | null;
  readonly whole: View;
  readonly step: number;
  onView(view: View): void;
  /** Null where boundaries stay where they were found. */
  readonly onMove: LogOverlayProps["onMove"] | null;
}

/** One of the linked charts; drawn anew only when its stretch or its curves are other ones. */
const Linked = memo(function Linked({ spec, claims, near, whole, step, onView, onMove }: LinkedProps) {
  const view = near?.view ?? whole;
  const overlay = useMemo(
    () => <LogOverlay spec={spec} view={view} step={step} onView={onView} onMove={onMove} />,
    [spec, view, step, onView, onMove],
  );
  return <LogPlot spec={spec} claims={claims} view={view} curves={near?.bySeries[spec.id]} overlay={overlay} />;
});

/** A boundary is moved with a reason, or put back where it was found. */
function MoveDialog({
  d,
  id,
  label,
  at,
  onClose,
}: {
  d: RunDossier;
  id: string;
  label: string;
  at: number;
  onClose(): void;
}) {
  const there = d.corrections.boundaries.get(id);
  const done = (act: Promise<unknown>) => attempt(() => act);
  const forget = () => void done(forgetBoundary(d, id)).then((good) => good && onClose());
  return (
    <ReasonDialog
      title={`Move “${label}” to ${formatDuration(at)}`}
      about="The results follow. The readings and the original boundary are kept."
      act="Move boundary"
      first={there?.why ?? ""}
      onClose={onClose}
      onReason={(why) => done(moveBoundary(d, id, at, why))}
      more={there ? <Button onClick={forget}>Restore original boundary</Button> : null}
    />
  );
}
