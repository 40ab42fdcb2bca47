"use client";

import { useRef, useState } from "react";
import type { ChartSpec } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";

export interface View {
  /** s from the first row. */
  readonly from: number;
  readonly to: number;
}

export interface LogOverlayProps {
  readonly spec: ChartSpec;
  readonly view: View;
  /** Distance of two rows, s: what one press of an arrow key moves a boundary by. */
  readonly step: number;
  onView(view: View): void;
  /** Null where boundaries can't be moved; they are not drawn as grips then. */
  readonly onMove: ((boundary: { id: string; label: string; at: number }) => void) | null;
}

/** What lies over a log's chart: a stretch is chosen by dragging across, boundaries stand in it. */
export function LogOverlay({ spec, view, step, onView, onMove }: LogOverlayProps) {
  const area = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ readonly a: number; readonly b: number } | null>(null);
  const [held, setHeld] = useState<{ readonly id: string; readonly at: number } | null>(null);
  const span = view.to - view.from;
  const timeAt = (clientX: number): number => {
    const box = area.current?.getBoundingClientRect();
    return box ? view.from + span * Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : view.from;
  };
  const left = (t: number): string => `${(100 * (t - view.from)) / span}%`;
  const inside = (t: number): boolean => t >= view.from && t <= view.to;
  return (
    <div
      ref={area}
      className="absolute inset-0 touch-pan-y"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ a: timeAt(e.clientX), b: timeAt(e.clientX) });
      }}
      onPointerMove={(e) => setDrag((d) => (d ? { ...d, b: timeAt(e.clientX) } : d))}
      onPointerUp={() => {
        if (drag && Math.abs(drag.b - drag.a) > span / 100)
          onView({ from: Math.min(drag.a, drag.b), to: Math.max(drag.a, drag.b) });
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
    >
      {drag ? (
        <div
          className="absolute inset-y-0 border-x border-copper bg-copper/15"
          style={{ left: left(Math.min(drag.a, drag.b)), width: `${(100 * Math.abs(drag.b - drag.a)) / span}%` }}
        />
      ) : null}
      {(onMove ? (spec.handles ?? []) : []).map((h) => {
        const at = held?.id === h.id ? held.at : h.at;
        if (!inside(at)) return null;
        const finish = () => {
          if (held?.id === h.id && held.at !== h.at) onMove?.({ id: h.id, label: h.label, at: held.at });
          setHeld(null);
        };
        return (
          <div
            key={h.id}
            role="slider"
            tabIndex={0}
            aria-label={`Boundary: ${h.label}`}
            aria-valuemin={view.from}
            aria-valuemax={view.to}
            aria-valuenow={at}
            aria-valuetext={`${formatDuration(at)}${h.moved ? `, moved: ${h.moved}` : ""}`}
            title={`${h.label} at ${formatDuration(at)}${h.moved ? ` (moved: ${h.moved})` : ""}`}
            className="group absolute inset-y-0 w-3 -translate-x-1/2 cursor-ew-resize touch-none"
            style={{ left: left(at) }}
            onPointerDown={(e) => {
              e.stopPropagation();
              e.currentTarget.setPointerCapture(e.pointerId);
              setHeld({ id: h.id, at });
            }}
            onPointerMove={(e) => {
              if (held?.id === h.id) setHeld({ id: h.id, at: timeAt(e.clientX) });
            }}
            onPointerUp={finish}
            onPointerCancel={() => setHeld(null)}
            onBlur={() => setHeld(null)}
            onKeyDown={(e) => {
              const by = (e.shiftKey ? 10 : 1) * Math.max(step, span / 2000);
              if (e.key === "ArrowLeft" || e.key === "ArrowRight") {
                e.preventDefault();
                setHeld({
                  id: h.id,
                  at: Math.min(view.to, Math.max(view.from, at + (e.key === "ArrowLeft" ? -by : by))),
                });
              } else if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onMove?.({ id: h.id, label: h.label, at });
                setHeld(null);
              } else if (e.key === "Escape") setHeld(null);
            }}
          >
            <span
              className={`absolute inset-y-0 left-1/2 border-l ${h.moved ? "border-copper border-dashed" : "border-pencil"} group-hover:border-ink group-focus:border-ink`}
            />
            <span
              className={`absolute left-1/2 top-0 size-2.5 -translate-x-1/2 rotate-45 border bg-sheet ${h.moved ? "border-copper" : "border-pencil"} group-hover:border-ink`}
            />
          </div>
        );
      })}
    </div>
  );
}
