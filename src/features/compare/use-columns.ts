"use client";

import { compute } from "@/workers/compute";
import { startTransition, useCallback, useEffect, useRef, useState } from "react";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { comparedBoard, comparedPart, keptColumns, type ComparedBoard } from "@/notebook";
import { boards, changesHere, useLive } from "@/storage";
import { workersAhead, workersSettled } from "@/workers/client";
import { rememberKept } from "@/workers/likely";
import { ComingIn, NO_SIGHT, type PartOfBoard, type Sight, type Turn } from "./coming-in";

export interface Columns {
  readonly boards: readonly BoardRecord[];
  /** By board; what is absent is still being worked out. */
  readonly columns: ReadonlyMap<string, PackedColumn>;
  /** The cells of the boards that are or were in sight. */
  readonly cells: ReadonlyMap<string, BoardColumn["cells"]>;
  /** What is there of a board in sight that is still being worked out. */
  readonly parts: ReadonlyMap<string, PartOfBoard>;
  /** Boards that can't be worked out, with the reason. */
  readonly failed: ReadonlyMap<string, string>;
  /** All that was in sight first is there. */
  readonly opened: boolean;
  /** Says what is looked at: it comes first. */
  see(sight: Sight): void;
}

/** ms without anything else coming into sight after which nobody is scrolling any more. */
const CALM = 200;

/** ms between two redraws while columns come in out of sight. */
const FLUSH = 300;

/** Boards whose cells are fetched before anything is shown. */
const FIRST = 8;

const working = new Map<string, { readonly since: number; readonly found: Promise<ComparedBoard> }>();
/** A board's column, or what runs of some procedures tell of it. Who asks while it is being worked out waits with the others, unless something has changed since. */
function worked(board: BoardRecord, first: ReadonlySet<string> | null): Promise<ComparedBoard> {
  const key = [board.id, ...(first ?? [])].join(" ");
  const [since, under] = [changesHere(), working.get(key)];
  if (under?.since === since) return under.found;
  const own = {
    since,
    found: (first ? comparedPart(compute, board, first) : comparedBoard(compute, board)).finally(
      () => working.get(key) === own && working.delete(key),
    ),
  };
  working.set(key, own);
  return own.found;
}

interface Made extends Pick<Columns, "columns" | "cells" | "parts" | "failed" | "opened"> {
  readonly of: object | null;
}
const NOTHING: Made = {
  of: null,
  columns: new Map(),
  cells: new Map(),
  parts: new Map(),
  failed: new Map(),
  opened: false,
};

/** What is kept of all boards, with the cells of those that will stand first; the first that is not kept is begun meanwhile. */
async function keptColumnsFirst(notebookId: string, first: ReadonlySet<string> | null) {
  const [all, kept] = await Promise.all([boards(notebookId), keptColumns(notebookId)]);
  all.sort((a, b) => a.createdAt.localeCompare(b.createdAt));
  // While the table is drawn, what will stand first in it is begun.
  const cold = all.find((b) => !kept.has(b.id));
  if (cold) {
    workersAhead("comparison");
    void worked(cold, first).catch(() => undefined);
  }
  rememberKept("comparison", !cold);
  // Those that will stand first are shown with the table itself.
  const cells = await Promise.all(
    all
      .slice(0, FIRST)
      .flatMap((b) =>
        kept.has(b.id) ? [comparedBoard(compute, b).then((c) => [b.id as string, c.cells] as const)] : [],
      ),
  );
  return { all, kept, cells: new Map(cells) };
}

/**
 * The columns of the comparison: the numbers that are kept are there at once, cells are fetched for the boards in sight, and what is not
 * kept is worked out, those in sight first, so that a thousand boards open as quickly as ten. Where `first` is given, boards in sight come
 * in two steps: as much as runs of these procedures, or of those behind the rows in sight, tell of them, then the rest.
 */
export function useColumns(
  notebookId: string,
  first: ReadonlySet<string> | null,
): Columns | { readonly failed: string } | null {
  const live = useLive(`compare-${notebookId}`, () => keptColumnsFirst(notebookId, first));
  const base = live.state === "ready" ? live.value : null;
  const seen = useRef<Sight>(NO_SIGHT);
  const moved = useRef(0);
  const wake = useRef<(() => void) | null>(null);
  const [made, setMade] = useState<Made>(NOTHING);
  useEffect(() => {
    if (!base) return;
    let gone = false;
    const all = new ComingIn(base.all, base.kept, base.cells);
    let flushed = 0;
    const flush = () => {
      flushed = performance.now();
      // What is being scrolled goes before what came in.
      startTransition(() => setMade({ of: base, ...all.snapshot() }));
    };
    const take = async (board: BoardRecord, turn: Turn) => {
      try {
        // What was found for fewer rows is taken up.
        if (turn.first && all.parts.has(board.id)) await workersSettled();
        all.takes(board, turn, await worked(board, turn.first));
      } catch (e) {
        all.fails(board, (e as Error).message);
      }
    };
    const takeAll = async (turn: Turn) => {
      await Promise.all(turn.boards.map((b) => take(b, turn)));
      if (gone) return;
      const inSight = all.inSight(seen.current);
      const opens = turn.visible && inSight && !all.opened;
      all.opened ||= opens;
      // Those in sight are shown together where they are kept, one by one where each takes its time.
      if ((turn.visible ? inSight : all.done) || performance.now() - flushed > (turn.visible ? FLUSH / 4 : FLUSH))
        flush();
      // What was found for the rows in sight is taken up for the rest of each board.
      if (opens && turn.first) await workersSettled();
      wake.current?.();
    };
    void (async () => {
      while (!gone) {
        const scrolling = all.opened ? CALM - (performance.now() - moved.current) : 0;
        const turn = all.next(seen.current, scrolling > 0);
        if (turn) {
          all.begins(turn);
          void takeAll(turn);
        } else {
          if (all.idle && scrolling <= 0) rememberKept("comparison", all.failed.size === 0 && all.done);
          await new Promise<void>((r) => {
            wake.current = r;
            if (scrolling > 0) setTimeout(r, scrolling);
          });
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
  const see = useCallback((sight: Sight) => {
    seen.current = sight;
    moved.current = performance.now();
    wake.current?.();
  }, []);
  if (live.state === "failed") return { failed: live.message };
  if (!base) return null;
  const own =
    made.of === base
      ? made
      : { ...NOTHING, columns: base.kept, cells: base.cells, opened: base.all.every((b) => base.kept.has(b.id)) };
  return { boards: base.all, ...own, see };
}
