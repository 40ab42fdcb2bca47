import type { LiveBench } from "./live-bench";
import type { Result } from "@/core/quantities";
import type { TaskName, Tasks } from "./protocol";

let live: LiveBench | null = null;
const bench = (): LiveBench => {
  if (!live) throw new Error("no bench is open");
  return live;
};

const judging = () => import("./judging");
const logs = () => import("./logs");
const archives = () => import("@/storage/archives");
const saying = <T>(r: Result<T>): T | { error: string } => (r.ok ? r.value : { error: r.error });

/** ms that a search for groups of cells, and for a day's plan, may take. */
const MATCH_TIME = 2000;
const PLAN_TIME = 2000;

/** What a worker can do. Each task loads its code when first asked: most workers do one kind of thing all their life. */
export const TASKS: {
  [K in TaskName]: (ask: Tasks[K]["ask"], progress?: (share: number) => void) => Promise<Tasks[K]["give"]>;
} = {
  ahead: async (page) => {
    await Promise.all([
      judging().then((j) => (page === "comparison" ? j.comparisonAhead() : undefined)),
      import("@/storage/database").then((m) => m.database()),
    ]);
    return null;
  },
  resistors: async ({ targets, volts, drawer }) =>
    (await import("@/core/procedures/load-sweep/resistors")).chooseLoads(targets, volts, drawer),
  results: async (ask) => (await judging()).results(ask),
  "stored-results": async (ask) => (await judging()).storedResults(ask),
  "of-board": async (ask) => (await judging()).ofBoard(ask),
  settle: async () => {
    await (await judging()).writeHeld();
    return null;
  },
  verdicts: async (ask) => (await judging()).verdicts(ask),
  fits: async ({ boards, load, battery }) => {
    const { fitBoard } = await import("@/core/use/board-fit");
    return boards.map((modules) => fitBoard(modules, load, battery));
  },
  match: async ({ cells, series, parallel }) => {
    const [{ matchCells, MATCH_BUDGET }, { seeded }] = await Promise.all([
      import("@/core/use/match"),
      import("@/core/simulator/random"),
    ]);
    const until = Date.now() + MATCH_TIME;
    return matchCells(cells, series, parallel, seeded(1), { ...MATCH_BUDGET, over: () => Date.now() > until });
  },
  replan: async ({ day, now }) => {
    const [{ replanned }, { SCHEDULE_BUDGET, within }, { seeded }] = await Promise.all([
      import("@/core/use/day"),
      import("@/core/use/schedule"),
      import("@/core/simulator/random"),
    ]);
    return replanned(day, now, seeded(1), { ...SCHEDULE_BUDGET, spent: within(PLAN_TIME, Date.now) });
  },
  table: async ({ text, dialect }) => {
    const [{ readTable }, { guessMapping }] = await Promise.all([
      import("@/core/files/table"),
      import("@/core/files/mapping"),
    ]);
    const t = readTable(text, dialect);
    return t.ok ? { table: t.value, mapping: guessMapping(t.value) } : { error: t.error };
  },
  points: async ({ text, dialect, mapping, fileId, lastLine }) => {
    const [{ readTable }, { importPoints }] = await Promise.all([
      import("@/core/files/table"),
      import("@/core/files/import-points"),
    ]);
    const t = readTable(text, dialect);
    if (!t.ok) return { error: t.error };
    const p = importPoints(t.value, mapping, fileId, lastLine);
    return p.ok ? p.value : { error: p.error };
  },
  "log-head": async (ask) => (await logs()).head(ask),
  "log-look": async (ask, progress) => (await import("./look")).look(ask, progress),
  "log-import": async (ask, progress) => (await logs()).importLog(ask, progress),
  "file-sums": async (ask) => (await logs()).sums(ask),
  "log-align": async (ask) => (await logs()).align(ask),
  "log-store": async ({ run }) => (await logs()).storeLogOf(run),
  "log-analysis": async (ask) => (await judging()).analysis(ask),
  "log-results": async (ask) => (await judging()).logResults(ask),
  "log-curves": async (ask) => (await logs()).curves(ask),
  "log-figures": async (ask) => (await logs()).figures(ask),
  "log-csv": async ({ runId }) => (await logs()).csv(runId),
  "pack-settled": async ({ notebookId, at, after }) =>
    (await import("@/storage/pack-settled")).packSettled(notebookId, at, after),
  "archive-part": async ({ runs }) => (await archives()).archivePart(runs),
  "archive-sheets": async ({ notebookId }) => (await import("./archived-sheets")).archivedSheets(notebookId),
  "archive-write": async ({ notebookId, at, sheets, parts }) =>
    (await archives()).exportNotebook(notebookId, at, sheets, parts),
  "archive-head": async ({ file }) => saying(await (await archives()).archiveHead(file)),
  "archive-new": async ({ file }, progress) => saying(await (await archives()).importNew(file, progress)),
  "archive-plan": async ({ file }) => saying(await (await archives()).planImport(file)),
  "archive-contents": async ({ file, files, runs, longer }) =>
    saying(await (await archives()).stageContents(file, files, runs, longer)),
  "bench-open": async (ask) => {
    live = new (await import("./live-bench")).LiveBench(ask);
    return null;
  },
  "bench-exchange": async (ask) => bench().exchange(ask),
  "bench-pace": async ({ factor }) => {
    bench().pace(factor);
    return null;
  },
};
