import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import { population } from "@/testing/population";
import type { StoredRecord } from "@/core/files/records";
import type { TraceColumns } from "@/core/files/trace-columns";
import { exportNotebook, importNew } from "./archives";
import { closeDatabase, database } from "./database";
import { change } from ".";
import { closeNotices } from "./notices";
import { removeNotebook } from "./room";
import { chunked, readTrace } from "./traces";

const LOGS = 12;
const ROWS = population(10_000, 1_000_000);
const AT = "2026-11-25T08:00:00Z";

afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

/** A log that no other equals: its numbers follow from its own and its row's. */
function columnsOf(log: number): TraceColumns {
  const column = (of: (row: number) => number) => Float64Array.from({ length: ROWS }, (_, row) => of(row));
  return {
    time: column((k) => k / 100),
    cellVoltage: column((k) => 3 + log / 100 + (k % 997) / 1e4),
    cellCurrent: column((k) => (k % 11 === log % 11 ? NaN : Math.sin(k + log))),
  };
}

const sameColumn = (a: Float64Array | undefined, b: Float64Array | undefined): number =>
  a && b && a.length === b.length ? a.findIndex((x, k) => !Object.is(x, b[k])) : NaN;

test(`a notebook with ${LOGS} logs of ${ROWS} rows goes out as an archive and comes back with every number and every gap of them`, async () => {
  let n = 0;
  const demo = packedDemo(() => `l-${n++}`, AT);
  const live = demo.records.find((r) => r.kind === "run" && r.id === demo.logs[0]?.runId) as Extract<
    StoredRecord,
    { kind: "run" }
  >;
  const runs = Array.from({ length: LOGS }, (_, k) => ({
    ...live,
    id: `long-${k}` as never,
    title: `Log ${k + 1}`,
    source: { kind: "typed" } as never,
  }));
  const kept = demo.records.filter(
    (r) =>
      ["notebook", "rules", "rig", "instrument", "cell"].includes(r.kind) ||
      r.id === live.boardId ||
      (r.kind === "sample" && r.id === live.sampleId),
  );
  const { notebookId } = live;
  await change("load", [...kept, ...runs], { journal: false });
  const db = await database();
  for (const [k, run] of runs.entries())
    for (const chunk of chunked(run.id, columnsOf(k))) await db.add("chunks", chunk);

  const archive = await exportNotebook(notebookId, AT, new Map(), null);
  await removeNotebook(notebookId);
  expect(await db.count("chunks")).toBe(0);

  const came = await importNew(archive);
  expect(came).toMatchObject({ ok: true });
  for (const [k, run] of runs.entries()) {
    const [sent, back] = [columnsOf(k), await readTrace(run.id)];
    expect([k, Object.keys(back).sort()]).toEqual([k, Object.keys(sent).sort()]);
    for (const role of Object.keys(sent) as (keyof TraceColumns)[])
      expect([k, role, sameColumn(sent[role], back[role])]).toEqual([k, role, -1]);
  }
  expect(archive.size).toBeGreaterThan(LOGS * ROWS);
});
