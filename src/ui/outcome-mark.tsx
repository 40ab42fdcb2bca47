import type { Basis, OutcomeWord } from "@/core/need";
import type { VerdictWord } from "@/core/verdicts";
import { VERDICT_TONE, VerdictShape } from "./verdict-mark";

const AS: Readonly<Record<OutcomeWord, VerdictWord>> = {
  met: "meets",
  missed: "misses",
  "in doubt": "too close to call",
  open: "not measured",
};

/** What each basis means, for the foot of a table. */
export const OUTCOME_BASIS: Readonly<Record<Basis, string>> = {
  measured: "Measured: in a fair run.",
  simulated: "Simulated: on the simulated bench only; ranks as a claim.",
  claimed: "Claimed: no fair run yet.",
  entered: "Entered: price, size and parts of the board.",
  changed: "Changed: the purpose of an added part. It counts as met; measure it once it is built.",
  nothing: "Not known.",
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
