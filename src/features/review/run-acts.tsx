"use client";

import { ConfirmDialog } from "@/ui/confirm-dialog";
import { useRouter } from "next/navigation";
import { Link } from "@/ui/link";
import { useState } from "react";
import { answersToCsv, pointsToCsv, runToJson } from "@/core/files/export-run";
import type { Analysis } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { runPage } from "@/core/procedures/catalogue";
import { download, fileName } from "@/browser/download";
import { attempt, notifyUndoable } from "@/browser/notify";
import { type RunDossier } from "@/notebook";
import { change, edit, content, record, ofBoard, remove, undoAct } from "@/storage";
import { readingLogs } from "@/workers/client";
import { Button, buttonClass } from "@/ui/button";
import { ReasonDialog } from "@/ui/reason-dialog";

/** How a run goes on, while it is under way and after it was finished. */
const GO_ON_LABELS: Readonly<Record<Procedure["readings"], readonly [string, string]>> = {
  trace: ["Back to the log", "Resume log"],
  points: ["Resume run", "Record more points"],
  answers: ["Resume checklist", "Resume checklist"],
};

/** Deletes a run, and with it the files that only it was read from. */
async function deleteRun(run: RunDossier["run"]) {
  const files = run.source.kind === "file" ? [run.source.fileId, ...(run.source.more ?? []).map((m) => m.fileId)] : [];
  const others = await ofBoard(run.boardId, "run");
  const used = new Set(
    others.flatMap((r) =>
      r.id !== run.id && r.source.kind === "file"
        ? [r.source.fileId, ...(r.source.more ?? []).map((m) => m.fileId)]
        : [],
    ),
  );
  const own = (await Promise.all(files.filter((f) => !used.has(f)).map((f) => record("file", f)))).filter(
    (f) => f !== null,
  );
  return remove(`delete ${run.title}`, [run, ...own]);
}

/** What can be done with a run: carry on, set aside with a reason, take it elsewhere as CSV or JSON. */
export function RunActs({ d, analysis, procedure }: { d: RunDossier; analysis: Analysis; procedure: Procedure }) {
  const { run } = d;
  const [asking, setAsking] = useState(false);
  const [deleting, setDeleting] = useState(false);
  const router = useRouter();
  const del = () =>
    attempt(async () => {
      const act = await deleteRun(run);
      router.push(`/board/${run.boardId}`);
      await notifyUndoable(`${run.title} is deleted.`, act && (() => undoAct(act)));
    });
  const put = (setAside: string | null) => {
    const { setAside: _was, ...rest } = run;
    void _was;
    return attempt(() =>
      change(setAside ? `set ${run.title} aside` : `use ${run.title} again`, [
        edit(run, { ...rest, ...(setAside ? { setAside } : {}) }),
      ]),
    );
  };
  return (
    <div className="no-print mt-3 flex flex-wrap gap-3">
      {run.source.kind !== "file" &&
      run.state !== "prepared" &&
      (procedure.readings !== "trace" || run.state === "open") ? (
        <Link
          href={`/run/${run.id}/${runPage(run.procedure, "open")}`}
          className={buttonClass(run.state === "open" ? "main" : "plain")}
        >
          {GO_ON_LABELS[procedure.readings][run.state === "open" ? 0 : 1]}
        </Link>
      ) : null}
      {run.state === "open" ? (
        <Button
          onClick={() => void attempt(() => change(`finish ${run.title}`, [edit(run, { ...run, state: "finished" })]))}
        >
          Finish run
        </Button>
      ) : null}
      {d.log ? (
        <ExportLog run={run} />
      ) : (
        <Button
          onClick={() =>
            download(
              fileName(run.title, "csv"),
              procedure.readings === "answers"
                ? answersToCsv(procedure, run.setup, d.answers)
                : pointsToCsv(procedure, run.setup, d.points, d.corrections.leftOut),
              "text/csv",
            )
          }
        >
          Export CSV
        </Button>
      )}
      <Button
        onClick={() =>
          download(
            fileName(run.title, "json"),
            runToJson(run, d.points, d.corrections.leftOut, analysis, procedure.version, d.answers),
            "application/json",
          )
        }
      >
        Export JSON
      </Button>
      {run.setAside ? (
        <Button onClick={() => void put(null)}>Include</Button>
      ) : (
        <Button onClick={() => setAsking(true)}>Set aside</Button>
      )}
      <Button look="danger" onClick={() => setDeleting(true)}>
        Delete run
      </Button>
      {deleting ? (
        <ConfirmDialog
          danger
          title={`Delete ${run.title}?`}
          about={`${d.log ? `Its log of ${d.log.rows} rows` : d.answers.length ? `Its ${d.answers.length} answers` : `Its ${d.points.length} points`} and the results from ${d.log ? "it" : "them"} are deleted with it. Undo restores everything.`}
          act="Delete run"
          onClose={() => setDeleting(false)}
          onAct={del}
        />
      ) : null}
      {asking ? (
        <ReasonDialog
          title="Set this run aside"
          about="Its readings stay. It judges no claim, and the reason is shown."
          act="Set aside"
          onClose={() => setAsking(false)}
          onReason={put}
        />
      ) : null}
    </div>
  );
}

/** A log goes out as the very file it came in, or as the open battery data table. */
function ExportLog({ run }: { run: RunDossier["run"] }) {
  const { source } = run;
  const asItCame = () =>
    void attempt(async () => {
      const file = source.kind === "file" ? await record("file", source.fileId) : null;
      const bytes = file?.apart ? await content(file.id) : file?.text;
      if (!file || bytes === null || bytes === undefined)
        throw new Error("The file of this run is not in this browser.");
      download(file.name, bytes, "text/csv");
    });
  const asTable = () =>
    void attempt(async () =>
      download(fileName(run.title, "csv"), await readingLogs().ask("log-csv", { runId: run.id }), "text/csv"),
    );
  return (
    <>
      {source.kind === "file" ? <Button onClick={asItCame}>Export original log</Button> : null}
      <Button onClick={asTable}>Export battery data table</Button>
    </>
  );
}
