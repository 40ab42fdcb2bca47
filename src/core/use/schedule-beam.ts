import { highest, lowest } from "../quantities";
import type { Random } from "../simulator/random";
import { readyAt, tailsOf, Minutes, type Compiled, type Job } from "./schedule-minutes";

/** Beginnings of a day that are kept at each step. */
export const WIDTH = 80;
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

/** A beginning with one task more. */
interface Choice {
  readonly of: Beginning;
  readonly task: number;
  readonly start: number;
  readonly front: number;
  readonly score: number;
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
  private readonly free: readonly number[];
  /** By instrument, minutes that it has to do, shared by how many there are. */
  private readonly loads: readonly number[];
  /** The instrument that most tasks hold, of several the one with most to do: the day is given out along it. */
  private readonly pacing: number;
  /** By task, minutes from its start to the end of its first hold of the pacing instrument. */
  private readonly leads: readonly number[];
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
    this.free = day.jobs.flatMap((j, k) => (j.at === undefined ? [k] : []));
    const holds = day.jobs.flatMap((j) => j.holds);
    this.loads = day.counts.map(
      (count, i) =>
        holds.reduce((m, h) => (h.instrument === i ? m + h.need * (h.to - h.from) : m), 0) / Math.max(1, count),
    );
    const users = day.counts.map((_, i) => day.jobs.filter((j) => j.holds.some((h) => h.instrument === i)).length);
    const pace = users.map((n, i) => n + (this.loads[i] ?? 0) / (1 + day.minutes));
    this.pacing = pace.indexOf(highest([0, ...pace]));
    this.leads = day.jobs.map((j) => j.holds.find((h) => h.instrument === this.pacing)?.to ?? 0);
  }
  /** One search: the tasks in the order in which they were placed; null where it was over before it came to an end. */
  order(over: () => boolean): readonly number[] | null {
    this.tried = 0;
    let kept: readonly Beginning[] = [{ state: this.empty, placed: [], left: this.free, front: 0 }];
    for (let n = 0; n < this.free.length; n++) {
      if (over()) return null;
      kept = this.promising(kept.flatMap((b) => this.choices(b)));
    }
    const ends = kept.map((b) => this.at(b).ends.reduce((last, end) => Math.max(last, end), 0));
    return kept[ends.indexOf(lowest(ends))]?.placed ?? null;
  }
  private at(b: Beginning): Minutes {
    this.minutes.state.set(b.state);
    return this.minutes;
  }
  /** Every task that may come next, as early as it fits. */
  private choices(of: Beginning): Choice[] {
    const minutes = this.at(of);
    const used = this.loads.map((_, i) => minutes.heldBetween(i, 0, of.front));
    const tails = of.left.map((k) => this.tails[k] ?? 0).sort((a, b) => b - a);
    return of.left.flatMap((task) => {
      const ready = readyAt(this.day.jobs[task] as Job, minutes.ends);
      if (ready < 0) return [];
      this.tried++;
      const start = minutes.fit(task, ready);
      const lead = this.leads[task] ?? 0;
      const front = lead > 0 ? Math.max(of.front, start + lead) : of.front;
      const tail = this.tails[task] ?? 0;
      // The longest chain still to come is another task's where it is not this one's.
      const chain = Math.max(start + tail, front + ((tail === tails[0] ? tails[1] : tails[0]) ?? 0));
      return [{ of, task, start, front, score: this.score(used, of.front, task, start, front, chain) }];
    });
  }
  /** Minutes: the smaller, the more a beginning promises. */
  private score(
    used: readonly number[],
    was: number,
    task: number,
    start: number,
    front: number,
    chain: number,
  ): number {
    const { minutes, loads, day } = this;
    const most = highest([1, ...loads]);
    let end = chain;
    let [near, unused] = [0, 0];
    for (const [i, load] of loads.entries()) {
      let held = (used[i] ?? 0) + (front > was ? minutes.heldBetween(i, was, front) : 0);
      for (const h of (day.jobs[task] as Job).holds)
        if (h.instrument === i) held += h.need * Math.max(0, Math.min(front, start + h.to) - (start + h.from));
      const idle = front - held / Math.max(1, day.counts[i] ?? 1);
      const least = idle + load;
      if (least > end) end = least;
      near += Math.max(0, least / most - NEAR) ** 2;
      if (i === this.pacing) unused = idle;
    }
    return end + UNUSED * unused + NEARNESS * near + CHANCE * this.random.uniform();
  }
  /** The best of many choices, each plan once however it was come to. */
  private promising(choices: Choice[]): Beginning[] {
    const plans = new Set<string>();
    const out: Beginning[] = [];
    for (const { of, task, start, front } of choices.sort((a, b) => a.score - b.score)) {
      if (out.length === this.width) break;
      const minutes = this.at(of);
      minutes.put(task, start);
      const plan = minutes.ends.join();
      if (plans.has(plan)) continue;
      plans.add(plan);
      out.push({
        state: minutes.state.slice(),
        placed: [...of.placed, task],
        left: of.left.filter((k) => k !== task),
        front,
      });
    }
    return out;
  }
}
