import "fake-indexeddb/auto";
import type { BoardRecord, RunRecord } from "@/core/files/records";
import { boardDossier, setRunAside } from "@/notebook";
import { HERE } from "@/notebook/here";
import { boardSheet, type BoardSheet } from "@/notebook/sheet";
import { change } from "@/storage";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { appendChunk, chunked } from "@/storage/traces";
import { packedDemo } from "@/testing/demo";
import { movedSince } from "./moved-since";

let n = 0;
const demo = packedDemo(() => `m-${n++}`, "2026-11-25T08:00:00Z");
beforeAll(async () => {
  await change("load the demo", demo.records, { journal: false });
  for (const { runId, columns } of demo.logs) for (const c of chunked(runId, columns)) await appendChunk(c);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const boards = demo.records.filter((r): r is BoardRecord => r.kind === "board");
const moved = async (then: BoardSheet, boardId: string) => {
  const now = await boardDossier(HERE, boardId);
  if (!now) throw new Error("no such board");
  return movedSince({ sheet: then.sheet }, now);
};
const NOTHING = { flips: [], added: 0, gone: 0, runs: 0, fewer: 0 };

test("as soon as a sheet is issued nothing has changed since, whatever runs it leaves out", async () => {
  expect(boards.length).toBeGreaterThan(5);
  for (const b of boards) {
    const then = await boardSheet(HERE, b.id);
    if (!then) throw new Error("no such board");
    expect([b.title, await moved(then, b.id)]).toEqual([b.title, NOTHING]);
  }
});

test("a run that is set aside after that counts no more, and that is said", async () => {
  const sedge = boards.find((b) => b.title === "Sedge 51") as BoardRecord;
  const then = (await boardSheet(HERE, sedge.id)) as BoardSheet;
  const run = then.finished.find((r) => r.procedure === "load-sweep" && r.source.kind === "typed") as RunRecord;
  await setRunAside(run, "the wrong meter");
  expect((await moved(then, sedge.id)).fewer).toBe(1);
});
