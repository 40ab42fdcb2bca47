import type { CellLook, Triage } from "./triage";

/** Where a cell is on its way through the drawer, in the order of that way. */
export const CELL_STAGES = ["in", "charging", "resting", "full", "graded", "in a pack", "rejected"] as const;
export type CellStage = (typeof CELL_STAGES)[number];

export interface StageFacts {
  readonly looks: readonly CellLook[];
  readonly triage: Pick<Triage, "word" | "due">;
  readonly graded: boolean;
  /** ms since 1970 since which it charges; null where it does not. */
  readonly chargingSince: number | null;
  readonly pack: string | null;
}

export interface StageAt {
  readonly stage: CellStage;
  /** ms since 1970; null where no moment is known. */
  readonly since: number | null;
}

/** When it last came off a charger, unless it was used since; null where neither is so. */
function fullSince(looks: readonly CellLook[]): number | null {
  const sorted = [...looks].sort((a, b) => a.at - b.at);
  const from = sorted.map((l) => l.charged === true).lastIndexOf(true);
  return from < 0 || sorted.slice(from).some((l) => l.used) ? null : (sorted[from]?.at ?? null);
}

/**
 * Where a cell is, worked out from what is known of it: nothing of this is stored. What somebody rejected is rejected; what is in a pack
 * or on a charger is there; a cell with a grade is graded; one that came off the charger rests until its fall is known, and is full then.
 */
export function stageOf({ looks, triage: t, graded, chargingSince, pack }: StageFacts): StageAt {
  if (t.word === "rejected") return { stage: "rejected", since: null };
  if (pack !== null) return { stage: "in a pack", since: null };
  if (chargingSince !== null) return { stage: "charging", since: chargingSince };
  const full = fullSince(looks);
  if (full !== null && t.due) return { stage: "resting", since: full };
  if (graded) return { stage: "graded", since: full };
  return full === null ? { stage: "in", since: null } : { stage: "full", since: full };
}
