"use client";

import { useCallback, useEffect, useState } from "react";

/** One writer a run: the tab that holds the lock writes, others watch, may take over, and do so by themselves once it is closed. */
export type Writer = "asking" | "writing" | "watching";

export function useRunWriter(runId: string): { writer: Writer; takeOver: () => void } {
  const [writer, setWriter] = useState<Writer>("asking");
  const [attempt, setAttempt] = useState({ n: 0, steal: false });
  useEffect(() => {
    let release: () => void = () => undefined;
    let gone = false;
    const queued = new AbortController();
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    const name = `nimbus-run-${runId}`;
    const hold = async () => {
      if (gone) return;
      setWriter("writing");
      await held;
    };
    // Whoever stands in line has it as soon as the writer's tab is closed or leaves the run.
    const standInLine = () => navigator.locks.request(name, { signal: queued.signal }, hold).catch(stolen);
    function stolen(): void {
      if (gone) return;
      setWriter("watching");
      void standInLine();
    }
    navigator.locks
      .request(name, attempt.steal ? { steal: true } : { ifAvailable: true }, async (lock) => {
        if (gone) return;
        if (lock) await hold();
        else stolen();
      })
      .catch(stolen);
    return () => {
      gone = true;
      queued.abort();
      release();
    };
  }, [runId, attempt]);
  const takeOver = useCallback(() => setAttempt((a) => ({ n: a.n + 1, steal: true })), []);
  return { writer, takeOver };
}
