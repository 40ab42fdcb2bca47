import { highest, lowest } from "@/core/quantities";
import clsx from "clsx";
import type { Unit } from "@/core/quantities";
import { writtenFor, type VerdictWord } from "@/core/verdicts";
import { VERDICT_TONE } from "./verdict-mark";

export interface IntervalFigureProps {
  readonly word: VerdictWord;
  readonly unit: Unit;
  readonly interval: { readonly low: number; readonly high: number };
  readonly limits: { readonly low: number; readonly high: number };
  readonly value: number;
  /** What the drawing reaches over at least, so that several are compared. */
  readonly span?: Span;
}

export interface Span {
  readonly low: number;
  readonly high: number;
}

/** The span of values, of which some may be open. */
export function commonSpan(values: readonly number[]): Span {
  const finite = values.filter(Number.isFinite);
  return { low: lowest(finite), high: highest(finite) };
}

const WIDTH = 420;
const HEIGHT = 64;

/** The measured interval drawn against the limit, to scale; open ends run off the drawing. */
export function IntervalFigure({ word, unit, interval, limits, value, span }: IntervalFigureProps) {
  const { low: min, high: max } = commonSpan([
    interval.low,
    interval.high,
    limits.low,
    limits.high,
    value,
    ...(span ? [span.low, span.high] : []),
  ]);
  const pad = (max - min || Math.abs(max) || 1) * 0.25;
  const x = (v: number) =>
    v === Infinity ? WIDTH : v === -Infinity ? 0 : 8 + ((v - min + pad) / (max - min + 2 * pad)) * (WIDTH - 16);
  const q = writtenFor(interval, unit);
  const text = `Measured ${Number.isFinite(interval.low) ? q(interval.low) : "open"} to ${Number.isFinite(interval.high) ? q(interval.high) : "open"}, limit ${Number.isFinite(limits.low) ? q(limits.low) : "open"} to ${Number.isFinite(limits.high) ? q(limits.high) : "open"}`;
  const anchor = (v: number) => (x(v) < 50 ? "start" : x(v) > WIDTH - 50 ? "end" : "middle");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={text}
      className={clsx("figures h-16 w-full max-w-105", VERDICT_TONE[word])}
    >
      <rect
        x={x(limits.low)}
        y="14"
        width={Math.max(1, x(limits.high) - x(limits.low))}
        height="26"
        fill="currentColor"
        opacity="0.13"
      />
      <line x1="0" x2={WIDTH} y1="27" y2="27" stroke="var(--rule)" />
      {[limits.low, limits.high].filter(Number.isFinite).map((v) => (
        <g key={v}>
          <line x1={x(v)} x2={x(v)} y1="10" y2="44" stroke="currentColor" strokeWidth="1.5" />
          <text x={x(v)} y="8" fontSize="10" fill="var(--ink)" textAnchor={anchor(v)}>
            {q(v)}
          </text>
        </g>
      ))}
      <line
        x1={x(interval.low)}
        x2={Math.max(x(interval.high), x(interval.low) + 2)}
        y1="27"
        y2="27"
        stroke="currentColor"
        strokeWidth="7"
      />
      <line x1={x(value)} x2={x(value)} y1="19" y2="35" stroke="var(--ink)" strokeWidth="1.5" />
      <text x={x(value)} y="58" fontSize="11" fill="var(--ink)" textAnchor={anchor(value)}>
        {q(value)}
      </text>
    </svg>
  );
}
