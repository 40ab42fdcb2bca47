"use client";

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ChartSpec } from "@/core/procedures";
import { formatDuration } from "@/core/quantities";
import { useKeys } from "@/session/keys";
import { attempt } from "@/session/notify";
import { forgetBoundary, moveBoundary, type RunDossier } from "@/storage";
import { readingLogs } from "@/workers/client";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { LogPlot, type LogPlotProps } from "@/ui/log-plot";
import { TextField } from "@/ui/quantity-field";
import { LogOverlay, type View } from "./log-overlay";

/** Shortest stretch that can be shown, s. */
const LEAST = 0.02;

/** A stretch kept inside the log. */
function held(view: View, seconds: number): View | null {
  const span = Math.max(LEAST, view.to - view.from);
  if (span >= seconds) return null;
  const from = Math.min(Math.max(0, view.from), seconds - span);
  return { from, to: from + span };
}

/** The charts of a log, linked: one stretch of time for all, zoomed and moved together, boundaries that can be dragged. */
export function LogCurves({ d, charts }: { d: RunDossier; charts: readonly Pick<LogPlotProps, "spec" | "claims">[] }) {
  const seconds = d.log?.seconds ?? 0;
  const rows = d.log?.rows ?? 0;
  const [view, setView] = useState<View | null>(null);
  const [near, setNear] = useState<{ readonly view: View; readonly bySeries: Readonly<Record<string, LogPlotProps["curves"]>> } | null>(null);
  const [moving, setMoving] = useState<{ readonly id: string; readonly label: string; readonly at: number } | null>(null);
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
      const curves = await readingLogs().ask("log-curves", { runId: d.run.id, rows, roles: key.split(",") as typeof roles, ...view });
      const bySeries = Object.fromEntries(specs.current.map((spec) => [spec.id, Object.fromEntries(spec.series.map((x) => [x.id, x.role ? curves[x.role] : undefined]))]));
      if (number === asked.current) setNear({ view, bySeries });
    });
  }, [view, d.run.id, rows, key]);
  const go = useCallback((next: View | null) => setView(next && held(next, seconds)), [seconds]);
  const now = view ?? { from: 0, to: seconds };
  const zoom = (factor: number) => {
    const half = ((now.to - now.from) * factor) / 2;
    const middle = (now.from + now.to) / 2;
    go({ from: middle - half, to: middle + half });
  };
  const pan = (share: number) => go({ from: now.from + share * (now.to - now.from), to: now.to + share * (now.to - now.from) });
  useKeys({ "+": () => zoom(0.5), "=": () => zoom(0.5), "-": () => zoom(2), "0": () => go(null), ArrowLeft: () => pan(-0.25), ArrowRight: () => pan(0.25) }, moving === null);
  // What is drawn is the stretch whose curves are there; the one before stays until then.
  const shown = view ? near : null;
  const drawnView = useMemo(() => shown?.view ?? { from: 0, to: seconds }, [shown, seconds]);
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-center gap-2 text-sm" role="group" aria-label="Stretch of time shown">
        <Button keyName="+" onClick={() => zoom(0.5)}>Closer</Button>
        <Button keyName="-" onClick={() => zoom(2)} disabled={!view}>Farther</Button>
        <Button keyName="←" onClick={() => pan(-0.25)} disabled={!view}>Earlier</Button>
        <Button keyName="→" onClick={() => pan(0.25)} disabled={!view}>Later</Button>
        <Button keyName="0" onClick={() => go(null)} disabled={!view}>All of it</Button>
        <span className="text-pencil" role="status">
          {view ? `${formatDuration(now.to - now.from)} from ${formatDuration(now.from)}` : "Drag across a chart to look closer; drag a boundary's grip to move it."}
        </span>
      </div>
      <div className="space-y-6">
        {charts.map((c) => (
          <LogPlot
            key={c.spec.id}
            spec={c.spec}
            claims={c.claims}
            view={drawnView}
            curves={shown?.bySeries[c.spec.id]}
            overlay={<LogOverlay spec={c.spec} view={drawnView} step={seconds / Math.max(1, rows - 1)} onView={go} onMove={setMoving} />}
          />
        ))}
      </div>
      {moving ? <MoveDialog d={d} {...moving} onClose={() => setMoving(null)} /> : null}
    </>
  );
}

/** A boundary is moved with a reason, or put back where it was found. */
function MoveDialog({ d, id, label, at, onClose }: { d: RunDossier; id: string; label: string; at: number; onClose(): void }) {
  const there = d.corrections.boundaries.get(id);
  const [why, setWhy] = useState(there?.why ?? "");
  const [tried, setTried] = useState(false);
  const done = (act: Promise<void>) => void attempt(() => act).then((good) => good && onClose());
  return (
    <Dialog title={`Move “${label}” to ${formatDuration(at)}`} about="What is found from it follows; the readings and the boundary that was found stay." onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          setTried(true);
          if (why.trim()) done(moveBoundary(d, id, at, why.trim()));
        }}
      >
        <TextField label="Why is it there?" text={why} onText={setWhy} wide autoFocus error={tried && !why.trim() ? "A reason is needed." : null} />
        <div className="flex flex-wrap gap-3">
          <Button look="main" type="submit">
            Move it
          </Button>
          {there ? <Button onClick={() => done(forgetBoundary(d, id))}>Put it back where it was found</Button> : null}
        </div>
      </form>
    </Dialog>
  );
}
