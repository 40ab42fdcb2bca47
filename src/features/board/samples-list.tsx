"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { FUNCTION_LABELS } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import type { BoardRecord, RunRecord, SampleId, SampleRecord } from "@/core/files/records";
import type { BoardProtection } from "@/core/use";
import type { EvidenceSample } from "@/core/verdicts";
import { attempt } from "@/browser/notify";
import { namingIn, nextSampleName } from "@/notebook";
import { change, newId, now } from "@/storage";
import { Button } from "@/ui/button";
import { OverRuns } from "./over-runs";
import { SamplePhotos } from "./sample-photos";

const BetweenDialog = dynamic(() => import("./between-dialog").then((m) => m.BetweenDialog), { ssr: false });
const SampleDialog = dynamic(() => import("./sample-dialog").then((m) => m.SampleDialog), { ssr: false });

/** A sample more, under the next free letter. */
export function addSample(board: BoardRecord): void {
  void attempt(() =>
    namingIn(board.notebookId, async () => {
      const [at, name] = [now(), await nextSampleName(board.id)];
      await change(`sample ${name} of ${board.title}`, [
        {
          kind: "sample",
          id: newId() as SampleId,
          notebookId: board.notebookId,
          createdAt: at,
          updatedAt: at,
          boardId: board.id,
          name,
          configuration: "",
          modifications: [],
          note: "",
        },
      ]);
    }),
  );
}

interface SamplesListProps {
  readonly samples: readonly SampleRecord[];
  readonly runs: readonly RunRecord[];
  readonly evidence: readonly EvidenceSample[];
  readonly board: BoardRecord;
  readonly protection: BoardProtection;
}

/** The samples of a board, each with its configuration, what was changed on it, and photos. */
export function SamplesList({ samples, runs, evidence, board, protection }: SamplesListProps) {
  const [editing, setEditing] = useState<SampleRecord | null>(null);
  const [shown, setShown] = useState<SampleRecord | null>(null);
  return (
    <>
      <ul className="divide-y divide-rule border-y border-rule">
        {samples.map((s) => (
          <li key={s.id} className="grid gap-x-4 py-1 min-[640px]:grid-cols-[6rem_minmax(0,1fr)_auto_auto]">
            <span className="font-semibold">Sample {s.name}</span>
            <div className="min-w-0">
              <p>
                {s.configuration || <span className="text-pencil">no configuration entered</span>}
                {s.output ? `, output set to ${formatQuantity(s.output, "V")}` : ""}
                {s.programme ? `, programming resistor ${formatQuantity(s.programme.ohms, "Ω")}` : ""}
                {s.note ? <span className="text-pencil"> · {s.note}</span> : null}
              </p>
              {s.modifications.map((m) => (
                <p key={m.id} className="text-sm">
                  <span className="figures text-pencil">{m.date}</span> {m.text}
                  <span className="text-pencil">
                    {m.functions.length
                      ? ` (${m.functions.map((f) => FUNCTION_LABELS[f]).join(", ")}: later runs don’t judge the maker’s claims on that)`
                      : ""}
                  </span>
                </p>
              ))}
            </div>
            <SamplePhotos sample={s} />
            <span className="flex flex-wrap gap-x-4 self-start">
              <Button look="bare" onClick={() => setShown(s)} aria-label={`Protection of sample ${s.name}'s cell`}>
                Protection
              </Button>
              <Button look="bare" onClick={() => setEditing(s)} aria-label={`Edit sample ${s.name}`}>
                Edit
              </Button>
            </span>
            <div className="min-[640px]:col-span-3 min-[640px]:col-start-2">
              <OverRuns runs={evidence.find((e) => e.id === s.id)?.runs ?? []} configuration={s.configuration} />
            </div>
          </li>
        ))}
      </ul>
      {shown ? (
        <BetweenDialog sample={shown} board={board} protection={protection} onClose={() => setShown(null)} />
      ) : null}
      {editing ? (
        <SampleDialog
          sample={editing}
          runs={runs.filter((r) => r.sampleId === editing.id && r.state !== "prepared").length}
          onClose={() => setEditing(null)}
        />
      ) : null}
    </>
  );
}
