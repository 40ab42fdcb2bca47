import { highest } from "../quantities";
import type { Random } from "../simulator/random";
import { compile, Decoder } from "./schedule-decode";
import { proveBest } from "./schedule-exact";
import { lengthOf, type Schedule, type ScheduleQuestion, type ScheduleTask } from "./schedule-question";

/** What the search may use up. */
export interface ScheduleBudget {
  /** Orders of the tasks that are tried. */
  readonly orders: number;
  /** Branches of the exact search. */
  readonly branches: number;
  /** Says when time is up. */
  readonly over?: () => boolean;
}
export const SCHEDULE_BUDGET: ScheduleBudget = { orders: 6000, branches: 60_000 };

/** Minutes before which no plan can end: the longest chain of tasks, and what each instrument has to do, shared by how many there are. */
export function earliestFinish(q: ScheduleQuestion): number {
  const tails = new Map<string, number>();
  const byId = new Map(q.tasks.map((t) => [t.id, t]));
  const ends = (t: ScheduleTask): number => {
    const known = tails.get(t.id);
    if (known !== undefined) return known;
    const end = lengthOf(t) + (t.at ?? highest([0, ...(t.after ?? []).map((a) => { const before = byId.get(a); return before ? ends(before) : 0; })]));
    tails.set(t.id, end);
    return end;
  };
  const chain = highest([0, ...q.tasks.map(ends)]);
  const work = Object.entries(q.instruments).map(([name, count]) => q.tasks.flatMap((t) => t.steps).reduce((m, s) => m + s.minutes * (s.needs[name] ?? 0), 0) / Math.max(1, count));
  return highest([chain, ...work.map((w) => Math.ceil(w - 1e-9))]);
}

/** Days of so many tasks are searched in full after a short search by orders. */
const FEW = 14;
const SHORT = 150;

/**
 * A day at the bench that ends as early as it can: tasks in many orders, each put where it fits first, the best order changed by a
 * few places at a time; days of few tasks also by a search that leaves nothing out, for as long as its budget lasts.
 * The tasks' needs must be within the instruments and their `after` without a ring: callers check both.
 */
export function planDay(q: ScheduleQuestion, random: Random, budget: ScheduleBudget = SCHEDULE_BUDGET): Schedule {
  const least = earliestFinish(q);
  const few = q.tasks.length <= FEW;
  const quick = byOrders(q, random, least, few ? Math.min(SHORT, budget.orders) : budget.orders, budget.over);
  if (quick.finish <= least) return { ...quick, proved: true };
  const searched = few ? proveBest(q, quick, least, budget.branches, budget.over) : quick;
  if (searched.proved || !few || budget.over?.()) return searched;
  const again = byOrders(q, random, least, budget.orders, budget.over);
  return again.finish < searched.finish ? again : searched;
}

/** Orders back to which a new one is compared: it is taken where it is no worse than the walk was then. */
const MEMORY = 50;

interface Ordered {
  readonly order: readonly number[];
  /** The end before all else; of equal ones the earlier its tasks end in the mean. */
  readonly cost: number;
  readonly finish: number;
}

/**
 * A walk over orders that takes a changed one where it is no worse than the walk is, or was some orders before (late acceptance; Burke and
 * Bykov, 2017).
 */
class Walk {
  best: Ordered;
  private at: Ordered;
  private readonly past: Float64Array;
  private k = 0;
  constructor(q: ScheduleQuestion, private readonly random: Random, readonly decoder: Decoder, private readonly mirror: Decoder | null) {
    this.best = firstOrders(q).map((order) => this.costed(order, Infinity)).reduce((a, b) => (b.cost < a.cost ? b : a));
    this.at = this.best;
    this.past = new Float64Array(MEMORY).fill(this.best.cost);
  }
  private costed(order: readonly number[], most: number): Ordered {
    const { finish, sum } = this.decoder.run(order, most);
    return { order, finish, cost: finish === Infinity ? Infinity : finish + sum / (1 + finish * (1 + order.length)) };
  }
  /**
   * A plan pushed as late as it goes and then as early as it goes, the tasks in the order of their places: never later than it was, and often
   * earlier (double justification; Valls, Ballestín and Quintanilla, 2005).
   */
  private pushed(from: Ordered): Ordered {
    if (!this.mirror) return from;
    this.mirror.run(this.decoder.latestFirst());
    const again = this.costed(this.mirror.latestFirst(), Infinity);
    return again.cost < from.cost ? again : from;
  }
  step(): void {
    const slot = this.k++ % MEMORY;
    const before = this.past[slot] ?? Infinity;
    const bar = Math.max(this.at.cost, before);
    const next = this.costed(changed(this.at.order, this.random), Math.floor(bar));
    if (next.cost <= bar) this.at = next.cost < this.best.cost ? this.pushed(next) : next;
    if (this.at.cost < before) this.past[slot] = this.at.cost;
    if (this.at.cost < this.best.cost) this.best = this.at;
  }
}

/** The same day backwards: every task from its end to its beginning, before those that it came after. */
function mirrored(q: ScheduleQuestion): ScheduleQuestion {
  return { ...q, tasks: q.tasks.map((t) => ({ id: t.id, steps: [...t.steps].reverse(), after: q.tasks.flatMap((x) => (x.after?.includes(t.id) ? [x.id] : [])) })) };
}

/** The best of many orders: every other one is placed from the end of the day backwards, which finds what placing from its beginning can't. */
function byOrders(q: ScheduleQuestion, random: Random, least: number, orders: number, over?: () => boolean): Schedule {
  const there = new Decoder(compile(q));
  // Tasks with minutes of their own have none in the mirror.
  const mirror = q.tasks.some((t) => t.at !== undefined) ? null : mirrored(q);
  const again = mirror ? new Decoder(compile(mirror)) : null;
  const ahead = new Walk(q, random, there, again);
  const back = mirror && again ? new Walk(mirror, random, again, there) : null;
  const ends = (): number => Math.min(ahead.best.finish, back?.best.finish ?? Infinity);
  for (let k = 0; k < orders && ends() > least && !over?.(); k++) (back && k % 2 ? back : ahead).step();
  if (!back || ahead.best.finish <= back.best.finish) return ahead.decoder.plan(ahead.best.order);
  const late = back.decoder.plan(back.best.order);
  return { ...late, starts: Object.fromEntries(q.tasks.map((t) => [t.id, late.finish - (late.starts[t.id] ?? 0) - lengthOf(t)])) };
}

/** Orders to begin with: as listed, longest first, most hands first, most to come first, longest without hands first. */
function firstOrders(q: ScheduleQuestion): number[][] {
  const hands = (t: ScheduleTask): number => t.steps.reduce((m, s) => m + s.minutes * (s.needs.hands ?? 0), 0);
  const follows = (t: ScheduleTask): number => lengthOf(t) + highest([0, ...q.tasks.filter((x) => x.after?.includes(t.id)).map(follows)]);
  const by = (key: (t: ScheduleTask) => number): number[] => q.tasks.map((t, k) => [key(t), k] as const).sort((a, b) => b[0] - a[0]).map(([, k]) => k);
  return [q.tasks.map((_, k) => k), by(lengthOf), by(hands), by(follows), by((t) => lengthOf(t) - hands(t))];
}

/** Places over which half of the moves go: far ones explore, near ones settle. */
const NEAR = 12;

/** The order with one task moved, or two changed over. */
function changed(order: readonly number[], random: Random): number[] {
  const last = order.length - 1;
  const any = (): number => Math.min(last, Math.floor(random.uniform() * order.length));
  const out = [...order];
  for (let n = random.uniform() < 0.2 ? 2 : 1; n > 0; n--) {
    const i = any();
    const j = random.uniform() < 0.5 ? any() : Math.max(0, Math.min(last, i + Math.round((2 * random.uniform() - 1) * NEAR)));
    if (random.uniform() < 0.5) out.splice(j, 0, ...out.splice(i, 1));
    else [out[i], out[j]] = [out[j] ?? 0, out[i] ?? 0];
  }
  return out;
}
