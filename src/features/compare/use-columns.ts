"use client";

import { compute } from "@/workers/compute";
import { startTransition, useCallback, useEffect, useRef, useState } from "react";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { comparedBoard, keptColumns, type ComparedBoard } from "@/notebook";
import { boards, changesHere, useLive } from "@/storage";
import { workersAhead } from "@/workers/client";
import { rememberKept } from "@/workers/likely";

export interface Columns {
  readonly boards: readonly BoardRecord[];
  /** By board; what is absent is still being worked out. */
  readonly columns: ReadonlyMap<string, PackedColumn>;
  /** The cells of the boards that are or were in sight. */
  readonly cells: ReadonlyMap<string, BoardColumn["cells"]>;
  /** Boards that can't be worked out, with the reason. */
  readonly failed: ReadonlyMap<string, string>;
  /** Says which boards are in sight, and near it: they come first. */
  see(ids: readonly string[]): void;
}

/** ms between two redraws while columns come in out of sight. */
const FLUSH = 300;

/** Boards that are worked out at a time until all in sight are there: one by each worker, and one that waits for whichever is done first. */
const LANES = 3;

/** Boards whose cells are fetched before anything is shown. */
const FIRST = 8;

const working = new Map<string, { readonly since: number; readonly found: Promise<ComparedBoard> }>();
/** A board's column. Who asks while it is being worked out waits with the others, unless something has changed since. */
function worked(board: BoardRecord): Promise<ComparedBoard> {
  const [since, under] = [changesHere(), working.get(board.id)];
  if (under?.since === since) return under.found;
  const own = {
    since,
    found: comparedBoard(compute, board).finally(() => working.get(board.id) === own && working.delete(board.id)),
  };
  working.set(board.id, own);
  return own.found;
}

interface Made {
  readonly of: object | null;
  readonly columns: ReadonlyMap<string, PackedColumn>;
  readonly cells: ReadonlyMap<string, BoardColumn["cells"]>;
  readonly failed: ReadonlyMap<string, string>;
}
const NOTHING: Made = { of: null, columns: new Map(), cells: new Map(), failed: new Map() };

/** What is kept of all boards, with the cells of those that will stand first; the first that is not kept is begun meanwhile. */
async function keptColumnsFirst(notebookId: string) {
  const [all, kept] = await Promise.all([boards(notebookId), keptColumns(notebookId)]);
  all.sort((a, b) => a.createdAt.localeCompare(b.createdAt));
  // While the table is drawn, what will stand first in it is begun.
  const cold = all.find((b) => !kept.has(b.id));
  if (cold) {
    workersAhead();
    void worked(cold).catch(() => undefined);
  }
  rememberKept("comparison", !cold);
  // Those that will stand first are shown with the table itself.
  const first = await Promise.all(
    all
      .slice(0, FIRST)
      .flatMap((b) =>
        kept.has(b.id) ? [comparedBoard(compute, b).then((c) => [b.id as string, c.cells] as const)] : [],
      ),
  );
  return { all, kept, cells: new Map(first) };
}

/**
 * The columns of the comparison: the numbers that are kept are there at once, cells are fetched for the boards in sight, and what is not
 * kept is worked out one board at a time, those in sight first, so that a thousand boards open as quickly as ten.
 */
export function useColumns(notebookId: string): Columns | { readonly failed: string } | null {
  const live = useLive(`compare-${notebookId}`, () => keptColumnsFirst(notebookId));
  const base = live.state === "ready" ? live.value : null;
  const seen = useRef<readonly string[]>([]);
  const wake = useRef<(() => void) | null>(null);
  const [made, setMade] = useState<Made>(NOTHING);
  useEffect(() => {
    if (!base) return;
    let gone = false;
    const [columns, cells, failed] = [new Map(base.kept), new Map(base.cells), new Map<string, string>()];
    const byId = new Map(base.all.map((b) => [b.id as string, b]));
    let flushed = 0;
    const flush = () => {
      flushed = performance.now();
      // What is being scrolled goes before what came in.
      startTransition(() =>
        setMade({ of: base, columns: new Map(columns), cells: new Map(cells), failed: new Map(failed) }),
      );
    };
    const taking = new Set<string>();
    /** All that was in sight first is there: from now on somebody may be scrolling, and the page needs a processor for that. */
    let opened = false;
    const waits = (id: string) => !taking.has(id) && !failed.has(id);
    /** What comes next: all in sight that are kept, at once; else the first in sight, else any where nothing else is under way. */
    const next = (): { readonly some: readonly BoardRecord[]; readonly visible: boolean } | null => {
      const near = seen.current.flatMap((id) => (!cells.has(id) && waits(id) ? (byId.get(id) ?? []) : []));
      const ready = near.filter((b) => base.kept.has(b.id));
      if (ready.length) return { some: ready, visible: true };
      if (near.length) return taking.size < (opened ? 1 : LANES) ? { some: near.slice(0, 1), visible: true } : null;
      const board = taking.size ? undefined : base.all.find((b) => !columns.has(b.id) && waits(b.id));
      return board ? { some: [board], visible: false } : null;
    };
    const take = async (board: BoardRecord, visible: boolean) => {
      taking.add(board.id);
      try {
        const column = await worked(board);
        columns.set(board.id, column.column);
        if (visible) cells.set(board.id, column.cells);
      } catch (e) {
        failed.set(board.id, (e as Error).message);
      } finally {
        taking.delete(board.id);
      }
    };
    const inSight = () => seen.current.some((id) => !cells.has(id) && !failed.has(id) && byId.has(id));
    const takeAll = async (some: readonly BoardRecord[], visible: boolean) => {
      await Promise.all(some.map((b) => take(b, visible)));
      if (gone) return;
      opened ||= visible && !inSight();
      // Those in sight are shown together where they are kept, one by one where each takes its time.
      if (
        (visible ? !inSight() : columns.size + failed.size >= base.all.length) ||
        performance.now() - flushed > (visible ? FLUSH / 4 : FLUSH)
      )
        flush();
      wake.current?.();
    };
    void (async () => {
      while (!gone) {
        const n = next();
        if (n) void takeAll(n.some, n.visible);
        else {
          if (!taking.size) rememberKept("comparison", failed.size === 0 && base.all.every((b) => columns.has(b.id)));
          await new Promise<void>((r) => (wake.current = r));
        }
        // Whoever scrolls meanwhile goes before.
        await new Promise((r) => setTimeout(r));
      }
    })();
    return () => {
      gone = true;
      wake.current?.();
    };
  }, [base]);
  const see = useCallback((ids: readonly string[]) => {
    seen.current = ids;
    wake.current?.();
  }, []);
  if (live.state === "failed") return { failed: live.message };
  if (!base) return null;
  const own = made.of === base ? made : { ...NOTHING, columns: base.kept, cells: base.cells };
  return { boards: base.all, columns: own.columns, cells: own.cells, failed: own.failed, see };
}
