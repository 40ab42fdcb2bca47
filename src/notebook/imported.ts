import type { NotebookId, RunRecord } from "@/core/files/records";
import { ofKind, runsOf } from "@/storage/queries";

/** A run that was imported from the very same bytes; null where there is none. */
export async function importedAs(notebookId: NotebookId, sha256: readonly string[]): Promise<RunRecord | null> {
  const same = new Set((await ofKind(notebookId, "file")).filter((f) => sha256.includes(f.sha256)).map((f) => f.id));
  if (same.size === 0) return null;
  return (
    (await runsOf(notebookId)).find(
      (r) =>
        r.source.kind === "file" &&
        (same.has(r.source.fileId) || (r.source.more ?? []).some((m) => same.has(m.fileId))),
    ) ?? null
  );
}
