import type { IssuedRecord } from "@/core/files/records";
import { countedRuns } from "@/core/sheet";
import type { BoardDossier } from "@/notebook";

/** Claims whose verdict is another one now, and how many claims and counted runs were added or are no longer there. */
export function movedSince(issued: Pick<IssuedRecord, "sheet">, d: BoardDossier) {
  const then = new Map(issued.sheet.claims.map((c) => [c.id, c]));
  const flips = d.claims.flatMap((c) => {
    const was = then.get(c.id);
    const is = d.verdicts.get(c.id)?.word ?? "not measured";
    return was && was.word !== is
      ? [{ claimId: c.id, board: d.board.title, wording: c.source.wording, from: was.word, to: is }]
      : [];
  });
  const counted = countedRuns(d.evidence.flatMap((e) => e.runs).filter((r) => r.finished));
  const [thenIds, nowIds] = [issued.sheet.runs, counted].map((l) => new Set<string>(l.map((r) => r.id)));
  return {
    flips,
    added: d.claims.filter((c) => !then.has(c.id)).length,
    gone: [...then.keys()].filter((k) => !d.claims.some((c) => c.id === k)).length,
    runs: counted.filter((r) => !thenIds?.has(r.id)).length,
    fewer: issued.sheet.runs.filter((r) => !nowIds?.has(r.id)).length,
  };
}
