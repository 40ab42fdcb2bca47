import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import { CHARACTERISTICS } from "@/core/characteristics";
import { FIRST_PROCEDURES, proceduresInSight, toldBy } from "@/core/compare";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";
import { seeded } from "@/core/simulator";
import { computedBy } from "@/testing/compute";
import { appendChunk, boards, change, chunked } from "@/storage";
import { closeDatabase, database } from "@/storage/database";
import { derivedWritten } from "@/storage/derived";
import { closeNotices } from "@/storage/notices";
import { comparedBoard, comparedPart } from ".";

let n = 0;
const demo = packedDemo(() => `pt-${n++}`, "2026-11-25T08:00:00Z");
const notebookId = demo.records[0]?.notebookId ?? "";
const nothingKept = computedBy({ keep: () => undefined });

beforeAll(async () => {
  await change("load", demo.records, { journal: false });
  for (const { runId, columns } of demo.logs) for (const c of chunked(runId, columns)) await appendChunk(c);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("what some procedures' runs tell of a board is what the whole board says of the same quantities, and nothing of others", async () => {
  const random = seeded(417);
  let compared = 0;
  for (const board of await boards(notebookId)) {
    const whole = await comparedBoard(nothingKept, board);
    // Each procedure by itself, and a few together.
    const sets = [
      ...PROCEDURE_FACTS.map((f) => [f.id]),
      ...Array.from({ length: 3 }, () => PROCEDURE_FACTS.flatMap((f) => (random.uniform() < 0.4 ? [f.id] : []))),
    ];
    for (const ids of sets) {
      const of = new Set<string>(ids);
      const part = await comparedPart(nothingKept, board, of);
      const told = Object.entries(whole.cells).filter(([name]) => toldBy(name, of));
      expect([board.title, ids, part.cells]).toEqual([board.title, ids, Object.fromEntries(told)]);
      expect([...part.column.names]).toEqual(Object.keys(part.cells));
      compared += told.length;
    }
  }
  expect(compared).toBeGreaterThan(200);
});

test("a part is kept nowhere as if it were the whole; what was found in its runs is", async () => {
  const [board] = await boards(notebookId);
  if (!board) throw new Error("no board");
  const part = await comparedPart(computedBy({}), board, FIRST_PROCEDURES);
  await derivedWritten();
  const kept = (await (await database()).getAllKeys("derived")).filter((k) => k.includes(":"));
  expect(kept.length).toBeGreaterThan(0);
  expect(kept.every((k) => k.startsWith("run:"))).toBe(true);
  const whole = await comparedBoard(computedBy({}), board);
  expect(Object.keys(whole.cells).length).toBeGreaterThan(Object.keys(part.cells).length);
  for (const [name, cell] of Object.entries(part.cells)) expect([name, whole.cells[name]]).toEqual([name, cell]);
});

test("the rows in sight ask for their procedures, room below them for what may come next, and full rows for nothing more", () => {
  const rows = CHARACTERISTICS.map(({ name }) => ({ name }));
  const at = (name: string) => rows.findIndex((r) => r.name === name);
  const view = (from: number, room: number) => [...proceduresInSight(rows, { from, room })];
  expect(view(at("charge.cc-current"), 5)).toEqual(["charge-cycle"]);
  expect(view(at("heat.steady-temperature"), 1)).toEqual(["heat-soak"]);
  expect(view(at("standby.current"), 3).sort()).toEqual(["light-load", "standby"]);
  // Ten rows of room under the only one that is known: what is told already, and what no board here can have, is passed over.
  const below = proceduresInSight(
    [{ name: "charge.cc-current" }],
    { from: 0, room: 11 },
    (name) => !name.startsWith("boost."),
    (name) => name.startsWith("charge."),
  );
  expect([...below].sort()).toEqual(expect.arrayContaining(["charge-cycle", "threshold-ramp", "overload"]));
  expect(below.has("load-sweep")).toBe(false);
});
