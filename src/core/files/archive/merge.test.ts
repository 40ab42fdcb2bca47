import { packedDemo } from "@/testing/demo";
import { Side as Notebook } from "@/testing/side";
import type { StoredRecord } from "..";
import type { BoardRecord, ClaimRecord, PointRecord, RigRecord, RulesRecord, RunRecord } from "../records";
import { after, standing } from "./merge";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `m-${n++}`, AT).records;
const of = <K extends StoredRecord["kind"]>(kind: K) =>
  demo.filter((r): r is Extract<StoredRecord, { kind: K }> => r.kind === kind);

const board = of("board").find((b) => b.title === "Sedge 51") as BoardRecord;
const claim = of("claim").find((c) => c.boardId === board.id) as ClaimRecord;
const rules = of("rules")[0] as RulesRecord;
const rig = of("rig")[0] as RigRecord;
const run = of("run").find(
  (r) => r.source.kind === "typed" && demo.some((p) => p.kind === "point" && p.runId === r.id),
) as RunRecord;
const points = of("point").filter((p) => p.runId === run.id);
class Side extends Notebook {
  constructor(from: Iterable<StoredRecord> = demo) {
    super(from);
  }
}
const NOTHING = { write: [], added: 0, updated: 0, deleted: [], older: 0, leftOut: [], conflicts: [], rules: null };

test("what is the same adds nothing, and an older archive of one's own changes nothing", async () => {
  const [a, old] = [new Side(), new Side()];
  expect(await a.merge(old)).toMatchObject({ ...NOTHING, same: demo.length });
  a.edit(board, { note: "new" });
  a.edit(claim, { source: { ...claim.source, wording: "other words" } });
  a.edit(rules, { rules: { ...rules.rules, houseTolerance: 0.01 } });
  a.edit(rig, { supplyCurrentLimit: 2 });
  const before = new Map(a.records);
  const plan = await a.merge(old);
  expect(plan).toMatchObject({ ...NOTHING, older: 4, same: demo.length - 4 });
  expect(a.records).toEqual(before);
});

test("changed on one side only, it is taken from that side, with no copies; merging again does nothing", async () => {
  const [a, b] = [new Side(), new Side()];
  b.edit(board, { title: "Sedge 51 b" });
  b.put({ ...claim, id: "claim-new" });
  const plan = await a.merge(b);
  expect(plan).toMatchObject({ added: 1, updated: 1, conflicts: [] });
  expect(a.get(board).title).toBe("Sedge 51 b");
  expect([...a.records.values()].filter((r) => r.kind === "board")).toHaveLength(of("board").length);
  expect(await a.merge(b)).toMatchObject(NOTHING);
  // And back: nothing is left to do.
  expect(await b.merge(a)).toMatchObject(NOTHING);
});

test("a deletion wins over an older copy, is listed, and can be restored for good", async () => {
  const [a, old] = [new Side(), new Side()];
  a.remove(board);
  const plan = await a.merge(old);
  expect(plan).toMatchObject({ write: [], added: 0, updated: 0, conflicts: [] });
  expect(plan.leftOut.map((r) => r.id)).toEqual([board.id]);
  const back = plan.leftOut[0] as StoredRecord;
  a.put(after(back, a.get(board)));
  expect(a.get(board).deletedAt).toBeUndefined();
  expect(await a.merge(old)).toMatchObject({ ...NOTHING, leftOut: [] });
});

test("a deletion on the other side comes over where the record is unchanged here; where it was changed, both stay to choose from", async () => {
  const [a, b] = [new Side(), new Side()];
  b.remove(claim);
  b.remove(board);
  a.edit(board, { note: "still wanted" });
  const plan = await a.merge(b);
  expect(plan.deleted.map((r) => r.id)).toEqual([claim.id]);
  expect(a.get(claim).deletedAt).toBeDefined();
  expect(plan.conflicts.map((c) => [c.ours.id, Boolean(c.theirs.deletedAt)])).toEqual([[board.id, true]]);
  expect(a.get(board)).toMatchObject({ note: "still wanted" });
});

test("records of before versions were remembered: the tombstone's date decides", () => {
  const gone = { ...board, deletedAt: "2026-11-26T08:00:00Z" };
  expect(standing(gone, board)).toBe("older");
  expect(standing(board, gone)).toBe("newer");
  expect(standing(gone, { ...board, note: "later", updatedAt: "2026-11-27T08:00:00Z" })).toBe("both");
});

test("house rules are one of a kind: they merge into those in use, after asking", async () => {
  const [a, b] = [new Side(), new Side()];
  b.edit(rules, { rules: { ...rules.rules, houseTolerance: 0.01 } });
  const plan = await a.merge(b, "theirs");
  expect(plan.rules?.theirs.rules.houseTolerance).toBe(0.01);
  expect([...a.records.values()].filter((r) => r.kind === "rules")).toHaveLength(1);
  expect(a.get(rules).rules.houseTolerance).toBe(0.01);
  // Changed on both sides, or under another id, still one.
  a.edit(rules, { rules: { ...rules.rules, dwell: 9 } });
  const c = new Side([
    ...[...b.records.values()].filter((r) => r.kind !== "rules"),
    { ...rules, id: "other-rules", rules: { ...rules.rules, dwell: 3 } },
  ]);
  const second = await a.merge(c, "ours");
  expect(second.rules?.theirs).toMatchObject({ id: rules.id, rules: { dwell: 3 } });
  expect([...a.records.values()].filter((r) => r.kind === "rules")).toHaveLength(1);
  expect(a.get(rules).rules.dwell).toBe(9);
  // What was declined is not asked again.
  expect((await a.merge(c)).rules).toBeNull();
});

test("a rig that both changed is two rigs, one of them in use; a new one is not in use", async () => {
  const a = new Side();
  a.edit(rig, { inUse: true });
  const b = a.copy();
  a.edit(rig, { supplyCurrentLimit: 2 });
  b.edit(rig, { supplyCurrentLimit: 1 });
  b.put({ ...rig, id: "rig-b", title: "Field bench", inUse: true });
  const plan = await a.merge(b);
  expect(plan.conflicts).toEqual([]);
  const rigs = [...a.records.values()].filter((r): r is RigRecord => r.kind === "rig");
  expect(rigs.map((r) => [r.title, r.supplyCurrentLimit, r.inUse ?? false]).sort()).toEqual(
    [
      ["Field bench", rig.supplyCurrentLimit, false],
      [rig.title, 2, true],
      [`${rig.title} (from the archive)`, 1, false],
    ].sort(),
  );
  expect(await a.merge(b)).toMatchObject({ ...NOTHING, older: 1 });
  expect([...a.records.values()].filter((r) => r.kind === "rig")).toHaveLength(3);
});

describe("a run that was carried on", () => {
  const next = (id: string): PointRecord => ({
    ...(points.at(-1) as PointRecord),
    id: id as PointRecord["id"],
    sequence: points.length,
    dwell: id.length,
  });
  test("on one side only, grows there", async () => {
    const [a, b] = [new Side(), new Side()];
    b.put(next("theirs-1"));
    expect(await a.merge(b)).toMatchObject({ added: 1, apart: new Map() });
    expect(a.records.has("theirs-1")).toBe(true);
  });
  test("on both sides, is two runs: no sweep mixes two histories, and no reading is lost", async () => {
    const [a, b] = [new Side(), new Side()];
    a.put(next("ours-1"));
    b.put(next("theirs-1"));
    b.put(next("theirs-22"));
    const plan = await a.merge(b);
    const copyId = plan.apart.get(run.id) as string;
    const own = (id: string) => [...a.records.values()].filter((r) => r.kind === "point" && r.runId === id);
    expect(own(run.id)).toHaveLength(points.length + 1);
    expect(own(copyId)).toHaveLength(points.length + 2);
    expect((a.records.get(copyId) as RunRecord).title).toContain("archive");
    expect(await a.merge(b)).toMatchObject({ write: [], added: 0 });
    // A copy that was deleted is not brought back.
    a.remove(a.records.get(copyId) as StoredRecord);
    expect(await a.merge(b)).toMatchObject({ write: [], added: 0 });
  });
});
