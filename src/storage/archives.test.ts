import "fake-indexeddb/auto";
import { archiveOf } from "@/core/files/archive";
import { traceToCsv } from "@/core/files/export-trace";
import type { RunRecord, StoredRecord } from "@/core/files/records";
import type { TraceColumns } from "@/core/files/trace-columns";
import { packedDemo } from "@/testing/demo";
import { importNew, planImport, stageContents } from "./archives";
import { closeDatabase } from "./database";
import { closeNotices } from "./notices";
import { removeNotebook } from "./room";
import { readTrace, traceExtent } from "./traces";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `t-${n++}`, AT);
const log = demo.logs[0] as (typeof demo.logs)[number];
const like = demo.records.find((r) => r.id === log.runId) as RunRecord;
const live = { ...like, id: "live-1" as RunRecord["id"], state: "open", source: { kind: "typed" } } as RunRecord;
const records: StoredRecord[] = [
  ...demo.records.filter(
    (r) => r.kind === "notebook" || r.kind === "rules" || r.id === live.boardId || r.id === live.sampleId,
  ),
  live,
];
const rows = (from: number, to: number, shift = 0): TraceColumns =>
  Object.fromEntries(
    Object.entries(log.columns).map(([role, v]) => [
      role,
      (v as Float64Array).slice(from, to).map((x) => (role === "time" ? x : x + shift)),
    ]),
  );
const archive = (columns: TraceColumns, run: RunRecord = live) =>
  archiveOf([...records.filter((r) => r.id !== live.id), run], AT, new Map([["live-1", traceToCsv(columns)]]));
const must = <T>(r: { ok: true; value: T } | { ok: false; error: string }): T => {
  if (!r.ok) throw new Error(r.error);
  return r.value;
};

afterEach(() => removeNotebook(live.notebookId));
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("a log that was carried on in the archive only goes on here, to the last row; an older one of one's own takes nothing away", async () => {
  must(await importNew(await archive(rows(0, 100))));
  const longer = await archive(rows(0, 300), { ...live, state: "finished", lineage: [] });
  const plan = must(await planImport(longer));
  expect([plan.longer, [...plan.apart]]).toEqual([["live-1"], []]);
  must(await stageContents(longer, [], new Map(), plan.longer));
  expect((await readTrace("live-1")).time).toEqual(rows(0, 300).time);
  expect(await traceExtent("live-1")).toMatchObject({ rows: 300 });
  const old = must(await planImport(await archive(rows(0, 100))));
  expect([old.longer, [...old.apart]]).toEqual([[], []]);
});

test("a log that was carried on on both sides is two runs, each with its own log", async () => {
  must(await importNew(await archive(rows(0, 100))));
  const theirs = await archive(rows(0, 100, 0.01));
  const plan = must(await planImport(theirs));
  const copy = plan.apart.get("live-1") as string;
  expect(plan.longer).toEqual([]);
  must(await stageContents(theirs, [], new Map([["live-1", copy]]), plan.longer));
  expect((await readTrace("live-1")).inputVoltage).toEqual(rows(0, 100).inputVoltage);
  expect((await readTrace(copy)).time).toEqual(rows(0, 100).time);
  expect((await readTrace(copy)).cellVoltage).not.toEqual((await readTrace("live-1")).cellVoltage);
});
