"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import { barsOf, type DayTask, type TaskBar } from "@/core/use";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { Link } from "@/ui/link";
import type { DayAtHand } from "./use-day";
import { clock, clockText, readClock } from "./words";

/** Minutes of a day. */
const MIDNIGHT = 1440;

const without = <T extends object, K extends keyof T>(of: T, key: K): Omit<T, K> => {
  const { [key]: _gone, ...rest } = of;
  void _gone;
  return rest;
};

/** Every task with when it runs and the acts that it allows. */
export function TaskRows({ hand, placeOf }: { readonly hand: DayAtHand; placeOf(bar: TaskBar): string | null }) {
  const { day, now, when } = hand;
  const bars = barsOf(day, now);
  const open = when !== "past";
  const columns: readonly DataColumn<TaskBar>[] = [
    {
      id: "when",
      head: "When",
      className: "figures whitespace-nowrap text-lg",
      content: (b) => `${clock(day, b.start)} to ${clock(day, b.end)}`,
    },
    {
      id: "task",
      head: "Task",
      names: true,
      className: "text-lg",
      content: (b) => {
        const place = placeOf(b);
        return place ? (
          <Link href={place} className="hover:underline">
            {b.task.title}
          </Link>
        ) : (
          b.task.title
        );
      },
    },
    {
      id: "state",
      head: "State",
      content: (b) => (
        <span className={b.state === "overdue" ? "font-semibold text-misses" : b.state === "over" ? "text-meets" : ""}>
          {[
            b.state === "overdue" ? "! overdue" : b.state,
            b.task.note ?? "",
            b.state === "to come" && b.task.at !== undefined ? "moved by hand" : "",
          ]
            .filter(Boolean)
            .join(", ")}
        </span>
      ),
    },
    { id: "acts", head: "Acts", bare: true, content: (b) => (open ? <TaskActs b={b} hand={hand} /> : null) },
  ];
  return (
    <DataTable
      label="Tasks"
      rows={bars}
      id={(b) => b.task.id}
      columns={columns}
      stacks
      rowProps={(b) => ({ "data-task": b.task.title, "data-state": b.state })}
    />
  );
}

/** Starts a task now, finishes it now: what of it was moved by hand is done with. */
export const startTask = ({ now, patch }: DayAtHand, { id, title }: DayTask): void =>
  void patch(`start ${title}`, id, (t) => ({ ...without(t, "at"), started: now }));
export const finishTask = ({ now, patch }: DayAtHand, { id, title }: DayTask, note?: string): void =>
  void patch(`${note ? "interrupt" : "finish"} ${title}`, id, (t) => ({ ...t, ended: now, ...(note ? { note } : {}) }));

function TaskActs({ b, hand }: { readonly b: TaskBar; readonly hand: DayAtHand }) {
  const { when, patch, store, day } = hand;
  const [moving, setMoving] = useState(false);
  const { id, title } = b.task;
  return (
    <span className="flex flex-wrap items-start justify-end gap-x-3">
      {b.state === "to come" && when === "today" ? (
        <Button aria-label={`Start ${title}`} onClick={() => startTask(hand, b.task)}>
          Start
        </Button>
      ) : null}
      {b.state === "running" || b.state === "overdue" ? (
        <>
          <Button
            look={b.state === "overdue" ? "main" : "plain"}
            aria-label={`Finish ${title}`}
            onClick={() => finishTask(hand, b.task)}
          >
            Finish
          </Button>
          <Button
            look="bare"
            aria-label={`Interrupted: ${title}`}
            onClick={() => finishTask(hand, b.task, "interrupted")}
          >
            Interrupted
          </Button>
        </>
      ) : null}
      {b.state === "to come" ? (
        <>
          {moving ? <MoveTo b={b} hand={hand} onDone={() => setMoving(false)} /> : null}
          <Button look="bare" aria-label={`Move ${title}`} aria-expanded={moving} onClick={() => setMoving(!moving)}>
            Move
          </Button>
          {b.task.at !== undefined ? (
            <Button
              look="bare"
              aria-label={`Plan ${title}`}
              onClick={() => void patch(`let ${title} be planned`, id, (t) => without(t, "at"))}
            >
              Plan it
            </Button>
          ) : null}
          <Button
            look="bare"
            aria-label={`Delete ${title} from the day`}
            onClick={() =>
              void store(
                `delete ${title} from the day`,
                day.tasks.filter((t) => t.id !== id).map((t) => ({ ...t, after: t.after.filter((a) => a !== id) })),
              )
            }
          >
            Delete
          </Button>
        </>
      ) : null}
    </span>
  );
}

/** A start by hand. */
function MoveTo({ b, hand, onDone }: { readonly b: TaskBar; readonly hand: DayAtHand; onDone(): void }) {
  const { day, patch } = hand;
  const { control, handleSubmit } = useForm({ defaultValues: { at: clockText((day.begins + b.start) % MIDNIGHT) } });
  const minute = (text: string): number | null => {
    const at = readClock(text);
    return at === null ? null : at - day.begins;
  };
  const move = handleSubmit(({ at }) => {
    const to = minute(at);
    onDone();
    if (to !== null && to >= 0) void patch(`move ${b.task.title} to ${at}`, b.task.id, (t) => ({ ...t, at: to }));
  });
  return (
    <Form className="flex items-start gap-x-2" onSubmit={move}>
      <FormText
        control={control}
        name="at"
        label={`Start of ${b.task.title}`}
        hideLabel
        autoFocus
        className="w-24 [&>div]:w-full"
        check={(t) => {
          const to = minute(t);
          return to === null ? "Such as 10:30." : to < 0 ? `Not before ${clockText(day.begins)}.` : null;
        }}
      />
      <Button type="submit">Move task</Button>
    </Form>
  );
}
