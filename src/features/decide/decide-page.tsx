"use client";

import { compute } from "@/workers/compute";
import { useEffect, useState } from "react";
import type { NeedRecord } from "@/core/files/records";
import type { Need } from "@/core/need";
import type { HouseRules } from "@/core/measurement";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { candidatesOf, rulesOf, weighedBoards, type WeighedBoard } from "@/notebook";
import { change, edit, newId, now, ofKind, remove, useLive, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { NeedDialog } from "./need-dialog";
import { Ranking } from "./ranking";

/** So many boards are weighed before anybody would read how far it is. */
const FEW = 20;

/** From many runs to a decision: what a use asks for, which board serves it and why, and what else could be done. */
export function DecidePage() {
  const { notebook } = useSession();
  const [weighed, setWeighed] = useState("");
  const live = useLive(`decide-${notebook.id}`, async () => {
    const [needs, rules] = await Promise.all([ofKind(notebook.id, "need"), rulesOf(notebook.id)]);
    return {
      needs,
      rules,
      boards: await weighedBoards(compute, notebook.id, needs, (done, of) =>
        setWeighed(of > FEW ? `${done} of ${of}` : ""),
      ),
    };
  });
  useEffect(() => {
    document.title = "Decide · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading … {weighed}</Quiet>;
  if (live.state === "failed") return <Quiet>The boards can&apos;t be ranked: {live.message}</Quiet>;
  return <Decide {...live.value} />;
}

function Decide({
  needs,
  rules,
  boards,
}: {
  readonly needs: readonly NeedRecord[];
  readonly rules: HouseRules;
  readonly boards: readonly WeighedBoard[];
}) {
  const { notebook } = useSession();
  const [shown, setShown] = useState<string | null>(null);
  const [editing, setEditing] = useState<NeedRecord | "new" | null>(null);
  const need = needs.find((n) => n.id === shown) ?? needs[0];
  const keep = (n: Need) =>
    attempt(async () => {
      const at = now();
      const next: NeedRecord =
        editing && editing !== "new"
          ? { ...editing, ...n }
          : { kind: "need", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at, ...n };
      await change(`save need “${n.title}”`, [editing && editing !== "new" ? edit(editing, next) : next]);
      setShown(next.id);
      setEditing(null);
    });
  const drop = () =>
    void attempt(async () => {
      if (!editing || editing === "new") return;
      const act = await remove(`delete need “${editing.title}”`, [editing]);
      setEditing(null);
      await notifyUndoable(`“${editing.title}” is deleted.`, act && (() => undoAct(act)));
    });
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="decide"
        title={need ? need.title : "Decide"}
        aside={
          <span className="no-print flex flex-wrap items-center gap-2">
            {needs.length > 1 ? (
              <Select
                label="Which need"
                place="hidden"
                value={need?.id ?? ""}
                onValue={setShown}
                choices={needs.map((n) => ({ value: n.id as string, label: n.title }))}
              />
            ) : null}
            {need ? <Button onClick={() => setEditing(need)}>Edit need</Button> : null}
            <Button look={need ? "plain" : "main"} onClick={() => setEditing("new")}>
              Add need
            </Button>
          </span>
        }
      >
        {need ? (
          <p className="max-w-prose text-pencil">{need.note}</p>
        ) : (
          <ol className="max-w-prose list-decimal pl-5">
            <li>Add a need: what the use must have and should have.</li>
            <li>Every board is judged against it, by measured values where there are any, else by claims.</li>
            <li>The ranking gives the reasons, and what buying, modifying or building would change.</li>
          </ol>
        )}
      </Section>
      {need ? (
        <Ranking
          need={need}
          rules={rules}
          boards={boards}
          candidates={(ids) => candidatesOf(compute, notebook.id, ids)}
        />
      ) : null}
      {editing ? (
        <NeedDialog
          key={editing === "new" ? "new" : editing.id}
          boards={boards}
          need={editing === "new" ? null : editing}
          onKeep={keep}
          onDelete={editing === "new" ? null : drop}
          onClose={() => setEditing(null)}
        />
      ) : null}
    </div>
  );
}
