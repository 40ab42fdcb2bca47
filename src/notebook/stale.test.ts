import "fake-indexeddb/auto";
import { packedDemo } from "@/testing/demo";
import type { RunRecord } from "@/core/files";
import { judgeNeed } from "@/core/need";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";
import { writeUncertaintiesTo } from "@/core/quantities";
import {
  boardDossier,
  boardSummary,
  comparedBoard,
  keptColumns,
  logAnalysis,
  noteMoved,
  candidatesOf,
  resultsOf,
  rulesOf,
  runDossier,
  weighedBoards,
} from ".";
import { appendChunk, boards, change, chunked, edit, ofKind } from "@/storage";
import { analyseRun } from "./analyse-run";
import { computedBy } from "@/testing/compute";
import { closeDatabase } from "@/storage/database";
import { derivedWritten } from "@/storage/derived";
import { closeNotices } from "@/storage/notices";
import { boardSheet } from "./sheet";

let n = 0;
const demo = packedDemo(() => `st-${n++}`, "2026-11-25T08:00:00Z");
const notebookId = demo.records[0]?.notebookId ?? "";
/** Stands in for a better analysis of load sweeps: every highest load is halved. */
let better = false;
let asked = 0;

const compute = computedBy({
  results: async (d) => {
    asked++;
    const { findings, notStated = [] } = await analyseRun(d);
    return {
      notStated,
      findings:
        !better || d.run.procedure !== "load-sweep"
          ? findings
          : findings.map((f) =>
              f.characteristic === "boost.max-current" && typeof f.value === "number"
                ? {
                    ...f,
                    value: 0.5 * f.value,
                    ...(f.bracket ? { bracket: { low: 0.5 * f.bracket.low, high: 0.5 * f.bracket.high } } : {}),
                  }
                : f,
            ),
    };
  },
});

beforeAll(async () => {
  await change("load", demo.records, { journal: false });
  for (const { runId, columns } of demo.logs) for (const c of chunked(runId, columns)) await appendChunk(c);
});
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const board = async () =>
  (await boards(notebookId)).find((b) => b.title === "Sedge 51") as NonNullable<
    Awaited<ReturnType<typeof boards>>[number]
  >;

/** How a board fares against every need. */
async function weighed(boardId: string, by = compute) {
  const all = await weighedBoards(by, notebookId, await ofKind(notebookId, "need"), () => undefined);
  await derivedWritten();
  return [...(all.find((x) => x.boardId === boardId)?.outcomes ?? [])];
}

/** All that the screens are drawn from: notebook, board, verdict, result, comparison, sheet, decision. */
async function screens() {
  const b = await board();
  const [summary, dossier, compared, sheet] = [
    await boardSummary(compute, b),
    await boardDossier(compute, b.id),
    await comparedBoard(compute, b),
    await boardSheet(compute, b.id),
  ];
  await derivedWritten();
  const sweep = dossier?.runs.find((r) => r.procedure === "load-sweep" && r.source.kind === "typed") as RunRecord;
  const highest = (list: readonly { characteristic: string; value: unknown }[]) =>
    list.filter((f) => f.characteristic === "boost.max-current").map((f) => f.value);
  return {
    notebook: summary.verdicts,
    words: Object.fromEntries([...(dossier?.verdicts ?? [])].map(([id, v]) => [id, v.word])),
    summaryWords: summary.words,
    result: highest((await resultsOf(compute, sweep)).findings),
    evidence: highest(dossier?.evidence.flatMap((s) => s.runs).find((r) => r.id === sweep.id)?.findings ?? []),
    column: (await keptColumns(notebookId)).get(b.id)?.values ?? compared.column.values,
    cell: compared.cells["boost.max-current"]?.value,
    sheet: JSON.stringify(sheet?.sheet.claims.map((c) => c.word)),
    decision: await weighed(b.id),
    moved: summary.moved,
    movedResults: dossier?.moved.get(sweep.id),
  };
}

const sweepFacts = PROCEDURE_FACTS.find((f) => f.id === "load-sweep") as { version: number };

test("raising the version of one procedure changes what every screen shows at once, and what moved is shown until it is noted", async () => {
  const before = await screens();
  expect([before.moved, before.movedResults]).toEqual([undefined, undefined]);
  asked = 0;
  await screens();
  expect(asked).toBe(0);

  better = true;
  sweepFacts.version++;
  const after = await screens();
  expect(asked).toBeGreaterThan(0);
  // Function it concerns was analysed anew.
  const sweeps = (await ofKind(notebookId, "run")).filter((r) => r.procedure === "load-sweep");
  expect(asked).toBeLessThanOrEqual(sweeps.length);
  for (const k of ["result", "evidence", "cell", "words", "summaryWords", "notebook", "sheet", "decision"] as const)
    expect([k, after[k]]).not.toEqual([k, before[k]]);
  expect([...after.column]).not.toEqual([...before.column]);
  expect(after.summaryWords).toEqual(after.words);
  // The claim of 1.3 A is not met any more, and that is said.
  const fell = Object.entries(after.words)
    .filter(([id, w]) => before.words[id] !== w)
    .map(([claimId, to]) => ({ claimId, from: before.words[claimId], to }));
  expect(fell.length).toBeGreaterThan(0);
  expect(after.moved).toEqual(fell);
  expect(
    after.movedResults?.every((m) => m.characteristic === "boost.max-current" && m.from !== m.to && m.from && m.to),
  ).toBe(true);

  const b = await board();
  await noteMoved(compute, b, (await boardDossier(compute, b.id))?.runs ?? []);
  const noted = await screens();
  expect([noted.moved, noted.movedResults]).toEqual([undefined, undefined]);
  expect(noted.words).toEqual(after.words);
});

test("what a record's change moved is no better analysis", async () => {
  const b = await board();
  const sweep = (await ofKind(notebookId, "run")).find(
    (r) => r.boardId === b.id && r.procedure === "load-sweep" && r.source.kind === "typed",
  ) as RunRecord;
  await screens();
  await change("set aside", [edit(sweep, { ...sweep, setAside: "test" })]);
  better = false;
  sweepFacts.version++;
  const now = await screens();
  expect([now.moved, now.movedResults]).toEqual([undefined, undefined]);
});

test("how many digits are written belongs to what is kept of an analysis", async () => {
  const log = (await ofKind(notebookId, "run")).find((r) => demo.logs.some((l) => l.runId === r.id)) as RunRecord;
  const d = await runDossier(compute, log.id);
  if (!d) throw new Error("no log");
  let analysed = 0;
  const counting = computedBy({ log: (x) => (analysed++, analyseRun(x)) });
  await logAnalysis(counting, d);
  await derivedWritten();
  await logAnalysis(counting, d);
  expect(analysed).toBe(1);
  writeUncertaintiesTo(1);
  await logAnalysis(counting, d);
  expect(analysed).toBe(2);
  writeUncertaintiesTo(2);
});

test("how a board fares against needs is kept, and follows its claims, its readings, the rules and the needs", async () => {
  const b = await board();
  /** From the board itself, with nothing kept of how it fared. */
  const afresh = async () => {
    const [needs, rules] = [await ofKind(notebookId, "need"), await rulesOf(notebookId)];
    const [own] = await candidatesOf(compute, notebookId, [b.id]);
    return needs.map((need) => [need.id, own ? judgeNeed(need, own, rules) : null]);
  };
  const before = await weighed(b.id);
  expect(before).toEqual(await afresh());
  const asks: string[] = [];
  const counting: typeof compute = {
    ...compute,
    ofBoard: (what, id, ask) => (asks.push(what), compute.ofBoard(what, id, ask)),
  };
  expect(await weighed(b.id, counting)).toEqual(before);
  expect(asks).toEqual([]);

  const [need] = await ofKind(notebookId, "need");
  if (!need) throw new Error("the demo has no need");
  const dear = need.requirements.map((r) => (r.kind === "fact" && r.fact === "price" ? { ...r, atMost: 0.01 } : r));
  const changes: Parameters<typeof change>[1][number][] = [
    edit(need, { ...need, requirements: dear }),
    ...(await ofKind(notebookId, "rules")).map((r) => edit(r, { ...r, rules: { ...r.rules, houseTolerance: 0.4 } })),
    ...(await ofKind(notebookId, "claim"))
      .filter((c) => c.boardId === b.id)
      .slice(0, 2)
      .map((c) => edit(c, { ...c, source: { ...c.source, wording: `${c.source.wording}, as it now says` } })),
    edit(b, { ...b, facts: { ...b.facts, price: 123 } }),
  ];
  expect(changes).toHaveLength(5);
  let last = before;
  for (const one of changes) {
    await change("change", [one]);
    const now = await weighed(b.id, counting);
    expect(now).toEqual(await afresh());
    expect(asks).toContain("outcomes");
    asks.length = 0;
    last = now;
  }
  expect(last).not.toEqual(before);
});
