import type { AnnotationRecord, RunRecord } from "@/core/files/records";
import type { Recovery, Role } from "@/core/measurement";
import { change, edit, newId, now, remove, type Act } from "@/storage/door";
import type { RunDossier } from "./run-dossier";

/** A layer over a run's readings, which themselves stay as they are. */
export function layer(
  run: RunRecord,
  what: AnnotationRecord["what"],
  target: string,
  text: string,
  recovery?: Recovery,
): AnnotationRecord {
  const at = now();
  return {
    kind: "annotation",
    id: newId(),
    notebookId: run.notebookId,
    createdAt: at,
    updatedAt: at,
    runId: run.id,
    what,
    target,
    text,
    ...(recovery ? { recovery } : {}),
  };
}

export const leavePointOut = (d: RunDossier, pointId: string, reason: string): Promise<Act | null> =>
  change("exclude a point", [layer(d.run, "left-out", pointId, reason)]);

export const countPointAgain = (d: RunDossier, pointId: string): Promise<Act | null> =>
  remove(
    "count a point again",
    d.annotations.filter((a) => a.what === "left-out" && a.target === pointId),
  );

export const noteRestart = (d: RunDossier, pointId: string, word: Recovery): Promise<Act | null> =>
  change("record the restart", [layer(d.run, "recovery", pointId, `came back: ${word}`, word)]);

export const closeColumn = (d: RunDossier, column: string): Promise<Act | null> =>
  change(`close ${column}`, [layer(d.run, "closed", column, "closed by the tester")]);

/** Where the tester sees a boundary of a log, and why; the readings and what was found in them stay. */
export function moveBoundary(d: RunDossier, id: string, time: number, why: string): Promise<Act | null> {
  const there = d.annotations.find((a) => a.what === "boundary" && a.target === id);
  return change("move a boundary", [
    there ? edit(there, { ...there, time, text: why }) : { ...layer(d.run, "boundary", id, why), time },
  ]);
}

/** States a condition of the run afterwards; stating it anew replaces what was stated. */
export function stateCondition(d: RunDossier, name: string, value: number): Promise<Act | null> {
  const there = d.annotations.find((a) => a.what === "condition" && a.target === name);
  return change("state a condition", [
    there ? edit(there, { ...there, value }) : { ...layer(d.run, "condition", name, "stated afterwards"), value },
  ]);
}

export const forgetBoundary = (d: RunDossier, id: string): Promise<Act | null> =>
  remove(
    "put a boundary back",
    d.annotations.filter((a) => a.what === "boundary" && a.target === id),
  );

/** Lays what was really read over cells of a point, with the reason; null says that it was not read. The first readings stay. */
export const correctReadings = (
  d: RunDossier,
  pointId: string,
  anew: Readonly<Partial<Record<Role, number | null>>>,
  why: string,
): Promise<Act | null> =>
  change(
    "correct a point",
    (Object.entries(anew) as [Role, number | null][]).map(([role, value]) => ({
      ...layer(d.run, "reading", pointId, why),
      role,
      ...(value === null ? {} : { value }),
    })),
  );

/** Says that a role is not read in this run, or that it is again: its field is shown no more until then. */
export function readRole(d: RunDossier, role: Role, used: boolean): Promise<Act | null> {
  const there = d.annotations.filter((a) => a.what === "unused" && a.target === role);
  return used
    ? remove("read it again", there)
    : change(
        "not measured in this run",
        there.length ? [] : [layer(d.run, "unused", role, "not measured in this run")],
      );
}

/** Roles that nobody reads in this run. */
export const unusedRoles = (d: RunDossier): ReadonlySet<string> =>
  new Set(d.annotations.filter((a) => a.what === "unused").map((a) => a.target));
