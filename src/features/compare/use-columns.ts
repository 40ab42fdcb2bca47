"use client";

import { startTransition, useCallback, useEffect, useRef, useState } from "react";
import type { BoardColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { boards, comparedBoard, keptColumns, useLive } from "@/storage";

export interface Columns {
  readonly boards: readonly BoardRecord[];
  /** By board; what is absent is still being worked out. */
  readonly columns: ReadonlyMap<string, BoardColumn>;
  /** Boards that can't be worked out, with the reason. */
  readonly failed: ReadonlyMap<string, string>;
  /** Says which boards are in sight: they come first. */
  see(ids: readonly string[]): void;
}

/** ms between two redraws while columns come in. */
const FLUSH = 300;

/**
 * The columns of the comparison: what is kept is there at once, the rest is worked out one board at a time, those in sight first, so
 * that a thousand boards open as quickly as ten.
 */
export function useColumns(notebookId: string): Columns | { readonly failed: string } | null {
  const live = useLive(`compare-${notebookId}`, async () => {
    const [all, kept] = await Promise.all([boards(notebookId), keptColumns(notebookId)]);
    return { all: all.sort((a, b) => a.createdAt.localeCompare(b.createdAt)), kept };
  });
  const base = live.state === "ready" ? live.value : null;
  const seen = useRef<readonly string[]>([]);
  const [made, setMade] = useState<{ readonly of: typeof base; readonly columns: ReadonlyMap<string, BoardColumn>; readonly failed: ReadonlyMap<string, string> }>({ of: null, columns: new Map(), failed: new Map() });
  useEffect(() => {
    if (!base) return;
    let gone = false;
    const columns = new Map(base.kept);
    const failed = new Map<string, string>();
    let flushed = 0;
    const flush = () => {
      flushed = performance.now();
      // What is being scrolled goes before what came in.
      startTransition(() => setMade({ of: base, columns: new Map(columns), failed: new Map(failed) }));
    };
    const byId = new Map(base.all.map((b) => [b.id as string, b]));
    const next = (): BoardRecord | undefined => {
      const lacks = (id: string) => !columns.has(id) && !failed.has(id);
      const visible = seen.current.find((id) => byId.has(id) && lacks(id));
      return visible ? byId.get(visible) : base.all.find((b) => lacks(b.id));
    };
    void (async () => {
      for (let b = next(); b && !gone; b = next()) {
        try {
          columns.set(b.id, await comparedBoard(b));
        } catch (e) {
          failed.set(b.id, (e as Error).message);
        }
        if (!gone && (performance.now() - flushed > FLUSH || !next())) flush();
        // Whoever scrolls meanwhile goes before.
        await new Promise((r) => setTimeout(r));
      }
    })();
    return () => {
      gone = true;
    };
  }, [base]);
  const see = useCallback((ids: readonly string[]) => {
    seen.current = ids;
  }, []);
  if (live.state === "failed") return { failed: live.message };
  if (!base) return null;
  const own = made.of === base;
  return { boards: base.all, columns: own ? made.columns : base.kept, failed: own ? made.failed : new Map(), see };
}
