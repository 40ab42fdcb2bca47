import type { Compute } from "./compute";
import type { BoardRecord, DayRecord, RunRecord } from "@/core/files/records";
import { atBench, type Procedure, type WorkStretch } from "@/core/procedures";
import { progressOf } from "@/core/procedures/order-of-work";
import { runPage } from "@/core/procedures/catalogue";
import { stepsOfWork, type DayTask } from "@/core/use/day";
import { lengthOf } from "@/core/use/schedule-question";
import { boardDossier, type BoardDossier } from "./board-dossier";
import { change, edit, newId, now, type Act } from "@/storage/door";
import { drawer, dueOn, type DrawerCell } from "./drawer";
import { orderOf, stepRuns } from "./order";
import { preparedRun } from "./prepare";
import { boards, ofKind, runsOf } from "@/storage/queries";

/** A step of a board that is due, and what it takes. */
export interface DueStep {
  readonly board: BoardRecord;
  readonly procedure: Procedure;
  readonly sampleId: string;
  readonly work: readonly WorkStretch[];
}

/** What could be done on a day: steps of boards in their order of work, cells that are to be read. */
export interface DueWork {
  readonly steps: readonly DueStep[];
  readonly cells: readonly DrawerCell[];
  /** How many there are of each instrument that only one run can hold at a time. */
  readonly instruments: Readonly<Record<string, number>>;
}

/** What a step takes: from its plan where one can be made, else what it usually takes. */
async function workOf(d: BoardDossier, p: Procedure): Promise<readonly WorkStretch[]> {
  const bench = atBench(p);
  const [sample] = d.samples;
  if (!bench?.workFor || !sample) return p.work;
  try {
    const run = await preparedRun(bench, d, sample);
    return bench.workFor(run.setup) ?? p.work;
  } catch {
    // It can't be planned yet: what it usually takes is said.
    return p.work;
  }
}

/** Everything that is due in a notebook at a moment (ms since 1970). */
export async function dueWork(compute: Compute, notebookId: string, at: number): Promise<DueWork> {
  const steps: DueStep[] = [];
  for (const board of await boards(notebookId)) {
    const d = await boardDossier(compute, board.id);
    const [sample] = d?.samples ?? [];
    if (!d || !sample) continue;
    const runs = stepRuns(d);
    for (const procedure of orderOf(d).asked)
      if (progressOf(procedure.id, runs).state !== "done" && atBench(procedure))
        steps.push({ board, procedure, sampleId: sample.id, work: await workOf(d, procedure) });
  }
  const { cells } = await drawer(compute, notebookId);
  const instruments = await ofKind(notebookId, "instrument");
  const many = (device: string): number => Math.max(1, instruments.filter((i) => i.device === device).length);
  return {
    steps,
    cells: dueOn(cells, at),
    instruments: { hands: 1, supply: many("supply"), load: many("load"), logger: many("logger") },
  };
}

/** Minutes to lay out the cells, and for each of them. */
const LAYING_OUT = 3;

/** The tasks of chosen work: a board's steps one after another, all cells in one go. */
export function tasksOf(steps: readonly DueStep[], cells: readonly DrawerCell[]): DayTask[] {
  const out: DayTask[] = [];
  for (const { board, procedure, sampleId, work } of steps) {
    const before = out.findLast((t) => t.about.boardId === board.id);
    out.push({
      id: newId(),
      title: `${procedure.title}, ${board.title}`,
      about: { boardId: board.id, sampleId, procedure: procedure.id },
      steps: stepsOfWork(work),
      after: before ? [before.id] : [],
    });
  }
  if (cells.length)
    out.push({
      id: newId(),
      title: cells.length === 1 ? `Read ${cells[0]?.cell.title}` : `Read ${cells.length} cells`,
      about: cells.length === 1 && cells[0] ? { cellId: cells[0].cell.id } : {},
      steps: [{ minutes: LAYING_OUT + cells.length, needs: { hands: 1 } }],
      after: [],
    });
  return out;
}

/** Stores a day. */
export async function addDay(day: Omit<DayRecord, "kind" | "id" | "createdAt" | "updatedAt">): Promise<DayRecord> {
  const at = now();
  const record: DayRecord = { kind: "day", id: newId(), createdAt: at, updatedAt: at, ...day };
  await change(`plan ${day.date}`, [record]);
  return record;
}

/** Stores a day as it stands now. */
export const saveDay = (label: string, from: DayRecord, to: DayRecord): Promise<Act | null> =>
  change(label, [edit(from, to)]);

/** Minutes of a moment (ISO UTC) since a day's beginning, by the clock on the wall. */
export function minuteOf(day: Pick<DayRecord, "date" | "begins">, moment: string | number): number {
  return Math.round((new Date(moment).getTime() - startOf(day)) / 60_000);
}

/** ms since 1970 at which a day begins. */
export const startOf = (day: Pick<DayRecord, "date" | "begins">): number =>
  new Date(`${day.date}T00:00:00`).getTime() + day.begins * 60_000;

/** The newest run of a task that was begun on its day; one that another task has already is not it. */
function runFor(task: DayTask, day: DayRecord, runs: readonly RunRecord[]): RunRecord | undefined {
  const taken = new Set(day.tasks.filter((t) => t.id !== task.id).map((t) => t.about.runId));
  return runs.find(
    (r) =>
      r.boardId === task.about.boardId &&
      r.procedure === task.about.procedure &&
      !taken.has(r.id) &&
      (task.about.runId ? r.id === task.about.runId : Date.parse(r.startUtc) >= startOf(day) - 5 * 60_000),
  );
}

/** A day with what its runs say: a run that began starts its task, one that is finished ends it. The same object where nothing is new. */
export async function dayAsItWent(day: DayRecord): Promise<DayRecord> {
  const runs = (await runsOf(day.notebookId))
    .filter((r) => r.state !== "prepared")
    .sort((a, b) => a.startUtc.localeCompare(b.startUtc));
  let changed = false;
  const tasks = day.tasks.map((t): DayTask => {
    if (!t.about.procedure || t.ended !== undefined) return t;
    const run = runFor(t, day, runs);
    if (!run) return t;
    const started = t.started ?? Math.max(0, minuteOf(day, run.startUtc));
    const ended = run.state === "finished" ? Math.max(started, minuteOf(day, run.updatedAt)) : undefined;
    if (t.about.runId === run.id && t.started === started && ended === undefined) return t;
    changed = true;
    return {
      ...t,
      about: { ...t.about, runId: run.id },
      started,
      ...(ended === undefined
        ? {}
        : { ended, ...(ended - started < 0.5 * lengthOf(t) ? { note: "over sooner than planned" } : {}) }),
    };
  });
  return changed ? { ...day, tasks } : day;
}

/** Where a task is done. */
export function placeOf({ about }: DayTask, runs: ReadonlyMap<string, RunRecord>): string | null {
  const run = about.runId ? runs.get(about.runId) : undefined;
  if (run) return `/run/${run.id}/${runPage(run.procedure, run.state)}`;
  if (about.boardId) return `/board/${about.boardId}#${about.procedure ?? ""}`;
  return about.cellId ? `/cells/${about.cellId}` : "/cells#read";
}
