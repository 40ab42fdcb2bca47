"use client";

import { useVirtualizer, type VirtualItem } from "@tanstack/react-virtual";
import clsx from "clsx";
import { memo, useEffect, useMemo, useRef } from "react";
import { characteristic } from "@/core/characteristics";
import { matrixRows, proceduresInSight, ROOM, toldBy, type MatrixCell, type MatrixRow } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { Link } from "@/ui/link";
import { VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import { useWidth } from "@/ui/use-width";
import type { ViewProps } from "./claims-view";
import type { Columns } from "./use-columns";

const ROW = 28;
const COLUMN = 150;
const HEAD = 30;
const NAMES = 200;
/** On a phone: the names, and two boards abreast. */
const NARROW = { below: 600, names: 118 };
/** Boards beyond those in sight whose cells are fetched too. */
const AHEAD = 12;

export interface FiguresProps extends ViewProps, Pick<Columns, "cells" | "parts" | "failed" | "opened" | "see"> {
  readonly measuredOnly: boolean;
}

/** Whether a board can have the quantity at all: one that has not the function never will. */
const applies = (b: BoardRecord, name: string): boolean => {
  const of = characteristic(name)?.of;
  return !of || of === "board" || b.functions.length === 0 || b.functions.includes(of);
};

/** The cells of a board as far as they say what there is of a quantity; undefined while that is being worked out. */
function known(boardId: string, name: string, { cells, parts }: Pick<FiguresProps, "cells" | "parts">) {
  const part = parts.get(boardId);
  return cells.get(boardId) ?? (part && toldBy(name, part.of) ? part.cells : undefined);
}

/** Every figure of every board, a row a quantity, a column a board: what was measured, how it was judged, and what is missing. */
export function FiguresView({
  boards: shown,
  columns,
  cells,
  parts,
  failed,
  opened,
  see,
  keep,
  measuredOnly,
  picked,
}: FiguresProps) {
  const loaded = useMemo(
    () => shown.flatMap((b) => columns.get(b.id) ?? parts.get(b.id)?.column ?? []),
    [shown, columns, parts],
  );
  const rows = useMemo(
    () => matrixRows(loaded).filter((r) => keep(r.name) && (!measuredOnly || r.measured)),
    [loaded, keep, measuredOnly],
  );
  const box = useRef<HTMLDivElement>(null);
  const [measure, wide] = useWidth(1168);
  const narrow = wide < NARROW.below;
  const names = narrow ? NARROW.names : NAMES;
  const column = narrow ? (wide - names) / 2 : COLUMN;
  // eslint-disable-next-line react-hooks/incompatible-library -- TanStack Virtual is asked anew at each scroll; nothing here is memoized on what it gives
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    // Until all in sight are there, nothing beyond is drawn.
    overscan: opened ? 8 : 0,
    paddingStart: HEAD,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: shown.length,
    getScrollElement: () => box.current,
    estimateSize: () => column,
    overscan: opened ? 2 : 0,
    paddingStart: names,
  });
  useEffect(() => across.measure(), [across, column]);
  const [rowsSeen, columnsSeen] = [down.getVirtualItems(), across.getVirtualItems()];
  const [first, last] = [columnsSeen[0]?.index ?? 0, columnsSeen.at(-1)?.index ?? 0];
  const boardsInSight = shown.slice(first, last + 1);
  const of = proceduresInSight(
    rows,
    {
      from: down.range?.startIndex ?? 0,
      room: down.scrollRect?.height ? Math.ceil((down.scrollRect.height - HEAD) / ROW) : ROOM,
    },
    (name) => keep(name) && boardsInSight.some((b) => applies(b, name)),
    (name) => boardsInSight.every((b) => known(b.id, name, { cells, parts })),
  );
  // With a few more on either side: they are there before they are scrolled to.
  const sight = JSON.stringify({
    boards: boardsInSight.map((b) => b.id),
    near: [...shown.slice(last + 1, last + 1 + AHEAD), ...shown.slice(Math.max(0, first - AHEAD), first)].map(
      (b) => b.id,
    ),
    of: [...of].sort(),
  });
  useEffect(() => {
    const s = JSON.parse(sight) as { readonly boards: string[]; readonly near: string[]; readonly of: string[] };
    see({ ...s, of: new Set(s.of) });
  }, [sight, see]);
  return (
    <div ref={measure}>
      <div
        ref={box}
        role="table"
        aria-label="Comparison"
        aria-rowcount={rows.length + 1}
        aria-colcount={shown.length + 1}
        tabIndex={0}
        className="relative h-[calc(100vh-10rem)] min-h-96 overflow-auto"
      >
        <div style={{ height: down.getTotalSize(), width: across.getTotalSize() }} className="relative">
          <Boards boards={shown} seen={columnsSeen} names={names} picked={picked} />
          {rowsSeen.map((r) => {
            const row = rows[r.index] as MatrixRow;
            return (
              <Row
                key={row.name}
                at={r}
                row={row}
                boards={shown}
                seen={columnsSeen}
                names={names}
                cells={cells}
                parts={parts}
                failed={failed}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}

interface InSight {
  readonly boards: readonly BoardRecord[];
  readonly seen: readonly VirtualItem[];
  /** px of the column of names. */
  readonly names: number;
}

/** The names of the boards in sight, over their columns. */
const Boards = ({ boards, seen, names, picked }: InSight & Pick<FiguresProps, "picked">) => (
  <div role="row" aria-rowindex={1} className="sticky top-0 z-20 bg-sheet" style={{ height: HEAD }}>
    <div
      role="columnheader"
      aria-colindex={1}
      className="sticky left-0 z-10 flex items-center border-b border-r border-rule bg-sheet px-4 text-sm text-pencil"
      style={{ width: names, height: HEAD }}
    >
      Quantity
    </div>
    {seen.map((c) => {
      const b = boards[c.index] as BoardRecord;
      return (
        <div
          key={b.id}
          role="columnheader"
          aria-colindex={c.index + 2}
          className="absolute top-0 flex items-center border-b border-rule px-2"
          style={{ left: c.start, width: c.size, height: HEAD }}
        >
          <Link
            href={`/board/${b.id}`}
            className={clsx("truncate font-semibold hover:underline", b.id === picked && "text-copper")}
          >
            {b.title}
          </Link>
        </div>
      );
    })}
  </div>
);

/** One quantity of the boards in sight. */
const Row = ({
  at,
  row,
  boards,
  seen,
  names,
  cells,
  parts,
  failed,
}: InSight &
  Pick<FiguresProps, "cells" | "parts" | "failed"> & { readonly at: VirtualItem; readonly row: MatrixRow }) => (
  <div
    role="row"
    aria-rowindex={at.index + 2}
    className="absolute left-0 w-full"
    style={{ top: at.start, height: at.size }}
  >
    <div
      role="rowheader"
      aria-colindex={1}
      className="sticky left-0 z-10 flex h-full items-center border-b border-r border-rule bg-sheet px-4 text-sm leading-none"
      style={{ width: names }}
      title={row.way === "more" ? "more is better" : row.way === "less" ? "less is better" : undefined}
    >
      <span className="truncate">{row.label}</span>
    </div>
    {seen.map((c) => {
      const b = boards[c.index] as BoardRecord;
      const own = known(b.id, row.name, { cells, parts });
      return (
        <div
          key={b.id}
          role="cell"
          aria-colindex={c.index + 2}
          className={clsx(
            "absolute top-0 flex h-full items-center gap-1 overflow-hidden border-b border-rule px-2 text-[13px]",
            row.best.has(b.id) && "bg-meets/10",
          )}
          style={{ left: c.start, width: c.size }}
        >
          {own ? (
            <Cell
              cell={own[row.name]}
              boardId={b.id}
              applies={applies(b, row.name)}
              mark={row.best.has(b.id) ? "best" : row.worst.has(b.id) ? "worst" : null}
            />
          ) : (
            <span className="text-pencil">{failed.get(b.id) ?? "…"}</span>
          )}
        </div>
      );
    })}
  </div>
);

const Cell = memo(function Cell({
  cell,
  boardId,
  applies,
  mark,
}: {
  readonly cell: MatrixCell | undefined;
  readonly boardId: string;
  readonly applies: boolean;
  readonly mark: "best" | "worst" | null;
}) {
  if (!cell)
    return applies ? (
      <span role="img" className="hatch block h-4 w-full" aria-label="not measured" />
    ) : (
      <span role="img" aria-label="does not apply" />
    );
  const title = [
    cell.samples > 1 ? `${cell.samples} samples` : "",
    cell.spread ?? "",
    cell.count > 1 ? `the worst of ${cell.count} values` : "",
    cell.simulated ? "simulated" : "",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <>
      {cell.claims.slice(0, 2).map((c, k) => (
        <Link
          key={k}
          href={`/board/${boardId}/claim/${c.id}`}
          className={`shrink-0 ${VERDICT_TONE[c.word]}`}
          aria-label={[
            `${c.text}: ${c.word}`,
            c.simulated ? "simulated" : "",
            c.disagree ? "two runs disagree" : "",
            c.assumed ? "accuracy assumed" : "",
          ]
            .filter(Boolean)
            .join(", ")}
          title={`claimed ${c.text}: ${c.word}`}
        >
          <VerdictShape word={c.word} className="h-3 w-7" />
        </Link>
      ))}
      {cell.value === null ? (
        <span className="text-pencil">not measured</span>
      ) : (
        <Link
          href={`/run/${cell.runId}/review`}
          className="figures ml-auto truncate hover:underline"
          title={title || undefined}
        >
          {cell.simulated ? <span className="font-sans text-xs text-pencil">simulated </span> : null}
          {cell.text}
          {mark ? (
            <span role="img" aria-label={mark}>
              {mark === "best" ? " ▲" : " ▼"}
            </span>
          ) : null}
        </Link>
      )}
    </>
  );
});
