import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import { analyseReadings, procedure, type Procedure } from "@/core/procedures";
import { NO_CORRECTIONS, HOUSE_RULES, type Corrections, type Readings } from "@/core/measurement";
import { batteryOf, measuredColumns, measuredLimits, type MeasuredModule } from "@/core/use";
import type { AnnotationRecord, ClaimRecord, LoadRecord, PointRecord, RunRecord } from "@/core/files/records";
import { workedOut } from "@/notebook/board-work";
import { change, edit } from "@/storage";
import { closeDatabase, database } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { computedBy } from "@/testing/compute";
import type { TaskName, Tasks } from "./protocol";
import { TASKS } from "./tasks";

const AT = "2026-11-25T08:00:00Z";
/** Asks as the page does: both ways through a structured clone, so that nothing crosses that a worker could not be sent. */
async function ask<K extends TaskName>(task: K, what: Tasks[K]["ask"]): Promise<Tasks[K]["give"]> {
  return structuredClone(await TASKS[task](structuredClone(what)));
}
let n = 0;
const demo = packedDemo(() => `w-${n++}`, AT).records;
const run = demo.find((r) => r.kind === "run" && r.state === "finished") as RunRecord;
const points = (demo.filter((r) => r.kind === "point" && r.runId === run.id) as PointRecord[]).map(
  ({ id, sequence, settings, cells, dwell }) => ({
    id,
    sequence,
    settings,
    cells,
    ...(dwell !== undefined ? { dwell } : {}),
  }),
);
const layers = demo.filter((r): r is AnnotationRecord => r.kind === "annotation" && r.runId === run.id);
const corrections: Corrections = {
  ...NO_CORRECTIONS,
  leftOut: new Map(layers.filter((a) => a.what === "left-out").map((a) => [a.target, a.text])),
  recoveries: new Map(layers.flatMap((a) => (a.recovery ? [[a.target, a.recovery] as const] : []))),
};
const readings: Readings = { kind: "points", points };

afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("findings worked out in a worker are those worked out here", async () => {
  const here = analyseReadings(procedure(run.procedure) as Procedure, readings, run.setup, corrections).findings;
  expect(
    (await ask("results", { run: { procedure: run.procedure, setup: run.setup }, readings, corrections })).findings,
  ).toEqual(here);
  expect(here?.length).toBeGreaterThan(10);
});

test("a procedure that this version lacks finds nothing, and says no nonsense", async () => {
  expect(
    await ask("results", {
      run: { procedure: "from-the-future", setup: run.setup },
      readings,
      corrections: NO_CORRECTIONS,
    }),
  ).toEqual({ findings: [] });
});

test("verdicts come back a claim, in the order asked", async () => {
  const claims = demo.filter((r) => r.kind === "claim" && r.boardId === run.boardId) as ClaimRecord[];
  const { findings } = await ask("results", {
    run: { procedure: run.procedure, setup: run.setup },
    readings,
    corrections,
  });
  const evidence = [
    {
      id: run.sampleId,
      name: "A",
      runs: [
        {
          id: run.id,
          title: run.title,
          startUtc: run.startUtc,
          finished: true,
          setAside: null,
          modifiedFunctions: [],
          findings,
        },
      ],
    },
  ];
  const verdicts = await ask("verdicts", { claims, evidence, rules: HOUSE_RULES });
  expect(verdicts.map((v) => v.claimId)).toEqual(claims.map((c) => c.id));
  expect(verdicts.map((v) => v.word)).toEqual([
    "meets",
    "meets",
    "too close to call",
    "claim unclear",
    "meets",
    ...Array<string>(11).fill("not measured"),
  ]);
});

test("a board is worked out in a worker as it is here, and what was found is kept, but not what a change outdated meanwhile", async () => {
  await change("load the demo", demo, { journal: false });
  const kept = async () => (await (await database()).getAllKeys("derived")).filter((k) => k.includes(":"));
  const here = await workedOut(computedBy({ keep: () => undefined }), "summary", run.boardId, null);
  expect(await kept()).toEqual([]);
  expect(await ask("of-board", { what: "summary", boardId: run.boardId, ask: null })).toEqual(here);
  // It is written soon: a change comes before that.
  await change("rename", [edit(run, { ...run, title: "renamed" })]);
  await ask("settle", null);
  const runs = demo.filter((r) => r.kind === "run" && r.boardId === run.boardId && r.id !== run.id);
  expect(await kept()).toEqual(
    runs
      .filter((r) => r.kind === "run" && r.state !== "prepared")
      .map((r) => `run:${r.id}`)
      .sort(),
  );
  await ask("of-board", { what: "compared", boardId: run.boardId, ask: null });
  await ask("settle", null);
  expect(await kept()).toEqual(
    expect.arrayContaining([`run:${run.id}`, `column:${run.boardId}`, `cells:${run.boardId}`]),
  );
});

test("boards are worked out for a load, one answer a board; without a measured sample it says so", async () => {
  const columns = measuredColumns(readings, run.setup, corrections);
  expect(columns.map((c) => c.battery)).toEqual([3.1, 3.6, 4.1]);
  const sedge: MeasuredModule = {
    sample: "A",
    runId: run.id,
    runTitle: run.title,
    simulated: false,
    columns,
    ...measuredLimits([]),
  };
  const load = demo.find((r) => r.kind === "load") as LoadRecord;
  const battery = batteryOf(
    {
      title: "Reed",
      chemistry: "lithium-ion",
      ownProtection: false,
      parallel: 1,
      capacity: 2.2,
      capacityU: 0,
      resistance: 0.06,
      resistanceU: 0,
      floor: 3,
      selfDischarge: 2e-5,
      window: { high: 1, low: 0 },
    },
    load.wiring,
  );
  const [measured, none] = await ask("fits", { boards: [[sedge], []], load, battery });
  expect(measured).toMatchObject({ word: "start not tested", endedBy: "floor", runId: run.id });
  expect(none).toMatchObject({ word: "not measured" });
});

describe("files", () => {
  test("a table is cut and its columns guessed; its points come out of it", async () => {
    const text = "Battery V (V),Battery I (A),Output V (V),Load I (A)\n4.1,0.3,5,0.2\n4.1,x,5,0.5\n";
    const t = await ask("table", { text, dialect: {} });
    if ("error" in t) throw new Error(t.error);
    expect(Object.keys(t.mapping).sort()).toEqual([
      "batteryCurrent",
      "batteryVoltage",
      "outputCurrent",
      "outputVoltage",
    ]);
    const p = await ask("points", { text, dialect: t.table.dialect, mapping: t.mapping, fileId: "f" });
    if ("error" in p) throw new Error(p.error);
    expect(p.points).toHaveLength(1);
    expect(p.problems).toEqual([
      { line: 3, column: "Battery I (A)", value: "x", expected: "a number, nothing, or OL" },
    ]);
  });

  test.each([
    ["nothing", "", /empty/],
    ["one column", "volts\n1\n2\n", /Only one column/],
    ["a column named twice", "V,V\n1,2\n", /twice/],
    ["a quote that never closes", 'V,A\n"1,2\n', /never closed/],
  ])("%s is answered in words", async (_, text, expected) => {
    const t = await ask("table", { text, dialect: {} });
    expect("error" in t ? t.error : "read").toMatch(expected);
  });
});

test("resistors for loads, and a bench that lives by its own clock", async () => {
  const choices = await ask("resistors", {
    targets: [0.5, 1],
    volts: 5,
    drawer: [
      { ohms: 10, watts: 5 },
      { ohms: 10, watts: 5 },
    ],
  });
  expect(choices.map((c) => c.text)).toEqual(["10 Ω", "10 Ω ∥ 10 Ω"]);
  await expect(ask("bench-exchange", { lines: [] })).rejects.toThrow(/no bench is open/);
  await ask("bench-open", {
    board: "steady-synchronous",
    seed: 3,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    done: [],
  });
  await ask("bench-pace", { factor: 3600 });
  await ask("bench-exchange", {
    lines: ["SOUR:VOLT 3.6", "SOUR:CURR 3", "OUTP ON"].map((line) => ({ address: "supply" as const, line })),
  });
  await new Promise((r) => setTimeout(r, 20));
  const { answers, time } = await ask("bench-exchange", {
    lines: [
      { address: "meter:outputVoltage", line: "MEAS:VOLT?" },
      { address: "supply", line: "SYST:ERR?" },
    ],
  });
  expect(Number(answers[0])).toBeGreaterThan(4.9);
  expect(answers[1]).toMatch(/^0,/);
  expect(time).toBeGreaterThan(10);
});
