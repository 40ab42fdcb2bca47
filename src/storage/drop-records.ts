import { database } from "./database";

/** Deletes every record of a notebook that never came to be, or is to be no more. */
export async function dropRecords(notebookId: string): Promise<void> {
  const db = await database();
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
