import type { Compute } from "./compute";
import type { BoardRecord, ClaimRecord, NeedRecord } from "@/core/files/records";
import type { Candidate } from "@/core/need";
import type { EvidenceSample } from "@/core/verdicts";
import { boardDossier } from "./board-dossier";
import { rulesOf } from "./rules";
import { database } from "@/storage/database";
import { keep, workBegins } from "@/storage/derived";
import { boards, ofKind } from "@/storage/queries";
import { columnStamp } from "./stamps";

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

/** What is kept of a board for weighing it: of its evidence only what is looked at, without the readings behind it. */
interface KeptCandidate {
  readonly boardId: string;
  readonly evidence: readonly EvidenceSample[];
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
  const since = workBegins();
  const wanted = [
    ...new Set([
      ...ALWAYS,
      ...needs.flatMap((n) => n.requirements.flatMap((r) => (r.kind === "quantity" ? [r.reading.characteristic] : []))),
    ]),
  ].sort();
  const [all, claims, rules, found] = await Promise.all([
    boards(notebookId),
    ofKind(notebookId, "claim"),
    rulesOf(notebookId),
    (await database()).getAll("derived", IDBKeyRange.bound("candidate:", "candidate;", false, true)),
  ]);
  const stamp = `${columnStamp(rules)}|${wanted.join(",")}`;
  const summaries = new Map(
    found.flatMap((k) =>
      k.stamp === stamp ? [[(k.value as KeptCandidate).boardId, k.value as KeptCandidate] as const] : [],
    ),
  );
  const claimsOf = new Map<string, ClaimRecord[]>();
  for (const c of claims) claimsOf.set(c.boardId, [...(claimsOf.get(c.boardId) ?? []), c]);
  const names = new Set(wanted);
  let done = 0;
  const worked = async (b: BoardRecord): Promise<KeptCandidate> => {
    const summary = summaries.get(b.id);
    const value = summary ?? {
      boardId: b.id,
      evidence: slim((await boardDossier(compute, b.id))?.evidence ?? [], names),
    };
    if (!summary) keep([{ key: `candidate:${b.id}`, stamp, value }], since);
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
