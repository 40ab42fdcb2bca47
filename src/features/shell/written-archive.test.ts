import "fake-indexeddb/auto";
import { readArchive } from "@/core/files/archive";
import type { PointRecord, RunRecord, StoredRecord } from "@/core/files/records";
import { packedDemo } from "@/testing/demo";
import { change, everything, halvesOf, remove, removeNotebook } from "@/storage";
import { archivePart, exportNotebook } from "@/storage/archives";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import type { WorkerClient } from "@/workers/client";
import type { Tasks } from "@/workers/protocol";
import { writtenArchive } from "./written-archive";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
/** Ids that lie all over the store, as random ones do. */
const spread = (): string => `${((n++ * 7919) % 65_536).toString(16).padStart(4, "0")}-${n}`;
const demo = packedDemo(spread, AT).records;
const notebookId = demo[0]?.notebookId as string;
const point = demo.find((r): r is PointRecord => r.kind === "point") as PointRecord;
const run = demo.find((r): r is RunRecord => r.id === point.runId) as RunRecord;
/** As many runs as make two readers worth it. */
const more: StoredRecord[] = Array.from({ length: 200 }, spread).flatMap((id) => [
  { ...run, id: id as RunRecord["id"] },
  ...[0, 1, 2].map(() => ({ ...point, id: spread(), runId: id }) as unknown as StoredRecord),
]);

beforeAll(
  () =>
    change("load", [...demo.map((r) => (r.kind === "file" ? { ...r, apart: false } : r)), ...more], {
      journal: false,
    }),
  60_000,
);
afterAll(async () => {
  await removeNotebook(notebookId);
  closeNotices();
  await closeDatabase();
});

/** A worker of this thread; `before` is done before a part is read. */
function worker(asked: string[], before: () => Promise<unknown> = () => Promise.resolve()): WorkerClient {
  const ask = async (task: string, a: never): Promise<unknown> => {
    asked.push(task);
    const {
      notebookId: id,
      at,
      sheets,
      parts,
      runs,
    } = a as Tasks["archive-part"]["ask"] & Tasks["archive-write"]["ask"];
    if (task === "archive-part") {
      await before();
      return archivePart(runs);
    }
    return exportNotebook(id, at, sheets, parts);
  };
  return { ask } as unknown as WorkerClient;
}
const none = Promise.resolve(new Map<string, string>());
const must = async (blob: Blob) => {
  const read = await readArchive(blob);
  if (!read.ok) throw new Error(read.error);
  return read.value.records;
};
const ids = (list: readonly StoredRecord[]) => list.map((r) => r.id).sort();

test("the two halves hold every run once, those that were deleted too", async () => {
  const [deleted] = more.filter((r): r is RunRecord => r.kind === "run");
  await remove("delete a run", [deleted as RunRecord]);
  const halves = await halvesOf(notebookId);
  if (!halves) throw new Error("no halves");
  const runs = [...demo, ...more].filter((r) => r.kind === "run").map((r) => r.id);
  expect([...halves[0], ...halves[1]].sort()).toEqual(runs.sort());
  for (const half of halves) expect(half.length).toBeGreaterThan(0.4 * runs.length);
});

test("an archive of two halves holds what one written run by run holds, and can be read", async () => {
  const asked: string[] = [];
  const both = worker(asked);
  const archive = await must(await writtenArchive(notebookId, AT, none, both, both));
  expect(asked).toEqual(["archive-part", "archive-part", "archive-write"]);
  const byRun = await must(await exportNotebook(notebookId, AT, new Map(), null));
  const byId = (list: readonly StoredRecord[]) => new Map(list.map((r) => [r.id as string, r]));
  expect(ids(archive)).toEqual(ids(await everything(notebookId)));
  expect(byId(archive)).toEqual(byId(byRun));
}, 60_000);

test("what changes while the halves are read is written again, run by run", async () => {
  const asked: string[] = [];
  let k = 0;
  const other = worker(asked, async () => {
    if (k++ === 0) await change("a reading", [{ ...point, id: "0-late" } as unknown as StoredRecord]);
  });
  const archive = await must(await writtenArchive(notebookId, AT, none, worker(asked), other));
  expect(asked).toEqual(["archive-part", "archive-part", "archive-write", "archive-write"]);
  expect(ids(archive)).toContain("0-late");
}, 60_000);

test("little is written by one worker", async () => {
  const asked: string[] = [];
  const few = { ...(demo[0] as StoredRecord), id: "few", notebookId: "few", title: "Few" } as StoredRecord;
  await change("load", [few], { journal: false });
  await writtenArchive("few", AT, none, worker(asked), worker(asked));
  expect(asked).toEqual(["archive-write"]);
  await removeNotebook("few");
});

test("sheets that can't be worked out stop the archive with their reason, however long the halves took", async () => {
  const asked: string[] = [];
  const both = worker(asked);
  const failed = Promise.reject<Map<string, string>>(new Error("no sheet of Sedge 51"));
  await expect(writtenArchive(notebookId, AT, failed, both, both)).rejects.toThrow("no sheet of Sedge 51");
  expect(asked).toEqual(["archive-part", "archive-part"]);
});
