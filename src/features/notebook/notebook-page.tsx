"use client";

import dynamic from "next/dynamic";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { useSession } from "@/browser/context";
import { useLater } from "@/browser/use-later";
import { openConflicts, useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { FileButton } from "@/ui/file-button";
import { Quiet, Section } from "@/ui/section";

import { workersIfLikely } from "@/workers/likely";
import { arrange, AS_ADDED, type Arrangement } from "./arrange";
import { BoardEntry } from "./board-entry";
import { useSight } from "./use-sight";
import { useSummaries } from "./use-summaries";

workersIfLikely("notebook", "kept");

// Fetched only where there are many boards: its lists are a third as large as the page.
const NotebookFilter = dynamic(() => import("./notebook-filter").then((m) => m.NotebookFilter), { ssr: false });
const TodayLine = dynamic(() => import("./today-line").then((m) => m.TodayLine), { ssr: false });
const NewBoardDialog = dynamic(() => import("./new-board-dialog").then((m) => m.NewBoardDialog), { ssr: false });

/** Boards from which finding one takes more than a look. */
const MANY = 10;

/** Boards that a window shows at most before it is known what is in sight. */
const FIRST = 14;

/** ms after which what nobody waits for is fetched: what is due today asks for the drawer's code. */
const QUIET = 1500;

/** Every board of the notebook with where it stands and the one next step. */
export function NotebookPage() {
  const { notebook, openFiles } = useSession();
  const [adding, setAdding] = useState(() => new URLSearchParams(location.search).get("add") === "board");
  const router = useRouter();
  const later = useLater(QUIET);
  const list = useSummaries(notebook.id);
  const conflicts = useLive(
    `conflicts-open-${notebook.id}`,
    async () => (await openConflicts(notebook.id)).length,
    (n) => n.kinds.includes("conflict"),
  );
  useEffect(() => {
    document.title = `${notebook.title} · Nimbus Bench`;
  }, [notebook.title]);
  const see = list && "see" in list ? list.see : null;
  const sight = useSight(see);
  const [arranged, setArranged] = useState<Arrangement>(AS_ADDED);
  if (!list) return <Quiet>Loading …</Quiet>;
  if ("error" in list) return <Quiet>The boards can&apos;t be loaded: {list.error}</Quiet>;
  const shown = arrange(list.boards, list.summaries, arranged);
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
        {notebook.demo ? (
          <p className="mb-2 max-w-prose text-pencil">
            Everything in this demo is made up: makers, boards, cells, meters and readings.
          </p>
        ) : null}
        {/* Its place is there before it is: what comes late moves nothing under a finger. */}
        {list.boards.length ? (
          <div className="min-h-8">{later ? <TodayLine notebookId={notebook.id} /> : null}</div>
        ) : null}
        {conflicts.state === "ready" && conflicts.value ? (
          <p className="mb-2">
            <Link href="/conflicts" className="underline underline-offset-4">
              {conflicts.value} {conflicts.value === 1 ? "record was" : "records were"} changed here and in an imported
              archive: choose a version
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
        {list.boards.length > MANY ? (
          <NotebookFilter value={arranged} shown={shown.length} of={list.boards.length} onValue={setArranged} />
        ) : null}
      </Section>
      {shown.map((board, k) => (
        <BoardEntry
          key={board.id}
          board={board}
          summary={list.summaries.get(board.id) ?? null}
          failed={list.failed.get(board.id) ?? null}
          sight={sight}
          first={k < FIRST}
        />
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
