"use client";

import { compute } from "@/workers/compute";
import { formatLimit } from "@/core/claims";
import type { Finding } from "@/core/measurement";
import { characteristic } from "@/core/characteristics";
import { anywhere, type VerdictWord } from "@/core/verdicts";
import { boardDossier } from "@/notebook";
import { useLive } from "@/storage";

/** A claim that a run's result answers. */
export interface Answered {
  readonly claimId: string;
  readonly claim: string;
  /** How this result fares against it, and what the claim's verdict is in all. */
  readonly word: VerdictWord;
  readonly verdict: VerdictWord;
}

export const findingKey = (f: Pick<Finding, "characteristic" | "conditions">): string =>
  `${f.characteristic} ${JSON.stringify(Object.entries(f.conditions).sort())}`;

/** The claims that a run's results answer, by result; empty while they are being judged, and where another run decides. */
export function useVerdicts(boardId: string, runId: string): ReadonlyMap<string, readonly Answered[]> {
  const live = useLive(`review-verdicts-${runId}`, async () => {
    const d = await boardDossier(compute, boardId);
    const out = new Map<string, Answered[]>();
    for (const c of d?.claims ?? [])
      for (const [k, r] of c.readings.entries()) {
        const verdict = d?.verdicts.get(c.id);
        const reading = verdict?.readings[k];
        for (const j of reading?.judged ?? []) {
          if (j.runId !== runId || !verdict || !reading) continue;
          const key = findingKey(j.finding);
          // A peak is claimed where it is best: elsewhere it misses nothing.
          const word = anywhere(r.characteristic) ? reading.word : j.word;
          out.set(key, [
            ...(out.get(key) ?? []),
            {
              claimId: c.id,
              claim: formatLimit(r.limit, characteristic(r.characteristic)?.unit ?? ""),
              word,
              verdict: verdict.word,
            },
          ]);
        }
      }
    return out;
  });
  return live.state === "ready" ? live.value : NONE;
}
const NONE: ReadonlyMap<string, readonly Answered[]> = new Map();

const COUNTED: Readonly<Record<VerdictWord, string>> = {
  meets: "met",
  misses: "missed",
  "too close to call": "too close to call",
  "not fairly tested": "not fairly tested",
  "not measured": "not measured",
  "claim unclear": "unclear",
};

/** The verdicts of the claims that this run answers: `2 met, 1 missed`; empty text where there are none. */
export function tallyText(verdicts: ReadonlyMap<string, readonly Answered[]>): string {
  const words = [...new Map([...verdicts.values()].flat().map((a) => [a.claimId, a.verdict])).values()];
  return (["meets", "misses", "too close to call", "not fairly tested", "claim unclear"] as const)
    .flatMap((w) => {
      const n = words.filter((x) => x === w).length;
      return n ? [`${n} ${COUNTED[w]}`] : [];
    })
    .join(", ");
}
