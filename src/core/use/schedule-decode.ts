import { assert, ELEMENTS } from "../quantities";
import type { Schedule } from "./schedule-question";
import { readyAt, tailsOf, Minutes, type Compiled, type Job } from "./schedule-minutes";

const { nth, wholeAt } = ELEMENTS;

const TOO_LATE = { finish: Infinity, sum: Infinity } as const;

/** After how many tasks the state of the minutes is put by. */
const STRIDE = 4;

/**
 * Makes plans of one day out of orders of its tasks. An order that begins like the one kept last goes on from where the two part: most of
 * a search's orders differ from the one before in a few places.
 */
export class Decoder {
  private readonly minutes: Minutes;
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
    this.minutes = new Minutes(day);
    this.tails = tailsOf(day.jobs);
    this.free = day.jobs.flatMap((j, k) => (j.at === undefined ? [k] : []));
    const n = this.free.length;
    this.waiting = new Int32Array(n);
    this.kept = new Int32Array(n).fill(-1);
    this.placed = new Int32Array(n);
    const states = (): Int32Array[] =>
      Array.from({ length: Math.floor(n / STRIDE) + 1 }, () => this.minutes.state.slice());
    this.keptStates = states();
    this.placedStates = states();
  }
  /**
   * The free tasks in an order, each as soon as it fits with those before it; one whose `after` is still to come waits for its turn.
   * Tasks with a minute of their own begin then, even where they are in each other's way. Gives the end of the last task and the sum of all
   * ends, minutes; Infinity as soon as it is sure that a task will end later than `most`.
   */
  run(order: readonly number[], most = Infinity): { readonly finish: number; readonly sum: number } {
    const { minutes, waiting, day, placed, tails } = this;
    let same = 0;
    while (same < order.length && order[same] === this.kept[same]) same++;
    this.common = Math.floor(same / STRIDE);
    let done = this.common * STRIDE;
    minutes.state.set(this.keptStates[this.common] as Int32Array);
    placed.set(this.kept.subarray(0, done));
    let count = 0;
    for (let k = done; k < order.length; k++) waiting[count++] = nth(order, k);
    for (let head = 0; head < count; head++) {
      let turn = head;
      let ready = -1;
      for (; turn < count; turn++) {
        ready = readyAt(day.jobs[wholeAt(waiting, turn)] as Job, minutes.ends);
        if (ready >= 0) break;
      }
      assert(ready >= 0, "schedule: tasks wait for each other in a ring");
      const k = wholeAt(waiting, turn);
      for (; turn > head; turn--) waiting[turn] = wholeAt(waiting, turn - 1);
      const start = minutes.fit(k, ready);
      if (start + wholeAt(tails, k) > most) return TOO_LATE;
      minutes.put(k, start);
      placed[done++] = k;
      if (done % STRIDE === 0) (this.placedStates[done / STRIDE] as Int32Array).set(minutes.state);
    }
    let [finish, sum] = [0, 0];
    for (const end of minutes.ends) {
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
      starts: Object.fromEntries(this.day.jobs.map((j, k) => [j.id, this.minutes.starts[k] ?? 0])),
      finish,
      proved: false,
    };
  }
}
