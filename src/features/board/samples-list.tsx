"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { FUNCTION_LABELS } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import type { BoardRecord, RunRecord, SampleId, SampleRecord } from "@/core/files/records";
import type { EvidenceSample } from "@/core/verdicts";
import { attempt } from "@/session/notify";
import { change, namingIn, newId, nextSampleName, now } from "@/storage";
import { Button } from "@/ui/button";
import { OverRuns } from "./over-runs";
import { SamplePhotos } from "./sample-photos";

const SampleDialog = dynamic(() => import("./sample-dialog").then((m) => m.SampleDialog), { ssr: false });

/** A sample more, under the next free letter. */
export function addSample(board: BoardRecord): void {
  void attempt(() =>
    namingIn(board.notebookId, async () => {
      const [at, name] = [now(), await nextSampleName(board.id)];
      await change(`sample ${name} of ${board.title}`, [{ kind: "sample", id: newId() as SampleId, notebookId: board.notebookId, createdAt: at, updatedAt: at, boardId: board.id, name, configuration: "", modifications: [], note: "" }]);
    }),
  );
}

/** The samples of a board, each with its configuration, what was changed on it, and photos. */
export function SamplesList({ samples, runs, evidence }: { readonly samples: readonly SampleRecord[]; readonly runs: readonly RunRecord[]; readonly evidence: readonly EvidenceSample[] }) {
  const [editing, setEditing] = useState<SampleRecord | null>(null);
  return (
    <>
      <ul className="divide-y divide-rule border-y border-rule">
        {samples.map((s) => (
          <li key={s.id} className="grid gap-x-4 gap-y-1 py-1 min-[640px]:grid-cols-[6rem_minmax(0,1fr)_auto_auto]">
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
                  <span className="text-pencil">{m.functions.length ? ` (${m.functions.map((f) => FUNCTION_LABELS[f]).join(", ")}: later runs don’t judge the maker’s claims on that)` : ""}</span>
                </p>
              ))}
              <OverRuns runs={evidence.find((e) => e.id === s.id)?.runs ?? []} configuration={s.configuration} />
            </div>
            <SamplePhotos sample={s} />
            <Button look="bare" className="self-start" onClick={() => setEditing(s)} aria-label={`Edit sample ${s.name}`}>
              Edit
            </Button>
          </li>
        ))}
      </ul>
      {editing ? <SampleDialog sample={editing} runs={runs.filter((r) => r.sampleId === editing.id && r.state !== "prepared").length} onClose={() => setEditing(null)} /> : null}
    </>
  );
}
