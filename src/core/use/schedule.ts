import { highest } from "../quantities";
import type { Random } from "../simulator/random";
import { Beam, WIDTH } from "./schedule-beam";
import { Decoder } from "./schedule-decode";
import { compile } from "./schedule-minutes";
import { proveBest } from "./schedule-exact";
import { lengthOf, type Schedule, type ScheduleQuestion, type ScheduleTask } from "./schedule-question";

/** What the search may use up. */
export interface ScheduleBudget {
  /** Orders of the tasks that are tried. */
  readonly orders: number;
  /** Branches of the exact search. */
  readonly branches: number;
  /** The share of the time that is used up: at 1 the search ends. */
  readonly spent?: () => number;
}
export const SCHEDULE_BUDGET: ScheduleBudget = { orders: 60_000, branches: 60_000 };

/** So many milliseconds from now on, by a clock, as the share of them that is used up. */
export function within(milliseconds: number, clock: () => number): () => number {
  const began = clock();
  return () => (clock() - began) / milliseconds;
}

/** Minutes before which no plan can end: the longest chain of tasks, and what each instrument has to do, shared by how many there are. */
export function earliestFinish(q: ScheduleQuestion): number {
  const tails = new Map<string, number>();
  const byId = new Map(q.tasks.map((t) => [t.id, t]));
  const ends = (t: ScheduleTask): number => {
    const tail = tails.get(t.id);
    if (tail !== undefined) return tail;
    const end =
      lengthOf(t) +
      (t.at ??
        highest([
          0,
          ...(t.after ?? []).map((a) => {
            const before = byId.get(a);
            return before ? ends(before) : 0;
          }),
        ]));
    tails.set(t.id, end);
    return end;
  };
  const chain = highest([0, ...q.tasks.map(ends)]);
  const work = Object.entries(q.instruments).map(
    ([name, count]) =>
      q.tasks.flatMap((t) => t.steps).reduce((m, s) => m + s.minutes * (s.needs[name] ?? 0), 0) / Math.max(1, count),
  );
  return highest([chain, ...work.map((w) => Math.ceil(w - 1e-9))]);
}

/** Days of so many tasks are searched in full after a short search by orders. */
const FEW = 14;
const SHORT = 150;

/**
 * A day at the bench that ends as early as it can: tasks in many orders, each put where it fits first, the order changed by a
 * few places at a time; days of few tasks also by a search that leaves nothing out, for as long as its budget lasts.
 * The tasks' needs must be within the instruments and their `after` without a ring: callers check both.
 */
export function planDay(q: ScheduleQuestion, random: Random, budget: ScheduleBudget = SCHEDULE_BUDGET): Schedule {
  const least = earliestFinish(q);
  if (q.tasks.length > FEW) {
    const best = byOrders(q, random, least, budget.orders, budget.spent);
    return { ...best, proved: best.finish <= least };
  }
  const quick = byOrders(q, random, least, Math.min(SHORT, budget.orders));
  if (quick.finish <= least) return { ...quick, proved: true };
  const over = (): boolean => (budget.spent?.() ?? 0) >= 1;
  const searched = proveBest(q, quick, least, budget.branches, over);
  if (searched.proved || over()) return searched;
  const again = byOrders(q, random, least, budget.orders, budget.spent);
  return again.finish < searched.finish ? again : searched;
}

/** How many minutes worse an order may be and still be taken now and then: at the beginning and at the end of the search, per minute that a task takes on average. */
const WARM = 0.15;
const COLD = 0.003;

interface Ordered {
  readonly order: readonly number[];
  /** The end before all else; of equal ones the earlier its tasks end in the mean. */
  readonly cost: number;
  readonly finish: number;
}

/** A walk over orders that takes a changed one the more rarely the worse it is, and the longer the search has gone on (annealing; Kirkpatrick, Gelatt and Vecchi, 1983). */
class Walk {
  best: Ordered;
  private at: Ordered;
  /** Minutes. */
  private readonly mean: number;
  constructor(
    q: ScheduleQuestion,
    private readonly random: Random,
    readonly decoder: Decoder,
  ) {
    this.mean = q.tasks.reduce((m, t) => m + lengthOf(t), 0) / Math.max(1, q.tasks.length);
    const first = firstOrders(q).map((order) => order.filter((k) => decoder.free.includes(k)));
    this.best = first.map((order) => this.costed(order)).reduce((a, b) => (b.cost < a.cost ? b : a));
    this.at = this.best;
  }
  /** Goes on from an order where it is better than the best so far. */
  offer(order: readonly number[]): void {
    const offered = this.costed(order);
    if (offered.cost < this.best.cost) this.best = this.at = offered;
  }
  private costed(order: readonly number[], most = Infinity): Ordered {
    const { finish, sum } = this.decoder.run(order, most);
    return { order, finish, cost: finish === Infinity ? Infinity : finish + sum / (1 + finish * (1 + order.length)) };
  }
  /** One more order, after a share of the search. */
  step(share: number): void {
    const bar =
      this.at.cost -
      this.mean * WARM * (COLD / WARM) ** share * Math.log(Math.max(Number.EPSILON, this.random.uniform()));
    const next = this.costed(changed(this.at.order, this.random), Math.floor(bar));
    if (next.cost > bar) return;
    this.at = { ...next, order: this.decoder.keep() };
    if (next.cost < this.best.cost) this.best = this.at;
  }
}

/** The same day backwards: every task from its end to its beginning, before those that it came after. */
function mirrored(q: ScheduleQuestion): ScheduleQuestion {
  return {
    ...q,
    tasks: q.tasks.map((t) => ({
      id: t.id,
      steps: [...t.steps].reverse(),
      after: q.tasks.flatMap((x) => (x.after?.includes(t.id) ? [x.id] : [])),
    })),
  };
}

/** Orders between two looks at the time. */
const LOOK = 16;

/** The share of a search that goes to beam searches; and, of these, one in so many from the end of the day backwards. */
const BEAMS = 0.75;
const BACKWARDS = 4;
/** Beam searches that begin with nothing placed; those after them go on from a part of the best order. */
const FROM_NOTHING = 2;
/** The most of that order, as a share, that is taken over. */
const TAKEN_OVER = 0.9;
/** Days of up to so many tasks get these first searches though the time be up: a machine that was busy answers later then, but no worse. */
const SOON = 50;
const never = (): boolean => false;
/** How far a walk that begins at such an order has cooled already, as a share of a whole search. */
const SETTLED = 0.7;

/** An order's first tasks, any number of them. */
const beginningOf = (order: readonly number[], random: Random): readonly number[] =>
  order.slice(0, Math.floor(random.uniform() * TAKEN_OVER * order.length));

/** A day, and what searches it. */
interface Side {
  readonly walk: Walk;
  readonly beam: Beam;
}

function sideOf(q: ScheduleQuestion, random: Random): Side {
  const day = compile(q);
  return { walk: new Walk(q, random, new Decoder(day)), beam: new Beam(day, random) };
}

/**
 * The best of many orders: those of beam searches first, then such as a walk comes to. Some are placed from the end of the day backwards,
 * which finds what placing from its beginning can't.
 */
function byOrders(q: ScheduleQuestion, random: Random, least: number, orders: number, spent?: () => number): Schedule {
  const ahead = sideOf(q, random);
  // Tasks with minutes of their own have none in the mirror.
  const back = q.tasks.some((t) => t.at !== undefined) ? null : sideOf(mirrored(q), random);
  const ends = (): number => Math.min(ahead.walk.best.finish, back?.walk.best.finish ?? Infinity);
  let used = 0;
  let settled = false;
  const share = (): number => Math.max(used / orders, spent?.() ?? 0);
  const beamsOver = (): boolean => share() >= BEAMS;
  // A beam search that would use up too much is not begun.
  const affordable = WIDTH * q.tasks.length <= BEAMS * orders;
  const assured = q.tasks.length <= SOON ? FROM_NOTHING : 0;
  for (let n = 1; affordable && ends() > least && (n <= assured || !beamsOver()); n++) {
    const side = back && n % BACKWARDS === 0 ? back : ahead;
    const first = n > FROM_NOTHING ? beginningOf(side.walk.best.order, random) : [];
    const order = side.beam.order(n > assured ? beamsOver : never, first);
    if (order) side.walk.offer(order);
    settled ||= order !== null;
    // An order of the walk places about half of its tasks anew.
    used += Math.max(1, (2 * side.beam.tried) / q.tasks.length);
  }
  const began = share();
  const from = settled ? SETTLED : 0;
  for (let k = 0, now = began; now < 1 && ends() > least; k++, used++) {
    if (k % LOOK === 0) now = share();
    (back && k % 2 ? back : ahead).walk.step(from + ((1 - from) * (now - began)) / (1 - began));
  }
  if (!back || ahead.walk.best.finish <= back.walk.best.finish) return ahead.walk.decoder.plan(ahead.walk.best.order);
  const late = back.walk.decoder.plan(back.walk.best.order);
  return {
    ...late,
    starts: Object.fromEntries(q.tasks.map((t) => [t.id, late.finish - (late.starts[t.id] ?? 0) - lengthOf(t)])),
  };
}

/** Orders to begin with: as listed, longest first, most hands first, most to come first, longest without hands first. */
function firstOrders(q: ScheduleQuestion): number[][] {
  const hands = (t: ScheduleTask): number => t.steps.reduce((m, s) => m + s.minutes * (s.needs.hands ?? 0), 0);
  const follows = (t: ScheduleTask): number =>
    lengthOf(t) + highest([0, ...q.tasks.filter((x) => x.after?.includes(t.id)).map(follows)]);
  const by = (key: (t: ScheduleTask) => number): number[] =>
    q.tasks
      .map((t, k) => [key(t), k] as const)
      .sort((a, b) => b[0] - a[0])
      .map(([, k]) => k);
  return [q.tasks.map((_, k) => k), by(lengthOf), by(hands), by(follows), by((t) => lengthOf(t) - hands(t))];
}

/** Places over which half of the moves go: far ones explore, near ones settle. */
const NEAR = 12;
/** The share of moves that put a task elsewhere; the others change two over. */
const MOVED = 0.7;

/** The order with one task moved, or two changed over. */
function changed(order: readonly number[], random: Random): number[] {
  const last = order.length - 1;
  const any = (): number => Math.min(last, Math.floor(random.uniform() * order.length));
  const out = [...order];
  const i = any();
  const j =
    random.uniform() < 0.5 ? any() : Math.max(0, Math.min(last, i + Math.round((2 * random.uniform() - 1) * NEAR)));
  if (random.uniform() < MOVED) out.splice(j, 0, ...out.splice(i, 1));
  else [out[i], out[j]] = [out[j] ?? 0, out[i] ?? 0];
  return out;
}
