"use client";

import { memo, useMemo, useState } from "react";
import {
  claimRows,
  goodSide,
  stripScale,
  type BoardMark,
  type ClaimAxis,
  type ClaimRow,
  type PackedColumn,
} from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { formatQuantity } from "@/core/quantities";
import { useWidth } from "@/ui/use-width";
import { Ruler, Strip, type StripItem } from "./strip";
import { MarkLegend } from "./strip-mark";
import { WordsRow } from "./words-row";

export interface ViewProps {
  readonly boards: readonly BoardRecord[];
  readonly columns: ReadonlyMap<string, PackedColumn>;
  /** Which quantities are shown. */
  keep(characteristic: string): boolean;
  /** The board that stands out. */
  readonly picked: string | null;
}

/** The scales that claims are put on, in their order, with what is always in sight of each and how its ticks are written. */
const AXES: readonly {
  readonly axis: ClaimAxis;
  readonly title: string;
  readonly fixed: readonly number[];
  readonly line?: number;
  write(v: number): string;
}[] = [
  {
    axis: "share",
    title: "Limits: measured ÷ claimed",
    fixed: [0.5, 1.5],
    line: 1,
    write: (v) => `${Math.round(100 * v)}\u00a0%`,
  },
  {
    axis: "tolerance",
    title: "Tolerances: deviation ÷ tolerance",
    fixed: [-1.5, 1.5],
    line: 0,
    write: (v) => `${v > 0 ? "+" : v < 0 ? "−" : ""}${Math.abs(v)}`,
  },
  {
    axis: "span",
    title: "Ranges: place between the ends",
    fixed: [-0.25, 1.25],
    write: (v) => `${Math.round(100 * v)}\u00a0%`,
  },
  {
    axis: "kelvin",
    title: "Temperatures: distance from the limit",
    fixed: [-20, 20],
    line: 0,
    write: (v) => formatQuantity(v, "K"),
  },
];

/** What boards claim against what was measured: a row a claim, a mark a board, on one axis for all claims of a kind. */
export function ClaimsView({
  boards,
  columns,
  keep,
  picked,
  measuredOnly,
}: ViewProps & { readonly measuredOnly: boolean }) {
  const byAxis = useMemo(() => {
    const shown = boards.map((b) => ({
      boardId: b.id as string,
      marks: (columns.get(b.id)?.marks ?? []).filter((m) => !measuredOnly || m.word !== "not measured"),
    }));
    const out = new Map<ClaimAxis, ClaimRow[]>();
    for (const r of claimRows(shown, keep)) out.set(r.axis, [...(out.get(r.axis) ?? []), r]);
    return out;
  }, [boards, columns, keep, measuredOnly]);
  const names = useMemo(() => new Map(boards.map((b) => [b.id as string, b.title])), [boards]);
  const [ref, width] = useWidth(760);
  const [look, setLook] = useState("");
  if (byAxis.size === 0) return <p className="p-6 text-pencil">No claims to compare.</p>;
  const words = byAxis.get("word") ?? NO_ROWS;
  return (
    <div>
      <div className="grid grid-cols-[minmax(0,1fr)] min-[700px]:grid-cols-[12rem_minmax(0,1fr)_6.5rem]">
        <div ref={ref} className="h-0 min-[700px]:col-start-2" />
      </div>
      {AXES.map((a) => (
        <AxisSection
          key={a.axis}
          {...a}
          rows={byAxis.get(a.axis) ?? NO_ROWS}
          names={names}
          picked={picked}
          width={width}
          onLook={setLook}
        />
      ))}
      {words.length ? (
        <section aria-label="Yes, no and words">
          <h2 className="border-b border-rule px-4 pt-3 font-semibold">Yes, no and words</h2>
          {words.map((r) => (
            <WordsRow key={r.key} row={r} names={names} picked={picked} />
          ))}
        </section>
      ) : null}
      <div className="sticky bottom-0 flex min-h-9 flex-wrap items-center gap-x-6 border-t border-rule bg-sheet px-4 py-1">
        <span className="text-sm" data-testid="look">
          {look || "Point at a mark for its values; select it for the verdict."}
        </span>
        <span className="ml-auto">
          <MarkLegend />
        </span>
      </div>
    </div>
  );
}

interface AxisProps {
  readonly title: string;
  readonly fixed: readonly number[];
  readonly line?: number;
  write(v: number): string;
  readonly rows: readonly ClaimRow[];
  readonly names: ReadonlyMap<string, string>;
  readonly picked: string | null;
  readonly width: number;
  onLook(text: string): void;
}

const NO_ROWS: readonly ClaimRow[] = [];

/** The claims on one scale; not drawn anew for what the pointer looks at. */
const AxisSection = memo(function AxisSection({
  title,
  fixed,
  line,
  write,
  rows,
  names,
  picked,
  width,
  onLook,
}: AxisProps) {
  const scale = useMemo(
    () =>
      stripScale(
        rows.flatMap((r) => r.marks.map((m) => m.at)),
        fixed,
        0.75,
      ),
    [rows, fixed],
  );
  if (rows.length === 0) return null;
  return (
    <section aria-label={title}>
      <div className="grid grid-cols-[minmax(0,1fr)] items-end border-b border-rule pt-3 min-[700px]:grid-cols-[12rem_minmax(0,1fr)_6.5rem]">
        <h2 className="px-4 font-semibold leading-tight">
          {title.split(":")[0]}
          <span className="block text-xs font-normal text-pencil">{title.split(": ")[1]}</span>
        </h2>
        <Ruler scale={scale} width={width} write={write} />
        <span className="hidden px-2 text-right text-xs text-pencil min-[700px]:block">met of tested</span>
      </div>
      {rows.map((r) => (
        <div
          key={r.key}
          role="group"
          aria-label={`${r.label}, ${r.kindLabel}`}
          className="grid grid-cols-[minmax(0,1fr)] items-center border-b border-rule py-0.5 [content-visibility:auto] min-[700px]:grid-cols-[12rem_minmax(0,1fr)_6.5rem]"
        >
          <div className="px-4 text-sm leading-tight">
            {r.label}
            <span className="block text-xs text-pencil">{r.kindLabel}</span>
          </div>
          <Strip
            scale={scale}
            width={width}
            items={r.marks.flatMap((m) => itemOf(m, r, names))}
            good={goodSide(r.axis, r.kind)}
            {...(line === undefined ? {} : { line })}
            picked={picked}
            onLook={onLook}
          />
          <Tally marks={r.marks} />
        </div>
      ))}
    </section>
  );
});

/** How many of those that were tested meet, and how many nothing was measured of. */
export function Tally({ marks }: { readonly marks: readonly BoardMark[] }) {
  const tested = marks.filter((m) => m.word !== "not measured");
  const open = marks.length - tested.length;
  return (
    <span className="px-4 text-sm leading-tight min-[700px]:px-2 min-[700px]:text-right">
      <span className="figures">{`${tested.filter((m) => m.word === "meets").length} of ${tested.length}`}</span>
      {open ? <span className="block text-xs text-pencil">{open} not measured</span> : null}
    </span>
  );
}

function itemOf(m: BoardMark, r: ClaimRow, names: ReadonlyMap<string, string>): StripItem[] {
  if (!Number.isFinite(m.at)) return [];
  const name = names.get(m.boardId) ?? "";
  const remarks = [
    m.word,
    m.simulated ? "simulated" : "",
    m.disagree ? "two runs disagree" : "",
    m.assumed ? "accuracy assumed" : "",
  ]
    .filter(Boolean)
    .join(", ");
  return [
    {
      boardId: m.boardId,
      name,
      at: m.at,
      low: Number.isNaN(m.low) ? m.at : m.low,
      high: Number.isNaN(m.high) ? m.at : m.high,
      word: m.word,
      href: `/board/${m.boardId}/claim/${m.claimId}`,
      text: `${name}: ${r.label.toLowerCase()} ${m.value}, claimed ${m.claim}: ${remarks}`,
    },
  ];
}
