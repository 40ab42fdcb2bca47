import { memo, useCallback, useState } from "react";
import { FUNCTION_LABELS } from "@/core/characteristics/functions";
import type { BoardRecord } from "@/core/files/records";
import type { VerdictWord } from "@/core/verdicts";
import type { BoardSummary } from "@/notebook";
import { buttonClass } from "@/ui/button";
import { Link } from "@/ui/link";
import { DisagreeMark, SimulatedMark, VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import { nextStep } from "./next-step";
import type { Sight } from "./use-sight";

/** What calls for somebody first. */
const ORDER: readonly VerdictWord[] = [
  "misses",
  "not fairly tested",
  "too close to call",
  "claim unclear",
  "meets",
  "not measured",
];

export interface EntryProps {
  readonly board: BoardRecord;
  /** Null while it is worked out. */
  readonly summary: BoardSummary | null;
  readonly failed: string | null;
  readonly sight: Sight;
  /** Among the first of the list: drawn before anybody knows what is in sight. */
  readonly first: boolean;
}

/** A board in two lines: what it is, its verdicts, its next step. Until it comes near sight, its name alone. */
export const BoardEntry = memo(function BoardEntry({ board, summary, failed, sight, first }: EntryProps) {
  const [near, setNear] = useState(first);
  const row = useCallback((e: HTMLElement | null) => (e ? sight(e, () => setNear(true)) : undefined), [sight]);
  return (
    <article
      ref={row}
      data-board={board.id}
      className="contain-paint-auto grid min-h-14 border-t border-rule min-[900px]:grid-cols-[10.5rem_minmax(0,1fr)]"
      aria-label={board.title}
      data-judged={summary !== null || failed !== null}
    >
      {near ? (
        <Entry board={board} summary={summary} failed={failed} />
      ) : (
        <h2 className="px-4 py-2 text-base font-semibold min-[900px]:col-start-2 min-[900px]:px-6">{board.title}</h2>
      )}
    </article>
  );
});

function Entry({ board, summary, failed }: Pick<EntryProps, "board" | "summary" | "failed">) {
  const step = summary ? nextStep(board, summary) : null;
  const finished = summary?.runs.filter((r) => r.state === "finished").length ?? 0;
  return (
    <>
      <div className="px-4 pt-2.5 text-sm text-pencil max-[899px]:order-last max-[899px]:pb-2 max-[899px]:pt-0 min-[900px]:text-right">
        {summary ? (
          <>
            {summary.samples} {summary.samples === 1 ? "sample" : "samples"}
            <span className="min-[900px]:hidden">, </span>
            <br className="max-[899px]:hidden" />
            {finished} {finished === 1 ? "run" : "runs"} finished
          </>
        ) : null}
      </div>
      <div className="grid items-start gap-x-6 gap-y-1 px-4 py-2 min-[900px]:grid-cols-[minmax(0,1fr)_20rem_11.5rem] min-[900px]:px-6">
        <div className="min-w-0">
          <h2 className="flex min-w-0 items-baseline gap-2 text-base font-semibold">
            <Link href={`/board/${board.id}`} className="min-w-0 break-words hover:underline">
              {board.title}
            </Link>
            <span
              className="min-w-16 flex-1 truncate text-sm font-normal text-pencil"
              title={board.functions.map((f) => FUNCTION_LABELS[f]).join(", ")}
            >
              {board.functions.map((f) => FUNCTION_LABELS[f]).join(", ") || "functions not entered"}
            </span>
          </h2>
          {board.note ? (
            <p className="truncate text-sm" title={board.note}>
              {board.note}
            </p>
          ) : null}
        </div>
        <Tally title={board.title} id={board.id} summary={summary} failed={failed} />
        <div className="min-w-0 min-[900px]:text-right">
          {step ? (
            <Link
              href={step.href}
              className={`${buttonClass(step.kind === "resume" || step.kind === "finish preparing" ? "main" : "plain", true)} max-w-full py-0.5`}
            >
              <span className="truncate">{step.text}</span>
            </Link>
          ) : null}
        </div>
      </div>
    </>
  );
}

/** How a board's claims stand, side by side. */
function Tally({
  title,
  id,
  summary,
  failed,
}: {
  readonly title: string;
  readonly id: string;
  readonly summary: BoardSummary | null;
  readonly failed: string | null;
}) {
  const words = ORDER.filter((w) => summary?.verdicts[w]);
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-0.5 text-sm" aria-label={`Claims of ${title}`}>
      {failed ? (
        <li className="text-misses">Can&apos;t be worked out: {failed}</li>
      ) : !summary ? (
        <li className="text-pencil">being judged …</li>
      ) : words.length === 0 ? (
        <li className="text-pencil">No claims yet</li>
      ) : null}
      {words.map((w) => (
        <li key={w} className={`flex items-center gap-1.5 ${VERDICT_TONE[w]}`}>
          <VerdictShape word={w} className="h-3.5 w-8" />
          <span className="figures">{summary?.verdicts[w]}</span>
          <span>{w}</span>
        </li>
      ))}
      {summary?.disagree ? (
        <li className="flex items-center gap-2">
          <DisagreeMark /> <span className="figures">{summary.disagree}</span>
        </li>
      ) : null}
      {summary?.moved?.length ? (
        <li>
          <Link href={`/board/${id}`} className="underline underline-offset-4">
            {summary.moved.length} changed by a better analysis
          </Link>
        </li>
      ) : null}
      {summary?.simulated ? (
        <li className="flex items-center gap-2 text-pencil">
          <SimulatedMark /> <span className="figures">{summary.simulated}</span>
        </li>
      ) : null}
    </ul>
  );
}
