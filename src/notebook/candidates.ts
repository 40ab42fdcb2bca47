import type { Compute, KeptCandidate, NeedToJudge } from "./compute";
import type { BoardRecord, ClaimRecord, NeedRecord } from "@/core/files/records";
import { bytesSum } from "@/core/files/versions";
import type { Candidate, Outcome } from "@/core/need";
import { rulesOf } from "./rules";
import { keptUnder, keptValue } from "@/storage/derived";
import { boards, ofBoard, ofKind, record } from "@/storage/queries";
import { candidateStamp, outcomesStamp } from "./stamps";

/** What weighing looks at besides what a need names: the life of a cell, the charge current, what stands behind an added board. */
const ALWAYS = [
  "standby.current",
  "charge.cc-current",
  "boost.lowest-efficiency",
  "boost.no-load-voltage",
  "boost.max-current",
  "boost.start-current",
  "boost.output-resistance",
  "protect.over-current",
  "protect.over-discharge-voltage",
];

/** The characteristics that weighing boards against needs looks at. */
const looksAt = (needs: readonly NeedRecord[]): string[] =>
  [
    ...new Set([
      ...ALWAYS,
      ...needs.flatMap((n) => n.requirements.flatMap((r) => (r.kind === "quantity" ? [r.reading.characteristic] : []))),
    ]),
  ].sort();

/** A board as a need looks at it, out of what is stored and kept of it. */
export const candidateFrom = (board: BoardRecord, claims: readonly ClaimRecord[], kept: KeptCandidate): Candidate => ({
  boardId: board.id,
  title: board.title,
  functions: board.functions,
  facts: board.facts ?? {},
  claims: [...claims].sort((x, y) => x.createdAt.localeCompare(y.createdAt)),
  evidence: kept.evidence,
});

/** A board as it is ranked. */
export interface WeighedBoard extends Pick<Candidate, "boardId" | "title" | "functions" | "facts"> {
  /** Need → how each of its requirements came out. */
  readonly outcomes: ReadonlyMap<string, readonly Outcome[]>;
}

/**
 * How every board of a notebook fares against every need. What is kept is read at once, and holds nothing of what it rests on; the rest
 * is worked out, `progress` is told how many of how many are there.
 */
export async function weighedBoards(
  compute: Compute,
  notebookId: string,
  needs: readonly NeedRecord[],
  progress: (done: number, of: number) => void,
): Promise<WeighedBoard[]> {
  const wanted = looksAt(needs);
  const asked: NeedToJudge[] = needs.map(({ currency, requirements }) => ({ currency, requirements }));
  const sum = await bytesSum(new TextEncoder().encode(JSON.stringify(asked)));
  const [all, rules] = await Promise.all([boards(notebookId), rulesOf(notebookId)]);
  const kept = new Map(
    await keptUnder<readonly (readonly Outcome[])[]>("outcomes:", outcomesStamp(rules, wanted, sum)),
  );
  let done = 0;
  const weighed = async (b: BoardRecord): Promise<WeighedBoard> => {
    const outcomes = kept.get(b.id) ?? (await compute.ofBoard("outcomes", b.id, { wanted, needs: asked, sum }));
    progress(++done, all.length);
    return {
      boardId: b.id,
      title: b.title,
      functions: b.functions,
      facts: b.facts ?? {},
      outcomes: new Map(needs.map((n, k) => [n.id, outcomes[k] ?? []])),
    };
  };
  const out: WeighedBoard[] = [];
  // A few at a time keep both workers at it.
  for (let k = 0; k < all.length; k += 4) out.push(...(await Promise.all(all.slice(k, k + 4).map(weighed))));
  return out;
}

/** Boards with all that a need looks at, as far as they are there: what could be added to one of them is worked out from that. */
export async function candidatesOf(
  compute: Compute,
  notebookId: string,
  boardIds: readonly string[],
): Promise<Candidate[]> {
  const [needs, rules] = await Promise.all([ofKind(notebookId, "need"), rulesOf(notebookId)]);
  const wanted = looksAt(needs);
  const stamp = candidateStamp(rules, wanted);
  const found = await Promise.all(
    boardIds.map(async (id): Promise<readonly Candidate[]> => {
      const [board, claims] = await Promise.all([record("board", id), ofBoard(id, "claim")]);
      if (!board) return [];
      const kept =
        (await keptValue<KeptCandidate>(`candidate:${id}`, stamp)) ?? (await compute.ofBoard("candidate", id, wanted));
      return [candidateFrom(board, claims, kept)];
    }),
  );
  return found.flat();
}
