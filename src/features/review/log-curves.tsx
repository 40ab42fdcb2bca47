"use client";

import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ChartSpec } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";
import { useInSight } from "@/browser/in-sight";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { forgetBoundary, moveBoundary, type RunDossier } from "@/notebook";
import { readingLogs, type WorkerClient } from "@/workers/client";
import type { CurveRole } from "@/workers/protocol";
import { Button } from "@/ui/button";
import { LogPlot, type LogPlotProps } from "@/ui/log-plot";
import { ReasonDialog } from "@/ui/reason-dialog";
import { LogOverlay, type LogOverlayProps, type View } from "./log-overlay";

/** Shortest stretch that can be shown, s, and as a share of what is short itself. */
const LEAST = 0.02;
const SHARE = 0.01;

/** Charts that are drawn at once at every step; of the others those that are in sight. */
const FIRST = 3;
/** ms without a step after which the others are drawn, too. */
const AFTER = 200;

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

/** What a log's charts show: the newest stretch whose curves are there, and the same for those that can wait; null is the whole. */
function useStretch(
  { id, seconds, rows, worker }: DrawnLog,
  charts: readonly Pick<LogPlotProps, "spec" | "claims">[],
): {
  readonly shown: Near | null;
  readonly late: Near | null;
  go(next: View | null): void;
  /** The stretch that was asked for last, shown or not. */
  now(): View;
} {
  const [shown, show] = useState<Near | null>(null);
  const [late, setLate] = useState<Near | null>(null);
  const wanted = useRef<View | null>(null);
  const there = useRef<View | null>(null);
  const asked = useRef(0);
  const key = [...new Set(charts.flatMap((c) => c.spec.series.flatMap((s) => (s.role ? [s.role] : []))))].join();
  const specs = useRef<readonly ChartSpec[]>([]);
  useEffect(() => {
    specs.current = charts.map((c) => c.spec);
  });
  // Asked for straight from the key: drawing what the page knows already would come before the curves, and cost a frame.
  const go = useCallback(
    (next: View | null) => {
      const view = next && held(next, seconds);
      wanted.current = view;
      const number = ++asked.current;
      const give = (near: Near | null) => {
        there.current = near?.view ?? null;
        show(near);
      };
      if (!view) return give(null);
      const asking = attempt(async () => {
        const curves = await (worker ?? readingLogs()).ask("log-curves", {
          runId: id,
          rows,
          roles: key.split(",") as CurveRole[],
          ...view,
        });
        const bySeries = Object.fromEntries(
          specs.current.map((spec) => [
            spec.id,
            Object.fromEntries(spec.series.map((x) => [x.id, x.role ? curves[x.role] : undefined])),
          ]),
        );
        if (number === asked.current) give({ view, bySeries });
      });
      // The next step goes from what is shown.
      void asking.then((good) => {
        if (!good && number === asked.current) wanted.current = there.current;
      });
    },
    [id, seconds, rows, key, worker],
  );
  // Of another log, or with other curves, the same stretch.
  useEffect(() => {
    if (wanted.current) go(wanted.current);
  }, [go]);
  useEffect(() => {
    const timer = setTimeout(() => setLate(shown), shown ? AFTER : 0);
    return () => clearTimeout(timer);
  }, [shown]);
  return { shown, late, go, now: () => wanted.current ?? { from: 0, to: seconds } };
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
  const { seconds, rows } = log;
  const [moving, setMoving] = useState<{ readonly id: string; readonly label: string; readonly at: number } | null>(
    null,
  );
  const { shown, late, go, now } = useStretch(log, charts);
  const zoom = (factor: number) => {
    const { from, to } = now();
    const half = ((to - from) * factor) / 2;
    const middle = (from + to) / 2;
    go({ from: middle - half, to: middle + half });
  };
  const pan = (share: number) => {
    const { from, to } = now();
    go({ from: from + share * (to - from), to: to + share * (to - from) });
  };
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
  const whole = useMemo(() => ({ from: 0, to: seconds }), [seconds]);
  return (
    <>
      <TimeRange view={shown?.view ?? null} movable={run !== undefined} zoom={zoom} pan={pan} onAll={() => go(null)} />
      <div className="space-y-6">
        {charts.map((c, k) => (
          <Linked
            key={c.spec.id}
            spec={c.spec}
            claims={c.claims}
            near={shown}
            late={k < FIRST ? shown : late}
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
  /** Boundaries can be dragged. */
  readonly movable: boolean;
  zoom(factor: number): void;
  pan(share: number): void;
  onAll(): void;
}

/** What of the log is shown, and how to see more or less of it. */
const TimeRange = ({ view, movable, zoom, pan, onAll }: TimeRangeProps) => (
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
        ? `${formatDuration(view.to - view.from)} from ${formatDuration(view.from)}`
        : movable
          ? "Drag across a chart to zoom; drag a boundary's grip to move it."
          : "Drag across a chart to zoom."}
    </span>
  </div>
);

interface LinkedProps extends Pick<LogPlotProps, "spec" | "claims"> {
  readonly near: Near | null;
  /** What it shows while it is out of sight. */
  readonly late: Near | null;
  readonly whole: View;
  readonly step: number;
  onView(view: View): void;
  /** Null where boundaries stay where they were found. */
  readonly onMove: LogOverlayProps["onMove"] | null;
}

/** One of the linked charts; drawn anew only when its stretch or its curves are other ones. */
const Linked = memo(function Linked({ spec, claims, near, late, whole, step, onView, onMove }: LinkedProps) {
  const place = useRef<HTMLDivElement>(null);
  const inSight = useInSight(place);
  const drawn = inSight ? near : late;
  const view = drawn?.view ?? whole;
  const overlay = useMemo(
    () => <LogOverlay spec={spec} view={view} step={step} onView={onView} onMove={onMove} />,
    [spec, view, step, onView, onMove],
  );
  return (
    <div ref={place}>
      <LogPlot spec={spec} claims={claims} view={view} curves={drawn?.bySeries[spec.id]} overlay={overlay} />
    </div>
  );
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
