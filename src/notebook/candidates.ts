import type { Compute, KeptCandidate } from "./compute";
import type { BoardRecord, ClaimRecord, NeedRecord } from "@/core/files/records";
import type { Candidate } from "@/core/need";
import { rulesOf } from "./rules";
import { keptUnder } from "@/storage/derived";
import { boards, ofKind } from "@/storage/queries";
import { candidateStamp } from "./stamps";

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

/**
 * Every board of a notebook as it is weighed against needs. What is kept of all is read at once; the rest is worked out, `progress` is
 * told how many of how many are there.
 */
export async function candidatesOf(
  compute: Compute,
  notebookId: string,
  needs: readonly NeedRecord[],
  progress: (done: number, of: number) => void,
): Promise<Candidate[]> {
  const wanted = [
    ...new Set([
      ...ALWAYS,
      ...needs.flatMap((n) => n.requirements.flatMap((r) => (r.kind === "quantity" ? [r.reading.characteristic] : []))),
    ]),
  ].sort();
  const [all, claims, rules] = await Promise.all([
    boards(notebookId),
    ofKind(notebookId, "claim"),
    rulesOf(notebookId),
  ]);
  const stamp = candidateStamp(rules, wanted);
  const summaries = new Map(await keptUnder<KeptCandidate>("candidate:", stamp));
  const claimsOf = new Map<string, ClaimRecord[]>();
  for (const c of claims) claimsOf.set(c.boardId, [...(claimsOf.get(c.boardId) ?? []), c]);
  let done = 0;
  const worked = async (b: BoardRecord): Promise<KeptCandidate> => {
    const value = summaries.get(b.id) ?? (await compute.ofBoard("candidate", b.id, wanted));
    progress(++done, all.length);
    return value;
  };
  const out: KeptCandidate[] = [];
  // A few at a time keep both workers at it.
  for (let k = 0; k < all.length; k += 4) out.push(...(await Promise.all(all.slice(k, k + 4).map(worked))));
  return all.map((b, k) => ({
    boardId: b.id,
    title: b.title,
    functions: b.functions,
    facts: b.facts ?? {},
    claims: (claimsOf.get(b.id) ?? []).sort((x, y) => x.createdAt.localeCompare(y.createdAt)),
    evidence: out[k]?.evidence ?? [],
  }));
}
