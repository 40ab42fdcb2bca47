import { database } from "./database";

/** Deletes every record of a notebook that never came to be, or is to be no more. */
export async function dropRecords(notebookId: string): Promise<void> {
  const db = await database();
  // Before their runs: what a crash leaves is found by its records.
  const bundles = db.transaction("bundles", "readwrite");
  for (const key of await bundles.store.index("by-notebook").getAllKeys(notebookId)) void bundles.store.delete(key);
  await bundles.done;
  for (;;) {
    const keys = await db.getAllKeysFromIndex(
      "records",
      "by-kind",
      IDBKeyRange.bound([notebookId], [notebookId, []]),
      5000,
    );
    if (keys.length === 0) return;
    const tx = db.transaction("records", "readwrite");
    for (const k of keys) void tx.store.delete(k);
    await tx.done;
  }
}
