import type { ConflictRecord, StoredRecord } from "@/core/files/records";
import { change, edit, type Act } from "./door";
import { ofKind, present } from "./queries";

/** A record that was changed here and in an archive, both versions of it. */
export interface OpenConflict {
  readonly conflict: ConflictRecord;
  /** Absent where it is gone altogether. */
  readonly ours: StoredRecord | undefined;
}

/** What merges left to be chosen. */
export async function openConflicts(notebookId: string): Promise<OpenConflict[]> {
  const conflicts = await ofKind(notebookId, "conflict");
  const there = await present(conflicts.map((c) => ({ ...c.theirs, id: c.of })));
  return conflicts.map((conflict) => ({ conflict, ours: there.get(conflict.of) }));
}

/** Chooses one of the two; the other is remembered as an earlier version, so that the same archive asks no more. */
export async function settleConflict({ conflict, ours }: OpenConflict, choice: "ours" | "theirs"): Promise<Act | null> {
  // Fetched when it is asked for: the first page, which names open conflicts, must not carry what merges them.
  const { after } = await import("@/core/files/archive/merge");
  const { theirs } = conflict;
  const next = !ours
    ? [choice === "theirs" ? theirs : null]
    : [edit(ours, choice === "theirs" ? after(theirs, ours) : after(ours, theirs))];
  return change(choice === "ours" ? "keep this notebook's version" : "use the archive's version", [
    ...next.flatMap((x) => (x ? [x] : [])),
    { gone: conflict },
  ]);
}
