import type { Analysis } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { answerOf } from "@/core/sheet";
import { tallyText, type Answered } from "./use-verdicts";

/** A run in two lines: what came out, and what it means for the claims. */
export function Answer({
  procedure,
  analysis,
  verdicts,
}: {
  readonly procedure: Procedure;
  readonly analysis: Analysis;
  readonly verdicts: ReadonlyMap<string, readonly Answered[]>;
}) {
  const answer = answerOf(procedure, analysis.findings, analysis.notes);
  const tally = tallyText(verdicts);
  if (!answer) return null;
  return (
    <div data-testid="answer" className="my-2 max-w-4xl text-lg leading-snug">
      <p className="font-medium">{answer.result}</p>
      {answer.beside || tally ? (
        <p className="text-base">
          {answer.beside} {tally ? <span className="font-medium">Claims: {tally}.</span> : null}
        </p>
      ) : null}
    </div>
  );
}
