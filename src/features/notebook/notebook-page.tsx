"use client";

import dynamic from "next/dynamic";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { memo, useCallback, useEffect, useRef, useState } from "react";
import { FUNCTION_LABELS } from "@/core/characteristics/functions";
import type { BoardRecord } from "@/core/files/records";
import { runPage } from "@/core/procedures/versions";
import type { VerdictWord } from "@/core/verdicts";
import { useSession } from "@/session/context";
import { openConflicts, useLive, type BoardSummary } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { FileButton } from "@/ui/file-button";
import { Quiet, Section } from "@/ui/section";
import { VERDICT_TONE, VerdictShape, DisagreeMark, SimulatedMark } from "@/ui/verdict-mark";

import { workersIfLikely } from "@/workers/likely";
import { useSummaries } from "./use-summaries";

workersIfLikely("notebook", "kept");

const NewBoardDialog = dynamic(() => import("./new-board-dialog").then((m) => m.NewBoardDialog), { ssr: false });

const ORDER: readonly VerdictWord[] = ["misses", "not fairly tested", "too close to call", "claim unclear", "meets", "not measured"];

/** The shelf: every board of the notebook with where it stands and the one next step. */
export function NotebookPage() {
  const { notebook, openFiles } = useSession();
  const [adding, setAdding] = useState(() => new URLSearchParams(location.search).get("add") === "board");
  const router = useRouter();
  const list = useSummaries(notebook.id);
  const conflicts = useLive(`conflicts-open-${notebook.id}`, async () => (await openConflicts(notebook.id)).length, (n) => n.kinds.includes("conflict"));
  useEffect(() => {
    document.title = `${notebook.title} · Nimbus Bench`;
  }, [notebook.title]);
  const see = list && "see" in list ? list.see : null;
  const sight = useSight(see);
  if (!list) return <Quiet>Loading …</Quiet>;
  if ("error" in list) return <Quiet>The boards can&apos;t be loaded: {list.error}</Quiet>;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="boards"
        title={notebook.title}
        aside={
          <span className="flex flex-wrap gap-2">
            {list.boards.length > 1 ? (
              <Link href="/compare" className={buttonClass()}>
                Compare boards
              </Link>
            ) : null}
            <FileButton several label="Logs to open" onFiles={openFiles}>
              Open log
            </FileButton>
            <Button look={list.boards.length === 0 ? "main" : "plain"} onClick={() => setAdding(true)}>
              Add board
            </Button>
          </span>
        }
      >
        {notebook.demo ? <p className="mb-2 max-w-prose text-pencil">Everything in this demo is made up: makers, boards, cells, meters and readings.</p> : null}
        {conflicts.state === "ready" && conflicts.value ? (
          <p className="mb-2">
            <Link href="/conflicts" className="underline underline-offset-4">
              {conflicts.value} {conflicts.value === 1 ? "record was" : "records were"} changed here and in an imported archive: choose a version
            </Link>
          </p>
        ) : null}
        {list.boards.length === 0 ? (
          <div className="max-w-prose">
            <p className="mb-2">No boards yet. The main job in four steps:</p>
            <ol className="list-decimal pl-5">
              <li>Add a board: its functions, and the claims in its listing.</li>
              <li>Prepare a load sweep: battery voltages, loads and supply limit follow from the claims.</li>
              <li>Record the points: typed, from a CSV or on the simulated bench.</li>
              <li>Read the verdicts.</li>
            </ol>
          </div>
        ) : null}
      </Section>
      {list.boards.map((board) => (
        <Entry key={board.id} board={board} summary={list.summaries.get(board.id) ?? null} failed={list.failed.get(board.id) ?? null} sight={sight} />
      ))}
      {adding ? (
        <NewBoardDialog
          onClose={() => {
            setAdding(false);
            if (location.search) router.replace("/");
          }}
        />
      ) : null}
    </div>
  );
}

function nextStep(board: BoardRecord, s: BoardSummary): { text: string; href: string; main: boolean } {
  const open = s.runs.find((r) => r.state === "open");
  if (open) return { text: `Resume: ${open.title}`, href: `/run/${open.id}/${runPage(open.procedure, "open")}`, main: true };
  const prepared = s.runs.find((r) => r.state === "prepared");
  if (prepared) return { text: `Finish preparing: ${prepared.title}`, href: `/run/${prepared.id}/prepare`, main: true };
  if (s.claims === 0) return { text: "Add claims", href: `/board/${board.id}#claims`, main: false };
  if (s.runs.length === 0 && board.functions.includes("boost")) return { text: "Prepare a load sweep", href: `/board/${board.id}#load-sweep`, main: false };
  return { text: "Open board", href: `/board/${board.id}`, main: false };
}

/** Tells which boards are in sight, or near it. */
function useSight(see: ((ids: readonly string[]) => void) | null): (e: HTMLElement | null) => void {
  const observer = useRef<IntersectionObserver | null>(null);
  const [waiting] = useState(() => new Set<HTMLElement>());
  useEffect(() => {
    if (!see) return;
    const near = new Set<string>();
    const o = new IntersectionObserver((entries) => {
      for (const e of entries) {
        const id = (e.target as HTMLElement).dataset.board ?? "";
        if (e.isIntersecting) near.add(id);
        else near.delete(id);
      }
      see([...near]);
    });
    observer.current = o;
    for (const e of waiting) o.observe(e);
    return () => o.disconnect();
  }, [see, waiting]);
  return useCallback(
    (e: HTMLElement | null) => {
      if (!e) return;
      waiting.add(e);
      observer.current?.observe(e);
      return () => {
        waiting.delete(e);
        observer.current?.unobserve(e);
      };
    },
    [waiting],
  );
}

interface EntryProps {
  readonly board: BoardRecord;
  /** Null while it is worked out. */
  readonly summary: BoardSummary | null;
  readonly failed: string | null;
  readonly sight: (e: HTMLElement | null) => void;
}

/** A board with its verdicts; drawn only where it is in sight. */
const Entry = memo(function Entry({ board, summary, failed, sight }: EntryProps) {
  const step = summary ? nextStep(board, summary) : null;
  const finished = summary?.runs.filter((r) => r.state === "finished").length ?? 0;
  const words = ORDER.filter((w) => summary?.verdicts[w]);
  return (
    <article ref={sight} data-board={board.id} className="contain-paint-auto grid border-t border-rule min-[900px]:grid-cols-[10.5rem_minmax(0,1fr)]" aria-label={board.title}>
      <div className="px-4 pt-3 text-sm text-pencil min-[900px]:text-right">
        {summary ? (
          <>
            {summary.samples} {summary.samples === 1 ? "sample" : "samples"}
            <br />
            {finished} {finished === 1 ? "run" : "runs"} finished
          </>
        ) : null}
      </div>
      <div className="grid gap-x-6 gap-y-2 px-4 py-3 min-[900px]:grid-cols-[minmax(0,1fr)_15.5rem_15rem] min-[900px]:px-6">
        <div className="min-w-0">
          <h2 className="text-lg font-semibold">
            <Link href={`/board/${board.id}`} className="hover:underline">
              {board.title}
            </Link>
          </h2>
          <p className="text-sm text-pencil">{board.functions.map((f) => FUNCTION_LABELS[f]).join(", ") || "functions not entered"}</p>
          {board.note ? <p className="mt-1 text-sm">{board.note}</p> : null}
        </div>
        <ul className="text-sm" aria-label={`Claims of ${board.title}`}>
          {failed ? <li className="text-misses">Can&apos;t be worked out: {failed}</li> : !summary ? <li className="text-pencil">being judged …</li> : words.length === 0 ? <li className="text-pencil">No claims yet</li> : null}
          {words.map((w) => (
            <li key={w} className={`flex items-center gap-2 ${VERDICT_TONE[w]}`}>
              <VerdictShape word={w} />
              <span className="figures w-4 text-right">{summary?.verdicts[w]}</span>
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
              <Link href={`/board/${board.id}`} className="underline underline-offset-4">
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
        <div className="min-[900px]:text-right">
          {step ? (
            <Link href={step.href} className={buttonClass(step.main ? "main" : "plain")}>
              {step.text}
            </Link>
          ) : null}
        </div>
      </div>
    </article>
  );
});
