"use client";

import { todaysDate } from "@/storage";
import { useForm } from "react-hook-form";
import { minutesOf } from "@/core/procedures";
import { formatRoughly } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt } from "@/browser/notify";
import { addDay, tasksOf, type DueWork } from "@/notebook/days";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormCheckList, FormNumber, FormText } from "@/ui/form-fields";
import { computing } from "@/workers/client";
import { clockText, readClock } from "./words";

interface Fields {
  date: string;
  begins: string;
  steps: string[];
  cells: string[];
  instruments: Record<string, number | null>;
}

const AT_HAND: Readonly<Record<string, string>> = {
  hands: "People",
  supply: "Supplies at hand",
  load: "Loads at hand",
  logger: "Loggers at hand",
};
const DATE = /^\d{4}-\d{2}-\d{2}$/;
/** Steps that are chosen to begin with; more rarely fit into a day. */
const FIRST_STEPS = 6;

const about = (work: DueWork["steps"][number]["work"]): string => formatRoughly(60 * minutesOf(work));

/** What is due, to choose from: steps of boards, cells to be read, the instruments at hand. */
export function PlanForm({ due, onPlanned }: { readonly due: DueWork; onPlanned(id: string): void }) {
  const { notebook } = useSession();
  const keyOf = (s: DueWork["steps"][number]): string => `${s.board.id} ${s.procedure.id}`;
  const today = todaysDate();
  const start = new Date();
  const boards = due.steps.map((s) => s.board).filter((b, k, all) => all.indexOf(b) === k);
  const { control, handleSubmit } = useForm<Fields>({
    defaultValues: {
      date: today,
      begins: clockText(60 * start.getHours() + start.getMinutes()),
      steps: due.steps.slice(0, FIRST_STEPS).map(keyOf),
      cells: due.cells.map((c) => c.cell.id),
      instruments: { ...due.instruments },
    },
  });
  const plan = handleSubmit((f) =>
    attempt(async () => {
      const tasks = tasksOf(
        due.steps.filter((s) => f.steps.includes(keyOf(s))),
        due.cells.filter((c) => f.cells.includes(c.cell.id)),
      );
      const instruments = Object.fromEntries(Object.entries(f.instruments).map(([name, n]) => [name, n ?? 1]));
      const day = { date: f.date, begins: readClock(f.begins) ?? 0, instruments, tasks, plan: {} };
      const next = await computing().ask("replan", { day, now: 0 });
      onPlanned((await addDay({ notebookId: notebook.id, ...day, plan: next.plan })).id);
    }),
  );
  if (due.steps.length === 0 && due.cells.length === 0)
    return (
      <p className="text-pencil">
        Nothing is due: every board&apos;s order of work is done, and no cell waits to be read.
      </p>
    );
  return (
    <Form onSubmit={plan}>
      <div className="mb-2 flex flex-wrap gap-x-5">
        <FormText
          control={control}
          name="date"
          label="Date"
          missing="Enter a date."
          check={(t) => (DATE.test(t) && !Number.isNaN(Date.parse(t)) ? null : "Such as 2026-12-01.")}
        />
        <FormText
          control={control}
          name="begins"
          label="Begins at"
          missing="Enter a time."
          check={(t) => (readClock(t) === null ? "Such as 9:30." : null)}
        />
        {Object.keys(due.instruments).map((name) => (
          <FormNumber
            key={name}
            control={control}
            name={`instruments.${name}`}
            label={AT_HAND[name] ?? name}
            quantity=""
            missing="Enter a number."
            refuse={(v) => (Number.isInteger(v) && v >= 1 && v <= 20 ? null : "A whole number from 1 to 20.")}
          />
        ))}
      </div>
      <div className="mb-3 columns-1 gap-x-8 min-[700px]:columns-2 min-[1000px]:columns-3">
        {boards.map(({ id, title }) => (
          <FormCheckList
            key={id}
            control={control}
            name="steps"
            label={title}
            className="mb-3 break-inside-avoid [&>span]:flex-col"
            choices={due.steps
              .filter((s) => s.board.id === id)
              .map((s) => ({ value: keyOf(s), label: `${s.procedure.title}, about ${about(s.work)}` }))}
          />
        ))}
      </div>
      {due.cells.length ? (
        <FormCheckList
          control={control}
          name="cells"
          label="Cells to be read"
          className="mb-3 flex flex-wrap gap-x-6"
          choices={due.cells.map((c) => ({ value: c.cell.id as string, label: `${c.cell.title} (${c.code})` }))}
        />
      ) : null}
      <Button look="main" type="submit">
        Plan day
      </Button>
    </Form>
  );
}
