import "fake-indexeddb/auto";
import { HERE as compute } from "./here";
import { DEMO_MOMENT, demoIds } from "@/core/demo/package";
import { packedDemo } from "@/testing/demo";
import type { InstrumentRecord, NotebookId } from "@/core/files/records";
import {
  applyEdit,
  boardDossier,
  comparedBoard,
  editEffect,
  flipsIf,
  findingsUnder,
  keptColumns,
  leadsEffect,
  preparedRun,
  rigOf,
  withMeters,
} from ".";
import { appendChunk, boards, change, chunked, edit, ofKind, undo } from "@/storage";
import { closeDatabase, database } from "@/storage/database";
import { derivedWritten } from "@/storage/derived";
import { closeNotices } from "@/storage/notices";
import { sheetsOf } from "./sheet";
import { atBench, procedure } from "@/core/procedures";
import { numeric } from "@/core/quantities";

const demo = packedDemo(demoIds(), DEMO_MOMENT);
const notebookId = demo.records[0]?.notebookId as NotebookId;

beforeAll(async () => {
  await change("load", demo.records, { journal: false });
  for (const { runId, columns } of demo.logs) for (const chunk of chunked(runId, columns)) await appendChunk(chunk);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

const instrument = async (title: string) =>
  (await ofKind(notebookId, "instrument")).find((i) => i.title === title) as InstrumentRecord;
const board = async (title: string) => {
  const b = (await boards(notebookId)).find((x) => x.title === title);
  if (!b) throw new Error(`no board ${title}`);
  return b;
};
const coarser = (i: InstrumentRecord, gain: number): InstrumentRecord => ({
  ...i,
  ranges: i.ranges.map((r, k) => (k === 0 ? { ...r, accuracy: { ...r.accuracy, gain } } : r)),
});
const wordOf = async (wording: string) => {
  const d = await boardDossier(compute, (await board("Sedge 51")).id);
  const claim = d?.claims.find((c) => c.source.wording === wording);
  return claim ? d?.verdicts.get(claim.id)?.word : undefined;
};

test("the demo's runs know their meters, those that were read with others do not", async () => {
  const runs = await ofKind(notebookId, "run");
  const sweep = runs.find((r) => r.procedure === "load-sweep");
  expect(sweep?.setup.meters?.outputVoltage?.title).toBe("Dunlin B, 6 V");
  expect(Object.keys(sweep?.setup.meters ?? {}).sort()).toEqual([
    "batteryCurrent",
    "batteryVoltage",
    "outputCurrent",
    "outputVoltage",
    "partTemperature",
  ]);
});

test("a mistake: runs follow, verdicts flip as predicted, and one undo takes all of it back", async () => {
  const before = await instrument("Dunlin B");
  const effect = await editEffect(before, coarser(before, 0.005), { kind: "mistake" });
  const read = (await ofKind(notebookId, "run")).filter((r) =>
    Object.values(r.setup.meters ?? {}).some((m) => m?.instrumentId === before.id),
  );
  expect(effect.runs.map((r) => r.id).sort()).toEqual(read.map((r) => r.id).sort());
  expect(effect.rigs[0]?.instruments.outputVoltage?.gain).toBe(0.005);
  const flips = await flipsIf(compute, await boards(notebookId), { runs: effect.runs });
  expect(flips).toContainEqual(
    expect.objectContaining({ board: "Sedge 51", wording: "Output 5 V ±2 %", from: "meets", to: "too close to call" }),
  );
  // Nothing was stored so far.
  expect(await wordOf("Output 5 V ±2 %")).toBe("meets");
  await applyEdit(effect, "correct Dunlin B");
  expect(await wordOf("Output 5 V ±2 %")).toBe("too close to call");
  expect((await rigOf(notebookId))?.instruments.outputVoltage?.gain).toBe(0.005);
  expect(await undo(notebookId)).toEqual({ done: "correct Dunlin B" });
  expect(await wordOf("Output 5 V ±2 %")).toBe("meets");
  expect((await instrument("Dunlin B")).ranges[0]?.accuracy.gain).toBe(0.0005);
});

test("from a day that is still to come: the rig reads with it, no run follows, the earlier ranges are kept", async () => {
  const before = await instrument("Dunlin B");
  const effect = await editEffect(before, coarser(before, 0.005), { kind: "from", date: "2100-01-01" });
  expect(effect.runs).toEqual([]);
  expect(effect.instrument?.earlier).toEqual([{ until: "2100-01-01", ranges: before.ranges }]);
  expect(effect.rigs).toHaveLength(1);
});

test("a range that is left out takes its meter from the rig, whose accuracy stays", async () => {
  const before = await instrument("Dunlin A");
  const effect = await editEffect(before, { ...before, ranges: before.ranges.slice(1) }, { kind: "mistake" });
  expect(effect.rigs[0]?.meters?.batteryVoltage).toBeUndefined();
  expect(effect.rigs[0]?.instruments.batteryVoltage).toEqual(before.ranges[0]?.accuracy);
  expect(effect.runs).toEqual([]);
});

test("a run's findings under another set-up are worked out and kept nowhere", async () => {
  const run = (await ofKind(notebookId, "run")).find((r) => r.procedure === "heat-soak");
  if (!run) throw new Error("no heat soak");
  const settled = (list: Awaited<ReturnType<typeof findingsUnder>>) =>
    list.find((f) => f.characteristic === "heat.steady-temperature");
  const own = settled(await findingsUnder(compute, run.id, run.setup));
  const fine = settled(
    await findingsUnder(compute, run.id, {
      ...run.setup,
      instruments: { ...run.setup.instruments, partTemperature: { gain: 0.0001, counts: 1, resolution: 0.01 } },
    }),
  );
  expect(fine?.expandedUncertainty ?? NaN).toBeLessThan(own?.expandedUncertainty ?? NaN);
  expect(settled(await findingsUnder(compute, run.id, run.setup))?.expandedUncertainty).toBe(own?.expandedUncertainty);
  expect(await findingsUnder(compute, "none", run.setup)).toEqual([]);
});

test("kept columns are those that were worked out under these rules; other rules make them as good as absent", async () => {
  await derivedWritten();
  await (await database()).clear("derived");
  expect((await keptColumns(notebookId)).size).toBe(0);
  const b = await board("Marl 15");
  const { column, cells } = await comparedBoard(compute, b);
  expect(cells["boost.max-current"]?.claims[0]).toMatchObject({ word: "misses" });
  expect(await comparedBoard(compute, b)).toEqual({ column, cells });
  await derivedWritten();
  expect((await keptColumns(notebookId)).get(b.id)).toEqual(column);
  const rules = (await ofKind(notebookId, "rules"))[0];
  if (!rules) throw new Error("no rules");
  await change("house rules", [edit(rules, { ...rules, rules: { ...rules.rules, coverage: 3 } })]);
  expect((await keptColumns(notebookId)).size).toBe(0);
  await undo(notebookId);
  expect((await keptColumns(notebookId)).size).toBe(1);
  // A change of the board's own forgets its column.
  await change("rename", [edit(b, { ...b, note: "new" })]);
  expect((await keptColumns(notebookId)).size).toBe(0);
  await undo(notebookId);
});

test("a run that is prepared pins the rig in use and takes a patch; what can't be planned says why", async () => {
  const d = await boardDossier(compute, (await board("Sedge 51")).id);
  const sweep = atBench(procedure("load-sweep"));
  const sample = d?.samples[0];
  if (!d || !sweep || !sample) throw new Error("no board");
  const run = await preparedRun(sweep, d, sample, (s, most) => ({
    ...s,
    conditions: { ...s.conditions, supplyCurrentLimit: most },
  }));
  expect(run).toMatchObject({
    state: "prepared",
    procedure: "load-sweep",
    sampleId: sample.id,
    setup: { conditions: { supplyCurrentLimit: 5 }, meters: { outputCurrent: { title: "Plover B, 6 A" } } },
  });
  await expect(preparedRun(sweep, { ...d, claims: [] }, { ...sample, output: undefined } as never)).rejects.toThrow();
  const rig = await rigOf(notebookId);
  expect(
    withMeters(
      { conditions: {}, instruments: { outputVoltage: { gain: 1, counts: 1, resolution: 1 } } },
      rig ?? { instruments: {} },
    ).meters,
  ).toBeUndefined();
});

test("leads that were longer than entered: the runs over them follow, or only those from a day on; other runs do not", async () => {
  const rig = await rigOf(notebookId);
  if (!rig) throw new Error("no rig");
  const runs = await ofKind(notebookId, "run");
  const over = runs.filter((r) => r.setup.conditions.inputLeadResistance === 0 && r.setup.meters);
  expect(over.length).toBeGreaterThan(3);
  const after = { ...rig, inputLeadResistance: 0.05 };
  const effect = await leadsEffect(rig, after, { kind: "mistake" });
  expect(effect.runs.map((r) => r.id).sort()).toEqual(over.map((r) => r.id).sort());
  expect(new Set(effect.runs.map((r) => r.setup.conditions.inputLeadResistance))).toEqual(new Set([0.05]));
  expect(effect.rigs).toMatchObject([{ id: rig.id, inputLeadResistance: 0.05 }]);
  expect((await leadsEffect(rig, after, { kind: "from", date: "2100-01-01" })).runs).toEqual([]);
  expect((await leadsEffect({ ...rig, inputLeadResistance: 0.07 }, after, { kind: "mistake" })).runs).toEqual([]);
  expect((await leadsEffect(rig, rig, { kind: "mistake" })).runs).toEqual([]);
  // 50 mΩ in the battery's leads take volts off that the supply was said to give: the efficiency is better than it looked.
  const sweep = effect.runs.find((r) => r.procedure === "load-sweep");
  if (!sweep) throw new Error("no sweep");
  const best = (list: Awaited<ReturnType<typeof findingsUnder>>) =>
    numeric(list.find((f) => f.characteristic === "boost.peak-efficiency")?.value);
  expect(best(await findingsUnder(compute, sweep.id, sweep.setup))).toBeGreaterThan(
    best(await findingsUnder(compute, sweep.id, runs.find((r) => r.id === sweep.id)?.setup ?? sweep.setup)),
  );
});

test("every board's sheet goes out as Markdown under its own name, numbers leading to their runs; a board without a run has none", async () => {
  const list = await boards(notebookId);
  const sheets = await sheetsOf(compute, list);
  const measured = new Set(
    (await ofKind(notebookId, "run")).flatMap((r) => (r.state === "finished" ? [r.boardId as string] : [])),
  );
  expect([...sheets.keys()].sort()).toEqual(
    list.flatMap((b) => (measured.has(b.id) ? [b.title.toLowerCase().replace(" ", "-")] : [])).sort(),
  );
  expect(sheets.get("marl-15")).toMatch(/^# Marl 15/);
  expect(sheets.get("marl-15")).toMatch(/\\\[\d+\\\]/);
  const twins = await sheetsOf(
    compute,
    [list[0], list[0]].flatMap((b) => (b ? [b] : [])),
  );
  expect(twins.size).toBe(2);
});
