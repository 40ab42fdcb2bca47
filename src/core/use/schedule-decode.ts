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

/** Working memory for trying many orders of one day, so that none of them has to make its own. */
class Bench {
  /** How many of each instrument are held, minute by minute. */
  readonly busy: readonly Int16Array[];
  /** Minutes before which nothing of an instrument is free. */
  readonly full: Int32Array;
  readonly ends: Int32Array;
  readonly starts: Int32Array;
  /** Minutes that were used since it was cleared. */
  private used = 0;
  constructor(readonly day: Compiled) {
    this.busy = day.counts.map(() => new Int16Array(day.minutes));
    this.full = new Int32Array(day.counts.length);
    this.ends = new Int32Array(day.jobs.length);
    this.starts = new Int32Array(day.jobs.length);
  }
  clear(): void {
    for (const row of this.busy) row.fill(0, 0, this.used);
    this.full.fill(0);
    this.ends.fill(-1);
    this.used = 0;
  }
  put(k: number, start: number): void {
    const job = this.day.jobs[k] as Job;
    for (const h of job.holds) {
      const row = this.busy[h.instrument] as Int16Array;
      const count = this.day.counts[h.instrument] as number;
      for (let m = start + h.from; m < start + h.to; m++) row[m] = (row[m] as number) + h.need;
      let full = this.full[h.instrument] as number;
      while (full < row.length && (row[full] as number) >= count) full++;
      this.full[h.instrument] = full;
    }
    this.starts[k] = start;
    this.ends[k] = start + job.length;
    if (start + job.length > this.used) this.used = start + job.length;
  }
  /** The first minute from `start` on at which a job fits: the start that clears the last minute in the way of the first hold that meets one, until none does. */
  fit(job: Job, from: number): number {
    let start = from;
    for (const h of job.holds) start = Math.max(start, (this.full[h.instrument] as number) - h.from);
    for (let k = 0; k < job.holds.length; ) {
      const h = job.holds[k] as Hold;
      const row = this.busy[h.instrument] as Int16Array;
      const room = (this.day.counts[h.instrument] as number) - h.need;
      const first = start + h.from;
      let m = Math.min(start + h.to, row.length) - 1;
      while (m >= first && (row[m] as number) <= room) m--;
      if (m < first) k++;
      else {
        start = m + 1 - h.from;
        k = 0;
      }
    }
    return start;
  }
}

/** Whether all that a job waits for is placed; the minute at which the last of it ends. */
function readyAt(job: Job, ends: Int32Array): number {
  let at = 0;
  for (const a of job.after) {
    const end = ends[a] ?? 0;
    if (end < 0) return -1;
    if (end > at) at = end;
  }
  return at;
}

/** Makes plans of one day out of orders of its tasks. */
export class Decoder {
  private readonly bench: Bench;
  private readonly waiting: Int32Array;
  constructor(readonly day: Compiled) {
    this.bench = new Bench(day);
    this.waiting = new Int32Array(day.jobs.length);
  }
  /**
   * The tasks (by place) in an order, each as soon as it fits with those before it; one whose `after` is still to come waits for its turn.
   * Tasks with a minute of their own begin then, even where they are in each other's way. Gives the end of the last task and the sum of all
   * ends, minutes; Infinity as soon as a task ends later than `most`.
   */
  run(order: readonly number[], most = Infinity): { readonly finish: number; readonly sum: number } {
    const { bench, waiting, day } = this;
    bench.clear();
    for (let k = 0; k < day.jobs.length; k++) {
      const at = day.jobs[k]?.at;
      if (at !== undefined) bench.put(k, at);
    }
    let count = 0;
    for (const k of order) if (day.jobs[k]?.at === undefined) waiting[count++] = k;
    while (count > 0) {
      let turn = 0;
      let ready = -1;
      for (; turn < count && ready < 0; turn++) ready = readyAt(day.jobs[waiting[turn] as number] as Job, bench.ends);
      assert(ready >= 0, "schedule: tasks wait for each other in a ring");
      const k = waiting[turn - 1] as number;
      waiting.copyWithin(turn - 1, turn, count--);
      bench.put(k, bench.fit(day.jobs[k] as Job, ready));
      if ((bench.ends[k] as number) > most) return { finish: Infinity, sum: Infinity };
    }
    let [finish, sum] = [0, 0];
    for (const end of bench.ends) {
      if (end > finish) finish = end;
      sum += end;
    }
    return { finish, sum };
  }
  /** The plan of an order. */
  plan(order: readonly number[]): Schedule {
    const { finish } = this.run(order);
    return { starts: Object.fromEntries(this.day.jobs.map((j, k) => [j.id, this.bench.starts[k] ?? 0])), finish, proved: false };
  }
}
