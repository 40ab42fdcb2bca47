import { highest } from "../quantities";
import type { Random } from "../simulator/random";
import { compile, decode } from "./schedule-decode";
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

/** The best of many orders. */
function byOrders(q: ScheduleQuestion, random: Random, least: number, orders: number, over?: () => boolean): Schedule {
  const day = compile(q);
  let best = firstOrders(q).map((order) => ({ order, plan: decode(day, order) })).reduce((a, b) => (b.plan.finish < a.plan.finish ? b : a));
  let walk = best;
  for (let k = 0; k < orders && best.plan.finish > least && !over?.(); k++) {
    const order = changed(walk.order, random);
    const next = { order, plan: decode(day, order) };
    // Sideways steps and now and then one that is a little worse lead out of dead ends.
    if (next.plan.finish <= walk.plan.finish || random.uniform() < 0.02) walk = next;
    if (next.plan.finish < best.plan.finish) best = next;
    if (k % 400 === 399) walk = best;
  }
  return best.plan;
}

/** Orders to begin with: as listed, longest first, most hands first, most to come first, longest without hands first. */
function firstOrders(q: ScheduleQuestion): number[][] {
  const hands = (t: ScheduleTask): number => t.steps.reduce((m, s) => m + s.minutes * (s.needs.hands ?? 0), 0);
  const follows = (t: ScheduleTask): number => lengthOf(t) + highest([0, ...q.tasks.filter((x) => x.after?.includes(t.id)).map(follows)]);
  const by = (key: (t: ScheduleTask) => number): number[] => q.tasks.map((t, k) => [key(t), k] as const).sort((a, b) => b[0] - a[0]).map(([, k]) => k);
  return [q.tasks.map((_, k) => k), by(lengthOf), by(hands), by(follows), by((t) => lengthOf(t) - hands(t))];
}

/** The order with one task moved, or two changed over. */
function changed(order: readonly number[], random: Random): number[] {
  const any = (): number => Math.min(order.length - 1, Math.floor(random.uniform() * order.length));
  const out = [...order];
  for (let n = random.uniform() < 0.3 ? 2 : 1; n > 0; n--) {
    const [i, j] = [any(), any()];
    if (random.uniform() < 0.5) out.splice(j, 0, ...out.splice(i, 1));
    else [out[i], out[j]] = [out[j] ?? 0, out[i] ?? 0];
  }
  return out;
}
