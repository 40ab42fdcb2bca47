import "fake-indexeddb/auto";
import type { BoardId, NotebookId, StoredRecord } from "@/core/files/records";
import { change, edit, newId, now } from ".";
import { closeDatabase, database } from "./database";
import { changesSoFar, derivedWritten, keep, keptValue, outdate, workBegins, writeKept } from "./derived";
import { closeNotices, listen } from "./notices";

// As in a page: changes of other tabs are listened to.
beforeAll(() => Object.assign(globalThis, { window: globalThis }));
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const onDisk = async (key: string) => (await (await database()).get("derived", key))?.value;
const entry = (key: string, value: unknown) => ({ key, stamp: "1", value });

const AT = now();
const board = (id: string, title: string): StoredRecord => ({
  kind: "board",
  id: id as BoardId,
  notebookId: "n" as NotebookId,
  createdAt: AT,
  updatedAt: AT,
  title,
  note: "",
  functions: ["boost"],
});

test("what is kept is there at once, on disk soon after, and only under its stamp", async () => {
  keep([entry("run:a", [1])], await workBegins());
  expect(await keptValue("run:a", "1")).toEqual([1]);
  expect(await keptValue("run:a", "2")).toBeUndefined();
  await derivedWritten();
  expect(await onDisk("run:a")).toEqual([1]);
  expect(await keptValue("run:a", "1")).toEqual([1]);
  expect(await keptValue("run:none", "1")).toBeUndefined();
});

test("many results are written together, and those that come while others are being written are not lost", async () => {
  for (let k = 0; k < 50; k++) {
    keep([entry(`run:many-${k}`, k), entry(`board:many-${k}`, -k)], await workBegins());
    if (k % 10 === 0) await new Promise((r) => setTimeout(r));
  }
  await derivedWritten();
  for (let k = 0; k < 50; k++)
    expect([await onDisk(`run:many-${k}`), await onDisk(`board:many-${k}`)]).toEqual([k, -k]);
});

test("a result of readings that changed while it was being worked out is missed; one begun afterwards is", async () => {
  const since = await workBegins();
  outdate(["run:b"]);
  keep([entry("run:b", "old"), entry("run:c", "untouched")], since);
  expect(await keptValue("run:b", "1")).toBeUndefined();
  await derivedWritten();
  expect([await onDisk("run:b"), await onDisk("run:c")]).toEqual([undefined, "untouched"]);
  keep([entry("run:b", "new")], await workBegins());
  await derivedWritten();
  expect(await onDisk("run:b")).toBe("new");
});

test("a change between keeping and writing takes the result back", async () => {
  keep([entry("run:d", "old")], await workBegins());
  outdate(["run:d"]);
  await derivedWritten();
  expect(await onDisk("run:d")).toBeUndefined();
});

test("a change of a board that stands in line before the writing leaves nothing of the board as it was", async () => {
  const id = newId();
  for (let k = 0; k < 20; k++) {
    const since = await workBegins();
    const changed = change("rename", [
      k ? edit(board(id, `Reed ${k - 1}`), board(id, `Reed ${k}`)) : board(id, "Reed 0"),
    ]);
    keep([entry(`board:${id}`, `of Reed ${k - 1}`), entry(`column:${id}`, k - 1)], since);
    await changed;
    await derivedWritten();
    expect([await onDisk(`board:${id}`), await onDisk(`column:${id}`)]).toEqual([undefined, undefined]);
  }
});

test("what was being worked out while another tab changed something is missed; what is begun after its word is", async () => {
  const since = await workBegins();
  const other = new BroadcastChannel("nimbus-bench-changes");
  const told = new Promise<void>((r) => {
    const stop = listen((_, elsewhere) => {
      expect(elsewhere).toBe(true);
      stop();
      r();
    });
  });
  other.postMessage({ notebookId: "n", records: [], ids: [], kinds: ["point"], runs: ["e"] });
  await told;
  other.close();
  keep([entry("run:e", "old"), entry("board:f", "old")], since);
  await derivedWritten();
  expect([await onDisk("run:e"), await onDisk("board:f")]).toEqual([undefined, undefined]);
  keep([entry("run:e", "new")], await workBegins());
  await derivedWritten();
  expect(await onDisk("run:e")).toBe("new");
});

test("what another tab changed before its word came is missed too; the rest is kept, and so is what is begun afterwards", async () => {
  const since = await workBegins();
  // What the other tab has on disk: its notice is still under way.
  const db = await database();
  const told = (await db.get("derived", "outdated"))?.value as { count: number; floor: number; told: object[] };
  const change = told.count + 1;
  const value = { ...told, count: change, told: [...told.told, { change, keys: ["run:h"] }] };
  await db.put("derived", { key: "outdated", stamp: "", value });
  keep([entry("run:h", "old"), entry("run:i", "untouched")], since);
  await derivedWritten();
  expect([await onDisk("run:h"), await onDisk("run:i")]).toEqual([undefined, "untouched"]);
  keep([entry("run:h", "new")], await workBegins());
  await derivedWritten();
  expect(await onDisk("run:h")).toBe("new");
});

test("what is begun after a change of one's own is kept, however many there were", async () => {
  for (let k = 0; k < 60; k++) {
    await change("rename", [
      k ? edit(board("own", `Reed ${k - 1}`), board("own", `Reed ${k}`)) : board("own", "Reed 0"),
    ]);
    keep([entry("board:own", k)], await workBegins());
    await derivedWritten();
    expect(await onDisk("board:own")).toBe(k);
  }
});

test("what another thread worked out is written unless a change outdated it meanwhile; of long-gone changes nobody can tell, so nothing is", async () => {
  const entries = [entry("run:g", "found"), entry("board:g", "found")];
  const titles = new Map<string, string>();
  const rename = (id: string, title: string) => {
    const was = titles.get(id);
    titles.set(id, title);
    return change("rename", [was ? edit(board(id, was), board(id, title)) : board(id, title)]);
  };
  const since = await changesSoFar();
  await rename("other", "Reed");
  await writeKept(entries, since);
  expect([await onDisk("run:g"), await onDisk("board:g")]).toEqual(["found", "found"]);

  await rename("g", "Reed");
  expect(await onDisk("board:g")).toBeUndefined();
  await writeKept([entry("run:g", "again"), entry("board:g", "again")], since);
  expect([await onDisk("run:g"), await onDisk("board:g")]).toEqual(["again", undefined]);

  // More changes than are told one by one.
  for (let k = 0; k < 100; k++) await rename("other", `Reed ${k}`);
  await writeKept([entry("run:g", "late")], since);
  expect(await onDisk("run:g")).toBe("again");
  await writeKept([entry("run:g", "new")], await changesSoFar());
  expect(await onDisk("run:g")).toBe("new");

  // One that outdates more keys than are told.
  const before = await changesSoFar();
  await change(
    "many",
    Array.from({ length: 80 }, (_, k) => board(`many-${k}`, "Reed")),
  );
  await writeKept([entry("run:g", "late")], before);
  expect(await onDisk("run:g")).toBe("new");
});
