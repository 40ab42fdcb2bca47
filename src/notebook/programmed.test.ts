import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import type { BoardId, RunRecord } from "@/core/files/records";
import { computedBy } from "@/testing/compute";
import { appendChunk, change, chunked, edit, ofKind } from "@/storage";
import { analyseRun } from "./analyse-run";
import { closeDatabase } from "@/storage/database";
import { closeNotices } from "@/storage/notices";
import { programmeOf } from "./programmed";
import { numeric } from "@/core/quantities";

let n = 0;
const demo = packedDemo(() => `pr-${n++}`, "2026-11-25T08:00:00Z");
const charges = demo.records.filter(
  (r): r is RunRecord => r.kind === "run" && r.procedure === "charge-cycle" && r.state === "finished",
);
const boardId = charges.find((r) => charges.some((o) => o !== r && o.boardId === r.boardId))?.boardId as BoardId;

const compute = computedBy({ verdicts: () => Promise.resolve([]) });

beforeAll(async () => {
  await change("load", demo.records, { journal: false });
  for (const { runId, columns } of demo.logs) for (const c of chunked(runId, columns)) await appendChunk(c);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});

test("K comes from a board's own charges whose resistor was known; what was not fairly tested or set aside is none of them", async () => {
  const own = (await ofKind(charges[0]?.notebookId ?? "", "run")).filter((r) =>
    charges.some((c) => c.id === r.id && c.boardId === boardId),
  );
  expect(await programmeOf(compute, boardId)).toBeNull();
  const results = await Promise.all(
    own.map(async (r) => ({
      r,
      f: (await analyseRun((await import(".").then((m) => m.runDossier(compute, r.id))) as never)).findings.find(
        (x) => x.characteristic === "charge.cc-current",
      ),
    })),
  );
  const fair = results.filter(({ f }) => f && f.unfair.length === 0 && typeof f.value === "number");
  expect(fair.length).toBeGreaterThan(0);
  await change(
    "solder",
    own.map((r) => edit(r, { ...r, pinned: { ...r.pinned, programme: { ohms: 1000, tolerance: 0.01 } } })),
  );
  const amps = fair.reduce((s, { f }) => s + numeric(f?.value), 0) / fair.length;
  const p = await programmeOf(compute, boardId);
  expect(p).toMatchObject({ runs: fair.length, resistors: 1, offset: 0 });
  expect(p?.k).toBeCloseTo(1000 * amps, 6);
  // 1 % of the resistor, as a rectangle, is the least that K is off by.
  expect(p?.kU).toBeGreaterThan((2 * 0.01 * (p?.k ?? 0)) / Math.sqrt(3) - 1e-9);
});
