import type { BoardRecord, ClaimRecord, RunRecord, SampleRecord } from "@/core/files/records";
import { NO_CORRECTIONS, type Analysis, type Finding, type HouseRules, type RunResults } from "@/core/measurement";
import { readingsOf } from "@/core/procedures/catalogue";
import type { ClaimVerdict, EvidenceRun, EvidenceSample, VerdictWord } from "@/core/verdicts";
import { overRuns } from "@/core/verdicts/over-runs";
import { movedResults, type MovedResult } from "@/core/verdicts/moved";
import type { DerivedEntry } from "@/storage/database";
import { keep, keptEntries, keptEntry, keptValue, workBegins } from "@/storage/derived";
import { ofBoard, record } from "@/storage/queries";
import { NO_RESULTS, type Compute } from "./compute";
import { runDossier, type RunDossier } from "./run-dossier";
import { rulesOf } from "./rules";
import { analysisStamp, resultsStamp } from "./stamps";

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

const resultsKey = (run: RunRecord): string => `run:${run.id}`;

/** Results of a run from the cache where they are still good, else worked out and kept. */
export async function resultsOf(compute: Compute, run: RunRecord): Promise<KeptResults> {
  const since = await workBegins();
  return resultsWith(compute, run, await keptEntry(resultsKey(run)), since);
}

/** The same where it was read already what was kept before. */
async function resultsWith(
  compute: Compute,
  run: RunRecord,
  before: DerivedEntry | undefined,
  since: number,
): Promise<KeptResults> {
  const [key, stamp] = [resultsKey(run), resultsStamp(run.procedure)];
  if (before?.stamp === stamp) return before.value as KeptResults;
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
  compute.keep([{ key, stamp, value: results }], since);
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
  const [key, since] = [`analysis:${d.run.id}`, await workBegins()];
  const cached = await keptValue<Analysis>(key, stamp);
  if (cached) return cached;
  const value = await compute.log(d);
  compute.keep([{ key, stamp, value }], since);
  return value;
}

/** Keeps an analysis that was worked out as a log came in. */
export function keepLogAnalysis(run: RunRecord, rows: number, value: Analysis): void {
  const entry = { key: `analysis:${run.id}`, stamp: logStamp(run, rows, NO_CORRECTIONS, []), value };
  void workBegins().then(
    (since) => keep([entry], since),
    () => undefined,
  );
}

/** What of a run's set-up its sample's results over several runs rest on. */
const settingOf = (r: RunRecord): Pick<EvidenceRun, "ratedLoad" | "programme"> => ({
  ...(r.setup.conditions.ratedLoad !== undefined ? { ratedLoad: r.setup.conditions.ratedLoad } : {}),
  ...(r.pinned.programme ? { programme: r.pinned.programme.ohms } : {}),
});

/** A board with its claims judged from every run that counts; `only` leaves out the runs of any other procedure, as if they were not there. */
export async function boardDossier(
  compute: Compute,
  boardId: string,
  only?: ReadonlySet<string>,
): Promise<BoardDossier | null> {
  const since = await workBegins();
  const board = await record("board", boardId);
  if (!board) return null;
  const [claims, samples, all, rules] = await Promise.all([
    ofBoard(boardId, "claim"),
    ofBoard(boardId, "sample"),
    ofBoard(boardId, "run"),
    rulesOf(board.notebookId),
  ]);
  const runs = only ? all.filter((r) => only.has(r.procedure)) : all;
  const before = await keptEntries(runs.map(resultsKey));
  const keptOf = new Map(runs.map((r, k) => [r.id, before[k]]));
  const evidence: EvidenceSample[] = [];
  const moved = new Map<string, readonly MovedResult[]>();
  const plainResults = async (r: RunRecord): Promise<RunResults> => {
    const { moved: own, ...results } = await resultsWith(compute, r, keptOf.get(r.id), since);
    if (own) moved.set(r.id, own);
    return results;
  };
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
            ...(await plainResults(r)),
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
