import { quickselect } from "d3-array";
import { ELEMENTS, highest, lowest } from "../quantities";
import type { Random } from "../simulator/random";
import { readyAt, tailsOf, Minutes, type Compiled, type Job } from "./schedule-minutes";

const { nth, wholeAt } = ELEMENTS;

/** Beginnings of a day that are kept at each step. */
export const WIDTH = 80;
/** Of so many times as many choices, the best ones, plans that were come to twice are left out. */
const LOOKED_AT = 3;
/** What weighs beside the end that a beginning makes certain: a minute of the pacing instrument that was left unused. */
const UNUSED = 0.5;
/** And how near the other instruments come to being the tightest: weight, and the share of the day's end from which on it counts. */
const NEARNESS = 100;
const NEAR = 0.8;
/** Minutes, at most, that are added by chance, so that each search keeps other beginnings. */
const CHANCE = 3;

/** The tasks placed so far and their minutes. */
interface Beginning {
  readonly state: Int32Array;
  readonly placed: readonly number[];
  readonly left: readonly number[];
  /** Minute up to which the pacing instrument is given out. */
  readonly front: number;
}

interface Span {
  readonly need: number;
  readonly from: number;
  readonly to: number;
}

/** A beginning with one task more. */
interface Choice {
  readonly of: Beginning;
  readonly task: number;
  readonly start: number;
  readonly front: number;
  readonly score: number;
}

/** The best so many of choices, the best first. */
function bestOf(choices: readonly Choice[], most: number): Choice[] {
  const scores = Float64Array.from(choices, (c) => c.score);
  const last = scores.length > most ? (quickselect(scores, most)[most] ?? Infinity) : Infinity;
  return choices.filter((c) => c.score <= last).sort((a, b) => a.score - b.score);
}

/**
 * Orders of a day by beam search (Ow and Morton, International Journal of Production Research 26, 1988): of all beginnings of a day that
 * have so many tasks placed, the most promising are kept and each goes on with every task that may come next. A beginning promises as much
 * as the minute before which it can't end: what each instrument has left unused up to now and has still to do, and the longest chain to come.
 */
export class Beam {
  private readonly minutes: Minutes;
  private readonly empty: Int32Array;
  private readonly tails: Int32Array;
  /** The tasks to place, those with most behind them first. */
  private readonly free: readonly number[];
  /** By instrument, minutes that it has to do, shared by how many there are. */
  private readonly loads: readonly number[];
  /** The instrument that most tasks hold, of several the one with most to do: the day is given out along it. */
  private readonly pacing: number;
  /**
   * By task, minutes from its start to the end of its first hold of the pacing instrument, what of the instrument's time that hold takes,
   * and what comes behind it: the rest of the task and the longest chain of those that wait for it.
   */
  private readonly leads: readonly number[];
  private readonly works: readonly number[];
  private readonly behinds: readonly number[];
  /** By place among the tasks that are left: minutes that the pacing instrument and what comes behind it take from there on, at least. */
  private readonly rest: Float64Array;
  private readonly counts: readonly number[];
  /** By task and instrument, when it is held; minutes from the task's start. */
  private readonly spans: readonly (readonly (readonly Span[])[])[];
  /** By instrument, minutes held before the front of the beginning that is being continued. */
  private readonly used: number[];
  /** The most that an instrument has to do, minutes, at least 1; and from where on others come near it. */
  private readonly heaviest: number;
  private readonly nearly: number;
  /** States that are in use no longer, to be written over. */
  private readonly spare: Int32Array[] = [];
  /** Places tried in the last search. */
  tried = 0;
  constructor(
    private readonly day: Compiled,
    private readonly random: Random,
    private readonly width = WIDTH,
  ) {
    this.minutes = new Minutes(day);
    this.empty = this.minutes.state.slice();
    this.tails = tailsOf(day.jobs);
    const holds = day.jobs.flatMap((j) => j.holds);
    this.loads = day.counts.map(
      (count, i) =>
        holds.reduce((m, h) => (h.instrument === i ? m + h.need * (h.to - h.from) : m), 0) / Math.max(1, count),
    );
    const users = day.counts.map((_, i) => day.jobs.filter((j) => j.holds.some((h) => h.instrument === i)).length);
    const pace = users.map((n, i) => n + (this.loads[i] ?? 0) / (1 + day.minutes));
    this.pacing = pace.indexOf(highest([0, ...pace]));
    this.counts = day.counts.map((count) => Math.max(1, count));
    this.used = day.counts.map(() => 0);
    this.spans = day.jobs.map((j) => day.counts.map((_, i) => j.holds.filter((h) => h.instrument === i)));
    this.heaviest = highest([1, ...this.loads]);
    this.nearly = NEAR * this.heaviest;
    const paced = day.jobs.map((j) => j.holds.find((h) => h.instrument === this.pacing));
    this.leads = paced.map((h) => h?.to ?? 0);
    this.works = paced.map((h) => (h ? (h.need * (h.to - h.from)) / nth(this.counts, this.pacing) : 0));
    this.behinds = this.leads.map((lead, k) => wholeAt(this.tails, k) - lead);
    this.free = day.jobs
      .flatMap((j, k) => (j.at === undefined ? [k] : []))
      .sort((a, b) => nth(this.behinds, b) - nth(this.behinds, a));
    this.rest = new Float64Array(this.free.length + 1);
  }
  /**
   * One search, among the orders that begin with `first`: the tasks in the order in which they were placed; null where it was over before it
   * came to an end.
   */
  order(over: () => boolean, first: readonly number[] = []): readonly number[] | null {
    this.tried = 0;
    let beginnings: readonly Beginning[] = [this.beginning(first)];
    for (let n = first.length; n < this.free.length; n++) {
      if (over()) return null;
      const choices: Choice[] = [];
      for (const b of beginnings) this.choices(b, choices);
      const next = this.promising(choices);
      for (const b of beginnings) if (b.state !== this.empty) this.spare.push(b.state);
      beginnings = next;
    }
    const ends = beginnings.map((b) => this.at(b).ends.reduce((last, end) => Math.max(last, end), 0));
    return beginnings[ends.indexOf(lowest(ends))]?.placed ?? null;
  }
  /** An order's first tasks, each where it fits first. */
  private beginning(first: readonly number[]): Beginning {
    const { minutes, day, empty, free } = this;
    if (first.length === 0) return { state: empty, placed: [], left: free, front: 0 };
    minutes.state.set(empty);
    let front = 0;
    for (const task of first) {
      const start = minutes.fit(task, Math.max(0, readyAt(day.jobs[task] as Job, minutes.ends)));
      minutes.put(task, start);
      front = this.frontAfter(front, task, start);
    }
    return { state: this.keptState(), placed: first, left: free.filter((k) => !first.includes(k)), front };
  }
  private frontAfter(front: number, task: number, start: number): number {
    const lead = nth(this.leads, task);
    return lead > 0 ? Math.max(front, start + lead) : front;
  }
  private keptState(): Int32Array {
    const state = this.spare.pop() ?? new Int32Array(this.empty.length);
    state.set(this.minutes.state);
    return state;
  }
  private at(b: Beginning): Minutes {
    this.minutes.state.set(b.state);
    return this.minutes;
  }
  /**
   * What is left can't be over before the pacing instrument has done all that has most behind it, and then what is behind the last of it
   * (Jackson's bound for one machine and tails, 1955).
   */
  private sumRest(left: readonly number[]): void {
    const { rest } = this;
    let work = 0;
    left.forEach((k, place) => (rest[place] = (work += nth(this.works, k)) + nth(this.behinds, k)));
    rest[left.length] = 0;
    for (let place = left.length - 1; place > 0; place--)
      if (nth(rest, place) > nth(rest, place - 1)) rest[place - 1] = nth(rest, place);
  }
  /** Every task that may come next, as early as it fits, added to `into`. */
  private choices(of: Beginning, into: Choice[]): void {
    const minutes = this.at(of);
    this.loads.forEach((_, i) => (this.used[i] = minutes.heldBetween(i, 0, of.front)));
    const { left } = of;
    this.sumRest(left);
    let [most, work] = [0, 0];
    for (let place = 0; place < left.length; place++) {
      const task = nth(left, place);
      const [own, earlier] = [nth(this.works, task), most];
      work += own;
      most = Math.max(most, work + nth(this.behinds, task));
      const ready = readyAt(this.day.jobs[task] as Job, minutes.ends);
      if (ready < 0) continue;
      this.tried++;
      const start = minutes.fit(task, ready);
      const front = this.frontAfter(of.front, task, start);
      const chain = Math.max(
        start + wholeAt(this.tails, task),
        front + Math.max(earlier, nth(this.rest, place + 1) - own),
      );
      into.push({ of, task, start, front, score: this.score(of.front, task, start, front, chain) });
    }
  }
  /** Minutes: the smaller, the more a beginning promises. */
  private score(was: number, task: number, start: number, front: number, chain: number): number {
    const { minutes, loads, used, pacing } = this;
    const spans = this.spans[task] as readonly (readonly Span[])[];
    let end = chain;
    let [near, unused] = [0, 0];
    for (let i = 0; i < loads.length; i++) {
      let held = nth(used, i);
      if (front > was) held += minutes.heldBetween(i, was, front);
      for (const h of spans[i] as readonly Span[])
        if (start + h.from < front) held += h.need * (Math.min(front, start + h.to) - (start + h.from));
      const idle = front - held / nth(this.counts, i);
      const least = idle + nth(loads, i);
      if (least > end) end = least;
      if (least > this.nearly) near += (least / this.heaviest - NEAR) ** 2;
      if (i === pacing) unused = idle;
    }
    return end + UNUSED * unused + NEARNESS * near + CHANCE * this.random.uniform();
  }
  /** The best of many choices, each plan once however it was come to. */
  private promising(choices: Choice[]): Beginning[] {
    const plans = new Set<number>();
    const out: Beginning[] = [];
    for (const { of, task, start, front } of bestOf(choices, LOOKED_AT * this.width)) {
      if (out.length === this.width) break;
      const minutes = this.at(of);
      minutes.put(task, start);
      const plan = minutes.fingerprint();
      if (plans.has(plan)) continue;
      plans.add(plan);
      out.push({
        state: this.keptState(),
        placed: [...of.placed, task],
        left: of.left.filter((k) => k !== task),
        front,
      });
    }
    return out;
  }
}
