import "fake-indexeddb/auto";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import { archiveOf } from "@/core/files/archive";
import { checksum } from "@/core/files/versions";
import { traceToCsv } from "@/core/files/export-trace";
import { SCHEMA_VERSION, type FileRecord, type PhotoRecord, type StoredRecord } from "@/core/files/records";
import { packedDemo } from "@/testing/demo";
import { population, seedOf } from "@/testing/population";
import { seeded } from "@/core/simulator";
import { importNew, planImport } from "./archives";
import { closeDatabase, database } from "./database";
import { removeNotebook } from "./room";
import { closeNotices } from "./notices";
import { ELEMENTS, numeric } from "@/core/quantities";

const { byteAt } = ELEMENTS;

/** A notebook with something of everything, and small: one board with its claims, samples, photo, runs of each kind, file and log. */
const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `a-${n++}`, AT);
const board = demo.records.find((r) => r.kind === "board" && r.title === "Sedge 51") as StoredRecord;
/** A log that was taken live: its content lies in the archive as a table of its own. */
const log = demo.logs[0] as (typeof demo.logs)[number];
const live = {
  ...(demo.records.find((r) => r.id === log.runId) as Extract<StoredRecord, { kind: "run" }>),
  id: "live-1",
  source: { kind: "typed" },
} as unknown as Extract<StoredRecord, { kind: "run" }>;
const boards = new Set<string>([live.boardId, board.id]);
const ofBoard = demo.records.filter((r) => "boardId" in r && boards.has(r.boardId));
const runs = new Set(ofBoard.flatMap((r) => (r.kind === "run" && r.source.kind !== "file" ? [r.id as string] : [])));
const sample = ofBoard.find((r) => r.kind === "sample") as StoredRecord;
const base = { notebookId: board.notebookId, createdAt: AT, updatedAt: AT };
const photo: PhotoRecord = {
  kind: "photo",
  id: "photo-1",
  ...base,
  sampleId: sample.id as never,
  name: "a.png",
  mime: "image/png",
  bytes: Uint8Array.of(1, 2, 3),
};
const file: FileRecord = {
  kind: "file",
  id: "file-1",
  ...base,
  name: "s.csv",
  sha256: checksum(strToU8("a,b\n1,2\n")),
  text: "a,b\n1,2\n",
};
const records: StoredRecord[] = [
  ...demo.records.filter((r) =>
    ["notebook", "rules", "rig", "instrument", "cell", "cellReading", "need"].includes(r.kind),
  ),
  ...demo.records.filter((r) => boards.has(r.id)),
  ...ofBoard.filter((r) => r.kind !== "run" || runs.has(r.id)),
  live,
  photo,
  file,
  ...demo.records.filter((r) => "runId" in r && runs.has(r.runId)),
];
const logs = new Map([
  [
    "live-1",
    traceToCsv(
      Object.fromEntries(Object.entries(log.columns).map(([role, v]) => [role, (v as Float64Array).slice(0, 300)])),
    ),
  ],
]);

type Manifest = Record<string, unknown> & { files: Record<string, string>; sizes: Record<string, number> };
interface Packed {
  readonly files: Record<string, Uint8Array>;
  readonly manifest: Manifest;
}
type Mutation = (p: Packed, pick: <T>(list: readonly T[]) => T) => boolean | void;
type Raw = Record<string, unknown>;

const lists = (p: Packed) => Object.keys(p.files).filter((f) => f.startsWith("records/"));
const list = (p: Packed, path: string): Raw[] => JSON.parse(strFromU8(p.files[path] as Uint8Array)) as Raw[];
const put = (p: Packed, path: string, rows: unknown) => void (p.files[path] = strToU8(JSON.stringify(rows)));
const change = (p: Packed, path: string, pick: <T>(l: readonly T[]) => T, f: (r: Raw) => unknown) => {
  const rows = list(p, path);
  const one = pick(rows.map((_, k) => k));
  put(
    p,
    path,
    rows.map((r, k) => (k === one ? f(r) : r)),
  );
};
const add = (p: Packed, path: string, content: Uint8Array) => {
  p.files[path] = content;
  p.manifest.files[path] = "";
};
const drop = (p: Packed, path: string) => {
  delete p.files[path];
  delete p.manifest.files[path];
  delete p.manifest.sizes[path];
};

/** Each is refused; `true` says that checksums and sizes are to be left as they were. */
const REFUSED: Readonly<Record<string, Mutation>> = {
  "a byte of an entry changed": (p, pick) => {
    const path = pick(Object.keys(p.files));
    const to = (p.files[path] as Uint8Array).slice();
    const at = pick([...to.keys()]);
    to[at] = (byteAt(to, at) + 1) % 256;
    p.files[path] = to;
    return true;
  },
  "an entry missing": (p, pick) => {
    const path = pick(Object.keys(p.files));
    delete p.files[path];
    return true;
  },
  "an entry that is not listed": (p) => {
    p.files["sheets/more.md"] = strToU8("more");
    return true;
  },
  "an entry that is no part": (p, pick) =>
    add(p, pick(["run.exe", "../up.json", "records/../x.json", "photos/a/b"]), strToU8("x")),
  "an entry larger than listed": (p, pick) => {
    const path = pick(Object.keys(p.files));
    p.manifest.sizes[path] = numeric(p.manifest.sizes[path]) - 1;
    return true;
  },
  "a bomb": (p) => add(p, "sheets/bomb.md", new Uint8Array(2e6)),
  "another content of a file": (p) => void (p.files["files/file-1.csv"] = strToU8("x,y\n1,2\n")),
  "a photo without bytes": (p) => drop(p, "photos/photo-1"),
  "a photo named __proto__": (p, pick) =>
    change(p, "records/photo.json", pick, (r) => ({ ...r, bytes: pick(["__proto__", "constructor", "toString"]) })),
  "a file without content": (p) => drop(p, "files/file-1.csv"),
  "content of no record": (p) => add(p, "photos/other", strToU8("x")),
  "a record of another notebook": (p, pick) =>
    change(p, pick(lists(p)), pick, (r) => ({ ...r, notebookId: "another" })),
  "an id twice": (p, pick) => {
    const path = pick(lists(p));
    const rows = list(p, path);
    put(p, path, [...rows, pick(rows)]);
  },
  "an id of another list": (p, pick) => change(p, "records/claim.json", pick, (r) => ({ ...r, id: board.id })),
  null: (p, pick) => change(p, pick(lists(p)), pick, () => pick([null, 5, "x", [], true])),
  "a record absurdly deep": (p, pick) =>
    change(p, "records/run.json", pick, (r) => ({
      ...r,
      setup: Array.from({ length: 60 }).reduce<unknown>((v, _, k) => ({ [`k${k}`]: v }), 1),
    })),
  "a field of another type": (p, pick) => change(p, pick(lists(p)), pick, (r) => ({ ...r, createdAt: 5 })),
  "a field that nobody knows": (p, pick) => change(p, pick(lists(p)), pick, (r) => ({ ...r, colour: "red" })),
  "a point of no run": (p, pick) => change(p, "records/point.json", pick, (r) => ({ ...r, runId: "none" })),
  "a list in the place of another": (p) => put(p, "records/need.json", list(p, "records/cell.json")),
  "no list": (p, pick) => put(p, pick(lists(p)), { not: "a list" }),
  "no JSON": (p, pick) => {
    const path = pick(lists(p));
    p.files[path] = (p.files[path] as Uint8Array).slice(0, -4);
  },
  "a bad row in a log": (p, pick) => {
    const path = [...logs.keys()].map((id) => `logs/${id}.csv`)[0] as string;
    const rows = strFromU8(p.files[path] as Uint8Array).split("\r\n");
    const at = pick([...rows.keys()].slice(2, -2));
    rows[at] = pick(["1,2", "x,y,z", `${rows[at] as string},7`, ""]) || "?";
    p.files[path] = strToU8(rows.join("\r\n"));
  },
  "the log of a run that has none": (p) => {
    const path = [...logs.keys()].map((id) => `logs/${id}.csv`)[0] as string;
    const other = list(p, "records/run.json").find((r) => r.procedure === "load-sweep");
    add(p, `logs/${String(other?.id)}.csv`, p.files[path] as Uint8Array);
  },
  "no notebook": (p) => drop(p, "records/notebook.json"),
  "a newer format": (p) => {
    p.manifest.version = SCHEMA_VERSION + 1;
    return true;
  },
};

const CASES = population(2 * Object.keys(REFUSED).length, 2000);
const GOOD = population(4, 200);

/** What is stored, apart from what was worked out. */
async function stored(): Promise<readonly number[]> {
  const db = await database();
  const [apart, bundles] = await Promise.all([db.count("records"), db.getAll("bundles")]);
  const records = bundles.reduce((sum, b) => sum + b.count, apart);
  return Promise.all([records, db.count("chunks"), db.count("contents")]);
}

let zip: Uint8Array;
let notebookId = "";
beforeAll(async () => {
  const blob = await archiveOf(records, AT, logs);
  zip = new Uint8Array(await blob.arrayBuffer());
  notebookId = board.notebookId;
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const packed = (): Packed => {
  const { "manifest.json": head, ...files } = unzipSync(zip);
  return { files, manifest: JSON.parse(strFromU8(head as Uint8Array)) as Manifest };
};
function repacked(p: Packed, sums: boolean, level: 0 | 6 | 9 = 6): Blob {
  if (sums)
    for (const path of Object.keys(p.manifest.files)) {
      const content = p.files[path];
      if (!content) continue;
      p.manifest.files[path] = checksum(content);
      p.manifest.sizes[path] = content.length;
    }
  return new Blob([
    zipSync({ ...p.files, "manifest.json": strToU8(JSON.stringify(p.manifest)) } as Zippable, { level }) as BlobPart,
  ]);
}

test("the notebook of these tests has what every mutation changes", () => {
  expect(logs.size).toBe(1);
  for (const kind of ["photo", "file", "point", "claim", "cell", "need"])
    expect([kind, records.some((r) => r.kind === kind)]).toEqual([kind, true]);
});

test(`${CASES} mutated archives: none thrown at, none accepted, nothing left behind (seed ${seedOf(20261704)})`, async () => {
  const random = seeded(seedOf(20261704));
  const pick = <T>(l: readonly T[]): T => l[Math.floor(random.uniform() * l.length)] as T;
  const names = Object.keys(REFUSED);
  const empty = await stored();
  // Every second one comes into a browser that has the notebook already, and would be merged.
  for (let k = 0; k < CASES; k++) {
    const name = names[k % names.length] as string;
    const p = packed();
    const left = (REFUSED[name] as Mutation)(p, pick) === true;
    const blob = repacked(p, !left);
    const merging = Math.floor(k / names.length) % 2 === 1;
    if (merging && (await stored())[0] === 0)
      expect(await importNew(new Blob([zip as BlobPart]))).toMatchObject({ ok: true });
    if (!merging && (await stored())[0] !== 0) await removeNotebook(notebookId);
    const before = await stored();
    const r = merging ? await planImport(blob) : await importNew(blob);
    expect([k, name, r.ok ? "accepted" : "refused"]).toEqual([k, name, "refused"]);
    if (!r.ok)
      expect([name, r.error]).toEqual([name, expect.stringMatching(/Nothing was imported|zip archive/) as string]);
    expect([k, name, await stored()]).toEqual([k, name, before]);
  }
  await removeNotebook(notebookId);
  expect(await stored()).toEqual(empty);
}, 1_800_000);

test(`${GOOD} archives as they are or zipped again are taken, whole (seed ${seedOf(20261705)})`, async () => {
  const random = seeded(seedOf(20261705));
  const pick = <T>(l: readonly T[]): T => l[Math.floor(random.uniform() * l.length)] as T;
  for (let k = 0; k < GOOD; k++) {
    const blob = k % 2 ? repacked(packed(), false, pick([0, 6, 9] as const)) : new Blob([zip as BlobPart]);
    expect(await importNew(blob)).toEqual({ ok: true, value: records.filter((r) => !r.deletedAt).length });
    expect((await stored())[0]).toBe(records.length);
    const plan = await planImport(blob);
    expect(plan.ok && [plan.value.write, plan.value.conflicts, plan.value.same]).toEqual([[], [], records.length]);
    await removeNotebook(notebookId);
    expect(await stored()).toEqual([0, 0, 0]);
  }
}, 600_000);
