import "fake-indexeddb/auto";
import { cellCode } from "@/core/cells";
import { DEMO_MOMENT, demoIds } from "@/core/demo/package";
import { packedDemo } from "@/testing/demo";
import type { CellRecord, RunRecord } from "@/core/files/records";
import { type Finding } from "@/core/procedures";
import { change, edit, drawer, keepCell, ofKind, readCells, rejectCell, thinkWith, undo } from ".";
import { closeDatabase } from "./database";
import { closeNotices } from "./notices";

const demo = packedDemo(demoIds(), DEMO_MOMENT).records;
const notebookId = demo[0]?.notebookId as CellRecord["notebookId"];
const METER = { gain: 0.001, counts: 3, resolution: 0.001 };
/** What runs are said to have found here; the rest of them is the analysis's business. */
const found = new Map<string, readonly Finding[]>();

beforeAll(async () => {
  thinkWith({
    results: (d) => Promise.resolve({ findings: found.get(d.run.id) ?? [] }),
    log: (d) => Promise.resolve({ findings: found.get(d.run.id) ?? [], notes: [], charts: [] }),
    verdicts: () => Promise.resolve([]),
  });
  await change("load", demo, { journal: false });
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

const cellOf = async (title: string) => {
  const c = (await drawer(notebookId)).cells.find((x) => x.cell.title === title);
  if (!c) throw new Error(`no cell ${title}`);
  return c;
};
const stateOf = async (title: string) => (await cellOf(title)).triage.word;

test("every cell has its readings, oldest first, and the code of its label; the list goes by name as people count", async () => {
  const d = await drawer(notebookId);
  expect(d.cells.map((c) => c.cell.title)).toEqual(["Blue 18", "Reed 2200", "Rush 300", "Torch 1", "Torch 2", "Torch 3", "Torch pack"]);
  for (const c of d.cells) {
    expect(c.code).toBe(cellCode(c.cell.id));
    expect([...c.readings].sort((a, b) => a.takenAt.localeCompare(b.takenAt))).toEqual([...c.readings]);
  }
  expect([await stateOf("Blue 18"), await stateOf("Torch 2"), await stateOf("Torch 3")]).toEqual(["rejected", "reject it", "reject it"]);
});

test("a cell is entered and changed; what was noticed of it is kept with the meter it was read with", async () => {
  const cell = await keepCell(null, { title: "Fen 9", chemistry: "lithium-ion", capacity: 1, chargeRateLimit: 1, ownProtection: false, note: "" }, notebookId);
  expect(await stateOf("Fen 9")).toBe("unknown");
  await readCells([{ cell, volts: 3.9, charged: true }, { cell, volts: null, sign: "swollen", note: "like a cushion" }], METER);
  const c = await cellOf("Fen 9");
  expect(c.readings).toHaveLength(2);
  expect(c.readings.find((r) => r.volts === 3.9)).toMatchObject({ charged: true, meter: METER });
  // A sign alone was read with no meter.
  expect(c.readings.find((r) => r.sign === "swollen")?.meter).toBeUndefined();
  expect(c.triage).toMatchObject({ word: "reject it", reasons: [{ code: "sign" }] });
  await undo(notebookId);
  expect((await cellOf("Fen 9")).readings).toHaveLength(0);
  await keepCell(cell, { title: "Fen 10", chemistry: "lithium-ion", capacity: 1.1, chargeRateLimit: 1, ownProtection: true, note: "" }, notebookId);
  expect((await cellOf("Fen 10")).cell).toMatchObject({ id: cell.id, capacity: 1.1, ownProtection: true });
});

test("a cell is rejected for a reason and undone; changing what is entered does not take it back", async () => {
  const { cell } = await cellOf("Torch 1");
  await rejectCell(cell, "it smells");
  const rejected = await cellOf("Torch 1");
  expect(rejected.triage).toMatchObject({ word: "rejected", due: null });
  expect(rejected.triage.reasons[0]?.text).toBe("it smells");
  await keepCell(rejected.cell, { title: "Torch 1", chemistry: "lithium-ion", capacity: 1.15, chargeRateLimit: 0.5, ownProtection: false, note: "" }, notebookId);
  expect(await stateOf("Torch 1")).toBe("rejected");
  await rejectCell((await cellOf("Torch 1")).cell, null);
  expect((await cellOf("Torch 1")).cell.rejected).toBeUndefined();
  expect(await stateOf("Torch 1")).not.toBe("rejected");
});

describe("runs with a cell", () => {
  const finding = (characteristic: string, value: number, more: Partial<Finding> = {}): Finding => ({ characteristic, conditions: {}, value, unit: "Ah", expandedUncertainty: 0.02, budget: [], points: [], unfair: [], ...more });
  const addRun = async (id: string, startUtc: string, findings: readonly Finding[], more: Partial<RunRecord> = {}) => {
    const run = (await ofKind(notebookId, "run"))[0] as RunRecord;
    found.set(id, findings);
    await change("run", [{ ...run, id: id as RunRecord["id"], startUtc, state: "finished", source: { kind: "typed" }, procedure: "load-sweep", cellId: (await cellOf("Rush 300")).cell.id, ...more }]);
  };

  test("its newest measured capacity counts; a bound, a run set aside and one still prepared don't", async () => {
    await addRun("r1", "2026-11-01T00:00:00Z", [finding("cell.capacity", 0.29)]);
    await addRun("r2", "2026-11-02T00:00:00Z", [finding("cell.capacity", 0.27), finding("cell.resistance", 0.4, { unit: "Ω" })]);
    await addRun("r3", "2026-11-03T00:00:00Z", [finding("cell.capacity", 0.1, { bound: "at-least" })]);
    await addRun("r4", "2026-11-04T00:00:00Z", [finding("cell.capacity", 0.05)], { setAside: "clip slipped" });
    await addRun("r5", "2026-11-05T00:00:00Z", [finding("cell.capacity", 0.05)], { state: "prepared" });
    const c = await cellOf("Rush 300");
    expect([c.capacity, c.resistance]).toEqual([{ value: 0.27, u: 0.02 }, { value: 0.4, u: 0.02 }]);
    expect(c.runs.map((r) => r.run.id)).toEqual(["r1", "r2", "r3", "r4"]);
    expect(c.triage.word).toBe("sound");
  });

  test("a run ends the cell's rest: it is not due any more", async () => {
    expect((await cellOf("Torch 1")).triage.due).not.toBeNull();
    await addRun("r6", "2026-11-06T00:00:00Z", [], { cellId: (await cellOf("Torch 1")).cell.id });
    expect((await cellOf("Torch 1")).triage.due).toBeNull();
  });

  test("the house's limits decide: a stricter one puts a sound cell in doubt or out", async () => {
    const rules = (await ofKind(notebookId, "rules"))[0];
    if (!rules) throw new Error("internal: the demo has rules");
    await change("stricter", [edit(rules, { ...rules, rules: { ...rules.rules, cellShare: 0.95 } })]);
    expect((await cellOf("Rush 300")).triage.word).toBe("in doubt");
    const stricter = { ...rules, rules: { ...rules.rules, cellShare: 0.95 } };
    await change("stricter still", [edit(stricter, { ...rules, rules: { ...rules.rules, cellShare: 1, cellResistance: 0.05 } })]);
    expect((await cellOf("Rush 300")).triage.word).toBe("reject it");
    await undo(notebookId);
    await undo(notebookId);
  });
});
