"use client";

import { highest } from "@/core/quantities";
import { density, lanes, onStrip, type StripScale } from "@/core/compare";
import type { VerdictWord } from "@/core/verdicts";
import { Link } from "@/ui/link";
import { StripMark } from "./strip-mark";

/** One board on a strip. */
export interface StripItem {
  readonly boardId: string;
  readonly name: string;
  readonly at: number;
  readonly low: number;
  readonly high: number;
  readonly word: VerdictWord | null;
  /** Claimed values, drawn as ticks at its height. */
  readonly ticks?: readonly number[];
  readonly href: string;
  /** All of it in words. */
  readonly text: string;
}

export interface StripProps {
  readonly scale: StripScale;
  readonly width: number;
  readonly items: readonly StripItem[];
  /** The stretch that meets the claim, shaded. */
  readonly good?: { readonly from: number; readonly to: number };
  /** A line across, at 100 % say. */
  readonly line?: number;
  /** Drawn and named whatever else is drawn. */
  readonly picked: string | null;
  onLook(text: string): void;
}

/** Boards drawn one by one; of more the strip shows how densely they lie. */
export const SINGLY = 60;
/** Boards with their names beside them. */
const NAMED = 12;
const LANE = 17;
const CHARACTER = 6.7;

/** Boards on one axis: interval, mark and name, in lanes where they would cover each other; many of them as a band of densities. */
export function Strip({ scale, width, items, good, line, picked, onLook }: StripProps) {
  const many = items.length > SINGLY;
  const shown = many ? items.filter((i) => i.boardId === picked) : items;
  const named = (i: StripItem) => items.length <= NAMED || i.boardId === picked;
  const x = (v: number) => 4 + onStrip(scale, v).at * (width - 8);
  const boxes = shown.map((i) => {
    const label = named(i) ? i.name.length * CHARACTER + 12 : 4;
    const [first, last] = [Math.min(x(i.at) - 6, x(i.low)), Math.max(x(i.at) + 6, x(i.high))];
    // A name that would run out at the right stands left of its interval.
    const left = named(i) && last + label > width && first - label > 0;
    return { left, first, last, from: left ? first - label : first, width: last - first + label };
  });
  const lane = lanes(boxes);
  const top = many ? 22 : 0;
  const height = top + LANE * (1 + highest([0, ...lane])) + 3;
  const ends = good ? [x(Math.max(good.from, scale.low)), x(Math.min(good.to, scale.high))] : [0, 0];
  return (
    <svg width={width} height={height} className="block overflow-visible" role="group">
      {good ? (
        <rect
          x={ends[0]}
          y={0}
          width={Math.max(0, (ends[1] ?? 0) - (ends[0] ?? 0))}
          height={height}
          fill="var(--meets)"
          opacity="0.08"
        />
      ) : null}
      {line !== undefined ? <line x1={x(line)} x2={x(line)} y1={0} y2={height} stroke="var(--margin-line)" /> : null}
      {many ? <Band scale={scale} width={width} items={items} /> : null}
      {shown.map((i, k) => {
        const y = top + LANE * (lane[k] ?? 0) + LANE / 2 + 1;
        const { beyond } = onStrip(scale, i.at);
        return (
          <Link
            key={i.boardId + i.href + i.text}
            href={i.href}
            aria-label={i.text}
            className="group"
            onMouseEnter={() => onLook(i.text)}
            onFocus={() => onLook(i.text)}
          >
            <rect
              x={boxes[k]?.from}
              y={y - LANE / 2}
              width={boxes[k]?.width}
              height={LANE}
              fill="transparent"
              className="group-focus-visible:stroke-(--copper) group-focus-visible:stroke-2"
            />
            <Interval
              low={x(i.low)}
              high={x(i.high)}
              open={[!Number.isFinite(i.low), !Number.isFinite(i.high)]}
              y={y}
            />
            {i.ticks
              ?.filter((t) => onStrip(scale, t).beyond === 0)
              .map((t) => (
                <line key={t} x1={x(t)} x2={x(t)} y1={y - 7} y2={y + 7} stroke="var(--margin-line)" strokeWidth="1.5" />
              ))}
            <StripMark word={i.word} x={x(i.at)} y={y} />
            {named(i) ? (
              <text
                x={boxes[k]?.left ? (boxes[k]?.first ?? 0) - 4 : (boxes[k]?.last ?? 0) + 4}
                y={y + 4}
                textAnchor={boxes[k]?.left ? "end" : "start"}
                fontSize="12"
                fill="currentColor"
                className={i.boardId === picked ? "font-semibold" : ""}
                paintOrder="stroke"
                stroke="var(--sheet)"
                strokeWidth="3"
              >
                {beyond === 1 ? `${i.name} →` : beyond === -1 ? `← ${i.name}` : i.name}
              </text>
            ) : null}
          </Link>
        );
      })}
    </svg>
  );
}

/** An interval, px, with a foot at each of its ends, or an arrow where it is open. */
const Interval = ({
  low,
  high,
  open,
  y,
}: {
  readonly low: number;
  readonly high: number;
  readonly open: readonly [boolean, boolean];
  readonly y: number;
}) => (
  <>
    <line x1={low} x2={high} y1={y} y2={y} stroke="currentColor" strokeWidth="1.6" className="text-ink/70" />
    {[low, high].map((e, n) =>
      !open[n] ? (
        <line
          key={n}
          x1={e}
          x2={e}
          y1={y - 3}
          y2={y + 3}
          stroke="currentColor"
          strokeWidth="1.6"
          className="text-ink/70"
        />
      ) : (
        <path
          key={n}
          d={`M${e - (n ? 6 : -6)} ${y - 3.5}L${e} ${y}L${e - (n ? 6 : -6)} ${y + 3.5}`}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.6"
          className="text-ink/70"
        />
      ),
    )}
  </>
);

const BIN = 10;
/** How many boards lie where, darker where more do; those that miss below the line. */
function Band({ scale, width, items }: Pick<StripProps, "scale" | "width" | "items">) {
  const bins = Math.max(10, Math.floor((width - 8) / BIN));
  const counts = [items.filter((i) => i.word !== "misses"), items.filter((i) => i.word === "misses")].map((own) =>
    density(
      scale,
      own.map((i) => i.at),
      bins,
    ),
  );
  const most = highest([1, ...counts.flatMap((c) => [...c])]);
  return (
    <g
      role="img"
      aria-label={`${items.length} boards, ${items.filter((i) => i.word === "misses").length} of them miss`}
    >
      {counts.map((c, row) =>
        [...c].map((n, k) =>
          n ? (
            <rect
              key={`${row} ${k}`}
              x={4 + k * ((width - 8) / bins)}
              y={row ? 11 : 1}
              width={(width - 8) / bins}
              height={9}
              fill={row ? "var(--misses)" : "var(--ink)"}
              opacity={0.15 + 0.85 * Math.sqrt(n / most)}
            />
          ) : null,
        ),
      )}
    </g>
  );
}

/** The ticks of a scale with their words, above the strips that share it. */
export function Ruler({
  scale,
  width,
  write,
}: {
  readonly scale: StripScale;
  readonly width: number;
  write(v: number): string;
}) {
  const x = (v: number) => 4 + onStrip(scale, v).at * (width - 8);
  return (
    <svg width={width} height={20} className="block overflow-visible text-pencil" aria-hidden>
      {scale.ticks.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={15} y2={20} stroke="currentColor" />
          <text x={x(t)} y={11} textAnchor="middle" fontSize="11" fill="currentColor" className="figures">
            {write(t)}
          </text>
        </g>
      ))}
    </svg>
  );
}
