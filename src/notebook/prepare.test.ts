import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import type { InstrumentRecord, NotebookId, RunRecord, SampleRecord } from "@/core/files/records";
import { rangesOn } from "@/core/instruments";
import { pinnedOn, rigOf, startedNow, withMeters, withMetersOn } from ".";
import { change, edit, ofKind } from "@/storage";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";

let n = 0;
const demo = packedDemo(() => `p-${n++}`, "2026-11-25T08:00:00Z");
const notebookId = demo.records[0]?.notebookId as NotebookId;
const run = demo.records.find(
  (r) => r.kind === "run" && r.procedure === "load-sweep" && r.pinned.configuration !== "",
) as RunRecord;
const sample = demo.records.find((r) => r.id === run.sampleId) as SampleRecord;

beforeAll(() => change("load", demo.records, { journal: false }));
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("a sample is pinned as it was that day: later modifications leave a run alone", () => {
  const modified = {
    ...sample,
    modifications: [{ id: "m", date: "2026-11-20", text: "new coil", functions: ["boost" as const] }],
  };
  expect(pinnedOn(modified, "2026-11-19").modifiedFunctions).toEqual([]);
  expect(pinnedOn(modified, "2026-11-20").modifiedFunctions).toEqual(["boost"]);
});

test("what was changed on a sample after a run was prepared is what the run starts with", async () => {
  const prepared: RunRecord = {
    ...run,
    id: "fresh" as RunRecord["id"],
    state: "prepared",
    startUtc: "2026-01-01T00:00:00Z",
  };
  expect((await startedNow(prepared)).pinned).toEqual(run.pinned);
  await change("solder", [
    edit(sample, {
      ...sample,
      configuration: "J1 closed",
      modifications: [{ id: "m", date: "2020-01-01", text: "bridge", functions: ["protection"] }],
    }),
  ]);
  const started = await startedNow(prepared);
  expect(started).toMatchObject({
    state: "open",
    pinned: { configuration: "J1 closed", modifiedFunctions: ["protection"] },
    setup: { conditions: { configuration: "J1 closed" } },
  });
  expect(started.startUtc > "2026-06").toBe(true);
});

test("a log of an earlier day is read with the ranges that its meters had then", async () => {
  const rig = await rigOf(notebookId);
  const meter = (await ofKind(notebookId, "instrument")).find(
    (i) =>
      i.ranges.some((r) => r.unit === "V") && Object.values(rig?.meters ?? {}).some((m) => m?.instrumentId === i.id),
  ) as InstrumentRecord;
  const coarse = meter.ranges.map((r) => ({ ...r, accuracy: { ...r.accuracy, gain: 0.05 } }));
  const edited: InstrumentRecord = { ...meter, earlier: [{ until: "2026-06-01", ranges: coarse }] };
  expect([rangesOn(edited, "2026-05-31"), rangesOn(edited, "2026-06-01")]).toEqual([coarse, meter.ranges]);
  await change("calibrate", [edit(meter, edited)]);
  const setup = withMeters({ conditions: {}, instruments: rig?.instruments ?? {} }, rig as never);
  const role = Object.entries(setup.meters ?? {}).find(([, m]) => m?.instrumentId === meter.id)?.[0] as "outputVoltage";
  expect((await withMetersOn(setup, notebookId, "2026-05-01")).instruments[role]?.gain).toBe(0.05);
  expect((await withMetersOn(setup, notebookId, "2026-07-01")).instruments[role]).toEqual(setup.instruments[role]);
});
