"use client";

import { useEffect, useRef, useState } from "react";
import { differences, nameOf } from "@/core/files/differences";
import type { RulesRecord, StoredRecord } from "@/core/files/records";
import { useLeaveGuard } from "@/browser/leave";
import { attempt, notify, notifyUndoable, undoneText } from "@/browser/notify";
import { type Flip } from "@/notebook";
import { undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FlipList } from "@/ui/flip-list";
import { TwoVersions } from "@/ui/two-versions";
import { importArchive, restore, type ImportQuestions, type ImportReport } from "./archives";

type Question =
  | { readonly kind: "large"; readonly bytes: number; answer(go: boolean): void }
  | {
      readonly kind: "rules";
      readonly ours: RulesRecord;
      readonly theirs: RulesRecord;
      readonly flips: readonly Flip[];
      answer(choice: "ours" | "theirs" | null): void;
    };

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(0)} MB`;
const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** Imports an archive: it asks what only the tester can say, and reports what came of it. */
export function ImportArchive({
  busy,
  onBusy,
  onOpen,
  archive,
}: {
  readonly busy: boolean;
  onBusy(b: boolean): void;
  onOpen(notebookId: string): void;
  /** Another file is imported at once. */ readonly archive: File;
}) {
  const [question, setQuestion] = useState<Question | null>(null);
  const [report, setReport] = useState<ImportReport | null>(null);
  useLeaveGuard(busy);
  const ask: ImportQuestions = {
    large: (bytes) => new Promise((answer) => setQuestion({ kind: "large", bytes, answer })),
    rules: (ours, theirs, flips) =>
      new Promise((answer) => setQuestion({ kind: "rules", ours, theirs, flips, answer })),
  };
  const [coming, setComing] = useState<{
    readonly name: string;
    readonly share: number;
    readonly cancel: AbortController;
  } | null>(null);
  const take = (chosen: File) => {
    onBusy(true);
    const cancel = new AbortController();
    setComing({ name: chosen.name, share: 0, cancel });
    void attempt(async () => {
      const r = await importArchive(chosen, ask, cancel.signal, (share) =>
        setComing({ name: chosen.name, share, cancel }),
      );
      if (!r) return;
      if (r.leftOut.length || r.conflicts || r.deleted.length || r.apart) return setReport(r);
      await notifyReport(r);
      onOpen(r.notebookId);
    }).finally(() => {
      setComing(null);
      onBusy(false);
    });
  };
  const taken = useRef<File | null>(null);
  useEffect(() => {
    if (taken.current === archive) return;
    taken.current = archive;
    take(archive);
  });
  const answered = (act: () => void) => {
    setQuestion(null);
    act();
  };
  return (
    <>
      {coming && !question ? (
        <span role="status" className="flex flex-wrap items-center gap-3 self-center text-sm text-pencil">
          Importing {coming.name} … {coming.share ? `${Math.round(100 * coming.share)} %` : ""}
          <Button onClick={() => coming.cancel.abort()}>Cancel import</Button>
        </span>
      ) : null}
      {question?.kind === "large" ? (
        <Dialog
          title={`This archive unpacks to ${megabytes(question.bytes)}`}
          about="Most notebooks are smaller. Nothing is imported yet."
          onClose={() => answered(() => question.answer(false))}
        >
          <div className="flex flex-wrap gap-3">
            <Button look="main" onClick={() => answered(() => question.answer(true))}>
              Import archive
            </Button>
            <Button onClick={() => answered(() => question.answer(false))}>Cancel import</Button>
          </div>
        </Dialog>
      ) : null}
      {question?.kind === "rules" ? (
        <RulesQuestion q={question} onAnswer={(c) => answered(() => question.answer(c))} />
      ) : null}
      {report ? (
        <Report
          report={report}
          onClose={() => {
            setReport(null);
            onOpen(report.notebookId);
          }}
        />
      ) : null}
    </>
  );
}

const summary = (r: ImportReport): string =>
  `“${r.title}”: ${[count(r.added, "record") + " added", ...(r.updated ? [`${r.updated} updated`] : []), ...(r.same ? [`${r.same} the same`] : []), ...(r.older ? [`${r.older} older than here`] : [])].join(", ")}.`;
const notifyReport = ({ act, ...r }: ImportReport) =>
  notifyUndoable(summary({ act, ...r }), act && (() => undoAct(act)));

function RulesQuestion({
  q,
  onAnswer,
}: {
  readonly q: Extract<Question, { kind: "rules" }>;
  onAnswer(c: "ours" | "theirs" | null): void;
}) {
  return (
    <Dialog
      wide
      title="The archive has other house rules"
      about="A notebook has one set of house rules. Nothing is imported yet."
      onClose={() => onAnswer(null)}
    >
      <TwoVersions
        heads={["This notebook", "Archive"]}
        rows={differences(q.ours, q.theirs).map((d) => ({
          key: d.field,
          field: d.field.replace(/^Rules, /, ""),
          first: d.ours,
          second: d.theirs,
        }))}
      />
      <p className="mb-2">
        {q.flips.length
          ? `The archive's rules would change ${count(q.flips.length, "verdict")}:`
          : "The archive's rules would change no verdict."}
      </p>
      {q.flips.length ? <FlipList flips={q.flips} /> : null}
      <div className="flex flex-wrap gap-3">
        <Button look="main" onClick={() => onAnswer("ours")}>
          Keep this notebook&apos;s rules
        </Button>
        <Button onClick={() => onAnswer("theirs")}>Use the archive&apos;s rules</Button>
        <Button onClick={() => onAnswer(null)}>Cancel import</Button>
      </div>
    </Dialog>
  );
}

/** What a merge did, and what it left out because it was deleted here. */
function Report({ report: r, onClose }: { readonly report: ImportReport; onClose(): void }) {
  const [left, setLeft] = useState<readonly StoredRecord[]>(r.leftOut);
  const { act } = r;
  const bring = (records: readonly StoredRecord[]) =>
    void attempt(async () => {
      const restored = new Set((await restore(r, records)).map((x) => x.id));
      setLeft((l) => l.filter((x) => !restored.has(x.id)));
    });
  return (
    <Dialog wide title="Archive imported" about={summary(r)} onClose={onClose}>
      {r.conflicts ? (
        <p className="mb-2">
          {count(r.conflicts, "record")} changed here and in the archive. Both versions are kept; choose under “Changed
          on both sides” in the notebook.
        </p>
      ) : null}
      {r.apart ? (
        <p className="mb-2">
          {count(r.apart, "run")} continued here and in the archive: the archive&apos;s readings were added as{" "}
          {r.apart === 1 ? "a run of its own" : "runs of their own"}.
        </p>
      ) : null}
      {r.deleted.length ? (
        <p className="mb-2">
          {count(r.deleted.length, "record")} deleted in the archive and unchanged here: deleted here too. Undo brings
          them back.
        </p>
      ) : null}
      {left.length ? (
        <>
          <div className="mb-1 flex flex-wrap items-baseline justify-between gap-3">
            <h3 className="font-semibold">Not imported, because deleted here</h3>
            {left.length > 1 ? <Button onClick={() => bring(left)}>Restore all {left.length}</Button> : null}
          </div>
          <ul className="mb-4 max-h-64 divide-y divide-rule overflow-y-auto border-y border-rule">
            {left.map((x) => (
              <li key={x.id} className="flex items-center justify-between gap-3 py-1">
                <span className="min-w-0 break-words">{nameOf(x)}</span>
                <Button onClick={() => bring([x])} aria-label={`Restore ${nameOf(x)}`}>
                  Restore
                </Button>
              </li>
            ))}
          </ul>
        </>
      ) : r.leftOut.length ? (
        <p className="mb-4">All restored.</p>
      ) : null}
      <div className="flex flex-wrap gap-3">
        <Button look="main" onClick={onClose}>
          Open notebook
        </Button>
        {act ? (
          <Button
            onClick={() =>
              void attempt(async () => {
                await notify(undoneText(await undoAct(act)));
                onClose();
              })
            }
          >
            Undo import
          </Button>
        ) : null}
      </div>
    </Dialog>
  );
}
