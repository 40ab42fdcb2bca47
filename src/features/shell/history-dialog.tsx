"use client";

import { format } from "date-fns";
import { useSession } from "@/browser/context";
import { attempt, notify, undoneText } from "@/browser/notify";
import { pastActs, undoAct, useLive, type PastAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";

/** What was changed in this notebook, newest first; each can be undone by itself, as far as nothing newer stands in its way. */
export function HistoryDialog({ onClose }: { onClose(): void }) {
  const { notebook } = useSession();
  const acts = useLive(`history-${notebook.id}`, () => pastActs(notebook.id));
  const takeBack = (a: PastAct) => void attempt(async () => notify(undoneText(await undoAct(a))));
  return (
    <Dialog
      wide
      title="History"
      about="Changes to this notebook, newest first. Undo takes back one of them; later changes stay."
      onClose={onClose}
    >
      {acts.state !== "ready" ? (
        <p className="text-pencil">
          {acts.state === "failed" ? `The history can't be read: ${acts.message}` : "Loading …"}
        </p>
      ) : acts.value.length === 0 ? (
        <p className="text-pencil">No changes yet.</p>
      ) : (
        <ol className="divide-y divide-rule border-y border-rule">
          {acts.value.map((a) => (
            <li key={a.seq} className="flex items-center gap-4 py-1">
              <time dateTime={a.at} className="figures w-36 shrink-0 text-sm text-pencil">
                {format(new Date(a.at), "d MMM yyyy HH:mm")}
              </time>
              <span className={`min-w-0 flex-1 break-words ${a.undone ? "text-pencil line-through" : ""}`}>
                {a.label}
              </span>
              {a.undone ? (
                <span className="text-sm text-pencil">undone</span>
              ) : (
                <Button dense aria-label={`Undo: ${a.label}`} onClick={() => takeBack(a)}>
                  Undo
                </Button>
              )}
            </li>
          ))}
        </ol>
      )}
    </Dialog>
  );
}
