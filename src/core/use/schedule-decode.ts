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

/** Bits of a word. */
const WORD = 32;

/** The bits of a word from `from` up to, not with, `to`; both within the word, `from` below `to`. */
const bits = (from: number, to: number): number => (-1 << from) & (-1 >>> (WORD - to));

/** Numbers of a hold as they lie one after another: its instrument, how many, from, to, and where the layer lies that must be free. */
const HOLD = 5;

/**
 * Working memory for trying many orders of one day, so that none of them has to make its own. How many of an instrument are held in a
 * minute is kept in unary: layer k has the minute's bit where more than k are held, so that a stretch is looked at 32 minutes at a time.
 */
class Bench {
  private readonly words: number;
  /** All layers of all instruments. */
  private readonly held: Int32Array;
  /** Where the layers of each instrument begin, and where the last of them end. */
  private readonly begins: Int32Array;
  /** The holds of each job, flat. */
  private readonly holds: readonly Int32Array[];
  /** Minutes before which nothing of an instrument is free. */
  private readonly full: Int32Array;
  readonly ends: Int32Array;
  readonly starts: Int32Array;
  /** Words that were used since it was cleared. */
  private used = 0;
  constructor(readonly day: Compiled) {
    const words = Math.ceil(day.minutes / WORD) + 1;
    this.words = words;
    this.begins = new Int32Array(day.counts.length + 1);
    day.counts.forEach((count, k) => (this.begins[k + 1] = (this.begins[k] as number) + words * Math.max(1, count)));
    this.held = new Int32Array(this.begins[day.counts.length] as number);
    this.holds = day.jobs.map((j) => Int32Array.from(j.holds.flatMap((h) => [h.instrument, h.need, h.from, h.to, (this.begins[h.instrument] as number) + ((day.counts[h.instrument] as number) - h.need) * words])));
    this.full = new Int32Array(day.counts.length);
    this.ends = new Int32Array(day.jobs.length);
    this.starts = new Int32Array(day.jobs.length);
  }
  clear(): void {
    for (let at = 0; at < this.held.length; at += this.words) this.held.fill(0, at, at + this.used);
    this.full.fill(0);
    this.ends.fill(-1);
    this.used = 0;
  }
  put(k: number, start: number): void {
    const holds = this.holds[k] as Int32Array;
    for (let n = 0; n < holds.length; n += HOLD) {
      const instrument = holds[n] as number;
      for (let need = holds[n + 1] as number; need > 0; need--) this.hold(instrument, start + (holds[n + 2] as number), start + (holds[n + 3] as number));
      this.full[instrument] = this.firstFree(instrument);
    }
    const end = start + (this.day.jobs[k] as Job).length;
    this.starts[k] = start;
    this.ends[k] = end;
    this.used = Math.max(this.used, Math.min(this.words, Math.ceil(end / WORD)));
  }
  /** Holds one more of an instrument over a stretch: what a layer has already is carried to the next. */
  private hold(instrument: number, first: number, last: number): void {
    const end = this.begins[instrument + 1] as number;
    for (let w = first >> 5; w << 5 < last; w++) {
      let more = bits(Math.max(0, first - (w << 5)), Math.min(WORD, last - (w << 5)));
      for (let at = (this.begins[instrument] as number) + w; at < end && more !== 0; at += this.words) {
        const had = this.held[at] as number;
        this.held[at] = had | more;
        more &= had;
      }
    }
  }
  /** The first minute at which one of an instrument is free. */
  private firstFree(instrument: number): number {
    const top = (this.begins[instrument + 1] as number) - this.words;
    for (let w = (this.full[instrument] as number) >> 5; w < this.words; w++) {
      const free = ~(this.held[top + w] as number);
      if (free !== 0) return (w << 5) + (WORD - 1 - Math.clz32(free & -free));
    }
    return this.words << 5;
  }
  /** The first minute from `from` on at which a job fits: the start that clears the last minute in the way of one hold after another, until none meets any. */
  fit(k: number, from: number): number {
    const { held, full } = this;
    const holds = this.holds[k] as Int32Array;
    const most = this.words << 5;
    let start = from;
    for (let n = 0; n < holds.length; n += HOLD) start = Math.max(start, (full[holds[n] as number] as number) - (holds[n + 2] as number));
    for (let n = 0, free = 0; free < holds.length; ) {
      const first = start + (holds[n + 2] as number);
      const last = Math.min(start + (holds[n + 3] as number), most) - 1;
      const layer = holds[n + 4] as number;
      const [low, high] = [first >> 5, last >> 5];
      let there = 0;
      let w = high;
      for (; w >= low; w--) {
        there = held[layer + w] as number;
        if (there === 0) continue;
        if (w === high) there &= -1 >>> (31 - (last & 31));
        if (w === low) there &= -1 << (first & 31);
        if (there !== 0) break;
      }
      if (there === 0) {
        free += HOLD;
        n = n + HOLD < holds.length ? n + HOLD : 0;
      } else {
        start = (w << 5) + WORD - Math.clz32(there) - (holds[n + 2] as number);
        free = 0;
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
      bench.put(k, bench.fit(k, ready));
      if ((bench.ends[k] as number) > most) return { finish: Infinity, sum: Infinity };
    }
    let [finish, sum] = [0, 0];
    for (const end of bench.ends) {
      if (end > finish) finish = end;
      sum += end;
    }
    return { finish, sum };
  }
  /** The tasks of the plan that was made last, those that end latest first. */
  latestFirst(): number[] {
    const { ends, starts } = this.bench;
    return this.day.jobs.map((_, k) => k).sort((a, b) => (ends[b] as number) - (ends[a] as number) || (starts[b] as number) - (starts[a] as number));
  }
  /** The plan of an order. */
  plan(order: readonly number[]): Schedule {
    const { finish } = this.run(order);
    return { starts: Object.fromEntries(this.day.jobs.map((j, k) => [j.id, this.bench.starts[k] ?? 0])), finish, proved: false };
  }
}
