import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import {
  stableJson,
  type AnnotationRecord,
  type FileRecord,
  type PointRecord,
  type RunRecord,
  type StoredRecord,
} from "@/core/files";
import { logCharge } from "@/core/rehearsal/charge-log";
import { chargeBench } from "@/core/simulator";
import {
  boardDossier,
  forgetBoundary,
  logAnalysis,
  moveBoundary,
  readingsIn,
  runDossier,
  RunFollower,
  type RunDossier,
} from ".";
import { boards, change, edit, listen, newId, now, remove, undo } from "@/storage";
import { analyseRun } from "./analyse-run";
import { computedBy } from "@/testing/compute";
import { HERE as compute } from "./here";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";

let demo: StoredRecord[] = [];
let run: RunRecord;
beforeAll(async () => {
  let n = 0;
  demo = packedDemo(() => `f-${n++}`, "2026-11-25T08:00:00Z").records.slice();
  await change("load the demo", demo, { journal: false });
  run = demo.find((r) => r.kind === "run" && r.state === "open") as RunRecord;
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

/** Follows a run by what is announced, as a screen does. */
function following(follower: RunFollower): { latest(): Promise<RunDossier | null>; stop(): void } {
  let work: Promise<RunDossier | null> = follower.read();
  const stop = listen((n) => {
    if (n.runs.includes(follower.runId)) work = work.then(() => follower.take(n.records));
  });
  return { latest: () => work, stop };
}
const draftPoint = (state: PointRecord["state"], sequence: number, change: Partial<PointRecord> = {}): PointRecord => ({
  kind: "point",
  id: newId() as PointRecord["id"],
  notebookId: run.notebookId,
  createdAt: now(),
  updatedAt: now(),
  runId: run.id,
  sequence,
  state,
  settings: { supplyVoltage: 3.6, load: { mode: "current", value: 0.02 } },
  cells: {
    batteryVoltage: { value: 3.6, status: "ok" },
    batteryCurrent: { value: 0.04, status: "ok" },
    outputVoltage: { value: 5.3, status: "ok" },
    outputCurrent: { value: 0.02, status: "ok" },
  },
  ...(state === "taken" ? { takenAt: now(), dwell: 6 } : {}),
  ...change,
});
const same = async (d: RunDossier | null) => {
  const fresh = await runDossier(compute, run.id);
  const plain = (x: RunDossier | null) =>
    x &&
    stableJson({
      ...x,
      corrections: [[...x.corrections.leftOut], [...x.corrections.recoveries], [...x.corrections.closed]],
      annotations: [...x.annotations].sort((a, b) => (a.id < b.id ? -1 : 1)),
    });
  expect(plain(d)).toBe(plain(fresh));
};

test("what is followed by word of changes is what a fresh look finds, whatever happens to the run", async () => {
  const { latest, stop } = following(new RunFollower(compute, run.id));
  const before = (await latest())?.points.length ?? 0;
  const taken = draftPoint("taken", 500);
  await change("take a point", [taken]);
  await same(await latest());
  expect((await latest())?.points).toHaveLength(before + 1);
  const why: AnnotationRecord = {
    kind: "annotation",
    id: newId(),
    notebookId: run.notebookId,
    createdAt: now(),
    updatedAt: now(),
    runId: run.id,
    what: "left-out",
    target: taken.id,
    text: "misread",
  };
  await change("leave it out", [why]);
  await same(await latest());
  expect((await latest())?.corrections.leftOut.get(taken.id)).toBe("misread");
  await remove("include", [why]);
  await same(await latest());
  await change("withdraw", [{ ...taken, state: "withdrawn", updatedAt: now() }]);
  await same(await latest());
  expect((await latest())?.withdrawn).toHaveLength(1);
  await undo(run.notebookId);
  await same(await latest());
  expect((await latest())?.points).toHaveLength(before + 1);
  await change("finish", [edit(run, { ...run, state: "finished" })]);
  await same(await latest());
  expect((await latest())?.run.state).toBe("finished");
  stop();
});

test("a half-typed value makes nothing anew: points and corrections keep their identity", async () => {
  const { latest, stop } = following(new RunFollower(compute, run.id));
  const first = await latest();
  await change("half-typed point", [draftPoint("draft", 900, { cells: {}, typed: { batteryVoltage: "3.6" } })], {
    journal: false,
  });
  const second = await latest();
  expect(second?.draft?.typed).toEqual({ batteryVoltage: "3.6" });
  expect(second?.points).toBe(first?.points);
  expect(second?.corrections).toBe(first?.corrections);
  await change("take a point", [draftPoint("taken", 901)]);
  const third = await latest();
  expect(third?.points).not.toBe(first?.points);
  // The points that were there are the very same ones, so that what was worked out of each is saved.
  first?.points.forEach((p, i) => expect(third?.points[i]).toBe(p));
  stop();
});

test("records of other runs pass by; a run that is deleted is gone", async () => {
  const follower = new RunFollower(compute, run.id);
  const first = await follower.read();
  const other = demo.find((r) => r.kind === "point" && r.runId !== run.id) as StoredRecord;
  expect((await follower.take([other]))?.points).toBe(first?.points);
  expect(await follower.take([{ ...run, deletedAt: now() }])).toBeNull();
  expect(await new RunFollower(compute, "no such run").read()).toBeNull();
});

test("findings and verdicts come from whoever was asked to think, once, and are then kept", async () => {
  const finished = demo.find((r) => r.kind === "run" && r.state === "finished") as RunRecord;
  const board = (await boards(run.notebookId)).find((b) => b.id === finished.boardId);
  let asked = 0;
  const counting = computedBy({
    results: async (d) => {
      asked++;
      return analyseRun(d);
    },
  });
  const first = await boardDossier(counting, board?.id ?? "");
  // Once for each of its runs: two sweeps, a checklist and a reversal.
  expect(asked).toBe(4);
  const second = await boardDossier(counting, board?.id ?? "");
  expect(asked).toBe(4);
  expect(stableJson([...(second?.verdicts ?? [])])).toBe(stableJson([...(first?.verdicts ?? [])]));
  // A change under it is thought over again.
  await change("rename", [edit(finished, { ...finished, title: "renamed" })]);
  await boardDossier(counting, board?.id ?? "");
  expect(asked).toBe(5);
});

test("a run that came as a log is read from its file through its mapping, by whoever was asked to, and judged", async () => {
  const { columns } = logCharge(chargeBench({ cell: { capacity: 0.5 }, soc: 0.6 }), {
    every: 10,
    before: 30,
    after: 120,
    most: 7200,
    seed: 2,
  }).trace;
  const text = [
    "t,V,I",
    ...[...(columns.time ?? [])].map((t, k) => `${t},${columns.cellVoltage?.[k]},${columns.cellCurrent?.[k]}`),
  ].join("\n");
  const base = { notebookId: run.notebookId, createdAt: now(), updatedAt: now() };
  const file: FileRecord = { kind: "file", id: newId(), ...base, name: "c.csv", sha256: "0".repeat(64), text };
  const mapping = {
    time: { header: "t", unit: "s" },
    cellVoltage: { header: "V", unit: "V" },
    cellCurrent: { header: "I", unit: "A" },
  } as const;
  const charge: RunRecord = {
    ...run,
    ...base,
    id: newId() as RunRecord["id"],
    procedure: "charge-cycle",
    title: "Charge cycle from c.csv",
    state: "finished",
    setup: { conditions: { programmedCurrent: 1 }, instruments: {} },
    source: { kind: "file", fileId: file.id, dialect: { delimiter: ",", decimal: "." }, mapping, skipBadRows: false },
  };
  await change("import c.csv", [file, charge]);
  const d = await runDossier(compute, charge.id);
  expect(d?.points).toEqual([]);
  expect(d?.log?.rows).toBe(columns.time?.length);
  const readings = d && (await readingsIn(d));
  expect(readings?.kind === "trace" && [...(readings.trace.columns.cellVoltage ?? [])]).toEqual([
    ...(columns.cellVoltage ?? []),
  ]);
  expect(
    d && (await logAnalysis(compute, d)).findings.find((f) => f.characteristic === "charge.cc-current")?.value,
  ).toBeCloseTo(1, 1);

  // Another run of the same file isn't stored yet: whoever was asked to does it.
  const other = { ...charge, id: newId() as RunRecord["id"], title: "the same again" };
  const asked: string[] = [];
  const refusing = computedBy({
    storeLog: async (r) => {
      asked.push(r.id);
      return false;
    },
  });
  await change("import it again", [other]);
  expect((await runDossier(refusing, other.id))?.log).toBeNull();
  expect(asked).toEqual([other.id]);
  expect((await runDossier(compute, charge.id))?.log?.rows).toBe(columns.time?.length);
});

test("a boundary that the tester moves goes over the log with its reason, and back", async () => {
  const charge = (await boardDossier(compute, run.boardId))?.runs.find(
    (r) => r.title === "Charge cycle from c.csv" && r.procedure === "charge-cycle",
  ) as RunRecord;
  const value = async (name: string) => {
    const d = await runDossier(compute, charge.id);
    return d && (await logAnalysis(compute, d)).findings.find((f) => f.characteristic === name)?.value;
  };
  const found = Number(await value("charge.cc-duration"));
  await moveBoundary(
    (await runDossier(compute, charge.id)) as RunDossier,
    "constant-voltage",
    found - 90,
    "the knee is earlier",
  );
  const d = (await runDossier(compute, charge.id)) as RunDossier;
  const start = Number((await logAnalysis(compute, d)).charts[0]?.handles?.find((h) => h.id === "start")?.at);
  expect(Number(await value("charge.cc-duration"))).toBeCloseTo(found - 90 - start, 6);
  expect((await logAnalysis(compute, d)).notes.map((n) => n.message).join()).toContain("the knee is earlier");
  await forgetBoundary(d, "constant-voltage");
  expect(Number(await value("charge.cc-duration"))).toBe(found);
});
