"use client";

import { compute } from "@/workers/compute";
import { useEffect, useMemo, useState } from "react";
import type { LoadRecord } from "@/core/files/records";
import { batteryOf, compareFits, type Load } from "@/core/use";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { drawer, type Drawer } from "@/notebook";
import { change, edit, newId, now, ofKind, remove, undoAct, useLive } from "@/storage";
import { protectionBoards, usableBoards, type ProtectionBoard, type UsableBoard } from "@/notebook/usable";
import { computing } from "@/workers/client";
import { Button } from "@/ui/button";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { BatteryFields } from "./battery-fields";
import { FitDetail } from "./fit-detail";
import type { Fitted } from "./fitted";
import { LoadDialog } from "./load-dialog";
import { RankedFits } from "./ranked-fits";
import { useBattery } from "./use-battery";
import { loadText } from "./words";

interface Loaded {
  readonly loads: readonly LoadRecord[];
  readonly boards: readonly UsableBoard[];
  readonly cells: Drawer;
  readonly protections: readonly ProtectionBoard[];
}

/** Put to use: will it carry my load from my cell, for how long, and is the cell safe meanwhile. */
export function UsePage() {
  const { notebook } = useSession();
  const live = useLive<Loaded>(`use-${notebook.id}`, async () => {
    const [loads, boards, cells, protections] = await Promise.all([
      ofKind(notebook.id, "load"),
      usableBoards(compute, notebook.id),
      drawer(compute, notebook.id),
      protectionBoards(compute, notebook.id),
    ]);
    return { loads, boards, cells, protections };
  });
  useEffect(() => {
    document.title = "Put to use · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The boards can&apos;t be weighed: {live.message}</Quiet>;
  return <Use {...live.value} />;
}

/** The boards with their answers, the best first; worked out in a worker. */
function useFits(
  boards: readonly UsableBoard[],
  load: Load | undefined,
  battery: ReturnType<typeof batteryOf> | null,
): readonly Fitted[] | null {
  const asked = useMemo(() => ({ boards, load, battery }), [boards, load, battery]);
  const [fits, setFits] = useState<{ readonly of: typeof asked; readonly list: readonly Fitted[] } | null>(null);
  useEffect(() => {
    const { boards: of, load: l, battery: b } = asked;
    if (!l || !b) return;
    const stop = new AbortController();
    void attempt(async () => {
      const answer = await computing()
        .ask("fits", { boards: of.map((x) => x.modules), load: l, battery: b }, stop.signal)
        .catch((e: unknown) => {
          // Asked anew meanwhile: nobody waits for this one.
          if (stop.signal.aborted) return null;
          throw e;
        });
      if (!answer || stop.signal.aborted) return;
      const list = of
        .flatMap((usable, k) => (answer[k] ? [{ usable, fit: answer[k] }] : []))
        .sort((x, y) => compareFits(x.fit, y.fit) || x.usable.board.title.localeCompare(y.usable.board.title, "en"));
      setFits({ of: asked, list });
    });
    return () => stop.abort();
  }, [asked]);
  return fits?.list ?? null;
}

function Use({ loads, boards, cells, protections }: Loaded) {
  const { notebook } = useSession();
  const [shown, setShown] = useState<string | null>(null);
  const [editing, setEditing] = useState<LoadRecord | "new" | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  const load = loads.find((l) => l.id === shown) ?? loads[0];
  const used = useBattery(cells);
  const { cell } = used.battery;
  const battery = useMemo(() => (load ? batteryOf(cell, load.wiring) : null), [cell, load]);
  const fits = useFits(boards, load, battery);
  const chosen = fits?.find((f) => f.usable.board.id === opened) ?? fits?.[0];
  const keep = (before: LoadRecord | null, l: Load) =>
    attempt(async () => {
      const at = now();
      const next: LoadRecord = {
        ...l,
        kind: "load",
        id: before?.id ?? newId(),
        notebookId: notebook.id,
        createdAt: before?.createdAt ?? at,
        updatedAt: at,
      };
      await change(`save load “${l.title}”`, [before ? edit(before, next) : next]);
      setShown(next.id);
    });
  const drop = (l: LoadRecord) =>
    void attempt(async () => {
      const act = await remove(`delete load “${l.title}”`, [l]);
      setEditing(null);
      await notifyUndoable(`“${l.title}” is deleted.`, act && (() => undoAct(act)));
    });
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="put to use"
        title={load?.title ?? "Put to use"}
        aside={<LoadActs loads={loads} load={load} onShow={setShown} onEdit={setEditing} />}
      >
        {load ? (
          <>
            <p>{loadText(load)}.</p>
            {load.note ? <p className="text-pencil">{load.note}</p> : null}
            <BatteryFields used={used} />
          </>
        ) : (
          <p className="max-w-prose text-pencil">
            No loads yet. Add what you want to run: every board is then worked out with your cell, from measured values.
          </p>
        )}
      </Section>
      {load ? (
        <Section mark="order" title="Boards">
          {fits ? (
            <RankedFits fits={fits} floor={cell.floor} shown={chosen?.usable.board.id ?? ""} onShow={setOpened} />
          ) : (
            <p role="status" className="text-pencil">
              Working out …
            </p>
          )}
        </Section>
      ) : null}
      {load && battery && chosen ? (
        <FitDetail
          key={chosen.usable.board.id + load.id}
          of={chosen}
          load={load}
          cell={cell}
          battery={battery}
          protections={protections}
          onLoad={(l) => keep(load, l)}
        />
      ) : null}
      {editing ? (
        <LoadDialog
          key={editing === "new" ? "new" : editing.id}
          load={editing === "new" ? null : editing}
          protections={protections}
          onKeep={(l) => keep(editing === "new" ? null : editing, l)}
          onDelete={editing === "new" ? null : () => drop(editing)}
          onClose={() => setEditing(null)}
        />
      ) : null}
    </div>
  );
}

interface LoadActsProps {
  readonly loads: readonly LoadRecord[];
  readonly load: LoadRecord | undefined;
  onShow(id: string): void;
  onEdit(load: LoadRecord | "new"): void;
}

/** Which load is shown, and what can be done with it. */
const LoadActs = ({ loads, load, onShow, onEdit }: LoadActsProps) => (
  <span className="no-print flex flex-wrap items-center gap-2">
    {loads.length > 1 ? (
      <Select
        label="Which load"
        place="hidden"
        value={load?.id ?? ""}
        onValue={onShow}
        choices={loads.map((l) => ({ value: l.id as string, label: l.title }))}
      />
    ) : null}
    {load ? <Button onClick={() => onEdit(load)}>Edit load</Button> : null}
    <Button look={load ? "plain" : "main"} onClick={() => onEdit("new")}>
      Add load
    </Button>
    {load ? <Button onClick={() => window.print()}>Print</Button> : null}
  </span>
);
