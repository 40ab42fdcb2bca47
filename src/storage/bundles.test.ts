import "fake-indexeddb/auto";
import { deleteDB, openDB } from "idb";
import { archiveOf, readArchive } from "@/core/files/archive";
import type { AnnotationRecord, NotebookRecord, PointRecord, RunRecord, StoredRecord } from "@/core/files/records";
import { seeded } from "@/core/simulator";
import { packedDemo } from "@/testing/demo";
import { exportNotebook, importNew, planImport } from "./archives";
import { inBundle, isRunPart, type RunPart } from "./bundles";
import { closeDatabase, database, DATABASE_NAME } from "./database";
import { change, edit, remove, undo } from "./door";
import { closeNotices } from "./notices";
import { Packer } from "./pack-runs";
import { everything, notebooks, ofRun, present, record } from "./queries";
import { notebookSize, removeNotebook } from "./room";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `b-${n++}`, AT);
const records = demo.records.filter((r) => r.kind !== "file" && !(r.kind === "run" && r.source.kind === "file"));
const there = new Set(records.map((r) => r.id as string));
const own = records.filter((r) => !("runId" in r) || there.has(r.runId));
const notebook = own.find((r): r is NotebookRecord => r.kind === "notebook") as NotebookRecord;
const parts = own.filter(isRunPart);
const point = parts.find((r): r is PointRecord => r.kind === "point" && r.state === "taken") as PointRecord;
const other = parts.find((r): r is PointRecord => r.kind === "point" && r.runId !== point.runId) as PointRecord;
const archive = (list: readonly StoredRecord[] = own) => archiveOf(list, AT);
const must = <T>(r: { ok: true; value: T } | { ok: false; error: string }): T => {
  if (!r.ok) throw new Error(r.error);
  return r.value;
};
const byId = (list: readonly StoredRecord[]) => new Map(list.map((r) => [r.id as string, r]));
const packedRuns = async () => new Set((await (await database()).getAllKeys("bundles")).map(([runId]) => runId));
const rows = async () =>
  (await (await database()).getAllKeys("records")).filter((id) => parts.some((p) => p.id === id));

beforeEach(async () => {
  must(await importNew(await archive()));
});
afterEach(async () => {
  for (const { id } of await notebooks()) await removeNotebook(id);
  expect(await (await database()).count("bundles")).toBe(0);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("what belongs to runs comes in packed, and reads and leaves as it came", async () => {
  expect(await rows()).toEqual([]);
  expect(await packedRuns()).toEqual(new Set(parts.map((p) => p.runId)));
  const { points, annotations, answers } = await ofRun(point.runId);
  const living = parts.filter((p) => p.runId === point.runId && !p.deletedAt);
  expect(byId([...points, ...annotations, ...answers])).toEqual(byId(living));
  expect(points.map((p) => p.sequence)).toEqual(points.map((p) => p.sequence).sort((a, b) => a - b));
  expect(byId(await everything(notebook.id))).toEqual(byId(own));
  const out = must(await readArchive(await exportNotebook(notebook.id, AT, new Map(), null)));
  expect(byId(out.records)).toEqual(byId(own));
  expect((await notebookSize(notebook.id)).records).toBeGreaterThan(700 * (own.length - parts.length));
});

test("a change unpacks its own run and no other, nothing is there twice, and undo takes it back", async () => {
  const before = await packedRuns();
  await change("correct a point", [edit(point, { ...point, sequence: 999 })]);
  before.delete(point.runId);
  expect(await packedRuns()).toEqual(before);
  expect((await rows()).sort()).toEqual(parts.flatMap((p) => (p.runId === point.runId ? [p.id as string] : [])).sort());
  const all = await everything(notebook.id);
  expect(all.length).toBe(own.length);
  expect(byId(all).get(point.id)).toMatchObject({ sequence: 999, lineage: [expect.any(String)] });
  expect(await undo(notebook.id)).toEqual({ done: "correct a point" });
  expect(byId(await everything(notebook.id)).get(point.id)).toMatchObject({ sequence: point.sequence });
  // A part that is new meets the others of its run.
  const { id: target, notebookId, runId, createdAt, updatedAt } = other;
  const base = { notebookId, runId, createdAt, updatedAt };
  const note = { kind: "annotation", id: "note-1", ...base, target, what: "left-out", text: "probe slipped" };
  await change("leave a point out", [note as unknown as AnnotationRecord]);
  const { points, annotations } = await ofRun(other.runId);
  expect(annotations.map((a) => a.id)).toContain("note-1");
  expect(points.map((p) => p.id)).toContain(other.id);
  expect((await packedRuns()).has(other.runId)).toBe(false);
});

test("a change that is refused leaves the run packed", async () => {
  const wrong = { ...point, sequence: "first" } as unknown as PointRecord;
  await expect(change("correct a point", [edit(point, wrong)])).rejects.toThrow("internal");
  expect((await packedRuns()).has(point.runId)).toBe(true);
  expect(await rows()).toEqual([]);
});

test("a run that is deleted keeps its readings for an undo", async () => {
  const run = (await record("run", point.runId)) as RunRecord;
  await remove("delete a run", [run]);
  expect(await record("run", point.runId)).toBeNull();
  await undo(notebook.id);
  expect((await ofRun(point.runId)).points.map((p) => p.id)).toContain(point.id);
});

test("what is packed is found by its run, and merging the same archive again changes nothing", async () => {
  expect([...(await present([point, { id: notebook.id }, { id: "nobody" }])).keys()].sort()).toEqual(
    [point.id, notebook.id].sort(),
  );
  const plan = must(await planImport(await archive()));
  expect([plan.write, plan.added, plan.updated, plan.same]).toEqual([[], 0, 0, own.length]);
  const changed = own.map((r) => (r.id === point.id ? { ...point, sequence: 7, lineage: [] } : r));
  const differing = must(await planImport(await archive(changed as StoredRecord[])));
  expect(differing.conflicts.map((c) => c.ours.id)).toEqual([point.id]);
});

/** The same notebook under other ids, but for one point. */
const twin = (keep: string): StoredRecord[] => {
  const names = new Map([...there].map((id) => [id, id === keep ? id : `twin-${id}`]));
  const renamed = (v: unknown): unknown =>
    typeof v === "string"
      ? (names.get(v) ?? v)
      : Array.isArray(v)
        ? v.map(renamed)
        : typeof v === "object" && v !== null
          ? Object.fromEntries(Object.entries(v).map(([k, x]) => [k, renamed(x)]))
          : v;
  return own.map((r) => renamed(r) as StoredRecord);
};

test("a reading that another notebook has under the same id is refused, packed or not, and leaves nothing", async () => {
  must(await importNew(await archive(twin("none"))));
  const held = await (await database()).count("bundles");
  await removeNotebook(`twin-${notebook.id}`);
  expect(await (await database()).count("bundles")).toBeLessThan(held);
  const clashing = await archive(twin(point.id));
  for (const unpacked of [false, true]) {
    if (unpacked) await change("correct a point", [edit(point, { ...point, sequence: 999 })]);
    const r = await importNew(clashing);
    expect(r).toEqual({ ok: false, error: expect.stringContaining("id of one in another notebook") as string });
    expect((await notebooks()).map((x) => x.id)).toEqual([notebook.id]);
    expect((await packedRuns()).size).toBe(new Set(parts.map((p) => p.runId)).size - (unpacked ? 1 : 0));
  }
});

test("records packed in any order are all there, in values that the browser keeps in place", () => {
  const seed = 20261201;
  const random = seeded(seed);
  const next = () => random.uniform();
  for (let round = 0; round < 30; round++) {
    const list: RunPart[] = Array.from({ length: Math.floor(next() * 900) }, (_, k) => ({
      ...point,
      id: `p${k}` as never,
      runId: `r${Math.floor(next() * 12)}` as never,
      sequence: k,
      note: "x".repeat(next() < 0.02 ? 40_000 : next() * 400),
    })) as unknown as RunPart[];
    const packer = new Packer();
    const bundles = list.flatMap((r) => {
      packer.add(r);
      return next() < 0.1 ? packer.taken() : [];
    });
    bundles.push(...packer.end());
    const back = bundles.flatMap(inBundle);
    expect([seed, round, byId(back)]).toEqual([seed, round, byId(list)]);
    expect(back.length).toBe(list.length);
    for (const b of bundles) {
      expect(inBundle(b).length).toBe(b.count);
      expect(inBundle(b).every((r) => r.runId === b.runId && r.kind === b.kind)).toBe(true);
      if (b.count > 1) expect(b.lines.length).toBeLessThan(64_000);
    }
    expect(new Set(bundles.map((b) => `${b.runId} ${b.seq}`)).size).toBe(bundles.length);
  }
});

test("a database of an earlier version keeps what is in it", async () => {
  await removeNotebook(notebook.id);
  await closeDatabase();
  await deleteDB(DATABASE_NAME);
  const old = await openDB(DATABASE_NAME, 2, {
    upgrade(db) {
      const store = db.createObjectStore("records", { keyPath: "id" });
      store.createIndex("kind", "kind");
      store.createIndex("by-kind", ["notebookId", "kind"]);
      store.createIndex("by-board", ["boardId", "kind"]);
      store.createIndex("by-run", "runId");
      store.createIndex("by-sample", ["sampleId", "kind"]);
      db.createObjectStore("journal", { keyPath: "seq", autoIncrement: true }).createIndex("by-notebook", "notebookId");
      db.createObjectStore("derived", { keyPath: "key" });
      db.createObjectStore("meta");
      db.createObjectStore("chunks", { keyPath: ["runId", "seq"] });
      db.createObjectStore("contents");
    },
  });
  const tx = old.transaction("records", "readwrite");
  await Promise.all(own.map((r) => tx.store.add(r)));
  await tx.done;
  old.close();
  expect(byId(await everything(notebook.id))).toEqual(byId(own));
  expect((await ofRun(point.runId)).points.map((p) => p.id)).toContain(point.id);
  expect(await packedRuns()).toEqual(new Set());
});
