import type { BoardRecord, ClaimRecord, RunRecord, SampleRecord } from "@/core/files/records";
import type { BoardColumn, PackedColumn } from "@/core/compare";
import { NO_CORRECTIONS, type Analysis, type Finding, type HouseRules, type RunResults } from "@/core/measurement";
import { readingsOf } from "@/core/procedures/catalogue";
import type { ClaimVerdict, EvidenceRun, EvidenceSample, VerdictWord } from "@/core/verdicts";
import { overRuns } from "@/core/verdicts/over-runs";
import { movedResults, type MovedResult, type MovedVerdict } from "@/core/verdicts/moved";
import { database } from "@/storage/database";
import { derivedWritten, keep, keptValue, keptBefore, workBegins } from "@/storage/derived";
import { announce } from "@/storage/notices";
import { ofBoard, record } from "@/storage/queries";
import { NO_RESULTS, type Compute } from "./compute";
import { runDossier, type RunDossier } from "./run-dossier";
import { rulesOf } from "./rules";
import { analysisStamp, columnStamp, onlyVersionsDiffer, resultsStamp, summaryStamp } from "./stamps";

export interface BoardDossier {
  readonly board: BoardRecord;
  readonly claims: readonly ClaimRecord[];
  readonly samples: readonly SampleRecord[];
  readonly runs: readonly RunRecord[];
  readonly evidence: readonly EvidenceSample[];
  readonly verdicts: ReadonlyMap<string, ClaimVerdict>;
  readonly rules: HouseRules;
  /** Run → what an earlier version of its analysis gave otherwise. */
  readonly moved: ReadonlyMap<string, readonly MovedResult[]>;
}

/** Rows from which a log's whole analysis is kept beside its findings; of a shorter one it is made anew as quickly as it is read. */
const LONG_LOG = 50_000;

/** Results of a run as they are kept. */
export interface KeptResults extends RunResults {
  /** What an earlier version of the analysis gave otherwise, until that is noted. */
  readonly moved?: readonly MovedResult[];
}

/** Results of a run from the cache where they are still good, else worked out and kept. */
export async function resultsOf(compute: Compute, run: RunRecord): Promise<KeptResults> {
  const stamp = resultsStamp(run.procedure);
  const [key, since] = [`run:${run.id}`, workBegins()];
  const cached = await keptValue<KeptResults>(key, stamp);
  if (cached) return cached;
  const before = await keptBefore(key);
  const d = readingsOf(run.procedure) === "trace" ? await runDossier(compute, run.id) : null;
  const { findings, notStated = [] } =
    readingsOf(run.procedure) !== "trace"
      ? await compute.stored(run)
      : !d || (!d.log && readingsOf(run.procedure) === "trace")
        ? NO_RESULTS
        : (d.log?.rows ?? 0) < LONG_LOG
          ? await compute.results(d)
          : await logAnalysis(compute, d);
  const old = before?.value as Partial<KeptResults> | undefined;
  const moved = before && old?.findings && before.stamp !== stamp ? movedResults(old.findings, findings) : [];
  const results: KeptResults = { findings, notStated, ...(moved.length ? { moved } : {}) };
  keep([{ key, stamp, value: results }], since);
  return results;
}

export const findingsOf = async (compute: Compute, run: RunRecord): Promise<readonly Finding[]> =>
  (await resultsOf(compute, run)).findings;

/** What a run would have found with another set-up: worked out from its own readings, and kept nowhere. */
export async function findingsUnder(
  compute: Compute,
  runId: string,
  setup: RunRecord["setup"],
): Promise<readonly Finding[]> {
  const d = await runDossier(compute, runId);
  if (!d) return [];
  const other: RunDossier = { ...d, run: { ...d.run, setup } };
  return (await compute.results(other)).findings;
}

/** A claim whose verdict would change. */
export interface Flip {
  readonly claimId: string;
  readonly board: string;
  readonly wording: string;
  readonly from: VerdictWord;
  readonly to: VerdictWord;
}

/** Whose verdicts would change if `other` were so, board by board; nothing is stored of it. */
export async function flipsIf(
  compute: Compute,
  boards: readonly BoardRecord[],
  other: { readonly rules?: HouseRules; readonly runs?: readonly RunRecord[] },
): Promise<Flip[]> {
  const out: Flip[] = [];
  const changed = new Map((other.runs ?? []).map((r) => [r.id as string, r]));
  for (const board of boards) {
    if (changed.size && ![...changed.values()].some((r) => r.boardId === board.id)) continue;
    const d = await boardDossier(compute, board.id);
    if (!d || d.claims.length === 0) continue;
    const evidence = await Promise.all(
      d.evidence.map(async (s) =>
        overRuns({
          ...s,
          runs: await Promise.all(
            s.runs.map(async (r) => {
              const as = changed.get(r.id);
              return as ? { ...r, findings: await findingsUnder(compute, r.id, as.setup) } : r;
            }),
          ),
        }),
      ),
    );
    for (const v of await compute.verdicts(d.claims, evidence, other.rules ?? d.rules)) {
      const was = d.verdicts.get(v.claimId)?.word ?? "not measured";
      const claim = d.claims.find((c) => c.id === v.claimId);
      if (claim && was !== v.word)
        out.push({ claimId: v.claimId, board: board.title, wording: claim.source.wording, from: was, to: v.word });
    }
  }
  return out;
}

const logStamp = (
  run: RunRecord,
  rows: number | undefined,
  { boundaries, conditions }: Pick<RunDossier["corrections"], "boundaries" | "conditions">,
  marks: RunDossier["marks"],
): string => analysisStamp(run.procedure, [rows ?? null, run.setup, [...boundaries], conditions ?? null, marks]);

/** A log's analysis from the cache where it is still good, else worked out and kept: a long log then opens at once. */
export async function logAnalysis(compute: Compute, d: RunDossier): Promise<Analysis> {
  const stamp = logStamp(d.run, d.log?.rows, d.corrections, d.marks);
  const [key, since] = [`analysis:${d.run.id}`, workBegins()];
  const cached = await keptValue<Analysis>(key, stamp);
  if (cached) return cached;
  const value = await compute.log(d);
  keep([{ key, stamp, value }], since);
  return value;
}

/** Keeps an analysis that was worked out as a log came in. */
export function keepLogAnalysis(run: RunRecord, rows: number, value: Analysis): void {
  keep([{ key: `analysis:${run.id}`, stamp: logStamp(run, rows, NO_CORRECTIONS, []), value }], workBegins());
}

async function plainResults(
  compute: Compute,
  run: RunRecord,
  into: Map<string, readonly MovedResult[]>,
): Promise<RunResults> {
  const { moved, ...results } = await resultsOf(compute, run);
  if (moved) into.set(run.id, moved);
  return results;
}

/** Notes what a better analysis moved: it is shown no more. */
export async function noteMoved(compute: Compute, board: BoardRecord, runs: readonly RunRecord[]): Promise<void> {
  const since = workBegins();
  const [summary, ...results] = await Promise.all([
    boardSummary(compute, board),
    ...runs.map((run) => resultsOf(compute, run)),
  ]);
  const { moved: _moved, ...plain } = summary;
  void _moved;
  keep(
    [
      { key: `board:${board.id}`, stamp: summaryStamp(await rulesOf(board.notebookId)), value: plain },
      ...runs.flatMap((r, k) => {
        const { moved, ...rest } = results[k] as KeptResults;
        return moved ? [{ key: `run:${r.id}`, stamp: resultsStamp(r.procedure), value: rest }] : [];
      }),
    ],
    since,
  );
  await derivedWritten();
  announce({
    notebookId: board.notebookId,
    records: [],
    ids: [board.id],
    kinds: ["derived"],
    runs: runs.map((r) => r.id),
  });
}

/** What of a run's set-up its sample's results over several runs rest on. */
const settingOf = (r: RunRecord): Pick<EvidenceRun, "ratedLoad" | "programme"> => ({
  ...(r.setup.conditions.ratedLoad !== undefined ? { ratedLoad: r.setup.conditions.ratedLoad } : {}),
  ...(r.pinned.programme ? { programme: r.pinned.programme.ohms } : {}),
});

/** A board with its claims judged from every run that counts. */
export async function boardDossier(compute: Compute, boardId: string): Promise<BoardDossier | null> {
  const board = await record("board", boardId);
  if (!board) return null;
  const [claims, samples, runs, rules] = await Promise.all([
    ofBoard(boardId, "claim"),
    ofBoard(boardId, "sample"),
    ofBoard(boardId, "run"),
    rulesOf(board.notebookId),
  ]);
  const evidence: EvidenceSample[] = [];
  const moved = new Map<string, readonly MovedResult[]>();
  for (const s of samples) {
    const own = runs.filter((r) => r.sampleId === s.id && r.state !== "prepared");
    evidence.push(
      overRuns({
        id: s.id,
        name: s.name,
        runs: await Promise.all(
          own.map(async (r) => ({
            id: r.id,
            title: r.title,
            startUtc: r.startUtc,
            ...(r.startAssumed ? { startAssumed: true } : {}),
            ...(r.source.kind === "simulated" ? { simulated: true } : {}),
            ...(r.decides?.length ? { decides: r.decides } : {}),
            importedAt: r.createdAt,
            finished: r.state === "finished",
            setAside: r.setAside ?? null,
            modifiedFunctions: r.pinned.modifiedFunctions,
            ...settingOf(r),
            ...(await plainResults(compute, r, moved)),
          })),
        ),
      }),
    );
  }
  const verdicts = await compute.verdicts(claims, evidence, rules);
  return {
    board,
    claims,
    samples,
    runs,
    evidence,
    rules,
    moved,
    verdicts: new Map(verdicts.map((v) => [v.claimId, v])),
  };
}

/** What a list of boards shows of one: a small summary, kept until something under it changes. */
export interface BoardSummary {
  readonly verdicts: Readonly<Record<string, number>>;
  /** Verdicts that rest on the simulated bench alone, and those beside which two runs disagree. */
  readonly simulated: number;
  readonly disagree: number;
  readonly claims: number;
  readonly samples: number;
  /** Claim → its verdict. */
  readonly words: Readonly<Record<string, VerdictWord>>;
  /** Verdicts that a better analysis moved, until that is noted. */
  readonly moved?: readonly MovedVerdict[];
  readonly runs: readonly {
    readonly id: string;
    readonly title: string;
    readonly state: RunRecord["state"];
    readonly procedure: string;
  }[];
}

export async function boardSummary(compute: Compute, board: BoardRecord): Promise<BoardSummary> {
  const [key, since] = [`board:${board.id}`, workBegins()];
  const rules = await rulesOf(board.notebookId);
  const stamp = summaryStamp(rules);
  const cached = await keptValue<BoardSummary>(key, stamp);
  if (cached) return cached;
  const before = await keptBefore(key);
  const d = await boardDossier(compute, board.id);
  const verdicts: Record<string, number> = {};
  for (const v of d?.verdicts.values() ?? []) verdicts[v.word] = (verdicts[v.word] ?? 0) + 1;
  const words = Object.fromEntries([...(d?.verdicts.values() ?? [])].map((v) => [v.claimId, v.word]));
  const old = before?.value as Partial<BoardSummary> | undefined;
  // Whatever changed a record deleted what was kept: what differs under other versions alone, a better analysis moved.
  const moved =
    before && old?.words && onlyVersionsDiffer(before.stamp, stamp)
      ? [
          ...(old.moved ?? []),
          ...Object.entries(words).flatMap(([claimId, to]): MovedVerdict[] =>
            old.words?.[claimId] && old.words[claimId] !== to ? [{ claimId, from: old.words[claimId], to }] : [],
          ),
        ]
      : [];
  const summary: BoardSummary = {
    verdicts,
    words,
    ...(moved.length ? { moved } : {}),
    simulated: [...(d?.verdicts.values() ?? [])].filter((v) => v.simulated).length,
    disagree: [...(d?.verdicts.values() ?? [])].filter((v) => v.disagree).length,
    claims: d?.claims.length ?? 0,
    samples: d?.samples.length ?? 0,
    runs: (d?.runs ?? []).map((r) => ({ id: r.id, title: r.title, state: r.state, procedure: r.procedure })),
  };
  keep([{ key, stamp, value: summary }], since);
  return summary;
}

/** The summaries of a notebook's boards that are still good, by board; read in one go. */
export async function keptSummaries(notebookId: string): Promise<Map<string, BoardSummary>> {
  const [rules, found] = await Promise.all([
    rulesOf(notebookId),
    (await database()).getAll("derived", IDBKeyRange.bound("board:", "board;", false, true)),
  ]);
  const stamp = summaryStamp(rules);
  return new Map(
    found.flatMap((k) => (k.stamp === stamp ? [[k.key.slice("board:".length), k.value as BoardSummary]] : [])),
  );
}

/** The columns of a notebook's comparison that are still good, by board; read in one go, so that a thousand are there at once. */
export async function keptColumns(notebookId: string): Promise<Map<string, PackedColumn>> {
  const [rules, found] = await Promise.all([
    rulesOf(notebookId),
    (await database()).getAll("derived", IDBKeyRange.bound("column:", "column;", false, true)),
  ]);
  const stamp = columnStamp(rules);
  return new Map(
    found.flatMap((k) => (k.stamp === stamp ? [[(k.value as PackedColumn).boardId, k.value as PackedColumn]] : [])),
  );
}

/** What a comparison shows of one board: the numbers it compares by, and its cells. */
export interface ComparedBoard {
  readonly column: PackedColumn;
  readonly cells: BoardColumn["cells"];
}

/** A board's column of the comparison, kept until something under it changes. */
export async function comparedBoard(compute: Compute, board: BoardRecord): Promise<ComparedBoard> {
  const since = workBegins();
  const stamp = columnStamp(await rulesOf(board.notebookId));
  const [column, cells] = await Promise.all([
    keptValue<PackedColumn>(`column:${board.id}`, stamp),
    keptValue<BoardColumn["cells"]>(`cells:${board.id}`, stamp),
  ]);
  if (column && cells) return { column, cells };
  const d = await boardDossier(compute, board.id);
  const { boardColumn, claimMarks, packColumn } = await import("@/core/compare");
  const { title, functions } = d?.board ?? board;
  const whole = boardColumn({
    boardId: board.id,
    title,
    functions,
    claims: d?.claims ?? [],
    verdicts: d?.verdicts ?? new Map(),
    evidence: d?.evidence ?? [],
  });
  const made: ComparedBoard = {
    column: packColumn(whole, claimMarks(d?.claims ?? [], d?.verdicts ?? new Map())),
    cells: whole.cells,
  };
  const entries = [
    { key: `column:${board.id}`, stamp, value: made.column },
    { key: `cells:${board.id}`, stamp, value: made.cells },
  ];
  keep(entries, since);
  return made;
}
