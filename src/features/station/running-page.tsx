"use client";

import { compute } from "@/workers/compute";
import { format } from "date-fns";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { useRouter } from "next/navigation";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { play } from "@/browser/sound";
import { drawer, type Drawer } from "@/notebook";
import { ofKind, record, remove, undoAct, useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { useNow } from "@/ui/use-now";
import { formatQuantity } from "@/core/quantities";
import { atWork, type BayRow, type Running } from "./bay-rows";
import { BayTable, overdue } from "./bay-table";
import { EditPlan } from "./edit-plan";
import { Scan } from "./scan";
import { Turns } from "./turns";

/** Charges that ended, as many as are shown. */
const SHOWN = 12;

/** A station at work: a row a bay, cells by their codes. */
export function RunningPage({ id }: { readonly id: string }) {
  const { notebook } = useSession();
  const before = useRef<Drawer>(undefined);
  const live = useLive<Running | null>(`station-${id}`, async () => {
    const [station, cells, charges] = await Promise.all([
      record("station", id),
      drawer(compute, notebook.id, before.current),
      ofKind(notebook.id, "cellCharge"),
    ]);
    before.current = cells;
    if (!station) return null;
    const ended = charges
      .filter((c) => c.stationId === id && c.endedAt)
      .sort((a, b) => (b.endedAt ?? "").localeCompare(a.endedAt ?? ""));
    return { station, drawer: cells, ended };
  });
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The station can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such station in this notebook. It may have been deleted.</Quiet>;
  return <AtWork running={live.value} />;
}

/** A tone and the window's title for bays that take longer than predicted. */
function useOverdue(rows: readonly BayRow[], title: string, muted: boolean): void {
  const late = rows.filter(overdue).map((b) => b.bay);
  const before = useRef<readonly number[]>([]);
  useEffect(() => {
    if (late.some((b) => !before.current.includes(b))) play("stalled", muted);
    before.current = late;
    document.title = late.length ? `Bay ${late.join(", ")} overdue · ${title}` : `${title} · Nimbus Bench`;
  });
}

function AtWork({ running }: { readonly running: Running }) {
  const { station } = running;
  const now = useNow(10_000);
  const router = useRouter();
  const work = useMemo(() => atWork(running, now), [running, now]);
  const { rows } = work;
  const [chosen, setChosen] = useState<string | null>(null);
  const [muted, setMuted] = useState(false);
  const [planning, setPlanning] = useState(false);
  useOverdue(rows, station.title, muted);
  const taken = rows.filter((b) => b.charge).length;
  const del = () =>
    void attempt(async () => {
      const act = await remove(`delete ${station.title}`, [station]);
      router.push("/station");
      await notifyUndoable(`${station.title} is deleted.`, act && (() => undoAct(act)));
    });
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="station"
        title={station.title}
        aside={
          <span className="flex flex-wrap items-center gap-3">
            <Checkbox checked={!muted} onChecked={(on) => setMuted(!on)}>
              Sound
            </Checkbox>
            <Link href="/station" className={buttonClass("bare")}>
              All stations
            </Link>
            <Button look="bare" onClick={del} disabled={taken > 0}>
              Delete station
            </Button>
          </span>
        }
      >
        <p className="mb-3 text-pencil" data-testid="bays-taken">
          {taken} of {rows.length} bays charge. Charge on a surface that can&apos;t burn, never unattended.
        </p>
        <Scan running={work} chosen={chosen} onChosen={setChosen} />
      </Section>
      <Section mark="bays" title="Bays">
        <BayTable rows={rows} onDone={setChosen} />
        {taken < rows.length ? (
          <p className="mt-2 text-pencil min-[700px]:hidden">{rows.length - taken} bays are free.</p>
        ) : null}
      </Section>
      <Section mark="turns" title="Starts in turns">
        <Turns running={work} now={now} />
      </Section>
      <TakenOut running={running} />
      {planning ? (
        <EditPlan key={station.updatedAt} station={station} />
      ) : (
        <Section
          mark="plan"
          title="Plan of the station"
          aside={<Button onClick={() => setPlanning(true)}>Edit plan</Button>}
        >
          <p className="text-pencil">
            {formatQuantity(station.plan.chargeCurrent, "A")} in each bay, {work.perLane} bays on a lane, supplies of{" "}
            {formatQuantity(station.plan.amps, "A")} at {formatQuantity(station.plan.volts, "V")}.
          </p>
        </Section>
      )}
    </div>
  );
}

/** What came out, with the voltage that goes onto its label. */
const TakenOut = memo(function TakenOut({ running: { ended, drawer: d } }: { readonly running: Running }) {
  if (ended.length === 0) return null;
  return (
    <Section mark="taken out" title="Taken out">
      <ul className="divide-y divide-rule border-y border-rule text-sm">
        {ended.slice(0, SHOWN).map((charge) => {
          const c = d.cells.find((x) => x.cell.id === charge.cellId);
          return (
            <li key={charge.id} className="flex flex-wrap items-baseline gap-x-4 py-0.5">
              <span className="figures w-32">{format(new Date(charge.endedAt ?? ""), "d MMM, HH:mm")}</span>
              <span className="w-40 font-medium">{c?.cell.title ?? "a cell that was deleted"}</span>
              <span className={charge.stopped ? "text-close" : "text-meets"}>
                {charge.stopped ? `taken out early: ${charge.stopped}` : `full, bay ${charge.bay ?? "?"}`}
              </span>
              {c && !charge.stopped ? (
                <Link href={`/cells/labels?of=${c.cell.id}`} className="underline underline-offset-4">
                  Print label
                </Link>
              ) : null}
            </li>
          );
        })}
      </ul>
    </Section>
  );
});
