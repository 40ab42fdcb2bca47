import "fake-indexeddb/auto";
import { HERE as compute } from "./here";
import { packedDemo } from "@/testing/demo";
import { stableJson, type NotebookRecord, type PointRecord, type RunRecord, type StoredRecord } from "@/core/files";
import { boardDossier, boardSummary, runDossier } from ".";
import {
  boards,
  change,
  edit,
  everything,
  listen,
  meta,
  notebooks,
  ofKind,
  ofRun,
  record,
  redo,
  remove,
  setMeta,
  StorageError,
  undo,
  type ChangeNotice,
} from "@/storage";
import { analyseRun } from "./analyse-run";
import { closeDatabase, database } from "@/storage/database";
import { derivedWritten } from "@/storage/derived";
import { closeNotices } from "@/storage/notices";

let demo: StoredRecord[] = [];
let notebookId = "";
beforeAll(async () => {
  let n = 0;
  demo = packedDemo(() => `s-${n++}`, "2026-11-25T08:00:00Z").records.slice();
  notebookId = demo[0]?.notebookId ?? "";
  await change("load the demo", demo, { journal: false });
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const board = async (title: string) =>
  (await boards(notebookId)).find((b) => b.title === title) as NonNullable<Awaited<ReturnType<typeof record<"board">>>>;
const words = async () => {
  const out: Record<string, string> = {};
  for (const b of await boards(notebookId))
    for (const [id, v] of (await boardDossier(compute, b.id))?.verdicts ?? []) out[id] = stableJson(v);
  return out;
};

test("what goes in through the door is found again, whole", async () => {
  const all = await everything(notebookId);
  expect(all.length).toBe(demo.length);
  expect(stableJson([...all].sort((a, b) => (a.id < b.id ? -1 : 1)))).toBe(
    stableJson([...demo].sort((a, b) => (a.id < b.id ? -1 : 1))),
  );
  expect((await notebooks()).map((n) => n.title)).toEqual(["Reed bed recorders (demo)"]);
});

test("records of a kind come in the order in which they were added, whatever their ids", async () => {
  const sedge = await board("Sedge 51");
  const other = "ordered" as NotebookRecord["id"];
  const added = ["zz", "mm", "aa"].map((id, k) => ({
    ...sedge,
    id: id as typeof sedge.id,
    notebookId: other,
    createdAt: `2026-11-0${k + 1}T08:00:00.000Z`,
  }));
  await change(
    "add boards",
    [added[1], added[2], added[0]].filter((b) => b !== undefined),
    { journal: false },
  );
  expect((await boards(other)).map((b) => b.id)).toEqual(["zz", "mm", "aa"]);
});

test("the demo shows every kind of verdict", async () => {
  const seen = new Set<string>();
  for (const b of await boards(notebookId))
    for (const w of Object.keys((await boardSummary(compute, b)).verdicts)) seen.add(w);
  expect([...seen].sort()).toEqual([
    "claim unclear",
    "meets",
    "misses",
    "not fairly tested",
    "not measured",
    "too close to call",
  ]);
});

test("deleting every derived record changes no verdict", async () => {
  const before = await words();
  expect(Object.keys(before).length).toBeGreaterThan(12);
  await derivedWritten();
  expect(await (await database()).count("derived")).toBeGreaterThan(0);
  await (await database()).clear("derived");
  expect(await (await database()).count("derived")).toBe(0);
  expect(await words()).toEqual(before);
});

test("a point that is left out moves the verdict at once: what was worked out from it is forgotten", async () => {
  const sedge = await board("Sedge 51");
  const d = await boardDossier(compute, sedge.id);
  const run = d?.runs.find((r) => r.procedure === "load-sweep" && r.source.kind === "typed") as RunRecord;
  const claim = d?.claims.find((c) => c.source.wording === "Output current up to 1.3 A");
  expect(d?.verdicts.get(claim?.id ?? "")?.word).toBe("meets");
  const held = (await ofRun(run.id)).points.filter(
    (p) => (p.settings.load?.value ?? 0) >= 1.2 && p.settings.supplyVoltage === 3.1,
  );
  await change(
    "leave points out",
    held.map((p, i) => ({
      kind: "annotation",
      id: `out-${i}`,
      notebookId: sedge.notebookId,
      createdAt: sedge.createdAt,
      updatedAt: sedge.createdAt,
      runId: run.id,
      what: "left-out",
      target: p.id,
      text: "test",
    })),
  );
  expect((await boardDossier(compute, sedge.id))?.verdicts.get(claim?.id ?? "")?.word).not.toBe("meets");
  expect(await undo(notebookId)).toEqual({ done: "leave points out" });
  expect((await boardDossier(compute, sedge.id))?.verdicts.get(claim?.id ?? "")?.word).toBe("meets");
});

test("every change can be undone and redone, and a new one ends the redo", async () => {
  const b = await board("Peat Duo");
  await change("rename", [edit(b, { ...b, title: "Peat Solo" })]);
  await change("note", [edit(b, { ...b, note: "new" })]);
  expect(await undo(notebookId)).toEqual({ done: "note" });
  expect(await undo(notebookId)).toEqual({ done: "rename" });
  expect((await record("board", b.id))?.title).toBe("Peat Duo");
  expect(await redo(notebookId)).toEqual({ done: "rename" });
  expect((await record("board", b.id))?.title).toBe("Peat Solo");
  await change("other", [edit(b, { ...b, note: "other" })]);
  expect(await redo(notebookId)).toBeNull();
  expect(await undo(notebookId)).toEqual({ done: "other" });
  expect(await undo(notebookId)).toEqual({ done: "rename" });
  expect((await record("board", b.id))?.title).toBe("Peat Duo");
});

test("deletion is a tombstone that undo lifts", async () => {
  const b = await board("Tarn 9");
  await remove("delete Tarn 9", [b]);
  expect(await record("board", b.id)).toBeNull();
  expect((await everything(notebookId)).some((r) => r.id === b.id && r.deletedAt)).toBe(true);
  await undo(notebookId);
  expect((await record("board", b.id))?.title).toBe("Tarn 9");
});

test("a withdrawn point is kept but hidden; a draft is apart", async () => {
  const run = (await ofKind(notebookId, "run")).find((r) => r.state === "open") as RunRecord;
  const { points } = await ofRun(run.id);
  const last = points[points.length - 1] as PointRecord;
  await change("withdraw", [
    { ...last, state: "withdrawn" },
    { ...last, id: "draft-1" as PointRecord["id"], state: "draft", typed: { batteryVoltage: "3,6" }, cells: {} },
  ]);
  const d = await runDossier(compute, run.id);
  expect(d?.points).toHaveLength(points.length - 1);
  expect(d?.withdrawn.map((p) => p.id)).toEqual([last.id]);
  expect(d?.draft?.typed).toEqual({ batteryVoltage: "3,6" });
  await undo(notebookId);
  expect((await runDossier(compute, run.id))?.points).toHaveLength(points.length);
});

test("a run from a file reads its readings from the file each time, through its mapping", async () => {
  const b = await board("Alder 12");
  const d = await boardDossier(compute, b.id);
  const run = d?.runs[0] as RunRecord;
  const base = { notebookId: b.notebookId, createdAt: b.createdAt, updatedAt: b.createdAt };
  const text = "Vb,Ib,Vo,Io\n3.6,0.2,5,0.12\n3.6,x,5,0.2\n";
  const column = (header: string, unit: "V" | "A") => ({ header, unit });
  await change("import", [
    { kind: "file", id: "file-1", ...base, name: "t.csv", sha256: "0".repeat(64), text },
    {
      ...run,
      ...base,
      id: "file-run" as RunRecord["id"],
      state: "finished",
      source: {
        kind: "file",
        fileId: "file-1",
        dialect: { delimiter: ",", decimal: "." },
        mapping: {
          batteryVoltage: column("Vb", "V"),
          batteryCurrent: column("Ib", "A"),
          outputVoltage: column("Vo", "V"),
          outputCurrent: column("Io", "A"),
        },
        skipBadRows: true,
      },
    },
  ]);
  const imported = await runDossier(compute, "file-run");
  expect(imported?.points.map((p) => p.id)).toEqual(["file-1:2"]);
  expect(imported && (await analyseRun(imported)).findings.length).toBeGreaterThan(0);
  await undo(notebookId);
  expect(await runDossier(compute, "file-run")).toBeNull();
});

test("a record that does not fit is refused and nothing of its change is written", async () => {
  const b = await board("Peat Duo");
  await expect(
    change("bad", [edit(b, { ...b, note: "first" }), { ...b, id: "x" as typeof b.id, title: "" }]),
  ).rejects.toBeInstanceOf(StorageError);
  expect((await record("board", b.id))?.note).toBe(b.note);
});

test("a full disk says what happened, and keeps nothing of the change", async () => {
  const b = await board("Peat Duo");
  const put = jest.spyOn(IDBObjectStore.prototype, "put").mockImplementationOnce(() => {
    throw new DOMException("no room", "QuotaExceededError");
  });
  await expect(change("too much", [edit(b, { ...b, note: "lost" })])).rejects.toMatchObject({
    full: true,
    message: expect.stringContaining("storage is full"),
  });
  put.mockRestore();
  expect((await record("board", b.id))?.note).toBe(b.note);
});

test("changes are announced with what they touched", async () => {
  const heard: ChangeNotice[] = [];
  const stop = listen((n) => heard.push(n));
  const run = (await ofKind(notebookId, "run"))[0] as RunRecord;
  await change("set aside", [edit(run, { ...run, setAside: "test" })]);
  stop();
  expect(heard[0]).toMatchObject({ notebookId, kinds: ["run"], runs: [run.id] });
  await undo(notebookId);
});

test("house rules of a notebook decide, and meta keeps what belongs to this browser", async () => {
  const rules = (await ofKind(notebookId, "rules"))[0];
  const marl = await board("Marl 15");
  const claim = (await boardDossier(compute, marl.id))?.claims.find((c) => c.source.wording === "output 5V");
  const word = async () => (await boardDossier(compute, marl.id))?.verdicts.get(claim?.id ?? "")?.word;
  expect(await word()).toBe("meets");
  if (rules) await change("stricter", [edit(rules, { ...rules, rules: { ...rules.rules, houseTolerance: 0.01 } })]);
  expect(await word()).toBe("misses");
  await undo(notebookId);
  await setMeta("k", 7);
  expect(await meta("k")).toBe(7);
  expect(await meta("none")).toBeUndefined();
});

test("an empty notebook stands beside the demo", async () => {
  const n: NotebookRecord = {
    kind: "notebook",
    id: "nb2" as NotebookRecord["id"],
    notebookId: "nb2" as NotebookRecord["id"],
    title: "Mine",
    createdAt: "2026-11-26T08:00:00Z",
    updatedAt: "2026-11-26T08:00:00Z",
    schema: 1,
  };
  await change("new", [n], { journal: false });
  expect(await boards("nb2")).toEqual([]);
  expect((await boards(notebookId)).length).toBe(7);
  expect(await undo("nb2")).toBeNull();
});
