import "fake-indexeddb/auto";
import type { PointRecord, RunRecord, StoredRecord } from "@/core/files/records";
import { packedDemo } from "@/testing/demo";
import { closeDatabase, database } from "./database";
import { change, edit, undoAct, type Act } from "./door";
import { closeNotices } from "./notices";
import { manyApart, packSettled } from "./pack-settled";
import { everything, ofRun, record } from "./queries";
import { removeNotebook } from "./room";

const AT = "2026-11-25T08:00:00Z";
const NOW = Date.parse("2026-11-28T08:00:00Z");
const RECENT = "2026-11-28T07:00:00.000Z";
let n = 0;
const demo = packedDemo(() => `s-${String(n++).padStart(6, "0")}`, AT).records;
const notebook = demo.find((r) => r.kind === "notebook") as StoredRecord;
const point = demo.find((r): r is PointRecord => r.kind === "point" && r.state === "taken") as PointRecord;
const like = demo.find((r): r is RunRecord => r.id === point.runId) as RunRecord;
const owners = demo.filter((r) => [notebook.id, like.boardId, like.sampleId].includes(r.id));
const run = (id: string, patch: object = {}): RunRecord => ({ ...like, id, state: "finished", ...patch }) as RunRecord;
const points = (runId: string, patch: object = {}): PointRecord[] =>
  [0, 1, 2].map((k) => ({ ...point, id: `${runId}-${k}`, runId, sequence: k, ...patch }) as unknown as PointRecord);
const packed = async () => (await (await database()).getAllKeys("bundles")).map(([runId]) => runId);
const load = (list: readonly StoredRecord[]) => change("load", list, { journal: false });

beforeEach(() => load(owners));
afterEach(() => removeNotebook(notebook.id));
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("what was finished and left alone for a day is packed, anything else is not", async () => {
  await load([
    run("r1"),
    ...points("r1"),
    run("r2", { state: "open" }),
    ...points("r2"),
    run("r3", { updatedAt: RECENT }),
    ...points("r3"),
    run("r4"),
    ...points("r4", { updatedAt: RECENT }),
    run("r5"),
  ]);
  const before = await everything(notebook.id);
  expect(await packSettled(notebook.id, NOW, null, 0)).toBeNull();
  expect(await packed()).toEqual(["r1"]);
  const byId = (list: readonly StoredRecord[]) => new Map(list.map((r) => [r.id as string, r]));
  const after = await everything(notebook.id);
  expect(after.length).toBe(before.length);
  expect(byId(after)).toEqual(byId(before));
  expect((await ofRun("r1")).points.map((p) => p.id)).toEqual(["r1-0", "r1-1", "r1-2"]);
  // A second round finds nothing more to do.
  await packSettled(notebook.id, NOW, null, 0);
  expect(await packed()).toEqual(["r1"]);
  await change("correct a point", [
    edit(points("r1")[1] as PointRecord, { ...points("r1")[1], sequence: 9 } as PointRecord),
  ]);
  expect(await packed()).toEqual([]);
  expect((await ofRun("r1")).points.map((p) => p.sequence)).toEqual([0, 2, 9]);
});

test("runs beyond a round are packed in the next one", async () => {
  const ids = Array.from({ length: 130 }, (_, k) => `r${String(k).padStart(3, "0")}`);
  await load(ids.flatMap((id) => [run(id), ...points(id)]));
  const last = await packSettled(notebook.id, NOW, null, 0);
  expect(last).toBe("r099");
  expect(await packed()).toEqual(ids.slice(0, 100));
  expect(await packSettled(notebook.id, NOW, last, 0)).toBeNull();
  expect(await packed()).toEqual(ids);
  expect(await manyApart(notebook.id)).toBe(false);
});

test("a run whose readings are packed is not undone from under them", async () => {
  const act = (await change("prepare a run", [run("r1")])) as Act;
  await load(points("r1"));
  await packSettled(notebook.id, NOW, null, 0);
  expect(await packed()).toEqual(["r1"]);
  expect(await undoAct(act)).toEqual({ blocked: expect.stringContaining("was added to it since") as string });
  expect(await record("run", "r1")).not.toBeNull();
});

test("a few readings are left as they are, many are worth the work", async () => {
  await load([run("r1"), ...points("r1")]);
  expect(await manyApart(notebook.id)).toBe(false);
  const many = Array.from(
    { length: 5001 },
    (_, k) => ({ ...point, id: `m${k}`, runId: "r1", sequence: k }) as unknown as PointRecord,
  );
  const db = await database();
  const tx = db.transaction("records", "readwrite");
  await Promise.all([...many.map((p) => tx.store.add(p)), tx.done]);
  expect(await manyApart(notebook.id)).toBe(true);
});
