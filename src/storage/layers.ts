import type { AnnotationRecord, RunRecord } from "@/core/files/records";
import type { Recovery } from "@/core/procedures";
import { change, newId, now, remove } from "./door";
import type { RunDossier } from "./run-dossier";

/** A layer over a run's readings, which themselves stay as they are. */
export function layer(run: RunRecord, what: AnnotationRecord["what"], target: string, text: string, recovery?: Recovery): AnnotationRecord {
  const at = now();
  return { kind: "annotation", id: newId(), notebookId: run.notebookId, createdAt: at, updatedAt: at, runId: run.id, what, target, text, ...(recovery ? { recovery } : {}) };
}

export const leavePointOut = (d: RunDossier, pointId: string, reason: string): Promise<void> => change("leave a point out", [layer(d.run, "left-out", pointId, reason)]);

export const countPointAgain = (d: RunDossier, pointId: string): Promise<void> =>
  remove("count a point again", d.annotations.filter((a) => a.what === "left-out" && a.target === pointId));

export const noteRestart = (d: RunDossier, pointId: string, word: Recovery): Promise<void> => change("note the restart", [layer(d.run, "recovery", pointId, `came back: ${word}`, word)]);

export const closeColumn = (d: RunDossier, column: string): Promise<void> => change(`close ${column}`, [layer(d.run, "closed", column, "closed by the tester")]);

/** Where the tester sees a boundary of a log, and why; the readings and what was found in them stay. */
export function moveBoundary(d: RunDossier, id: string, time: number, why: string): Promise<void> {
  const there = d.annotations.find((a) => a.what === "boundary" && a.target === id);
  const next = there ? { ...there, time, text: why, updatedAt: now() } : { ...layer(d.run, "boundary", id, why), time };
  return change("move a boundary", [next]);
}

/** States a condition of the run afterwards; stating it anew replaces what was stated. */
export function stateCondition(d: RunDossier, name: string, value: number): Promise<void> {
  const there = d.annotations.find((a) => a.what === "condition" && a.target === name);
  return change("state a condition", [there ? { ...there, value, updatedAt: now() } : { ...layer(d.run, "condition", name, "stated afterwards"), value }]);
}

export const forgetBoundary = (d: RunDossier, id: string): Promise<void> => remove("put a boundary back", d.annotations.filter((a) => a.what === "boundary" && a.target === id));
