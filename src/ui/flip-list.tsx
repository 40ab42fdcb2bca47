"use client";

import type { VerdictWord } from "@/core/verdicts";
import { VerdictMark } from "./verdict-mark";

export interface FlipListProps {
  readonly flips: readonly {
    readonly claimId: string;
    readonly board: string;
    readonly wording: string;
    readonly from: VerdictWord;
    readonly to: VerdictWord;
  }[];
}

/** Claims whose verdict would change, from what to what. */
export function FlipList({ flips }: FlipListProps) {
  return (
    <ul className="mb-4 divide-y divide-rule border-y border-rule">
      {flips.map((f) => (
        <li key={f.claimId} className="grid gap-x-4 py-1.5 min-[560px]:grid-cols-[8rem_minmax(0,1fr)_auto]">
          <span className="text-pencil">{f.board}</span>
          <span>“{f.wording}”</span>
          <span className="inline-flex flex-wrap items-center gap-x-2">
            <VerdictMark word={f.from} /> <span aria-label="becomes">→</span> <VerdictMark word={f.to} />
          </span>
        </li>
      ))}
    </ul>
  );
}
