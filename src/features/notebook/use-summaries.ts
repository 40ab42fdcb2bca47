"use client";

import { compute } from "@/workers/compute";
import { startTransition, useCallback, useEffect, useRef, useState } from "react";
import type { BoardRecord } from "@/core/files/records";
import { workersAhead, workingInBackground } from "@/workers/client";
import { rememberKept } from "@/workers/likely";
import { boardSummary, keptSummaries, type BoardSummary } from "@/notebook";
import { boards, useLive } from "@/storage";

export interface Summaries {
  readonly boards: readonly BoardRecord[];
  /** By board; what is absent is still being worked out. */
  readonly summaries: ReadonlyMap<string, BoardSummary>;
  /** Boards that can't be worked out, with the reason. */
  readonly failed: ReadonlyMap<string, string>;
  /** Says which boards are in sight: they come first. */
  see(ids: readonly string[]): void;
}

/** ms between two redraws for what is out of sight. */
const FLUSH = 400;
/** Boards worked out at a time while one in sight is waiting, so that both workers have something to do; of the rest one comes after the other. */
const AT_ONCE = 3;

interface Made {
  readonly of: object;
  readonly summaries: ReadonlyMap<string, BoardSummary>;
  readonly failed: ReadonlyMap<string, string>;
}

/** The boards of a notebook at once, their summaries as they are kept or worked out: those in sight first, the rest in the background. */
export function useSummaries(notebookId: string): Summaries | { readonly error: string } | null {
  const live = useLive(`notebook-boards-${notebookId}`, async () => {
    const [all, kept] = await Promise.all([boards(notebookId), keptSummaries(notebookId)]);
    // What works them out is started while the list is drawn.
    const whole = all.every((b) => kept.has(b.id));
    if (!whole) workersAhead();
    rememberKept("notebook", whole);
    return { all: all.sort((a, b) => a.createdAt.localeCompare(b.createdAt)), kept };
  });
  const base = live.state === "ready" ? live.value : null;
  /** Null until it is told: nothing is done in the background before what is in sight. */
  const seen = useRef<readonly string[] | null>(null);
  const sighted = useRef<(() => void) | null>(null);
  const [made, setMade] = useState<Made | null>(null);
  useEffect(() => {
    if (!base) return;
    let gone = false;
    const [summaries, failed, under] = [new Map(base.kept), new Map<string, string>(), new Set<string>()];
    const byId = new Map(base.all.map((b) => [b.id as string, b]));
    let flushed = performance.now();
    const flush = (seenNow: boolean) => {
      flushed = performance.now();
      const next: Made = { of: base, summaries: new Map(summaries), failed: new Map(failed) };
      if (seenNow) setMade(next);
      else startTransition(() => setMade(next));
    };
    const open = (id: string) => !summaries.has(id) && !failed.has(id) && !under.has(id);
    let calm: (() => void) | null = null;
    const hurry = () => {
      calm?.();
      calm = null;
    };
    const work = async (board: BoardRecord, near: boolean) => {
      under.add(board.id);
      try {
        summaries.set(board.id, await boardSummary(compute, board));
      } catch (e) {
        failed.set(board.id, (e as Error).message);
      }
      under.delete(board.id);
      if (gone) return;
      if (near) flush(true);
      else if (performance.now() - flushed > FLUSH) flush(false);
      setTimeout(next);
    };
    let ended = false;
    const next = () => {
      if (gone || ended) return;
      for (;;) {
        const near = seen.current?.find((id) => byId.has(id) && open(id));
        const board = near ? byId.get(near) : base.all.find((b) => open(b.id));
        if (near) hurry();
        if (!board || under.size >= (near ? AT_ONCE : 1)) break;
        if (!near && seen.current) calm ??= workingInBackground();
        void work(board, near !== undefined);
      }
      if (under.size || base.all.some((b) => open(b.id))) return;
      ended = true;
      hurry();
      rememberKept("notebook", failed.size === 0);
      if (summaries.size > base.kept.size || failed.size) flush(true);
    };
    sighted.current = next;
    next();
    return () => {
      gone = true;
      sighted.current = null;
      hurry();
    };
  }, [base]);
  const see = useCallback((ids: readonly string[]) => {
    seen.current = ids;
    sighted.current?.();
  }, []);
  if (live.state === "failed") return { error: live.message };
  if (!base) return null;
  // What was shown stays until it is worked out anew: a list that empties at each change would flicker.
  const own =
    made?.of === base
      ? made
      : { summaries: new Map([...(made?.summaries ?? []), ...base.kept]), failed: new Map<string, string>() };
  return { boards: base.all, summaries: own.summaries, failed: own.failed, see };
}
