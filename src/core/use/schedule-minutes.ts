import { assert, ELEMENTS, highest } from "../quantities";
import { lengthOf, type ScheduleQuestion } from "./schedule-question";

const { nth, wholeAt } = ELEMENTS;

/** One instrument held from one minute of a task to another. */
interface Hold {
  readonly instrument: number;
  readonly need: number;
  readonly from: number;
  readonly to: number;
}

export interface Job {
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

/** How many bits of a word are set. */
function bitsSet(word: number): number {
  const pairs = word - ((word >>> 1) & 0x55555555);
  const fours = (pairs & 0x33333333) + ((pairs >>> 2) & 0x33333333);
  return Math.imul((fours + (fours >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

/**
 * Lengths, minutes, for which it is kept from where on a stretch so long may be free: a hold looks only from there, by the longest of them
 * that is no longer than itself. Each is about a third more than the one before.
 */
const LENGTHS = [1, 2, 3, 4, 6, 8, 11, 16, 22, 32, 45, 64, 90, 128, 256, 512] as const;
const lengthClass = (minutes: number): number =>
  Math.max(
    0,
    LENGTHS.findLastIndex((l) => l <= minutes),
  );

/** Numbers of a hold as they lie one after another. */
const HOLD = 7;
const INSTRUMENT = 0;
const NEED = 1;
const FROM = 2;
const TO = 3;
/** Where the layer lies that must be free. */
const LAYER = 4;
/** Where the first minute lies at which a stretch of its class may be free. */
const CLASS = 5;
/** Minutes of that class. */
const SHORTER = 6;

/**
 * The minutes of one day and who holds what in them: working memory for trying many orders, so that none of them has to make its own. How
 * many of an instrument are held in a minute is kept in unary: layer k has the minute's bit where more than k are held, so that a stretch is
 * looked at 32 minutes at a time. All of it lies in one piece, `state`, so that it is put by and taken back at once.
 */
export class Minutes {
  private readonly words: number;
  readonly state: Int32Array;
  /** All layers of all instruments. */
  private readonly held: Int32Array;
  /** Where the layers of each instrument begin, and where the last of them end. */
  private readonly begins: Int32Array;
  /** The holds of each job, flat. */
  private readonly holds: readonly Int32Array[];
  /** By instrument, number needed and class of length: minutes before which no such stretch is free. Within one state they only grow. */
  private readonly firsts: Int32Array;
  readonly ends: Int32Array;
  readonly starts: Int32Array;
  constructor(readonly day: Compiled) {
    const words = Math.ceil(day.minutes / WORD) + 1;
    this.words = words;
    this.begins = new Int32Array(day.counts.length + 1);
    day.counts.forEach((count, k) => (this.begins[k + 1] = wholeAt(this.begins, k) + words * Math.max(1, count)));
    const wants = [...new Set(day.jobs.flatMap((j) => j.holds.map((h) => `${h.instrument} ${h.need}`)))];
    const [layers, firsts, jobs] = [
      wholeAt(this.begins, day.counts.length),
      wants.length * LENGTHS.length,
      day.jobs.length,
    ];
    this.state = new Int32Array(layers + firsts + 2 * jobs);
    this.held = this.state.subarray(0, layers);
    this.firsts = this.state.subarray(layers, layers + firsts);
    this.ends = this.state.subarray(layers + firsts, layers + firsts + jobs).fill(-1);
    this.starts = this.state.subarray(layers + firsts + jobs);
    this.holds = day.jobs.map((j) =>
      Int32Array.from(
        j.holds.flatMap((h) => {
          const length = lengthClass(h.to - h.from);
          return [
            h.instrument,
            h.need,
            h.from,
            h.to,
            wholeAt(this.begins, h.instrument) + (nth(day.counts, h.instrument) - h.need) * words,
            wants.indexOf(`${h.instrument} ${h.need}`) * LENGTHS.length + length,
            nth(LENGTHS, length),
          ];
        }),
      ),
    );
    day.jobs.forEach((j, k) => j.at !== undefined && this.put(k, j.at));
  }
  put(k: number, start: number): void {
    const holds = this.holds[k] as Int32Array;
    for (let n = 0; n < holds.length; n += HOLD)
      for (let need = wholeAt(holds, n + NEED); need > 0; need--)
        this.hold(wholeAt(holds, n + INSTRUMENT), start + wholeAt(holds, n + FROM), start + wholeAt(holds, n + TO));
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
  /** A number that tells plans of the same tasks at the same minutes from others: two that differ have the same about once in 2⁵² times. */
  fingerprint(): number {
    let [a, b] = [0x811c9dc5, 0x2545f491];
    for (const end of this.ends) {
      a = Math.imul(a ^ end, 0x01000193);
      b = Math.imul(b + end, 0x9e3779b1) ^ (b >>> 15);
    }
    return (a >>> 0) * 2 ** 20 + ((b >>> 0) & 0xfffff);
  }
  /** Minutes, added over all pieces of an instrument, that are held from `from` up to, not with, `to`. */
  heldBetween(instrument: number, from: number, to: number): number {
    let sum = 0;
    const end = wholeAt(this.begins, instrument + 1);
    for (let w = from >> 5; w << 5 < to; w++) {
      const part = bits(Math.max(0, from - (w << 5)), Math.min(WORD, to - (w << 5)));
      for (let at = wholeAt(this.begins, instrument) + w; at < end; at += this.words) {
        const held = wholeAt(this.held, at) & part;
        // What a layer does not hold, no layer above it does.
        if (held === 0) break;
        sum += bitsSet(held);
      }
    }
    return sum;
  }
  /** The first minute from `from` on at which a layer is free for so many minutes: past the last one in the way, until none is. */
  private firstFree(layer: number, from: number, length: number): number {
    const { held, words } = this;
    const most = words << 5;
    for (let at = from; ;) {
      const last = Math.min(at + length, most) - 1;
      const low = at >> 5;
      let w = last >> 5;
      let there = wholeAt(held, layer + w) & (-1 >>> (WORD - 1 - (last & 31)));
      while (there === 0 && w > low) there = wholeAt(held, layer + --w);
      if (w === low) there &= -1 << (at & 31);
      if (there === 0) return at;
      at = (w << 5) + WORD - Math.clz32(there);
    }
  }
  /** No earlier than `from` and than the first stretch that each hold's class of length leaves free. */
  private notBefore(holds: Int32Array, from: number): number {
    const { firsts } = this;
    let start = from;
    for (let n = 0; n < holds.length; n += HOLD) {
      const place = wholeAt(holds, n + CLASS);
      const earliest = wholeAt(firsts, place);
      if (start + wholeAt(holds, n + FROM) > earliest) continue;
      const first = this.firstFree(wholeAt(holds, n + LAYER), earliest, wholeAt(holds, n + SHORTER));
      firsts[place] = first;
      // A longer stretch is free no earlier.
      for (let p = place + 1; p % LENGTHS.length !== 0 && wholeAt(firsts, p) < first; p++) firsts[p] = first;
      start = Math.max(start, first - wholeAt(holds, n + FROM));
    }
    return start;
  }
  /** The first minute from `from` on at which a job fits: the start that clears the last minute in the way of one hold after another, until none meets any. */
  fit(k: number, from: number): number {
    const holds = this.holds[k] as Int32Array;
    let start = this.notBefore(holds, from);
    for (let n = 0, free = 0; free < holds.length; free += HOLD) {
      const first = start + wholeAt(holds, n + FROM);
      const clear = this.firstFree(wholeAt(holds, n + LAYER), first, start + wholeAt(holds, n + TO) - first);
      if (clear > first) {
        start += clear - first;
        free = 0;
      }
      n = n + HOLD < holds.length ? n + HOLD : 0;
    }
    return start;
  }
}

/** Whether all that a job waits for is placed (else −1); the minute at which the last of it ends. */
export function readyAt(job: Job, ends: Int32Array): number {
  let at = 0;
  for (const a of job.after) {
    const end = ends[a] ?? 0;
    if (end < 0) return -1;
    if (end > at) at = end;
  }
  return at;
}

/** Minutes from each task's start to the end of the last that has to come after it. */
export function tailsOf(jobs: readonly Job[]): Int32Array {
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
