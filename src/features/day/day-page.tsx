"use client";

import { compute } from "@/workers/compute";
import { format } from "date-fns";
import { useEffect, useState } from "react";
import type { DayRecord, RunRecord } from "@/core/files/records";
import { endOfDay, nextAct, troublesOf } from "@/core/use";
import { useSession } from "@/browser/context";
import { download } from "@/browser/download";
import { attempt, notifyUndoable } from "@/browser/notify";
import { drawer } from "@/notebook";
import { ofKind, remove, runsOf, undoAct, useLive, todaysDate } from "@/storage";
import { dueWork, dayAsItWent, placeOf, type DueWork } from "@/notebook/days";
import { useKeys } from "@/browser/keys";
import { Button, Key } from "@/ui/button";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { calendarOf } from "./calendar";
import { DayFigure } from "./day-figure";
import { PlanForm } from "./plan-form";
import { finishTask, startTask, TaskRows } from "./task-rows";
import { useDay } from "./use-day";
import { clock, troubleText } from "./words";

interface Loaded {
  readonly days: readonly DayRecord[];
  readonly due: DueWork;
  readonly runs: ReadonlyMap<string, RunRecord>;
}

/** The day at the bench: what runs beside what, when hands are needed, when it ends, what comes next. */
export function DayPage() {
  const { notebook } = useSession();
  const live = useLive<Loaded>(`day-${notebook.id}`, async () => {
    const [stored, due, runs] = await Promise.all([
      ofKind(notebook.id, "day"),
      dueWork(compute, notebook.id, Date.now()),
      runsOf(notebook.id),
    ]);
    const days = await Promise.all(stored.map(dayAsItWent));
    return {
      days: days.sort((a, b) => b.date.localeCompare(a.date) || b.createdAt.localeCompare(a.createdAt)),
      due,
      runs: new Map(runs.map((r) => [r.id, r])),
    };
  });
  useEffect(() => {
    document.title = "Day at the bench · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The day can&apos;t be loaded: {live.message}</Quiet>;
  return <Days {...live.value} />;
}

function Days({ days, due, runs }: Loaded) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [planning, setPlanning] = useState(false);
  const planned = (id: string) => {
    setChosen(id);
    setPlanning(false);
  };
  const today = todaysDate();
  const day = days.find((d) => d.id === chosen) ?? days.find((d) => d.date === today);
  const choice =
    days.length > 1 || (days.length && !day) ? (
      <Select
        label="Day shown"
        place="hidden"
        value={day?.id ?? ""}
        onValue={setChosen}
        choices={[
          ...(day ? [] : [{ value: "", label: "choose a day" }]),
          ...days.map((d) => ({ value: d.id, label: format(new Date(`${d.date}T12:00:00`), "EEE d MMM yyyy") })),
        ]}
      />
    ) : null;
  return (
    <div className="sheet">
      {day ? (
        <Planned key={day.id} stored={day} runs={runs} choice={choice} />
      ) : (
        <Section level={1} mark="day" title="Day at the bench" aside={choice}>
          <p className="mb-3 text-pencil">Choose what is to be done. Charges run beside what takes both hands.</p>
          <PlanForm due={due} onPlanned={planned} />
        </Section>
      )}
      {day ? (
        <Section
          mark="another"
          title="Another day"
          aside={<Button onClick={() => setPlanning(!planning)}>{planning ? "Cancel" : "Plan another day"}</Button>}
        >
          {planning ? <PlanForm due={due} onPlanned={planned} /> : null}
        </Section>
      ) : null}
    </div>
  );
}

function Planned({
  stored,
  runs,
  choice,
}: {
  readonly stored: DayRecord;
  readonly runs: Loaded["runs"];
  readonly choice: React.ReactNode;
}) {
  const hand = useDay(stored);
  const { day, now, when } = hand;
  const troubles = when === "past" ? [] : troublesOf(day, now);
  const { notebook } = useSession();
  const calendar = () =>
    void attempt(async () =>
      download(
        `bench-${day.date}.ics`,
        await calendarOf(day, (await drawer(compute, notebook.id)).cells),
        "text/calendar",
      ),
    );
  const del = () =>
    void attempt(async () => {
      const act = await remove(`delete the day ${day.date}`, [stored]);
      await notifyUndoable("The day is deleted.", act && (() => undoAct(act)));
    });
  return (
    <>
      <Section
        level={1}
        mark="day"
        title={`Day at the bench, ${format(new Date(`${day.date}T12:00:00`), "EEEE d MMMM yyyy")}`}
        aside={
          <span className="no-print flex flex-wrap items-center gap-3">
            {choice}
            <Button onClick={calendar}>Export calendar file</Button>
            <Button onClick={() => window.print()}>Print</Button>
            <Button look="bare" onClick={del}>
              Delete day
            </Button>
          </span>
        }
      >
        <NextLine hand={hand} />
        {troubles.length ? (
          <ul aria-label="What breaks" className="mb-3 max-w-prose text-misses">
            {troubles.map((t) => (
              <li key={JSON.stringify(t)}>
                <span aria-hidden>! </span>
                {troubleText(day, t)}
              </li>
            ))}
          </ul>
        ) : null}
        <DayFigure day={day} now={when === "today" ? now : null} />
      </Section>
      <Section mark="tasks" title="Tasks">
        <TaskRows hand={hand} placeOf={(b) => placeOf(b.task, runs)} />
      </Section>
    </>
  );
}

/** The one next act with its key, and when the day ends. */
function NextLine({ hand }: { readonly hand: ReturnType<typeof useDay> }) {
  const { day, now, when } = hand;
  const next = when === "past" ? null : nextAct(day, now);
  const act = () => {
    if (next?.act === "start") startTask(hand, next.task);
    else if (next) finishTask(hand, next.task);
  };
  useKeys({ n: act }, when === "today" && next !== null);
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 text-2xl" data-testid="next-act">
      <p>
        {next ? (
          <>
            <span className="text-base text-pencil">Next </span>
            <span className="figures font-semibold">
              {clock(day, next.act === "start" && when === "today" ? Math.max(next.at, now) : next.at)}
            </span>{" "}
            {next.act} {next.task.title}
          </>
        ) : day.tasks.every((t) => t.ended !== undefined) ? (
          "All tasks are over."
        ) : (
          "This day is past."
        )}
      </p>
      {next && when === "today" ? (
        <Button look="main" onClick={act}>
          {next.act === "start" ? "Start now" : "Finish now"} <Key on>N</Key>
        </Button>
      ) : null}
      <span className="text-base text-pencil">
        {next ? "The day ends" : "It ended"} about {clock(day, endOfDay(day, now))}.
      </span>
    </div>
  );
}
