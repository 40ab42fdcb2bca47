import "fake-indexeddb/auto";
import { cellCode } from "@/core/cells";
import { DEMO_MOMENT, demoIds } from "@/core/demo/package";
import { packedDemo } from "@/testing/demo";
import type { CellRecord, RunRecord } from "@/core/files/records";
import type { Finding } from "@/core/measurement";
import { addPack, drawer, endCharge, keepCell, readCells, rejectCell, startCharge, takeApart, takeIn } from ".";
import { change, edit, ofKind, undo, undoAct } from "@/storage";
import { computedBy } from "@/testing/compute";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";

const demo = packedDemo(demoIds(), DEMO_MOMENT).records;
const notebookId = demo[0]?.notebookId as CellRecord["notebookId"];
const METER = { gain: 0.001, counts: 3, resolution: 0.001 };
/** What runs are said to have found here; the rest of them is the analysis's business. */
const found = new Map<string, readonly Finding[]>();

const compute = computedBy({
  results: (d) => Promise.resolve({ findings: found.get(d.run.id) ?? [] }),
  log: (d) => Promise.resolve({ findings: found.get(d.run.id) ?? [], notes: [], charts: [] }),
  verdicts: () => Promise.resolve([]),
});

beforeAll(async () => {
  await change("load", demo, { journal: false });
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

const cellOf = async (title: string) => {
  const c = (await drawer(compute, notebookId)).cells.find((x) => x.cell.title === title);
  if (!c) throw new Error(`no cell ${title}`);
  return c;
};
const stateOf = async (title: string) => (await cellOf(title)).triage.word;

test("every cell has its readings, oldest first, and the code of its label; the list goes by name as people count", async () => {
  const d = await drawer(compute, notebookId);
  expect(d.cells.map((c) => c.cell.title)).toEqual([
    "Blue 18",
    ...Array.from({ length: 23 }, (_, k) => `Float ${k + 1}`),
    "Float pack",
    "Reed 2200",
    "Rush 300",
    "Torch 1",
    "Torch 2",
    "Torch 3",
    "Torch pack",
  ]);
  for (const c of d.cells) {
    expect(c.code).toBe(cellCode(c.cell.id));
    expect([...c.readings].sort((a, b) => a.takenAt.localeCompare(b.takenAt))).toEqual([...c.readings]);
  }
  expect([await stateOf("Blue 18"), await stateOf("Torch 2"), await stateOf("Torch 3")]).toEqual([
    "rejected",
    "reject it",
    "reject it",
  ]);
});

test("where the demo's cells are: tested ones graded with their doubt, six in a pack, three in bays", async () => {
  const d = await drawer(compute, notebookId);
  const count = (stage: string) => d.cells.filter((c) => c.stage.stage === stage).length;
  expect(["in", "charging", "resting", "full", "graded", "in a pack", "rejected"].map(count)).toEqual([
    10, 3, 2, 4, 5, 6, 1,
  ]);
  const seven = await cellOf("Float 7");
  // A tester that may be off by 2 %: rectangular, k = 2.
  expect((seven.capacity?.u ?? NaN) / (seven.capacity?.value ?? NaN)).toBeCloseTo(0.04 / Math.sqrt(3), 9);
  expect(seven.grade).toMatchObject({ worst: expect.stringMatching(/^[AB]$/), missing: ["fall at rest"] });
});

test("a drawer worked out from the one before is the same as one worked out anew, and keeps every cell of which nothing has changed", async () => {
  let before = await drawer(compute, notebookId);
  const named = (title: string) => before.cells.find((c) => c.cell.title === title)?.cell as CellRecord;
  const acts = [
    () => startCharge({ cell: named("Rush 300"), volts: 3.4, stationId: "st", bay: 9, expected: 60 }),
    () => change("rename", [edit(named("Blue 18"), { ...named("Blue 18"), title: "Blue 19" })]),
    () => rejectCell(named("Float 3"), "swollen"),
  ];
  for (const act of acts) {
    await act();
    const after = await drawer(compute, notebookId, before);
    expect(after).toEqual(await drawer(compute, notebookId));
    expect(after.cells.filter((c) => !before.cells.includes(c))).toHaveLength(1);
    before = after;
  }
  for (const act of acts) expect([act, await undo(notebookId)]).toEqual([act, { done: expect.any(String) }]);
});

test("a charge in a bay ends a cell's rest, and its end begins the next; undoing takes back all of it", async () => {
  const cell = await keepCell(
    null,
    { title: "Fen 12", chemistry: "lithium-ion", capacity: 1, chargeRateLimit: 1, ownProtection: false, note: "" },
    notebookId,
  );
  await startCharge({ cell, volts: 3.4, stationId: "st", bay: 2, expected: 7200.4 });
  const charging = await cellOf("Fen 12");
  expect([charging.stage.stage, charging.charge?.bay, charging.charge?.expected, charging.triage.last?.volts]).toEqual([
    "charging",
    2,
    7200,
    3.4,
  ]);
  if (!charging.charge) throw new Error("no charge");
  const act = await endCharge(charging.charge, cell, 4.19);
  const full = await cellOf("Fen 12");
  expect([full.stage.stage, full.charge, full.readings.at(-1)?.charged, full.triage.due !== null]).toEqual([
    "resting",
    null,
    true,
    true,
  ]);
  if (act) await undoAct(act);
  expect((await cellOf("Fen 12")).stage.stage).toBe("charging");
  await endCharge(charging.charge, cell, 3.9, "the plug was pulled");
  const stopped = await cellOf("Fen 12");
  expect([stopped.stage.stage, stopped.readings.at(-1)?.note]).toEqual(["in", "the plug was pulled"]);
});

test("cells of a list come in together, each with what it was found at; names that are taken get a number", async () => {
  const cells = await takeIn(
    [
      { title: "Fen 12", volts: 3.31 },
      { title: "Gull 1", capacity: 2 },
    ],
    { title: "", chemistry: "lithium-ion", capacity: 1.2, chargeRateLimit: 0.5, ownProtection: false, note: "" },
    notebookId,
  );
  expect(cells.map((c) => [c.title, c.capacity])).toEqual([
    ["Fen 12 (2)", 1.2],
    ["Gull 1", 2],
  ]);
  expect((await cellOf("Fen 12 (2)")).readings.map((r) => [r.volts, r.note])).toEqual([[3.31, "as found"]]);
});

test("a cell is entered and changed; what was noticed of it is kept with the meter it was read with", async () => {
  const cell = await keepCell(
    null,
    { title: "Fen 9", chemistry: "lithium-ion", capacity: 1, chargeRateLimit: 1, ownProtection: false, note: "" },
    notebookId,
  );
  expect(await stateOf("Fen 9")).toBe("unknown");
  await readCells(
    [
      { cell, volts: 3.9, charged: true },
      { cell, volts: null, sign: "swollen", note: "like a cushion" },
    ],
    METER,
  );
  const c = await cellOf("Fen 9");
  expect(c.readings).toHaveLength(2);
  expect(c.readings.find((r) => r.volts === 3.9)).toMatchObject({ charged: true, meter: METER });
  // A sign alone was read with no meter.
  expect(c.readings.find((r) => r.sign === "swollen")?.meter).toBeUndefined();
  expect(c.triage).toMatchObject({ word: "reject it", reasons: [{ code: "sign" }] });
  await undo(notebookId);
  expect((await cellOf("Fen 9")).readings).toHaveLength(0);
  await keepCell(
    cell,
    { title: "Fen 10", chemistry: "lithium-ion", capacity: 1.1, chargeRateLimit: 1, ownProtection: true, note: "" },
    notebookId,
  );
  expect((await cellOf("Fen 10")).cell).toMatchObject({ id: cell.id, capacity: 1.1, ownProtection: true });
});

test("a cell is rejected for a reason and undone; changing what is entered does not take it back", async () => {
  const { cell } = await cellOf("Torch 1");
  await rejectCell(cell, "it smells");
  const rejected = await cellOf("Torch 1");
  expect(rejected.triage).toMatchObject({ word: "rejected", due: null });
  expect(rejected.triage.reasons[0]?.text).toBe("it smells");
  await keepCell(
    rejected.cell,
    {
      title: "Torch 1",
      chemistry: "lithium-ion",
      capacity: 1.15,
      chargeRateLimit: 0.5,
      ownProtection: false,
      note: "",
    },
    notebookId,
  );
  expect(await stateOf("Torch 1")).toBe("rejected");
  await rejectCell((await cellOf("Torch 1")).cell, null);
  expect((await cellOf("Torch 1")).cell.rejected).toBeUndefined();
  expect(await stateOf("Torch 1")).not.toBe("rejected");
});

describe("runs with a cell", () => {
  const finding = (characteristic: string, value: number, more: Partial<Finding> = {}): Finding => ({
    characteristic,
    conditions: {},
    value,
    unit: "Ah",
    expandedUncertainty: 0.02,
    budget: [],
    points: [],
    unfair: [],
    ...more,
  });
  const addRun = async (id: string, startUtc: string, findings: readonly Finding[], more: Partial<RunRecord> = {}) => {
    const run = (await ofKind(notebookId, "run"))[0] as RunRecord;
    found.set(id, findings);
    await change("run", [
      {
        ...run,
        id: id as RunRecord["id"],
        startUtc,
        state: "finished",
        source: { kind: "typed" },
        procedure: "load-sweep",
        cellId: (await cellOf("Rush 300")).cell.id,
        ...more,
      },
    ]);
  };

  test("its newest measured capacity counts; a bound, a run set aside and one still prepared don't", async () => {
    await addRun("r1", "2026-11-01T00:00:00Z", [finding("cell.capacity", 0.29)]);
    await addRun("r2", "2026-11-02T00:00:00Z", [
      finding("cell.capacity", 0.27),
      finding("cell.resistance", 0.4, { unit: "Ω" }),
    ]);
    await addRun("r3", "2026-11-03T00:00:00Z", [finding("cell.capacity", 0.1, { bound: "at-least" })]);
    await addRun("r4", "2026-11-04T00:00:00Z", [finding("cell.capacity", 0.05)], { setAside: "clip slipped" });
    await addRun("r5", "2026-11-05T00:00:00Z", [finding("cell.capacity", 0.05)], { state: "prepared" });
    const c = await cellOf("Rush 300");
    expect([c.capacity, c.resistance]).toEqual([
      { value: 0.27, u: 0.02 },
      { value: 0.4, u: 0.02 },
    ]);
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
    await change("stricter still", [
      edit(stricter, { ...rules, rules: { ...rules.rules, cellShare: 1, cellResistance: 0.05 } }),
    ]);
    expect((await cellOf("Rush 300")).triage.word).toBe("reject it");
    await undo(notebookId);
    await undo(notebookId);
  });
});

test("a saved pack is an entry of the drawer with its own capacity, and goes when it is taken apart", async () => {
  const groups = [
    [await cellOf("Float 7"), await cellOf("Float 8")],
    [await cellOf("Float 9"), await cellOf("Float 10")],
  ];
  const pack = await addPack("Owl box", groups, "", notebookId);
  const c = await cellOf("Owl box");
  const held = groups.map((g) => g.reduce((s, x) => s + (x.capacity?.value ?? NaN), 0));
  expect(c.cell).toMatchObject({ series: 2, ownProtection: false, chemistry: "lithium-ion" });
  expect(c.cell.capacity).toBeCloseTo(Math.min(...held), 4);
  expect(c.itself?.id).toBe(pack.id);
  expect((await cellOf("Float 7")).pack?.title).toBe("Owl box");
  // A second one of that name is told apart, as a cell and as a pack.
  expect((await addPack("Owl box", [[await cellOf("Float 11")]], "", notebookId)).title).toBe("Owl box (2)");
  const act = await takeApart(pack);
  expect((await drawer(compute, notebookId)).cells.map((x) => x.cell.title)).not.toContain("Owl box");
  expect((await cellOf("Float 7")).pack).toBeNull();
  if (act) await undoAct(act);
  expect((await cellOf("Owl box")).itself?.id).toBe(pack.id);
});
