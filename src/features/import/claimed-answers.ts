import type { ClaimRecord } from "@/core/files/records";
import type { FileQuestion, Procedure } from "@/core/procedures";

export type Answers = Readonly<Partial<Record<FileQuestion["condition"], number | null>>>;

/** What a procedure asks beside a file, as far as claims or a usual value answer it; null where neither does. */
export function claimedAnswers(p: Procedure, claims: readonly Pick<ClaimRecord, "readings">[]): Answers {
  const claimed = (name: string | undefined): number | undefined => {
    for (const r of claims.flatMap((c) => c.readings))
      if (r.characteristic === name && r.limit.kind === "nominal") return r.limit.nominal;
    return undefined;
  };
  return Object.fromEntries(p.asks.map((q) => [q.condition, claimed(q.claim) ?? q.first ?? null]));
}
