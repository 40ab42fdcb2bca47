import "fake-indexeddb/auto";
import type { BoardRecord, NotebookId, PhotoRecord, SampleRecord, StoredRecord } from "@/core/files/records";
import {
  change,
  compactHistory,
  edit,
  newId,
  record,
  redo,
  remove,
  StorageError,
  undo,
  undoAct,
  type EditClash,
} from ".";
import { closeDatabase, database } from "./database";
import { closeNotices } from "./notices";

const AT = "2026-11-25T08:00:00Z";
const NB = "nb" as NotebookId;
const base = (kind: string, id: string) => ({ kind, id, notebookId: NB, createdAt: AT, updatedAt: AT });
const board = (id: string, title = "Sedge 51"): BoardRecord =>
  ({ ...base("board", id), title, note: "", functions: ["boost"] }) as unknown as BoardRecord;
const sample = (id: string, boardId: string): SampleRecord =>
  ({
    ...base("sample", id),
    boardId,
    name: "A",
    configuration: "",
    modifications: [],
    note: "",
  }) as unknown as SampleRecord;
const there = (id: string): Promise<BoardRecord> => record("board", id) as Promise<BoardRecord>;

beforeAll(() =>
  change("new", [{ ...base("notebook", NB), title: "Mine", schema: 7 } as unknown as StoredRecord], { journal: false }),
);
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const made = async (): Promise<BoardRecord> => {
  const b = board(newId());
  await change("add", [b]);
  return b;
};

describe("an edit", () => {
  test("writes only what it changed, onto what is there by now", async () => {
    const b = await made();
    await change("note", [edit(b, { ...b, note: "from one tab" })]);
    await change("title", [edit(b, { ...b, title: "Sedge 52" })]);
    expect(await there(b.id)).toMatchObject({ title: "Sedge 52", note: "from one tab" });
    expect(await change("nothing", [edit(b, { ...b, updatedAt: "2026-11-26T08:00:00Z" })])).toBeNull();
  });
  test("that meets another of the same field stores nothing and shows both values; insisting stores it", async () => {
    const b = await made();
    await change("title", [edit(b, { ...b, title: "first" })]);
    const late = change("title again", [edit(b, { ...b, title: "second", note: "kept with it" })]);
    await expect(late).rejects.toMatchObject({
      name: "EditClash",
      clashes: [{ path: ["title"], base: "Sedge 51", mine: "second", theirs: "first" }],
    });
    expect(await there(b.id)).toMatchObject({ title: "first", note: "" });
    await late.catch((e: EditClash) => e.insist());
    expect(await there(b.id)).toMatchObject({ title: "second", note: "kept with it" });
  });
  test("of what was deleted elsewhere says so; insisting brings it back as edited", async () => {
    const b = await made();
    await remove("delete", [b]);
    const late = change("title", [edit(b, { ...b, title: "still here" })]);
    await expect(late).rejects.toMatchObject({ clashes: [{ path: [], theirs: null }] });
    await late.catch((e: EditClash) => e.insist());
    expect(await there(b.id)).toMatchObject({ title: "still here" });
  });
  test("a record that is there is not written over by one that doesn't say what it was changed from", async () => {
    const b = await made();
    await expect(change("over", [{ ...b, title: "other" }])).rejects.toBeInstanceOf(StorageError);
    expect(await there(b.id)).toMatchObject({ title: "Sedge 51" });
  });
  test("leaves the hash of every version that went before, across undo too", async () => {
    const b = await made();
    await change("1", [edit(b, { ...b, note: "1" })]);
    await undo(NB);
    await redo(NB);
    const one = await there(b.id);
    await change("2", [edit(one, { ...one, note: "2" })]);
    expect((await there(b.id)).lineage).toHaveLength(2);
  });
});

describe("undo takes back that act", () => {
  test("whatever happened since, as far as the two don't touch", async () => {
    const b = await made();
    const act = await change("note", [edit(b, { ...b, note: "new" })]);
    const now = await there(b.id);
    await change("title", [edit(now, { ...now, title: "later" })]);
    const other = await made();
    expect(act && (await undoAct(act))).toEqual({ done: "note" });
    expect(await there(b.id)).toMatchObject({ title: "later", note: "" });
    expect(await there(other.id)).not.toBeNull();
    // It is itself a change that can be undone.
    expect(await undo(NB)).toEqual({ done: "undo: note" });
    expect(await there(b.id)).toMatchObject({ title: "later", note: "new" });
  });
  test("and says so where it can't any more: changed since, in use by now, undone already", async () => {
    const b = await made();
    const act = await change("note", [edit(b, { ...b, note: "1" })]);
    const now = await there(b.id);
    await change("note again", [edit(now, { ...now, note: "2" })]);
    expect(act && (await undoAct(act))).toEqual({ blocked: "Can't undo “note”: “Sedge 51” was changed since." });
    expect(await there(b.id)).toMatchObject({ note: "2" });
    const c = board(newId(), "Alder");
    const adding = await change("add Alder", [c]);
    await change("sample", [sample(newId(), c.id)]);
    expect(adding && (await undoAct(adding))).toEqual({
      blocked: "Can't undo “add Alder”: “A” was added to it since.",
    });
    const gone = await remove("delete", [c]);
    expect(gone && (await undoAct(gone))).toEqual({ done: "delete" });
    expect(gone && (await undoAct(gone))).toMatchObject({ blocked: expect.stringContaining("already") as string });
  });
  test("a photo that was deleted comes back with its bytes, of which history holds no copy", async () => {
    const p: PhotoRecord = {
      ...base("photo", newId()),
      sampleId: "s",
      name: "a.png",
      mime: "image/png",
      bytes: Uint8Array.of(1, 2, 3),
    } as unknown as PhotoRecord;
    await change("photo", [p]);
    const gone = await remove("delete", [p]);
    const entries = await (await database()).getAll("journal");
    expect(
      entries.flatMap((e) => [...e.after, ...e.before]).flatMap((r) => (r?.kind === "photo" ? [r.bytes.length] : [])),
    ).toEqual([0, 0, 0]);
    expect(gone && (await undoAct(gone))).toEqual({ done: "delete" });
    expect((await record("photo", p.id))?.bytes).toEqual(p.bytes);
  });
});

test("history beyond its horizon is forgotten, and with it the contents of what was deleted; versions and tombstones stay", async () => {
  const b = await made();
  const old = await change("old", [edit(b, { ...b, note: "old" })]);
  const p: PhotoRecord = {
    ...base("photo", newId()),
    sampleId: "s",
    name: "b.png",
    mime: "image/png",
    bytes: Uint8Array.of(9, 9),
  } as unknown as PhotoRecord;
  const kept: PhotoRecord = { ...p, id: newId() };
  await change("photos", [p, kept]);
  await remove("delete photo", [p]);
  const day = 86_400_000;
  expect(await compactHistory(NB, Date.now(), { days: 30, most: 20_000 })).toBe(0);
  expect(old && (await undoAct(old))).toEqual({ done: "old" });
  expect(await compactHistory(NB, Date.now() + 31 * day, { days: 30, most: 20_000 })).toBeGreaterThan(3);
  expect(await (await database()).countFromIndex("journal", "by-notebook", NB)).toBe(0);
  expect(await undo(NB)).toBeNull();
  expect(old && (await undoAct(old))).toMatchObject({ blocked: expect.stringContaining("too long ago") as string });
  const gone = await (await database()).get("records", p.id);
  expect(gone).toMatchObject({ deletedAt: expect.any(String) as string, bytes: new Uint8Array() });
  expect((await record("photo", kept.id))?.bytes).toEqual(kept.bytes);
  expect((await there(b.id)).lineage?.length).toBeGreaterThan(0);
  // By number: the newest stay.
  for (let k = 0; k < 6; k++) await made();
  expect(await compactHistory(NB, Date.now(), { days: 30, most: 4 })).toBe(2);
});
