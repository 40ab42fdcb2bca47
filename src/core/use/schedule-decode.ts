import { assert, highest } from "../quantities";
import { lengthOf, type Schedule, type ScheduleQuestion } from "./schedule-question";

/** One instrument held from one minute of a task to another. */
interface Hold {
  readonly instrument: number;
  readonly need: number;
  readonly from: number;
  readonly to: number;
}

interface Job {
  readonly id: string;
  readonly length: number;
  readonly holds: readonly Hold[];
  readonly after: readonly number[];
  readonly at: number | undefined;
}

/** A day with its names replaced by places, for trying many orders. */
export interface Compiled {
  readonly jobs: readonly Job[];
  /** How many there are of each instrument. */
  readonly counts: readonly number[];
  /** Minutes of all tasks one after another, behind the last one that begins at a minute of its own. */
  readonly minutes: number;
}

/** Steps in a row that hold the same are one hold. */
function holdsOf(task: ScheduleQuestion["tasks"][number], names: readonly string[]): Hold[] {
  return names.flatMap((name, instrument) => {
    const out: Hold[] = [];
    let at = 0;
    for (const s of task.steps) {
      const need = s.needs[name] ?? 0;
      const last = out.at(-1);
      if (need > 0 && last?.to === at && last.need === need) out[out.length - 1] = { ...last, to: at + s.minutes };
      else if (need > 0) out.push({ instrument, need, from: at, to: at + s.minutes });
      at += s.minutes;
    }
    return out;
  });
}

export function compile(q: ScheduleQuestion): Compiled {
  const names = Object.keys(q.instruments);
  const place = new Map(q.tasks.map((t, k) => [t.id, k]));
  const jobs = q.tasks.map((t) => ({ id: t.id, length: lengthOf(t), holds: holdsOf(t, names), after: (t.after ?? []).map((a) => place.get(a) ?? -1), at: t.at }));
  const counts = names.map((n) => q.instruments[n] ?? 0);
  for (const t of q.tasks) for (const s of t.steps) for (const [n, need] of Object.entries(s.needs)) assert(need <= (q.instruments[n] ?? 0), `schedule: ${t.id} needs more of ${n} than there are`);
  return { jobs, counts, minutes: jobs.reduce((m, j) => m + j.length, highest([0, ...jobs.map((j) => j.at ?? 0)])) };
}

/** Null where a job fits at a start; else the start that clears the last minute in the way of the first hold that meets one. */
function blocked(holds: readonly Hold[], start: number, busy: readonly Int16Array[], counts: readonly number[]): number | null {
  for (const h of holds) {
    const row = busy[h.instrument] as Int16Array;
    const room = (counts[h.instrument] as number) - h.need;
    for (let m = Math.min(start + h.to, row.length) - 1; m >= start + h.from; m--) if ((row[m] as number) > room) return m + 1 - h.from;
  }
  return null;
}

/**
 * The tasks (by place) in an order, each as soon as it fits with those before it; one whose `after` is still to come waits for its turn.
 * Tasks with a minute of their own begin then, even where they are in each other's way.
 */
export function decode(day: Compiled, order: readonly number[]): Schedule {
  const busy = day.counts.map(() => new Int16Array(day.minutes));
  const ends = new Int32Array(day.jobs.length).fill(-1);
  const starts: Record<string, number> = {};
  const put = (k: number, job: Job, start: number): void => {
    for (const h of job.holds) {
      const row = busy[h.instrument] as Int16Array;
      for (let m = start + h.from; m < start + h.to; m++) row[m] = (row[m] as number) + h.need;
    }
    starts[job.id] = start;
    ends[k] = start + job.length;
  };
  for (const [k, job] of day.jobs.entries()) if (job.at !== undefined) put(k, job, job.at);
  const waiting = order.filter((k) => day.jobs[k]?.at === undefined);
  while (waiting.length > 0) {
    const turn = waiting.findIndex((k) => day.jobs[k]?.after.every((a) => (ends[a] ?? 0) >= 0));
    const [k] = turn < 0 ? [] : waiting.splice(turn, 1);
    const job = k === undefined ? undefined : day.jobs[k];
    assert(job && k !== undefined, "schedule: tasks wait for each other in a ring");
    let start = highest([0, ...job.after.map((a) => ends[a] ?? 0)]);
    for (let later = blocked(job.holds, start, busy, day.counts); later !== null; later = blocked(job.holds, start, busy, day.counts)) start = later;
    put(k, job, start);
  }
  return { starts, finish: highest([0, ...ends]), proved: false };
}
