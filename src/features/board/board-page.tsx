"use client";

import { compute } from "@/workers/compute";
import dynamic from "next/dynamic";
import { orderOf } from "@/notebook/order";
import { Link } from "@/ui/link";
import { useEffect, useState } from "react";
import { FUNCTION_LABELS } from "@/core/characteristics";
import type { ClaimRecord } from "@/core/files/records";
import { boardDossier } from "@/notebook";
import { useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { Quiet, Section } from "@/ui/section";
import { BoardPhoto } from "./board-photo";
import { ClaimsTable } from "./claims-table";
import { protectionOf } from "@/notebook/usable";
import { Moved } from "./moved";
import { OfferedClaims } from "./offered-claims";
import { OrderOfWork } from "./order-of-work";
import { addSample, SamplesList } from "./samples-list";

const ClaimDialog = dynamic(() => import("./claim-dialog").then((m) => m.ClaimDialog), { ssr: false });
const EditBoardDialog = dynamic(() => import("./edit-board-dialog").then((m) => m.EditBoardDialog), { ssr: false });

/** A board: the order of work with every run and result, then its claims with what was measured, and its samples. */
export function BoardPage({ id }: { id: string }) {
  const live = useLive(`board-${id}`, () => boardDossier(compute, id));
  const [editing, setEditing] = useState<ClaimRecord | "new" | "board" | null>(null);
  const title = live.state === "ready" ? live.value?.board.title : undefined;
  useEffect(() => {
    if (title) document.title = `${title} · Nimbus Bench`;
  }, [title]);
  useEffect(() => {
    // The sheet is drawn after the address was read, so its anchor is sought once it is there.
    if (title && location.hash) document.getElementById(location.hash.slice(1))?.scrollIntoView();
  }, [title]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The board can&apos;t be loaded: {live.message}</Quiet>;
  const dossier = live.value;
  if (!dossier)
    return (
      <Quiet>No such board in this browser. It may have been deleted, or the address is from another browser.</Quiet>
    );
  const { board } = dossier;
  const { asked, others } = orderOf(dossier);
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="board"
        title={board.title}
        aside={
          <span className="flex flex-wrap items-center gap-4">
            {dossier.runs.some((r) => r.state === "finished") ? (
              <Link href={`/board/${board.id}/sheet`} className={buttonClass()}>
                Findings sheet
              </Link>
            ) : null}
            <Link href={`/sums?board=${board.id}`} className="underline decoration-pencil/60 underline-offset-4">
              Quick sums
            </Link>
            <Button look="bare" onClick={() => setEditing("board")}>
              Edit board
            </Button>
          </span>
        }
      >
        <BoardPhoto board={board} samples={dossier.samples} />
        <p>
          <span className="text-pencil">
            {board.functions.map((f) => FUNCTION_LABELS[f]).join(", ") ||
              "No functions entered yet. They decide which steps are needed."}
          </span>
          {board.note ? (
            <>
              {" · "}
              <span>{board.note}</span>
            </>
          ) : null}
        </p>
      </Section>
      <Moved dossier={dossier} />
      <OrderOfWork dossier={dossier} asked={asked} others={others} />
      <Section
        id="claims"
        mark="step 1"
        title="Claims and verdicts"
        aside={
          <Button onClick={() => setEditing("new")} look={dossier.claims.length === 0 ? "main" : "plain"}>
            Add claim
          </Button>
        }
      >
        <ClaimsTable dossier={dossier} onEdit={setEditing} />
        <OfferedClaims board={board} claims={dossier.claims} />
      </Section>
      <Section
        id="samples"
        mark="step 2"
        title="Samples"
        aside={<Button onClick={() => addSample(board)}>Add sample</Button>}
      >
        <SamplesList
          samples={dossier.samples}
          runs={dossier.runs}
          evidence={dossier.evidence}
          board={board}
          protection={protectionOf(dossier)}
        />
      </Section>
      {editing === "board" ? (
        <EditBoardDialog
          board={board}
          runs={dossier.runs.filter((r) => r.state !== "prepared").length}
          onClose={() => setEditing(null)}
        />
      ) : null}
      {editing && editing !== "board" ? (
        <ClaimDialog board={board} claim={editing === "new" ? null : editing} onClose={() => setEditing(null)} />
      ) : null}
    </div>
  );
}
