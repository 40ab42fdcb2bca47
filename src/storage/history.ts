import { database } from "./database";
import { numeric } from "@/core/quantities";

/** One change as the journal holds it, without what it wrote. */
export interface PastAct {
  readonly notebookId: string;
  readonly seq: number;
  readonly label: string;
  /** ISO UTC. */
  readonly at: string;
  readonly undone: boolean;
}

/** Changes that a history shows: the newest ones. */
const SHOWN = 40;

/** What was changed in a notebook, newest first, as far as its history reaches. */
export async function pastActs(notebookId: string, most = SHOWN): Promise<PastAct[]> {
  const index = (await database()).transaction("journal").store.index("by-notebook");
  const out: PastAct[] = [];
  for (let c = await index.openCursor(notebookId, "prev"); c && out.length < most; c = await c.continue()) {
    const { seq, label, at, undone } = c.value;
    out.push({ notebookId, seq: numeric(seq), label, at, undone: undone === 1 });
  }
  return out;
}

/** What Undo and Redo would do next; null where there is nothing. */
export async function nextActs(
  notebookId: string,
): Promise<{ readonly undo: string | null; readonly redo: string | null }> {
  const index = (await database()).transaction("journal").store.index("by-notebook");
  let redo: string | null = null;
  for (let c = await index.openCursor(notebookId, "prev"); c; c = await c.continue()) {
    if (c.value.undone === 0) return { undo: c.value.label, redo };
    redo = c.value.label;
  }
  return { undo: null, redo };
}
