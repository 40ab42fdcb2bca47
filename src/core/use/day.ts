import { highest } from "../quantities";
import type { Random } from "../simulator/random";
import { planDay, SCHEDULE_BUDGET, type ScheduleBudget } from "./schedule";
import { lengthOf, type ScheduleQuestion, type ScheduleStep, type ScheduleTask } from "./schedule-question";

/** What a task of a day is about: a step of a board, a cell to be read, or nothing that the notebook knows. */
export interface TaskAbout {
  readonly boardId?: string;
  readonly sampleId?: string;
  readonly procedure?: string;
  readonly cellId?: string;
  /** The run that it became. */
  readonly runId?: string;
}

/** A task of a day. Minutes are counted from the day's beginning. */
export interface DayTask {
  readonly id: string;
  readonly title: string;
  readonly about: TaskAbout;
  readonly steps: readonly ScheduleStep[];
  /** Tasks that must be over before it begins. */
  readonly after: readonly string[];
  /** Put there by hand. */
  readonly at?: number;
  readonly started?: number;
  readonly ended?: number;
  /** Why it ended otherwise than planned. */
  readonly note?: string;
}

/** A day at the bench. */
export interface Day {
  /** ISO date. */
  readonly date: string;
  /** Minutes since midnight at which it begins. */
  readonly begins: number;
  /** How many there are of each, hands among them. */
  readonly instruments: Readonly<Record<string, number>>;
  readonly tasks: readonly DayTask[];
  /** Task → minute at which it is planned to begin, as of the last plan. */
  readonly plan: Readonly<Record<string, number>>;
}

/** The steps of a task from what a run takes at the bench: one of each thing that it holds. */
export const stepsOfWork = (
  work: readonly { readonly minutes: number; readonly needs: readonly string[] }[],
): ScheduleStep[] => work.map((w) => ({ minutes: w.minutes, needs: Object.fromEntries(w.needs.map((n) => [n, 1])) }));

export type TaskState = "over" | "running" | "overdue" | "to come";

/** Where a task stands on the day: as it went, as it goes on, or as it is planned. */
export interface TaskBar {
  readonly task: DayTask;
  readonly state: TaskState;
  readonly start: number;
  readonly end: number;
}

/** Minutes that a task which takes longer than planned is given from now on. */
const OVERRUN = 10;

/** Where each task stands at a minute of the day, in the order in which they begin. One that is not planned yet is left out. */
export function barsOf(day: Day, now: number): TaskBar[] {
  return day.tasks
    .flatMap((task): TaskBar[] => {
      if (task.started === undefined) {
        const start = day.plan[task.id];
        return start === undefined ? [] : [{ task, state: "to come", start, end: start + lengthOf(task) }];
      }
      if (task.ended !== undefined) return [{ task, state: "over", start: task.started, end: task.ended }];
      const planned = task.started + lengthOf(task);
      return [
        planned > now
          ? { task, state: "running", start: task.started, end: planned }
          : { task, state: "overdue", start: task.started, end: now + OVERRUN },
      ];
    })
    .sort((a, b) => a.start - b.start || a.end - b.end);
}

/** What is left of a task's steps after so many minutes; one that is overdue holds what its last step held a little longer. */
function remaining(steps: readonly ScheduleStep[], gone: number): ScheduleStep[] {
  const out: ScheduleStep[] = [];
  let at = 0;
  for (const s of steps) {
    const left = Math.min(s.minutes, at + s.minutes - gone);
    if (left > 0) out.push({ ...s, minutes: left });
    at += s.minutes;
  }
  const last = steps.at(-1);
  return out.length || !last ? out : [{ ...last, minutes: OVERRUN }];
}

/** The question that the rest of a day asks at a minute: what runs goes on, what was put somewhere by hand stays there, all else is free. Minutes are counted from `now`. */
export function restOfDay(day: Day, now: number): ScheduleQuestion {
  const open = day.tasks.filter((t) => t.ended === undefined);
  const there = new Set(open.map((t) => t.id));
  return {
    instruments: day.instruments,
    tasks: open.map((t): ScheduleTask => {
      const after = t.after.filter((a) => there.has(a));
      if (t.started !== undefined) return { id: t.id, steps: remaining(t.steps, now - t.started), at: 0 };
      return {
        id: t.id,
        steps: t.steps,
        ...(after.length ? { after } : {}),
        ...(t.at === undefined ? {} : { at: highest([0, t.at - now]) }),
      };
    }),
  };
}

/** The day with everything that has not begun planned anew from a minute on, so that it ends as early as it can. */
export function replanned(day: Day, now: number, random: Random, budget: ScheduleBudget = SCHEDULE_BUDGET): Day {
  const { starts } = planDay(restOfDay(day, now), random, budget);
  const plan = Object.fromEntries(
    day.tasks.flatMap((t) =>
      t.started !== undefined
        ? [[t.id, t.started]]
        : starts[t.id] === undefined
          ? []
          : [[t.id, now + (starts[t.id] ?? 0)]],
    ),
  );
  return { ...day, plan };
}

/** What of a plan can't be: more of an instrument held than there is, or a task before one that it waits for. */
export type DayTrouble =
  | {
      readonly kind: "shared";
      readonly instrument: string;
      readonly there: number;
      readonly from: number;
      readonly to: number;
      readonly tasks: readonly string[];
    }
  | { readonly kind: "order"; readonly task: string; readonly before: string };

/** Everything that breaks in a day as it is planned: by instrument the stretches in which too many hold it, and tasks that begin before those that they wait for end. */
export function troublesOf(day: Day, now: number): DayTrouble[] {
  const bars = barsOf(day, now).filter((b) => b.state !== "over");
  const byId = new Map(bars.map((b) => [b.task.id, b]));
  const order = bars.flatMap((b) =>
    b.state === "to come"
      ? b.task.after.flatMap((a): DayTrouble[] =>
          (byId.get(a)?.end ?? 0) > b.start ? [{ kind: "order", task: b.task.id, before: a }] : [],
        )
      : [],
  );
  return [...Object.entries(day.instruments).flatMap(([name, there]) => shared(bars, name, there, now)), ...order];
}

/** Stretches, from now on, in which more of an instrument is held than there is; neighbours with the same holders are one. */
function shared(bars: readonly TaskBar[], instrument: string, there: number, now: number): DayTrouble[] {
  const holds = bars.flatMap((b) => {
    let at = b.start;
    return b.task.steps.flatMap((s, k) => {
      const from = at;
      at += s.minutes;
      const last = k === b.task.steps.length - 1;
      return (s.needs[instrument] ?? 0) > 0
        ? [{ id: b.task.id, need: s.needs[instrument] ?? 0, from, to: last ? highest([at, b.end]) : at }]
        : [];
    });
  });
  const edges = [...new Set([now, ...holds.flatMap((h) => [h.from, h.to])])]
    .filter((m) => m >= now)
    .sort((a, b) => a - b);
  const out: Extract<DayTrouble, { kind: "shared" }>[] = [];
  for (const [k, from] of edges.entries()) {
    const to = edges[k + 1];
    const here = holds.filter((h) => h.from <= from && h.to > from);
    if (to === undefined || here.reduce((n, h) => n + h.need, 0) <= there) continue;
    const tasks = [...new Set(here.map((h) => h.id))].sort();
    const before = out.at(-1);
    if (before?.to === from && before.tasks.join() === tasks.join()) out[out.length - 1] = { ...before, to };
    else out.push({ kind: "shared", instrument, there, from, to, tasks });
  }
  return out;
}

/** The next thing to be done by hand at a minute: a task to start, or one that should have ended. */
export interface NextAct {
  readonly act: "start" | "finish";
  readonly task: DayTask;
  readonly at: number;
}

/** What comes next: first what is overdue, then whatever is planned to begin or to end first. */
export function nextAct(day: Day, now: number): NextAct | null {
  const bars = barsOf(day, now);
  const late = bars.find((b) => b.state === "overdue");
  if (late) return { act: "finish", task: late.task, at: late.start + lengthOf(late.task) };
  const acts = bars.flatMap((b): NextAct[] =>
    b.state === "to come"
      ? [{ act: "start", task: b.task, at: b.start }]
      : b.state === "running"
        ? [{ act: "finish", task: b.task, at: b.end }]
        : [],
  );
  return acts.sort((a, b) => a.at - b.at)[0] ?? null;
}

/** Minute at which the last task ends, as things are. */
export const endOfDay = (day: Day, now: number): number => highest([0, ...barsOf(day, now).map((b) => b.end)]);
