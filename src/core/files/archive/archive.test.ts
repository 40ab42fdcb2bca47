import { readFileSync } from "node:fs";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import Ajv2020 from "ajv/dist/2020";
import { generate, generateQuestions } from "../../../../scripts/build-validators";
import { packedDemo } from "@/testing/demo";
import { PROCEDURES } from "../../procedures";
import { checksum, stableJson, validateRecord, type FileRecord, type StoredRecord } from "..";
import { archiveOf, readArchive } from ".";
import { writeArchive, type ArchiveSource } from "./write";

const AT = "2026-11-25T08:00:00Z";
const ids = (prefix: string) => {
  let n = 0;
  return () => `${prefix}-${n++}`;
};
const demo = packedDemo(ids("d"), AT).records;
const notebookId = demo[0]?.notebookId as StoredRecord["notebookId"];
const photo: StoredRecord = {
  kind: "photo",
  id: "ph",
  notebookId,
  createdAt: AT,
  updatedAt: AT,
  sampleId: demo.find((r) => r.kind === "sample")?.id as never,
  name: "a.png",
  mime: "image/png",
  bytes: Uint8Array.of(1, 2, 3, 250),
};
const withText = (r: FileRecord, text: string): FileRecord => ({ ...r, sha256: checksum(strToU8(text)), text });
const file = withText(
  { kind: "file", id: "fi", notebookId, createdAt: AT, updatedAt: AT, name: "s.csv", sha256: "", text: "" },
  "a,b\r\n1,2\r\n",
);
const all = [
  ...demo.map((r) => (r.kind === "file" && r.apart ? withText(r, "t,V\n0,1\n") : r)),
  photo,
  file,
] as readonly StoredRecord[];
/** As a record is read back: a file's content stands apart. */
const apart = (r: StoredRecord): StoredRecord => (r.kind === "file" ? { ...r, text: "", apart: true } : r);
const must = async (blob: Blob) => {
  const a = await readArchive(blob);
  if (!a.ok) throw new Error(a.error);
  return a.value;
};
const unzipped = async (blob: Blob): Promise<Record<string, Uint8Array>> => ({
  ...unzipSync(new Uint8Array(await blob.arrayBuffer())),
});

test("every record of the demo fits its schema, and its boards stand as claimed", () => {
  for (const r of all) expect(validateRecord(r)).toMatchObject({ ok: true });
  expect(demo.filter((r) => r.kind === "board").length).toBeGreaterThanOrEqual(4);
  // A sweep is left half way, for whoever tries it to carry on.
  expect(
    demo.filter((r) => r.kind === "run" && r.state !== "finished").map((r) => r.kind === "run" && r.procedure),
  ).toEqual(["load-sweep"]);
  // Every procedure has a finished run.
  for (const p of PROCEDURES)
    expect([p.id, demo.some((r) => r.kind === "run" && r.procedure === p.id && r.state === "finished")]).toEqual([
      p.id,
      true,
    ]);
});

test("the validators that ship are those the schemas make", () => {
  expect(readFileSync("src/core/files/validators.generated.js", "utf8")).toBe(generate());
  expect(readFileSync("src/core/files/questions.generated.js", "utf8")).toBe(generateQuestions());
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

const plain = (list: readonly StoredRecord[]) =>
  stableJson(
    [...list]
      .sort((a, b) => (a.id < b.id ? -1 : 1))
      .map((r) => (r.kind === "photo" ? { ...r, bytes: [...r.bytes] } : r)),
  );

test("what is read back is what was written, to the letter, and written again it is the same archive", async () => {
  const blob = await archiveOf(all, AT);
  const back = await must(blob);
  expect(plain(back.records)).toBe(plain(all.map(apart)));
  expect(await back.contents.get("fi")?.text()).toBe(file.text);
  const again = await Promise.all(
    back.records.map(async (r) =>
      r.kind === "file" ? { ...r, text: (await back.contents.get(r.id)?.text()) ?? "" } : r,
    ),
  );
  expect(await unzipped(await archiveOf(again, AT))).toEqual(await unzipped(blob));
});

describe("files travel as bytes", () => {
  const source = (records: readonly StoredRecord[], content: Blob): ArchiveSource => ({
    notebook: demo.find((r) => r.kind === "notebook") as ArchiveSource["notebook"],
    records: () => [records],
    content: () => Promise.resolve(content),
    logs: [],
    log: () => Promise.resolve(null),
    sheets: new Map(),
  });
  test.each<[string, Uint8Array]>([
    ["code page 1252, with a degree sign", Uint8Array.of(...strToU8("T ("), 0xb0, ...strToU8("C)\n20\n"))],
    ["UTF-8 with a byte-order mark", Uint8Array.of(0xef, 0xbb, 0xbf, ...strToU8("t,V\n0,1\n"))],
    ["UTF-16", Uint8Array.of(0xff, 0xfe, 0x74, 0x00, 0x0a, 0x00)],
    ["nothing but zeros, which packs a thousand times smaller", new Uint8Array(400_000)],
  ])("%s", async (_, bytes) => {
    const f: FileRecord = { ...file, sha256: checksum(bytes), text: "", apart: true };
    const back = await must(
      await writeArchive(source([...demo.filter((r) => r.kind === "notebook"), f], new Blob([bytes as BlobPart])), AT),
    );
    expect(new Uint8Array((await back.contents.get("fi")?.arrayBuffer()) ?? [])).toEqual(bytes);
  });

  test("a file that an older version had damaged goes out and comes back as it is", async () => {
    const f: FileRecord = { ...file, sha256: "0".repeat(64), text: "", apart: true };
    const back = await must(
      await writeArchive(source([...demo.filter((r) => r.kind === "notebook"), f], new Blob(["T (\ufffdC)"])), AT),
    );
    expect(back.manifest.damaged).toEqual(["files/fi.csv"]);
    expect(await back.contents.get("fi")?.text()).toBe("T (\ufffdC)");
  });

  test("what is deleted leaves its tombstone and no content", async () => {
    const gone = all.map((r) => (r.kind === "photo" || r.kind === "file" ? { ...r, deletedAt: AT } : r));
    const files = await unzipped(await archiveOf(gone, AT));
    expect(Object.keys(files).filter((f) => /^(photos|files)/.test(f))).toEqual([]);
    const back = await must(await archiveOf(gone, AT));
    expect(back.records.filter((r) => r.kind === "photo" || r.kind === "file").every((r) => r.deletedAt)).toBe(true);
  });
});

describe("refused, with the reason", () => {
  type Manifest = Record<string, unknown> & { files: Record<string, string>; sizes: Record<string, number> };
  interface Packed {
    files: Record<string, Uint8Array>;
    manifest: Manifest;
  }
  const log = all.find((r) => r.kind === "run" && r.source.kind !== "file") as StoredRecord;
  let bytes: Uint8Array;
  beforeAll(async () => {
    bytes = new Uint8Array(
      await (
        await archiveOf(all, AT, new Map([[log.id, "Test Time / s,Voltage / V\r\n0,3\r\n1,3\r\n"]]))
      ).arrayBuffer(),
    );
  });
  /** Changes an archive, and makes its checksums fit what it then holds unless `sums` is false. */
  async function tampered(change: (p: Packed) => void, sums = true): Promise<string> {
    const { "manifest.json": head, ...files } = unzipSync(bytes);
    const p: Packed = { files, manifest: JSON.parse(strFromU8(head as Uint8Array)) as Manifest };
    change(p);
    if (sums)
      for (const path of Object.keys(p.manifest.files)) {
        const content = p.files[path];
        if (!content) continue;
        p.manifest.files[path] = checksum(content);
        p.manifest.sizes[path] = content.length;
      }
    const out: Zippable = {
      ...p.files,
      ...(p.manifest ? { "manifest.json": strToU8(JSON.stringify(p.manifest)) } : {}),
    };
    const r = await readArchive(new Blob([zipSync(out) as BlobPart]));
    return r.ok ? "read" : r.error;
  }
  const lines = (p: Packed, path: string): Record<string, unknown>[] =>
    JSON.parse(strFromU8(p.files[path] as Uint8Array)) as Record<string, unknown>[];
  const edit = (p: Packed, path: string, f: (list: Record<string, unknown>[]) => unknown) => {
    p.files[path] = strToU8(JSON.stringify(f(lines(p, path))));
  };

  test("as it is, it is read, zipped again too", async () => expect(await tampered(() => undefined)).toBe("read"));

  const BAD: readonly (readonly [string, (p: Packed) => void, RegExp, false?])[] = [
    [
      "content that differs from its checksum",
      (p) => (p.files["records/board.json"] = strToU8("[]")),
      /board.json.*(differs|bytes)/,
      false,
    ],
    ["an entry missing", (p) => delete p.files["records/run.json"], /lacks “records\/run.json”/],
    ["no manifest", (p) => (p.manifest = undefined as never), /not written by/, false],
    ["a newer format", (p) => (p.manifest.version = 99), /format 99.*newer version.*Nothing was imported/],
    ["an empty manifest", (p) => (p.manifest = { files: {}, sizes: {} } as never), /manifest.json/],
    [
      "an entry that is not listed",
      (p) => (p.files["sheets/extra.md"] = strToU8("x")),
      /extra.md”, which its manifest does not list/,
    ],
    [
      "an entry that is no part of an archive",
      (p) => ((p.files["run.exe"] = strToU8("x")), (p.manifest.files["run.exe"] = "")),
      /does not belong in an archive/,
    ],
    [
      "an entry larger than is listed",
      (p) => (p.manifest.sizes["records/board.json"] = 3),
      /has \d+ bytes; its manifest says 3/,
      false,
    ],
    [
      "an entry that unpacks to 1,000 times its size",
      (p) => ((p.files["sheets/bomb.md"] = new Uint8Array(1e6)), (p.manifest.files["sheets/bomb.md"] = "")),
      /more than 200 times/,
    ],
    [
      "another checksum of a file's content",
      (p) => (p.files["files/fi.csv"] = strToU8("other")),
      /content of “s.csv” differs/,
    ],
    [
      "a photo without its bytes",
      (p) => (delete p.files["photos/ph"], delete p.manifest.files["photos/ph"], delete p.manifest.sizes["photos/ph"]),
      /photos\/ph” is missing/,
    ],
    [
      "a photo whose bytes are the prototype of everything",
      (p) => edit(p, "records/photo.json", (l) => l.map((r) => ({ ...r, bytes: "__proto__" }))),
      /__proto__” is missing/,
    ],
    [
      "content of no record",
      (p) => ((p.files["photos/other"] = strToU8("x")), (p.manifest.files["photos/other"] = "")),
      /belongs to no record/,
    ],
    [
      "a record of another notebook",
      (p) => edit(p, "records/board.json", (l) => l.map((r, k) => (k ? r : { ...r, notebookId: "other" }))),
      /another notebook/,
    ],
    ["an id twice in one list", (p) => edit(p, "records/board.json", (l) => [...l, l[0]]), /occurs twice/],
    [
      "an id twice in two lists",
      (p) =>
        edit(p, "records/cell.json", (l) =>
          l.map((r, k) => (k ? r : { ...r, id: lines(p, "records/board.json")[0]?.id })),
        ),
      /occurs twice/,
    ],
    ["a record of null", (p) => edit(p, "records/board.json", () => [null]), /must be a record, found null/],
    [
      "a record absurdly deep",
      (p) =>
        (p.files["records/need.json"] = strToU8(
          `[${Array.from({ length: 900 }, (_, k) => `{"k${k}":`).join("")}1${"}".repeat(900)}]`,
        )),
      /nested deeper/,
    ],
    [
      "a record with a prototype",
      (p) =>
        (p.files["records/rig.json"] = strToU8(
          strFromU8(p.files["records/rig.json"] as Uint8Array).replace(
            '"instruments":{',
            '"instruments":{"__proto__":{"gain":0,"counts":0,"resolution":0},',
          ),
        )),
      /nested deeper/,
    ],
    [
      "a point of no run",
      (p) => edit(p, "records/point.json", (l) => l.map((r, k) => (k ? r : { ...r, runId: "none" }))),
      /belongs to “none”, which the archive lacks/,
    ],
    [
      "records in the wrong list",
      (p) => edit(p, "records/board.json", () => lines(p, "records/cell.json")),
      /must be a board, found "cell"/,
    ],
    [
      "the log of no run",
      (p) => ((p.files["logs/none.csv"] = strToU8("x")), (p.manifest.files["logs/none.csv"] = "")),
      /log of no run/,
    ],
    [
      "no notebook",
      (p) => (
        delete p.files["records/notebook.json"],
        delete p.manifest.files["records/notebook.json"],
        delete p.manifest.sizes["records/notebook.json"]
      ),
      /notebook/,
    ],
  ];
  test.each(BAD.map((bad) => ({ what: bad[0], bad })))("$what", async ({ bad: [, change, why, sums] }) =>
    expect(await tampered(change, sums)).toMatch(why),
  );

  test("no zip, half a zip, and one that holds an entry twice", async () => {
    expect(await readArchive(new Blob(["no zip"]))).toMatchObject({ ok: false });
    expect(await readArchive(new Blob([bytes.slice(0, bytes.length / 2) as BlobPart]))).toMatchObject({ ok: false });
    // The same name twice in the directory: its first letter is written over in the second entry's header and listing.
    const { "manifest.json": head, ...files } = unzipSync(bytes);
    const twice = Buffer.from(
      zipSync({
        ...files,
        "sheets/aa.md": strToU8("1"),
        "sheets/ab.md": strToU8("2"),
        "manifest.json": head as Uint8Array,
      }),
    );
    for (let at = twice.indexOf("sheets/ab.md"); at >= 0; at = twice.indexOf("sheets/ab.md", at + 1))
      twice.write("sheets/aa.md", at);
    const r = await readArchive(new Blob([twice]));
    expect(r.ok ? "read" : r.error).toMatch(/twice|overlap/i);
  });
});

test("sheets lie in it as Markdown, those of today by their board and the issued ones by their id; reading it takes them as they are", async () => {
  const board = demo.find((r) => r.kind === "board") as Extract<StoredRecord, { kind: "board" }>;
  const issued: StoredRecord = {
    kind: "issued",
    id: "is-1",
    notebookId: board.notebookId,
    createdAt: board.createdAt,
    updatedAt: board.updatedAt,
    boardId: board.id,
    title: board.title,
    issuedAt: board.createdAt,
    note: "the committee",
    sheet: {} as never,
    charts: [],
    wiring: null,
    markdown: "# As it was",
    versions: { application: "0", schema: 4, analyses: {}, rules: {} },
  };
  const packed = await archiveOf(
    [...all, issued],
    "2026-11-26T08:00:00Z",
    new Map(),
    new Map([["sedge-51", "# As it is"]]),
  );
  const files = await unzipped(packed);
  expect(strFromU8(files["sheets/sedge-51.md"] as Uint8Array)).toBe("# As it is");
  expect(strFromU8(files["sheets/issued/is-1.md"] as Uint8Array)).toBe("# As it was");
  expect((await must(packed)).records.find((r) => r.kind === "issued")).toEqual(issued);
  // What was deleted is not written out, though its tombstone goes along.
  const gone = await unzipped(
    await archiveOf([...all, { ...issued, deletedAt: board.createdAt }], "2026-11-26T08:00:00Z"),
  );
  expect(Object.keys(gone).filter((f) => f.startsWith("sheets/"))).toEqual([]);
});

test.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11])(
  "the stored example of schema version %i opens, and goes out again as today's",
  async (version) => {
    const old = await must(new Blob([readFileSync(`src/core/files/fixtures/notebook-v${version}.zip`)]));
    expect(old.manifest.version).toBe(version);
    expect(old.records.filter((r) => r.kind === "point").length).toBeGreaterThan({ 1: 100, 2: 20 }[version] ?? 4);
    expect(old.records.find((r) => r.kind === "notebook")).toMatchObject({ schema: 12 });
    expect(old.logs.size).toBe(version === 2 || version >= 4 ? 1 : 0);
    const texts = await Promise.all(
      old.records.map(async (r) =>
        r.kind === "file" && !r.deletedAt ? { ...r, text: (await old.contents.get(r.id)?.text()) ?? "" } : r,
      ),
    );
    expect(plain((await must(await archiveOf(texts, AT, old.logs))).records)).toBe(plain(old.records));
    if (version < 4) return;
    expect(
      ["instrument", "need", "issued", "photo", "file", "cellReading"].filter(
        (kind) => !old.records.some((r) => r.kind === kind),
      ),
    ).toEqual([]);
    expect(old.records.filter((r) => r.deletedAt).map((r) => r.id)).toEqual(["gone-1"]);
  },
);

test("an archive explains itself: a README, and a schema of every kind that its records keep to, all in the manifest", async () => {
  const files = await unzipped(await archiveOf(demo, AT));
  const manifest = JSON.parse(strFromU8(files["manifest.json"] as Uint8Array)) as { files: Record<string, string> };
  const text = strFromU8(files["README.md"] as Uint8Array);
  expect(text).toMatch(/^# Nimbus Bench notebook: Reed bed recorders \(demo\)\n/);
  // Whatever the README names is there, as far as this notebook has it.
  for (const folder of ["records/", "schemas/"])
    expect(Object.keys(files).some((f) => f.startsWith(folder)) && text.includes(folder)).toBe(true);
  expect(Object.keys(manifest.files)).toEqual(
    expect.arrayContaining(["README.md", "schemas/run.json", "schemas/manifest.json"]),
  );
  const ajv = new Ajv2020({ strict: false });
  for (const [path, bytes] of Object.entries(files)) {
    const kind = /^records\/([A-Za-z]+)/.exec(path)?.[1];
    if (!kind) continue;
    const valid = ajv.compile(JSON.parse(strFromU8(files[`schemas/${kind}.json`] as Uint8Array)) as object);
    for (const record of JSON.parse(strFromU8(bytes)) as object[])
      expect({ record: kind, ok: valid(record), errors: valid.errors }).toMatchObject({ ok: true });
  }
});
