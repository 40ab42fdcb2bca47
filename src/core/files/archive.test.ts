import { readFileSync } from "node:fs";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { generate } from "../../../scripts/build-validators";
import { packedDemo } from "@/testing/demo";
import { PROCEDURES } from "../procedures";
import { seeded } from "../simulator";
import { checksum, mergeRecords, readArchive, stableJson, validateRecord, writeArchive, type StoredRecord } from ".";

const AT = "2026-11-25T08:00:00Z";
const ids = (prefix: string) => {
  let n = 0;
  return () => `${prefix}-${n++}`;
};
const demo = packedDemo(ids("d"), AT).records;
const photo: StoredRecord = { kind: "photo", id: "ph", notebookId: demo[0]?.notebookId as StoredRecord["notebookId"], createdAt: AT, updatedAt: AT, sampleId: demo.find((r) => r.kind === "sample")?.id as never, name: "a.png", mime: "image/png", bytes: Uint8Array.of(1, 2, 3, 250) };
const file: StoredRecord = { kind: "file", id: "fi", notebookId: photo.notebookId, createdAt: AT, updatedAt: AT, name: "s.csv", sha256: checksum(strToU8("a,b\r\n1,2\r\n")), text: "a,b\r\n1,2\r\n" };
// What is stored apart is written out with its text, and read back with it.
const all = [...demo.map((r) => (r.kind === "file" && r.apart ? { kind: r.kind, id: r.id, notebookId: r.notebookId, createdAt: r.createdAt, updatedAt: r.updatedAt, name: r.name, sha256: checksum(strToU8("t,V\n0,1\n")), text: "t,V\n0,1\n" } : r)), photo, file] as readonly StoredRecord[];
const present = (list: readonly StoredRecord[]) => new Map(list.map((r) => [r.id as string, r]));
const must = (bytes: Uint8Array) => {
  const a = readArchive(bytes);
  if (!a.ok) throw new Error(a.error);
  return a.value;
};

test("every record of the demo fits its schema, and its boards stand as promised", () => {
  for (const r of all) expect(validateRecord(r)).toMatchObject({ ok: true });
  expect(demo.filter((r) => r.kind === "board").length).toBeGreaterThanOrEqual(4);
  // A sweep is left half way, for whoever tries it to carry on.
  expect(demo.filter((r) => r.kind === "run" && r.state !== "finished").map((r) => r.kind === "run" && r.procedure)).toEqual(["load-sweep"]);
  // Every procedure has a finished run.
  for (const p of PROCEDURES) expect([p.id, demo.some((r) => r.kind === "run" && r.procedure === p.id && r.state === "finished")]).toEqual([p.id, true]);
});

test("the validators that ship are those the schemas make", () => {
  expect(readFileSync("src/core/files/validators.generated.js", "utf8")).toBe(generate());
});

test("a record that does not fit is refused with field and value", () => {
  const board = demo.find((r) => r.kind === "board") as StoredRecord;
  const reason = (r: unknown) => {
    const v = validateRecord(r);
    return v.ok ? "fits" : v.error;
  };
  expect(reason({ ...board, title: "" })).toMatch(/title.*fewer than 1.*found ""/);
  expect(reason({ ...board, functions: ["flies"] })).toMatch(/functions/);
  expect(reason({ ...board, extra: 1 })).toMatch(/additional.*extra/);
  expect(reason({ kind: "gadget" })).toMatch(/none of notebook/);
  expect(reason({ ...board, createdAt: "yesterday" })).toMatch(/createdAt/);
});

describe("archives", () => {
  const bytes = writeArchive(all, AT);

  test("what is read back is what was written, to the letter", () => {
    const back = must(bytes);
    expect(stableJson([...back.records].sort((a, b) => (a.id < b.id ? -1 : 1)).map((r) => (r.kind === "photo" ? { ...r, bytes: [...r.bytes] } : r)))).toBe(
      stableJson([...all].sort((a, b) => (a.id < b.id ? -1 : 1)).map((r) => (r.kind === "photo" ? { ...r, bytes: [...r.bytes] } : r))),
    );
    expect(writeArchive(back.records, AT)).toEqual(bytes);
  });

  const tampered = (change: (files: Record<string, Uint8Array>) => void) => {
    const files = { ...unzipSync(bytes) };
    change(files);
    const r = readArchive(zipSync(files));
    return r.ok ? "read" : r.error;
  };
  const manifest = (files: Record<string, Uint8Array>) => JSON.parse(Buffer.from(files["manifest.json"] ?? []).toString()) as Record<string, unknown>;

  test("a damaged, cut, foreign or newer archive is refused with the reason", () => {
    expect(tampered((f) => (f["records/board.json"] = strToU8("[]")))).toMatch(/board.json differs from its checksum/);
    expect(tampered((f) => delete f["records/run.json"])).toMatch(/lacks records\/run.json/);
    expect(tampered((f) => delete f["manifest.json"])).toMatch(/not written by/);
    expect(tampered((f) => (f["manifest.json"] = strToU8(JSON.stringify({ ...manifest(f), version: 99 }))))).toMatch(/format 99.*newer version.*Nothing was imported/);
    expect(tampered((f) => (f["manifest.json"] = strToU8("{}")))).toMatch(/manifest.json/);
    expect(readArchive(strToU8("no zip"))).toMatchObject({ ok: false });
    expect(readArchive(bytes.slice(0, bytes.length / 2))).toMatchObject({ ok: false });
  });

  test("sheets lie in it as Markdown, those of today by their board and the issued ones by their id; reading it takes them as they are", () => {
    const board = demo.find((r) => r.kind === "board") as Extract<StoredRecord, { kind: "board" }>;
    const issued: StoredRecord = { kind: "issued", id: "is-1", notebookId: board.notebookId, createdAt: board.createdAt, updatedAt: board.updatedAt, boardId: board.id, title: board.title, issuedAt: board.createdAt, note: "the committee", sheet: {} as never, charts: [], wiring: null, markdown: "# As it was", versions: { application: "0", schema: 4, analyses: {}, rules: {} } };
    const packed = writeArchive([...demo, issued], "2026-11-26T08:00:00Z", new Map(), new Map([["sedge-51", "# As it is"]]));
    const files = unzipSync(packed);
    expect(strFromU8(files["sheets/sedge-51.md"] as Uint8Array)).toBe("# As it is");
    expect(strFromU8(files["sheets/issued/is-1.md"] as Uint8Array)).toBe("# As it was");
    expect(must(packed).records.find((r) => r.kind === "issued")).toEqual(issued);
    // What was deleted is not written out, though its tombstone goes along.
    const gone = unzipSync(writeArchive([...demo, { ...issued, deletedAt: board.createdAt }], "2026-11-26T08:00:00Z"));
    expect(Object.keys(gone).filter((f) => f.startsWith("sheets/"))).toEqual([]);
  });

  test.each([1, 2, 3, 4, 5])("the stored example of schema version %i opens", (version) => {
    const old = must(new Uint8Array(readFileSync(`src/core/files/fixtures/notebook-v${version}.zip`)));
    expect(old.manifest.version).toBe(version);
    expect(old.records.filter((r) => r.kind === "point").length).toBeGreaterThan({ 1: 100, 2: 20 }[version] ?? 4);
    expect(old.records.find((r) => r.kind === "notebook")).toMatchObject({ schema: 6 });
    expect(old.logs.size).toBe(version === 2 || version >= 4 ? 1 : 0);
    if (version < 4) return;
    expect(["instrument", "need", "issued", "photo", "file", "cellReading"].filter((kind) => !old.records.some((r) => r.kind === kind))).toEqual([]);
    expect(old.records.filter((r) => r.deletedAt).map((r) => r.id)).toEqual(["gone-1"]);
  });
});

describe("merging", () => {
  test("into an empty notebook everything comes in; a second time nothing does", () => {
    expect(mergeRecords(new Map(), all, ids("n"))).toMatchObject({ same: 0, copies: 0, added: all });
    expect(mergeRecords(present(all), all, ids("n"))).toMatchObject({ added: [], same: all.length, copies: 0 });
  });

  test("a point that differs brings its whole run as a copy beside the one that is there", () => {
    const point = demo.find((r) => r.kind === "point") as Extract<StoredRecord, { kind: "point" }>;
    const incoming = all.map((r) => (r.id === point.id ? { ...point, dwell: 99 } : r));
    const merge = mergeRecords(present(all), incoming, ids("n"));
    const run = merge.added.find((r) => r.kind === "run");
    const points = merge.added.filter((r) => r.kind === "point");
    expect(run?.kind === "run" && run.title).toMatch(/from archive/);
    expect(points).toHaveLength(demo.filter((r) => r.kind === "point" && r.runId === point.runId).length);
    expect(new Set(points.map((p) => p.kind === "point" && p.runId))).toEqual(new Set([run?.id]));
    const taken = new Set(all.map((r) => r.id as string));
    expect(merge.added.every((r) => !taken.has(r.id))).toBe(true);
    const own = new Set(points.map((p) => p.id as string));
    for (const a of merge.added) if (a.kind === "annotation") expect(own.has(a.target)).toBe(true);
    expect(merge.added.some((r) => r.kind === "board" || r.kind === "sample")).toBe(false);
  });

  test("a board that differs is kept twice with all that hangs on it; the two never share a record", () => {
    const board = demo.find((r) => r.kind === "board") as Extract<StoredRecord, { kind: "board" }>;
    const incoming = all.map((r) => (r.id === board.id ? { ...board, title: "Other name" } : r));
    const merge = mergeRecords(present(all), incoming, ids("n"));
    const copy = merge.added.find((r) => r.kind === "board");
    expect(copy?.kind === "board" && copy.title).toBe("Other name (from archive)");
    for (const r of merge.added) if ("boardId" in r) expect(r.boardId).toBe(copy?.id);
    expect(merge.added.length + merge.same).toBe(all.length);
  });

  test("whatever is changed, nothing that is there is written over (seed 17)", () => {
    const random = seeded(17);
    for (let k = 0; k < 40; k++) {
      const victim = all[Math.floor(random.uniform() * all.length)] as StoredRecord;
      if (victim.kind === "notebook") continue;
      const incoming = all.map((r) => (r.id === victim.id ? { ...r, updatedAt: "2026-11-26T00:00:00Z" } : r)) as StoredRecord[];
      const merge = mergeRecords(present(all), incoming, ids(`k${k}`));
      const there = present(all);
      expect(merge.added.every((r) => !there.has(r.id))).toBe(true);
      expect(merge.copies).toBeGreaterThan(0);
    }
  });
});
