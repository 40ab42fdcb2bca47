import { packedDemo } from "@/testing/demo";
import { population, seedOf } from "@/testing/population";
import { Side } from "@/testing/side";
import { seeded } from "../../simulator";
import { versionOf, type StoredRecord } from "..";
import type { BoardRecord, ClaimRecord, RigRecord, RulesRecord } from "../records";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `m-${n++}`, AT).records;
const of = <K extends StoredRecord["kind"]>(kind: K) =>
  demo.filter((r): r is Extract<StoredRecord, { kind: K }> => r.kind === kind);
const board = of("board").find((b) => b.title === "Sedge 51") as BoardRecord;
const claim = of("claim").find((c) => c.boardId === board.id) as ClaimRecord;
const rules = of("rules")[0] as RulesRecord;
const rig = of("rig")[0] as RigRecord;

const RUNS = population(30, 2000);
test(`${RUNS} random pairs of histories merge without losing or inventing anything (seed ${seedOf(20261701)})`, async () => {
  const random = seeded(seedOf(20261701));
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)] as T;
  const some = [
    board,
    claim,
    ...of("sample").slice(0, 2),
    ...of("cell").slice(0, 2),
    ...of("need").slice(0, 1),
    ...of("instrument").slice(0, 2),
  ];
  let k = 0;
  const step = (s: Side) => {
    const r = pick(some);
    const what = random.uniform();
    const at = new Date(Date.parse(AT) + ++k * 1000).toISOString();
    if (what < 0.15 && !s.get(r).deletedAt) return s.remove(r, at);
    if (what < 0.25) return s.put({ ...claim, id: `c-${k}`, updatedAt: at });
    const field =
      r.kind === "claim"
        ? { source: { ...claim.source, wording: `words ${Math.floor(random.uniform() * 4)}` } }
        : { note: `note ${Math.floor(random.uniform() * 4)}` };
    const { deletedAt: _gone, ...rest } = s.get(r);
    void _gone;
    s.put({ ...rest, ...field, updatedAt: at } as StoredRecord);
  };
  for (let trial = 0; trial < RUNS; trial++) {
    const base = new Side([...some, ...of("notebook"), rules, rig]);
    const [a, b] = [base.copy(), base.copy()];
    const [inA, inB] = [Math.floor(random.uniform() * 4), Math.floor(random.uniform() * 4)];
    for (let s = 0; s < inA; s++) step(a);
    const early = a.copy();
    for (let s = 0; s < 2; s++) step(a);
    for (let s = 0; s < inB; s++) step(b);
    // An older archive of one's own changes nothing, and asks nothing.
    const own = new Map(a.records);
    const plan = await a.merge(early);
    expect([plan.conflicts, plan.added, plan.updated]).toEqual([[], 0, 0]);
    expect(a.records).toEqual(own);
    // Merging both ways: what no conflict was about is the same on both sides, and a conflict only stands where both were changed.
    const [a0, b0] = [a.copy(), b.copy()];
    const there = await a.merge(b0);
    const back = await b.merge(a0);
    const open = new Set(there.conflicts.map((c) => c.ours.id as string));
    expect([...back.conflicts.map((c) => c.ours.id)].sort()).toEqual([...open].sort());
    for (const id of new Set([...a0.records.keys(), ...b0.records.keys()])) {
      const [x, y] = [a.records.get(id) as StoredRecord, b.records.get(id) as StoredRecord];
      if (open.has(id)) {
        expect(versionOf(x)).toBe(versionOf(a0.records.get(id) as StoredRecord));
        expect(a0.records.get(id)).not.toEqual(base.records.get(id));
        expect(b0.records.get(id)).not.toEqual(base.records.get(id));
      } else expect([trial, id, versionOf(x)]).toEqual([trial, id, versionOf(y)]);
    }
    // A second time there is nothing to do.
    expect(await a.merge(b0)).toMatchObject({ write: [], added: 0, updated: 0 });
  }
});
