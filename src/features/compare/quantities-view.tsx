"use client";

import { memo, useCallback, useMemo, useState } from "react";
import { CHARACTERISTICS, type Characteristic } from "@/core/characteristics";
import { stripScale, type PackedColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { procedureTitle } from "@/core/procedures/catalogue";
import { formatQuantity, highest, lowest } from "@/core/quantities";
import type { VerdictWord } from "@/core/verdicts";
import { Fold } from "@/ui/fold";
import { useWidth } from "@/ui/use-width";
import type { ViewProps } from "./claims-view";
import { BoardList, type BoardValue } from "./board-list";
import { Strip, type StripItem } from "./strip";

export interface QuantityRow {
  readonly c: Characteristic;
  readonly values: readonly BoardValue[];
}

/** Verdicts by how much they say: what a mark shows where a quantity carries several claims. */
const LOUDEST: readonly VerdictWord[] = ["misses", "not fairly tested", "too close to call", "claim unclear", "meets"];

function valuesOf(
  c: Characteristic,
  boards: readonly BoardRecord[],
  columns: ReadonlyMap<string, PackedColumn>,
): BoardValue[] {
  return boards.flatMap((board): BoardValue[] => {
    const column = columns.get(board.id);
    const k = column ? column.names.indexOf(c.name) : -1;
    const value = column?.values[k] ?? NaN;
    if (!column || Number.isNaN(value)) return [];
    const marks = column.marks.filter((m) => m.characteristic === c.name);
    return [
      {
        board,
        value,
        u: column.uncertainties[k] ?? NaN,
        word: LOUDEST.find((w) => marks.some((m) => m.word === w)) ?? null,
        limits: marks.flatMap((m) => m.limits.filter(Number.isFinite)),
      },
    ];
  });
}

/** Every measured number of every board, a row a quantity, each on its own axis, grouped by the procedure that measures it. */
export function QuantitiesView({ boards, columns, keep, picked }: ViewProps) {
  const groups = useMemo(() => {
    const out = new Map<string, QuantityRow[]>();
    for (const c of CHARACTERISTICS) {
      if (c.kind !== "number" || !keep(c.name)) continue;
      const values = valuesOf(c, boards, columns);
      if (values.length === 0 && !out.has(c.run)) out.set(c.run, []);
      if (values.length) out.set(c.run, [...(out.get(c.run) ?? []), { c, values }]);
    }
    return [...out];
  }, [boards, columns, keep]);
  const [ref, width] = useWidth(760);
  const [look, setLook] = useState("");
  const [open, setOpen] = useState<string | null>(null);
  const toggle = useCallback((name: string) => setOpen((was) => (was === name ? null : name)), []);
  return (
    <div>
      <div className="grid grid-cols-[minmax(0,1fr)] min-[700px]:grid-cols-[12rem_minmax(0,1fr)_8.5rem]">
        <div ref={ref} className="h-0 min-[700px]:col-start-2" />
      </div>
      {groups.map(([run, rows]) => (
        <Fold
          key={run}
          title={procedureTitle(run)}
          note={rows.length ? `${rows.length} ${rows.length === 1 ? "quantity" : "quantities"}` : "not measured"}
          open={rows.length > 0}
        >
          {rows.map((r) => (
            <Row
              key={r.c.name}
              {...r}
              width={width}
              picked={picked}
              open={open === r.c.name}
              onOpen={toggle}
              onLook={setLook}
            />
          ))}
          {rows.length === 0 ? (
            <p className="px-4 py-2 text-sm text-pencil">No board was measured in this procedure.</p>
          ) : null}
        </Fold>
      ))}
      <p className="sticky bottom-0 min-h-9 border-t border-rule bg-sheet px-4 py-1.5 text-sm" data-testid="look">
        {look || "Point at a mark for its values; select a quantity for the list. Red ticks are claims."}
      </p>
    </div>
  );
}

/** One quantity; not drawn anew for what the pointer looks at. */
const Row = memo(function Row({
  c,
  values,
  width,
  picked,
  open,
  onOpen,
  onLook,
}: QuantityRow & {
  readonly width: number;
  readonly picked: string | null;
  readonly open: boolean;
  onOpen(name: string): void;
  onLook(text: string): void;
}) {
  const scale = useMemo(
    () => stripScale(values.flatMap((v) => [v.value - (v.u || 0), v.value + (v.u || 0), ...v.limits])),
    [values],
  );
  const write = (v: number, u?: number) =>
    formatQuantity(v, c.unit, u !== undefined && u > 0 && u < Infinity ? { uncertainty: u } : { digits: 3 });
  const finest = lowest(values.map((v) => (v.u > 0 ? v.u : Infinity)));
  const items = values.map((v): StripItem => ({
    boardId: v.board.id,
    name: v.board.title,
    at: v.value,
    low: v.value - (v.u || 0),
    high: v.value + (v.u || 0),
    word: v.word,
    ticks: v.limits,
    href: `/board/${v.board.id}`,
    text: `${v.board.title}: ${c.label.toLowerCase()} ${write(v.value, v.u)}${v.u > 0 ? ` ± ${formatQuantity(v.u, c.unit, { digits: 2 })}` : ""}${v.word ? `, ${v.word}` : ""}`,
  }));
  return (
    <div className="border-b border-rule [content-visibility:auto]">
      <div
        role="group"
        aria-label={c.label}
        className="grid grid-cols-[minmax(0,1fr)] items-center py-0.5 min-[700px]:grid-cols-[12rem_minmax(0,1fr)_8.5rem]"
      >
        <button
          type="button"
          aria-expanded={open}
          onClick={() => onOpen(c.name)}
          className="px-4 text-left text-sm leading-tight underline decoration-pencil/40 underline-offset-4 pointer-coarse:min-h-11"
        >
          {c.label}
        </button>
        <Strip scale={scale} width={width} items={items} picked={picked} onLook={onLook} />
        <span className="figures px-4 text-xs text-pencil min-[700px]:px-2 min-[700px]:text-right">
          {write(lowest(values.map((v) => v.value)), finest)}
          {values.length > 1 ? (
            <span className="block">to {write(highest(values.map((v) => v.value)), finest)}</span>
          ) : null}
        </span>
      </div>
      {open ? <BoardList c={c} values={values} picked={picked} /> : null}
    </div>
  );
});
