"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { Link } from "@/ui/link";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { BOARD_FUNCTIONS, FUNCTION_LABELS, type BoardFunction } from "@/core/characteristics/functions";
import { matrixRows, type MatrixCell, type MatrixRow } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { useSession } from "@/session/context";
import { Quiet } from "@/ui/section";
import { VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import { workersIfLikely } from "@/workers/likely";
import { useColumns, type Columns } from "./use-columns";

workersIfLikely("comparison", "not kept");

const ROW = 64;
const COLUMN = 168;
const HEAD = 56;
const NAMES = 190;
/** Boards beyond those in sight whose cells are fetched too. */
const AHEAD = 12;

/** Boards beside each other: a row a quantity, a column a board, what was claimed, measured and judged in each cell. */
export function ComparePage() {
  const { notebook } = useSession();
  const found = useColumns(notebook.id);
  useEffect(() => {
    document.title = "Boards compared · Nimbus Bench";
  }, []);
  if (found === null) return <Quiet>Laying the boards side by side …</Quiet>;
  if (!("boards" in found)) return <Quiet>The boards can&apos;t be compared: {found.failed}</Quiet>;
  return <Matrix {...found} />;
}

function Matrix({ boards: all, columns, cells, failed, see }: Columns) {
  const [family, setFamily] = useState<BoardFunction | "">("");
  const [measured, setMeasured] = useState(false);
  const shown = useMemo(() => all.filter((b) => !family || b.functions.includes(family)), [all, family]);
  const known = useMemo(() => shown.flatMap((b) => columns.get(b.id) ?? []), [shown, columns]);
  const rows = useMemo(() => matrixRows(known, family || null).filter((r) => !measured || r.measured), [known, family, measured]);
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- it is not memoized: both are asked anew at each scroll
  const down = useVirtualizer({ count: rows.length, getScrollElement: () => box.current, estimateSize: () => ROW, overscan: 4, paddingStart: HEAD });
  const across = useVirtualizer({ horizontal: true, count: shown.length, getScrollElement: () => box.current, estimateSize: () => COLUMN, overscan: 2, paddingStart: NAMES });
  const [rowsSeen, columnsSeen] = [down.getVirtualItems(), across.getVirtualItems()];
  // With a few more on either side: they are there before they are scrolled to.
  const [first, last] = [columnsSeen[0]?.index ?? 0, columnsSeen.at(-1)?.index ?? 0];
  const inSight = [...shown.slice(first, last + 1), ...shown.slice(last + 1, last + 1 + AHEAD), ...shown.slice(Math.max(0, first - AHEAD), first)].map((b) => b.id).join(" ");
  useEffect(() => see(inSight.split(" ")), [inSight, see]);
  const waiting = shown.length - known.length - shown.filter((b) => failed.has(b.id)).length;
  return (
    <div className="border border-rule bg-sheet">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-rule px-4 py-2">
        <h1 className="text-xl font-semibold">Boards compared</h1>
        <label className="text-sm text-pencil">
          Only what{" "}
          <select value={family} onChange={(e) => setFamily(e.target.value as BoardFunction | "")} className="border border-pencil/60 bg-field px-2 py-1 text-base text-ink">
            <option value="">any of them does</option>
            {BOARD_FUNCTIONS.map((f) => (
              <option key={f} value={f}>
                {FUNCTION_LABELS[f]}
              </option>
            ))}
          </select>
        </label>
        <label className="inline-flex items-center gap-2 text-sm">
          <input type="checkbox" checked={measured} onChange={(e) => setMeasured(e.target.checked)} className="size-4 accent-(--copper)" />
          only what was measured
        </label>
        <Link href="/curves" className="text-sm underline underline-offset-4">
          Curves laid over
        </Link>
        <span className="ml-auto text-sm text-pencil" role="status">
          {shown.length} {shown.length === 1 ? "board" : "boards"}, {rows.length} quantities{waiting > 0 ? `, ${waiting} boards still being worked out` : ""}. ▲ best, ▼ worst of those measured; of several values the worst is shown.
        </span>
      </div>
      {shown.length === 0 || (rows.length === 0 && waiting === 0) ? (
        <p className="p-6 text-pencil">Nothing to compare yet: write boards down, claim and measure something of them.</p>
      ) : (
        <div ref={box} role="table" aria-label="Boards compared" aria-rowcount={rows.length + 1} aria-colcount={shown.length + 1} tabIndex={0} className="relative h-[calc(100vh-8.5rem)] min-h-96 overflow-auto">
          <div style={{ height: down.getTotalSize(), width: across.getTotalSize() }} className="relative">
            <div role="row" aria-rowindex={1} className="sticky top-0 z-20 bg-sheet" style={{ height: HEAD }}>
              <div role="columnheader" aria-colindex={1} className="sticky left-0 z-10 flex items-end border-b border-r border-rule bg-sheet px-4 pb-1 text-sm text-pencil" style={{ width: NAMES, height: HEAD }}>
                Quantity
              </div>
              {columnsSeen.map((c) => {
                const b = shown[c.index] as BoardRecord;
                return (
                  <div key={b.id} role="columnheader" aria-colindex={c.index + 2} className="absolute top-0 flex items-end border-b border-rule px-3 pb-1" style={{ left: c.start, width: c.size, height: HEAD }}>
                    <Link href={`/board/${b.id}`} className="truncate font-semibold hover:underline">
                      {b.title}
                    </Link>
                  </div>
                );
              })}
            </div>
            {rowsSeen.map((r) => {
              const row = rows[r.index] as MatrixRow;
              return (
                <div key={row.name} role="row" aria-rowindex={r.index + 2} className="absolute left-0 w-full" style={{ top: r.start, height: r.size }}>
                  <div role="rowheader" aria-colindex={1} className="sticky left-0 z-10 flex h-full flex-col justify-center border-b border-r border-rule bg-sheet px-4 text-sm leading-tight" style={{ width: NAMES }}>
                    {row.label}
                    <span className="text-xs text-pencil">{row.way === "more" ? "more is better" : row.way === "less" ? "less is better" : ""}</span>
                  </div>
                  {columnsSeen.map((c) => {
                    const { id } = shown[c.index] as BoardRecord;
                    const own = cells.get(id);
                    return (
                      <div key={id} role="cell" aria-colindex={c.index + 2} className={clsx("absolute top-0 h-full overflow-hidden border-b border-rule px-3 py-1 text-sm leading-snug", row.best.has(id) && "bg-meets/10")} style={{ left: c.start, width: c.size }}>
                        {own ? <Cell cell={own[row.name]} boardId={id} mark={row.best.has(id) ? "best" : row.worst.has(id) ? "worst" : null} /> : <span className="text-pencil">{failed.get(id) ?? "…"}</span>}
                      </div>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      )}
    </div>
  );
}

const Cell = memo(function Cell({ cell, boardId, mark }: { readonly cell: MatrixCell | undefined; readonly boardId: string; readonly mark: "best" | "worst" | null }) {
  if (!cell) return <span role="img" className="hatch block h-full" aria-label="neither claimed nor measured" />;
  const title = [cell.spread, cell.samples > 1 ? `${cell.samples} samples` : "", cell.count > 1 ? `the worst of ${cell.count} values` : ""].filter(Boolean).join(", ");
  const spread = cell.spread && cell.samples > 1 ? `${cell.samples} samples, ${cell.spread}` : null;
  return (
    <>
      {cell.value === null ? (
        <span className="text-pencil">not measured</span>
      ) : (
        <Link href={`/run/${cell.runId}/review`} className="figures hover:underline" title={title || undefined}>
          {cell.text}
          {cell.simulated ? <span className="font-sans text-xs text-pencil"> simulated</span> : null}
          {mark ? <span role="img" aria-label={mark}>{mark === "best" ? " ▲" : " ▼"}</span> : null}
        </Link>
      )}
      {spread ? <span className="block truncate text-xs text-pencil">{spread}</span> : null}
      {cell.claims.slice(0, spread ? 1 : 2).map((c, k) => (
        <Link key={k} href={`/board/${boardId}/claim/${c.id}`} className={`flex items-center gap-1 truncate text-xs hover:underline ${VERDICT_TONE[c.word]}`} aria-label={[`${c.text}: ${c.word}`, c.simulated ? "simulated" : "", c.disagree ? "two runs disagree" : "", c.assumed ? "accuracy assumed" : ""].filter(Boolean).join(", ")}>
          <VerdictShape word={c.word} />
          <span className="truncate">{c.text}</span>
          {c.disagree ? <span className="shrink-0 font-semibold text-close">disagree</span> : null}
          {c.simulated ? <span className="shrink-0 text-pencil">simulated</span> : null}
          {c.assumed ? <span className="shrink-0 text-pencil">assumed</span> : null}
        </Link>
      ))}
    </>
  );
});
