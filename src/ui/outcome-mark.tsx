import type { Basis, OutcomeWord } from "@/core/need";
import type { VerdictWord } from "@/core/verdicts";
import { VERDICT_TONE, VerdictShape } from "./verdict-mark";

const AS: Readonly<Record<OutcomeWord, VerdictWord>> = { met: "meets", missed: "misses", "in doubt": "too close to call", open: "not measured" };

/** What each basis means, for the foot of a table. */
export const OUTCOME_BASIS: Readonly<Record<Basis, string>> = {
  measured: "Measured: a fair run speaks of it.",
  simulated: "Simulated: only the simulated bench showed it; it ranks no higher than a claim.",
  claimed: "Claimed: only promised; no fair run speaks of it yet.",
  "written down": "Written down: price, size, what is on the board.",
  changed: "Changed: what an added part is made for. It counts as met here, and has to be measured once it stands.",
  nothing: "Nothing is known.",
};

/** How a requirement came out, and what that rests on: shape, word, and the basis in words. */
export function OutcomeMark({ word, basis }: { readonly word: OutcomeWord; readonly basis: Basis }) {
  return (
    <span className={`inline-flex items-baseline gap-1.5 ${VERDICT_TONE[AS[word]]}`}>
      <VerdictShape word={AS[word]} className="translate-y-0.5" />
      <span>
        <span className="font-semibold">{word}</span>
        {basis === "nothing" ? null : <span className="block text-xs leading-tight text-pencil">{basis}</span>}
      </span>
    </span>
  );
}
