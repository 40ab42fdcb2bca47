import { HOUSE_RULES } from "@/core/measurement";
import type { EvidenceSample } from "@/core/verdicts";
import type { MovedVerdict } from "@/core/verdicts/moved";
import { keptEntry, keptValue, workBegins } from "@/storage/derived";
import { ofBoard, record } from "@/storage/queries";
import { boardDossier } from "./board-dossier";
import { candidateFrom } from "./candidates";
import type { BoardSummary, BoardWork, ComparedBoard, Compute, KeptCandidate } from "./compute";
import { rulesOf } from "./rules";
import { candidateStamp, columnStamp, onlyVersionsDiffer, outcomesStamp, summaryStamp } from "./stamps";

/*
 * What is worked out of a whole board. It is loaded where the work is done, a worker mostly: whoever wants it asks its `Compute`.
 */

async function summary(compute: Compute, boardId: string): Promise<BoardSummary> {
  const [key, since] = [`board:${boardId}`, await workBegins()];
  const [d, before] = await Promise.all([boardDossier(compute, boardId), keptEntry(key)]);
  const stamp = summaryStamp(d?.rules ?? HOUSE_RULES);
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
  const made: BoardSummary = {
    verdicts,
    words,
    ...(moved.length ? { moved } : {}),
    simulated: [...(d?.verdicts.values() ?? [])].filter((v) => v.simulated).length,
    disagree: [...(d?.verdicts.values() ?? [])].filter((v) => v.disagree).length,
    claims: d?.claims.length ?? 0,
    samples: d?.samples.length ?? 0,
    runs: (d?.runs ?? []).map((r) => ({ id: r.id, title: r.title, state: r.state, procedure: r.procedure })),
  };
  compute.keep([{ key, stamp, value: made }], since);
  return made;
}

async function compared(
  compute: Compute,
  boardId: string,
  first: BoardWork["compared"]["ask"],
): Promise<ComparedBoard> {
  const since = await workBegins();
  const only = first ? new Set(first) : undefined;
  const [d, { boardColumn, cellsToldBy, claimMarks, packColumn }] = await Promise.all([
    boardDossier(compute, boardId, only),
    import("@/core/compare"),
  ]);
  const stamp = columnStamp(d?.rules ?? HOUSE_RULES);
  const whole = boardColumn({
    boardId,
    title: d?.board.title ?? "",
    functions: d?.board.functions ?? [],
    claims: d?.claims ?? [],
    verdicts: d?.verdicts ?? new Map(),
    evidence: d?.evidence ?? [],
  });
  if (only) {
    const cells = cellsToldBy(whole.cells, only);
    return { column: packColumn({ ...whole, cells }), cells };
  }
  const made: ComparedBoard = {
    column: packColumn(whole, claimMarks(d?.claims ?? [], d?.verdicts ?? new Map())),
    cells: whole.cells,
  };
  compute.keep(
    [
      { key: `column:${boardId}`, stamp, value: made.column },
      { key: `cells:${boardId}`, stamp, value: made.cells },
    ],
    since,
  );
  return made;
}

const slim = (evidence: readonly EvidenceSample[], wanted: ReadonlySet<string>): EvidenceSample[] =>
  evidence.map((s) => ({
    ...s,
    runs: s.runs.map((r) => ({
      ...r,
      findings: r.findings.filter((f) => wanted.has(f.characteristic)).map((f) => ({ ...f, points: [], budget: [] })),
      ...(r.notStated ? { notStated: r.notStated.filter((x) => wanted.has(x.characteristic)) } : {}),
    })),
  }));

async function candidate(compute: Compute, boardId: string, wanted: readonly string[]): Promise<KeptCandidate> {
  const since = await workBegins();
  const d = await boardDossier(compute, boardId);
  const value: KeptCandidate = { boardId, evidence: slim(d?.evidence ?? [], new Set(wanted)) };
  compute.keep([{ key: `candidate:${boardId}`, stamp: candidateStamp(d?.rules ?? HOUSE_RULES, wanted), value }], since);
  return value;
}

async function outcomes(
  compute: Compute,
  boardId: string,
  { wanted, needs, sum }: BoardWork["outcomes"]["ask"],
): Promise<BoardWork["outcomes"]["give"]> {
  const since = await workBegins();
  const board = await record("board", boardId);
  if (!board) return [];
  const [claims, rules, { judgeNeed }] = await Promise.all([
    ofBoard(boardId, "claim"),
    rulesOf(board.notebookId),
    import("@/core/need"),
  ]);
  const kept =
    (await keptValue<KeptCandidate>(`candidate:${boardId}`, candidateStamp(rules, wanted))) ??
    (await candidate(compute, boardId, wanted));
  const b = candidateFrom(board, claims, kept);
  const value = needs.map((n) => judgeNeed(n, b, rules));
  compute.keep([{ key: `outcomes:${boardId}`, stamp: outcomesStamp(rules, wanted, sum), value }], since);
  return value;
}

const WORK: {
  readonly [K in keyof BoardWork]: (
    compute: Compute,
    boardId: string,
    ask: BoardWork[K]["ask"],
  ) => Promise<BoardWork[K]["give"]>;
} = { summary, compared, candidate, outcomes };

/** Works something of a board out here and now, and has it kept. */
export const workedOut = <K extends keyof BoardWork>(
  compute: Compute,
  what: K,
  boardId: string,
  ask: BoardWork[K]["ask"],
): Promise<BoardWork[K]["give"]> => WORK[what](compute, boardId, ask);
