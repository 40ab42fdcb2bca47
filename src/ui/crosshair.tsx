"use client";

import type { RefObject } from "react";
import { useEffect, useEffectEvent } from "react";
import { ELEMENTS, formatDuration, formatQuantity, type Unit } from "@/core/quantities";
import { nearest, useCursor } from "./cursor";
import { TONES } from "./plot-marks";

const { nth } = ELEMENTS;

/** One line of a chart as a crosshair reads it: rising x, real readings. */
export interface CrossSeries {
  readonly id: string;
  readonly label: string;
  readonly tone: number;
  readonly x: ArrayLike<number>;
  readonly y: ArrayLike<number>;
}

export interface CrosshairProps {
  readonly title: string;
  /** px: where the plot lies in its holder. */
  readonly area: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
  readonly across: { readonly low: number; readonly high: number; readonly unit: Unit; readonly label: string };
  readonly up: { readonly low: number; readonly high: number; readonly unit: Unit };
  readonly series: readonly CrossSeries[];
  /** What the pointer moves over. */
  readonly holder: RefObject<HTMLElement | null>;
}

/** Shares of the axis that an arrow key moves, alone and with Shift. */
const STEP = { fine: 0.005, coarse: 0.05 };
const LINE = 15;

/** The values under the pointer: a line across, a ring on each curve at the reading nearest to it, and the numbers in a box. By keyboard the plot itself takes the arrow keys. */
export function Crosshair({ title, area, across, up, series, holder }: CrosshairProps) {
  const [at, look] = useCursor(`${across.label} ${across.unit}`);
  const toValue = (clientX: number, box: DOMRect): number | null => {
    const share = (clientX - box.left - area.left) / area.width;
    return share < -0.01 || share > 1.01
      ? null
      : across.low + Math.min(1, Math.max(0, share)) * (across.high - across.low);
  };
  const moved = useEffectEvent((e: PointerEvent) => {
    const el = holder.current;
    if (el && e.pointerType !== "touch") look(toValue(e.clientX, el.getBoundingClientRect()));
  });
  const tapped = useEffectEvent((e: PointerEvent) => {
    const el = holder.current;
    if (el) look(toValue(e.clientX, el.getBoundingClientRect()));
  });
  const left = useEffectEvent(() => look(null));
  useEffect(() => {
    const el = holder.current;
    if (!el) return;
    const [move, tap, leave] = [(e: PointerEvent) => moved(e), (e: PointerEvent) => tapped(e), () => left()];
    el.addEventListener("pointermove", move);
    el.addEventListener("pointerdown", tap);
    el.addEventListener("pointerleave", leave);
    return () => {
      el.removeEventListener("pointermove", move);
      el.removeEventListener("pointerdown", tap);
      el.removeEventListener("pointerleave", leave);
      left();
    };
  }, [holder]);
  const write = (v: number) =>
    across.unit === "s" ? formatDuration(v) : formatQuantity(v, across.unit, { digits: 4 });
  const seen =
    at === null || at < across.low || at > across.high
      ? []
      : series.flatMap((s) => {
          const k = nearest(s.x, at);
          const [x, y] = [nth(s.x, k), nth(s.y, k)];
          // Far from any reading, or between two that are apart, nothing was read.
          return k >= 0 && Number.isFinite(y) && Math.abs(x - at) <= 0.06 * (across.high - across.low)
            ? [{ s, x, y }]
            : [];
        });
  const words = [
    write(at ?? across.low),
    ...seen.map(({ s, y }) => `${s.label} ${formatQuantity(y, up.unit, { digits: 4 })}`),
  ];
  const step = (by: number) => {
    const width = across.high - across.low;
    look(Math.min(across.high, Math.max(across.low, (at ?? across.low + width / 2) + by * width)));
  };
  return (
    <>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Values of ${title.toLowerCase()}`}
        aria-valuemin={across.low}
        aria-valuemax={across.high}
        aria-valuenow={at ?? across.low}
        aria-valuetext={words.join(", ")}
        className="pointer-events-none absolute"
        style={{ left: area.left, top: area.top, width: area.width, height: area.height }}
        onBlur={() => look(null)}
        onKeyDown={(e) => {
          const by = e.shiftKey ? STEP.coarse : STEP.fine;
          if (e.key !== "ArrowLeft" && e.key !== "ArrowRight" && e.key !== "Escape") return;
          e.preventDefault();
          if (e.key === "Escape") look(null);
          else step(e.key === "ArrowLeft" ? -by : by);
        }}
      />
      {at !== null && seen.length ? (
        <Drawn area={area} across={across} up={up} at={at} seen={seen} words={words} />
      ) : null}
    </>
  );
}

interface DrawnProps extends Pick<CrosshairProps, "area" | "across" | "up"> {
  readonly at: number;
  readonly seen: readonly { readonly s: CrossSeries; readonly x: number; readonly y: number }[];
  readonly words: readonly string[];
}

function Drawn({ area, across, up, at, seen, words }: DrawnProps) {
  const x = (v: number) => area.left + (area.width * (v - across.low)) / (across.high - across.low);
  const y = (v: number) => area.top + area.height * (1 - (v - up.low) / (up.high - up.low));
  const inside = (v: number) => v >= up.low && v <= up.high;
  const onRight = x(at) < area.left + area.width / 2;
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden data-crosshair={at}>
        <line x1={x(at)} x2={x(at)} y1={area.top} y2={area.top + area.height} stroke="var(--ink)" strokeWidth="1" />
        {seen.map(({ s, x: sx, y: sy }) =>
          inside(sy) ? (
            <circle
              key={s.id}
              cx={x(sx)}
              cy={y(sy)}
              r="4.5"
              fill="var(--sheet)"
              stroke={TONES[s.tone % 4]}
              strokeWidth="2"
            />
          ) : null,
        )}
      </svg>
      <div
        className="figures pointer-events-none absolute border border-pencil/60 bg-sheet/95 px-1.5 py-0.5 text-xs"
        style={{
          top: area.top + 4,
          ...(onRight ? { left: x(at) + 10 } : { right: `calc(100% - ${x(at) - 10}px)` }),
          minHeight: LINE * words.length,
        }}
      >
        {words.map((w, k) => (
          <div
            key={w + k}
            className={k ? "" : "text-pencil"}
            style={k ? { color: TONES[(seen[k - 1]?.s.tone ?? 0) % 4] } : {}}
          >
            {w}
          </div>
        ))}
      </div>
    </>
  );
}
