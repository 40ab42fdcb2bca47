import "fake-indexeddb/auto";
import { openDB } from "idb";
import type { StoredRecord } from "@/core/files/records";
import { closeDatabase, database, DATABASE_NAME, DATABASE_VERSION } from "./database";
import { change, StorageError } from "./door";
import { closeNotices } from "./notices";
import { notebooks } from "./queries";

const AT = "2026-12-01T08:00:00Z";
const notebook = {
  kind: "notebook",
  id: "n",
  notebookId: "n",
  title: "Reed",
  schema: 12,
  createdAt: AT,
  updatedAt: AT,
};

afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("where a newer version has opened the data meanwhile, this one says so and what to do, and stores nothing", async () => {
  await change("new notebook", [notebook as unknown as StoredRecord]);
  expect(await notebooks()).toHaveLength(1);
  // The newer tab: this one's connection makes room for it.
  const newer = await openDB(DATABASE_NAME, DATABASE_VERSION + 1);
  await expect(database()).rejects.toThrow(
    "A newer version of Nimbus Bench has been used in this browser since. Reload this page to continue.",
  );
  await expect(notebooks()).rejects.toThrow("Reload this page");
  const refused = change("rename", [{ ...notebook, id: "m" } as unknown as StoredRecord]);
  await expect(refused).rejects.toThrow(StorageError);
  await expect(refused).rejects.toThrow(
    /^A newer version .* Reload this page to continue\. Nothing of this change is stored\.$/,
  );
  expect(await newer.count("records")).toBe(1);
  newer.close();
});
