"use client";

import { useCallback, useEffect, useState } from "react";

/** One writer a run: the tab that holds the lock writes, others watch and may take over. */
export type Writer = "asking" | "writing" | "watching";

export function useRunWriter(runId: string): { writer: Writer; takeOver: () => void } {
  const [writer, setWriter] = useState<Writer>("asking");
  const [attempt, setAttempt] = useState({ n: 0, steal: false });
  useEffect(() => {
    let release: () => void = () => undefined;
    let gone = false;
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    const name = `nimbus-run-${runId}`;
    navigator.locks
      .request(name, attempt.steal ? { steal: true } : { ifAvailable: true }, async (lock) => {
        if (gone) return;
        setWriter(lock ? "writing" : "watching");
        if (lock) await held;
      })
      .catch(() => {
        // Stolen by another tab.
        if (!gone) setWriter("watching");
      });
    return () => {
      gone = true;
      release();
    };
  }, [runId, attempt]);
  const takeOver = useCallback(() => setAttempt((a) => ({ n: a.n + 1, steal: true })), []);
  return { writer, takeOver };
}
