"use client";

import type { Compute } from "./compute";
import { useMemo, useRef } from "react";
import type { BoardRecord } from "@/core/files/records";
import { useLive, type Live } from "@/storage/live";
import { record } from "@/storage/queries";
import { RunFollower, type RunDossier } from "./run-dossier";

export interface Followed {
  readonly d: RunDossier;
  readonly board: BoardRecord;
}

/** A run and its board, followed by word of what is written; null where there is none. */
export function useFollowedRun(compute: Compute, id: string): Live<Followed | null> {
  const boardOf = useRef<BoardRecord | null>(null);
  const follower = useMemo(() => new RunFollower(compute, id), [compute, id]);
  return useLive(
    `followed-${id}`,
    async (changed) => {
      const d = await (changed ? follower.take(changed) : follower.read());
      if (d && boardOf.current?.id !== d.run.boardId) boardOf.current = await record("board", d.run.boardId);
      return d && boardOf.current ? { d, board: boardOf.current } : null;
    },
    (n) => n.runs.includes(id),
  );
}
