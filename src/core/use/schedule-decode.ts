import { assert, ELEMENTS, highest } from "../quantities";
import { lengthOf, type Schedule, type ScheduleQuestion } from "./schedule-question";

const { nth, wholeAt } = ELEMENTS;

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
  const jobs = q.tasks.map((t) => ({
    id: t.id,
    length: lengthOf(t),
    holds: holdsOf(t, names),
    after: (t.after ?? []).map((a) => place.get(a) ?? -1),
    at: t.at,
  }));
  const counts = names.map((n) => q.instruments[n] ?? 0);
  for (const t of q.tasks)
    for (const s of t.steps)
      for (const [n, need] of Object.entries(s.needs))
        assert(need <= (q.instruments[n] ?? 0), `schedule: ${t.id} needs more of ${n} than there are`);
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
 * All of it lies in one piece, `state`, so that it is put by and taken back at once.
 */
class Bench {
  private readonly words: number;
  readonly state: Int32Array;
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
  constructor(readonly day: Compiled) {
    const words = Math.ceil(day.minutes / WORD) + 1;
    this.words = words;
    this.begins = new Int32Array(day.counts.length + 1);
    day.counts.forEach((count, k) => (this.begins[k + 1] = wholeAt(this.begins, k) + words * Math.max(1, count)));
    const [layers, instruments, jobs] = [wholeAt(this.begins, day.counts.length), day.counts.length, day.jobs.length];
    this.state = new Int32Array(layers + instruments + 2 * jobs);
    this.held = this.state.subarray(0, layers);
    this.full = this.state.subarray(layers, layers + instruments);
    this.ends = this.state.subarray(layers + instruments, layers + instruments + jobs).fill(-1);
    this.starts = this.state.subarray(layers + instruments + jobs);
    this.holds = day.jobs.map((j) =>
      Int32Array.from(
        j.holds.flatMap((h) => [
          h.instrument,
          h.need,
          h.from,
          h.to,
          wholeAt(this.begins, h.instrument) + (nth(day.counts, h.instrument) - h.need) * words,
        ]),
      ),
    );
  }
  put(k: number, start: number): void {
    const holds = this.holds[k] as Int32Array;
    for (let n = 0; n < holds.length; n += HOLD) {
      const instrument = wholeAt(holds, n);
      for (let need = wholeAt(holds, n + 1); need > 0; need--)
        this.hold(instrument, start + wholeAt(holds, n + 2), start + wholeAt(holds, n + 3));
      this.full[instrument] = this.firstFree(instrument);
    }
    const end = start + (this.day.jobs[k] as Job).length;
    this.starts[k] = start;
    this.ends[k] = end;
  }
  /** Holds one more of an instrument over a stretch: what a layer has already is carried to the next. */
  private hold(instrument: number, first: number, last: number): void {
    const end = wholeAt(this.begins, instrument + 1);
    for (let w = first >> 5; w << 5 < last; w++) {
      let more = bits(Math.max(0, first - (w << 5)), Math.min(WORD, last - (w << 5)));
      for (let at = wholeAt(this.begins, instrument) + w; at < end && more !== 0; at += this.words) {
        const had = wholeAt(this.held, at);
        this.held[at] = had | more;
        more &= had;
      }
    }
  }
  /** The first minute at which one of an instrument is free. */
  private firstFree(instrument: number): number {
    const top = wholeAt(this.begins, instrument + 1) - this.words;
    for (let w = wholeAt(this.full, instrument) >> 5; w < this.words; w++) {
      const free = ~wholeAt(this.held, top + w);
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
    for (let n = 0; n < holds.length; n += HOLD)
      start = Math.max(start, wholeAt(full, wholeAt(holds, n)) - wholeAt(holds, n + 2));
    for (let n = 0, free = 0; free < holds.length;) {
      const first = start + wholeAt(holds, n + 2);
      const last = Math.min(start + wholeAt(holds, n + 3), most) - 1;
      const layer = wholeAt(holds, n + 4);
      const [low, high] = [first >> 5, last >> 5];
      let there = 0;
      let w = high;
      for (; w >= low; w--) {
        there = wholeAt(held, layer + w);
        if (there === 0) continue;
        if (w === high) there &= -1 >>> (31 - (last & 31));
        if (w === low) there &= -1 << (first & 31);
        if (there !== 0) break;
      }
      if (there === 0) {
        free += HOLD;
        n = n + HOLD < holds.length ? n + HOLD : 0;
      } else {
        start = (w << 5) + WORD - Math.clz32(there) - wholeAt(holds, n + 2);
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

/** Minutes from each task's start to the end of the last that has to come after it. */
function tailsOf(jobs: readonly Job[]): Int32Array {
  const tails = new Int32Array(jobs.length).fill(-1);
  const tail = (k: number): number => {
    if (wholeAt(tails, k) < 0)
      tails[k] =
        (jobs[k] as Job).length +
        highest([0, ...jobs.flatMap((j, n) => (j.at === undefined && j.after.includes(k) ? [tail(n)] : []))]);
    return wholeAt(tails, k);
  };
  jobs.forEach((_, k) => tail(k));
  return tails;
}

const TOO_LATE = { finish: Infinity, sum: Infinity } as const;

/** After how many tasks the state of the bench is put by. */
const STRIDE = 4;

/**
 * Makes plans of one day out of orders of its tasks. An order that begins like the one kept last goes on from where the two part: most of
 * a search's orders differ from the one before in a few places.
 */
export class Decoder {
  private readonly bench: Bench;
  private readonly tails: Int32Array;
  private readonly waiting: Int32Array;
  /** The tasks in the order in which the run before last placed them, and the states on the way; and the same of the last run. */
  private readonly kept: Int32Array;
  private readonly placed: Int32Array;
  private readonly keptStates: Int32Array[];
  private readonly placedStates: Int32Array[];
  /** How many states the two have in common. */
  private common = 0;
  /** Tasks without a minute of their own, by place: what an order is an order of. */
  readonly free: readonly number[];
  constructor(readonly day: Compiled) {
    this.bench = new Bench(day);
    this.tails = tailsOf(day.jobs);
    day.jobs.forEach((j, k) => j.at !== undefined && this.bench.put(k, j.at));
    this.free = day.jobs.flatMap((j, k) => (j.at === undefined ? [k] : []));
    const n = this.free.length;
    this.waiting = new Int32Array(n);
    this.kept = new Int32Array(n).fill(-1);
    this.placed = new Int32Array(n);
    const states = (): Int32Array[] =>
      Array.from({ length: Math.floor(n / STRIDE) + 1 }, () => this.bench.state.slice());
    this.keptStates = states();
    this.placedStates = states();
  }
  /**
   * The free tasks in an order, each as soon as it fits with those before it; one whose `after` is still to come waits for its turn.
   * Tasks with a minute of their own begin then, even where they are in each other's way. Gives the end of the last task and the sum of all
   * ends, minutes; Infinity as soon as it is sure that a task will end later than `most`.
   */
  run(order: readonly number[], most = Infinity): { readonly finish: number; readonly sum: number } {
    const { bench, waiting, day, placed, tails } = this;
    let same = 0;
    while (same < order.length && order[same] === this.kept[same]) same++;
    this.common = Math.floor(same / STRIDE);
    let done = this.common * STRIDE;
    bench.state.set(this.keptStates[this.common] as Int32Array);
    placed.set(this.kept.subarray(0, done));
    let count = 0;
    for (let k = done; k < order.length; k++) waiting[count++] = nth(order, k);
    while (count > 0) {
      let turn = 0;
      let ready = -1;
      for (; turn < count && ready < 0; turn++) ready = readyAt(day.jobs[wholeAt(waiting, turn)] as Job, bench.ends);
      assert(ready >= 0, "schedule: tasks wait for each other in a ring");
      const k = wholeAt(waiting, turn - 1);
      waiting.copyWithin(turn - 1, turn, count--);
      bench.put(k, bench.fit(k, ready));
      if (wholeAt(bench.starts, k) + wholeAt(tails, k) > most) return TOO_LATE;
      placed[done++] = k;
      if (done % STRIDE === 0) (this.placedStates[done / STRIDE] as Int32Array).set(bench.state);
    }
    let [finish, sum] = [0, 0];
    for (const end of bench.ends) {
      if (end > finish) finish = end;
      sum += end;
    }
    return finish > most ? TOO_LATE : { finish, sum };
  }
  /** Keeps the order in which the last run, if it came to its end, placed the tasks: later ones are compared with it. Gives that order, which makes the same plan. */
  keep(): number[] {
    const { keptStates, placedStates, kept, placed } = this;
    for (let k = this.common + 1; k < keptStates.length; k++)
      [keptStates[k], placedStates[k]] = [placedStates[k] as Int32Array, keptStates[k] as Int32Array];
    kept.set(placed);
    this.common = keptStates.length - 1;
    return [...kept];
  }
  /** The plan of an order. */
  plan(order: readonly number[]): Schedule {
    const { finish } = this.run(order);
    return {
      starts: Object.fromEntries(this.day.jobs.map((j, k) => [j.id, this.bench.starts[k] ?? 0])),
      finish,
      proved: false,
    };
  }
}
