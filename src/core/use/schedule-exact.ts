import { highest } from "../quantities";
import type { Schedule, ScheduleQuestion, ScheduleStep } from "./schedule-question";

/** A step of a task, by the minutes from the task's start at which it begins and ends; task 0 is the beginning of the day. */
interface Piece {
  readonly task: number;
  readonly from: number;
  readonly to: number;
  readonly needs: ScheduleStep["needs"];
}

/** Task `b` starts at least `gap` minutes after task `a`. */
interface Gap {
  readonly a: number;
  readonly b: number;
  readonly gap: number;
}

const NONE = -1_000_000_000;

/** All gaps between starts that a set of gaps implies: `at(a, b)` minutes lie at least between the start of a and that of b. */
class Gaps {
  private constructor(
    private readonly n: number,
    private readonly least: Int32Array,
  ) {}
  static none(n: number): Gaps {
    const least = new Int32Array(n * n).fill(NONE);
    for (let k = 0; k < n; k++) least[k * n + k] = 0;
    return new Gaps(n, least);
  }
  copy(): Gaps {
    return new Gaps(this.n, this.least.slice());
  }
  at(a: number, b: number): number {
    return this.least[a * this.n + b] ?? NONE;
  }
  /** Whether a further gap contradicts those that are there. */
  excludes({ a, b, gap }: Gap): boolean {
    return gap + this.at(b, a) > 0;
  }
  /** Adds a gap and all that follows from it; false where it contradicts. */
  add(g: Gap): boolean {
    const { n, least } = this;
    if (this.excludes(g)) return false;
    if (this.at(g.a, g.b) >= g.gap) return true;
    for (let x = 0; x < n; x++) {
      const toA = least[x * n + g.a] ?? NONE;
      if (toA <= NONE) continue;
      for (let y = 0; y < n; y++) {
        const fromB = least[g.b * n + y] ?? NONE;
        if (fromB > NONE && toA + g.gap + fromB > (least[x * n + y] ?? NONE)) least[x * n + y] = toA + g.gap + fromB;
      }
    }
    return true;
  }
}

/** `b` only after `p`'s end, for two pieces. */
const afterwards = (p: Piece, r: Piece): Gap => ({ a: p.task, b: r.task, gap: p.to - r.from });
/** What remains where a gap is not kept: whole minutes the other way round. */
const opposite = (g: Gap): Gap => ({ a: g.b, b: g.a, gap: 1 - g.gap });

function piecesOf(q: ScheduleQuestion): { pieces: Piece[]; lengths: number[] } {
  const pieces: Piece[] = [];
  const lengths = [0];
  for (const [k, t] of q.tasks.entries()) {
    let at = 0;
    for (const s of t.steps) {
      if (Object.values(s.needs).some((n) => n > 0))
        pieces.push({ task: k + 1, from: at, to: at + s.minutes, needs: s.needs });
      at += s.minutes;
    }
    lengths.push(at);
  }
  return { pieces, lengths };
}

/** Pieces of two tasks that can never run at once, as they need more of an instrument than there is. */
function rivals(q: ScheduleQuestion, pieces: readonly Piece[]): (readonly [Piece, Piece])[] {
  const more = (p: Piece, r: Piece): boolean =>
    Object.entries(q.instruments).some(
      ([name, count]) =>
        (p.needs[name] ?? 0) > 0 && (r.needs[name] ?? 0) > 0 && (p.needs[name] ?? 0) + (r.needs[name] ?? 0) > count,
    );
  return pieces.flatMap((p, k) =>
    pieces.slice(k + 1).flatMap((r) => (p.task !== r.task && more(p, r) ? [[p, r] as const] : [])),
  );
}

/**
 * Searches for a plan that ends earlier than a known one, leaving nothing out. Tasks start as early as the gaps between them allow;
 * where more of an instrument is used at a minute than there is, one of the steps that meet there has to be over before another
 * begins (steps that overlap in pairs overlap in one point, so that no plan is missed), and each such pair is a branch, which the
 * branches after it exclude. Of two pieces that never can run at once, an order that is ruled out forces the other.
 * @returns the best plan, `proved` where the search came to its end within its branches
 */
export function proveBest(
  q: ScheduleQuestion,
  known: Schedule,
  least: number,
  branches: number,
  over?: () => boolean,
): Schedule {
  const { pieces, lengths } = piecesOf(q);
  const pairs = rivals(q, pieces);
  const index = new Map(q.tasks.map((t, k) => [t.id, k + 1]));
  const n = lengths.length;
  const length = (k: number): number => lengths[k] ?? 0;
  let best = known;
  let left = branches;
  let cut = false;

  /** Every task within the day that would beat the best; forced orders; false where no such day is left. */
  const tighten = (gaps: Gaps): boolean => {
    for (let k = 1; k < n; k++)
      if (!gaps.add({ a: 0, b: k, gap: 0 }) || !gaps.add({ a: k, b: 0, gap: -(best.finish - 1 - length(k)) }))
        return false;
    for (let moved = true; moved;) {
      moved = false;
      for (const [p, r] of pairs) {
        const [one, other] = [afterwards(p, r), afterwards(r, p)];
        const [noOne, noOther] = [gaps.excludes(one), gaps.excludes(other)];
        if (noOne && noOther) return false;
        const forced = noOne ? other : noOther ? one : null;
        if (!forced || gaps.at(forced.a, forced.b) >= forced.gap) continue;
        if (!gaps.add(forced)) return false;
        moved = true;
      }
    }
    return true;
  };

  const search = (gaps: Gaps): void => {
    if (best.finish <= least || cut) return;
    if (left-- <= 0 || over?.()) {
      cut = true;
      return;
    }
    if (!tighten(gaps)) return;
    const starts = lengths.map((_, k) => gaps.at(0, k));
    const clash = fewestWays(clashes(q, pieces, starts), gaps);
    if (!clash) {
      best = {
        starts: Object.fromEntries(q.tasks.map((t, k) => [t.id, starts[k + 1] ?? 0])),
        finish: highest(starts.map((s, k) => s + length(k))),
        proved: false,
      };
      return;
    }
    const delay = (g: Gap): number => (starts[g.a] ?? 0) + g.gap - (starts[g.b] ?? 0);
    for (const g of clash.sort((x, y) => delay(x) - delay(y))) {
      const next = gaps.copy();
      if (next.add(g)) search(next);
      // From here on this way was looked at.
      if (!gaps.add(opposite(g))) return;
    }
  };
  const gaps = Gaps.none(n);
  for (const [k, t] of q.tasks.entries())
    for (const a of t.after ?? []) gaps.add({ a: index.get(a) ?? 0, b: k + 1, gap: length(index.get(a) ?? 0) });
  // Where tasks with minutes of their own are in each other's way there is no plan without a clash: the known one stays.
  const fixed = q.tasks.every(
    (t, k) =>
      t.at === undefined || (gaps.add({ a: 0, b: k + 1, gap: t.at }) && gaps.add({ a: k + 1, b: 0, gap: -t.at })),
  );
  if (!fixed) return known;
  search(gaps);
  return { ...best, proved: !cut || best.finish <= least };
}

/** The groups of pieces that meet where more of an instrument is used than there is, with their starts as they are. */
function clashes(q: ScheduleQuestion, pieces: readonly Piece[], starts: readonly number[]): Piece[][] {
  const begin = (p: Piece): number => (starts[p.task] ?? 0) + p.from;
  const end = (p: Piece): number => (starts[p.task] ?? 0) + p.to;
  const out: Piece[][] = [];
  for (const p of pieces) {
    const minute = begin(p);
    for (const [name, count] of Object.entries(q.instruments)) {
      if (!((p.needs[name] ?? 0) > 0)) continue;
      const users = pieces.filter((x) => (x.needs[name] ?? 0) > 0 && begin(x) <= minute && end(x) > minute);
      if (users.reduce((sum, x) => sum + (x.needs[name] ?? 0), 0) > count) out.push(users);
    }
  }
  return out;
}

/** Of several clashes the one with the fewest ways out that are still open; null where there is no clash. */
function fewestWays(all: readonly Piece[][], gaps: Gaps): Gap[] | null {
  let fewest: Gap[] | null = null;
  for (const clash of all) {
    const ways = clash
      .flatMap((p) => clash.flatMap((r) => (p.task === r.task ? [] : [afterwards(p, r)])))
      .filter((g) => !gaps.excludes(g));
    if (!fewest || ways.length < fewest.length) fewest = ways;
  }
  return fewest;
}
