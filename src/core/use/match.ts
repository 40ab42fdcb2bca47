import { assert, lowest } from "../quantities";
import type { Random } from "../simulator/random";

/** A cell by its code and what it holds, Ah. */
export interface MatchCell {
  readonly code: string;
  readonly capacity: number;
}

export interface PackMatch {
  /** Series groups, each of its parallel cells, the weakest group first. */
  readonly groups: readonly (readonly MatchCell[])[];
  /** Ah of the weakest group. */
  readonly packCapacity: number;
  /** Ah by which the strongest group holds more than the weakest. */
  readonly spread: number;
  /** Whether no other grouping can hold more; else it is the best that the search found. */
  readonly proved: boolean;
}

/** What the search may use up. */
export interface MatchBudget {
  /** Groupings that are tried in full before the search goes by exchange alone. */
  readonly nodes: number;
  /** Rounds of exchange from a new start. */
  readonly rounds: number;
  /** Says when time is up; looked at once a round. */
  readonly over?: () => boolean;
}
export const MATCH_BUDGET: MatchBudget = { nodes: 300_000, rounds: 400 };

const sum = (group: readonly MatchCell[]): number => group.reduce((s, c) => s + c.capacity, 0);
/** Capacities are in Ah: a difference below this is none. */
const SAME = 1e-12;

/**
 * Groups cells into series × parallel so that the weakest group holds as much as possible. The largest cells are chosen (an exchange
 * for a smaller one never helps the weakest group). One in parallel is sorted, two are paired largest with smallest, both exact; more
 * are searched in full where there are few, by exchange between the weakest and every other group where there are many.
 * @throws never for fewer cells than series × parallel: that is an assertion, as callers check it
 */
export function matchCells(
  cells: readonly MatchCell[],
  series: number,
  parallel: number,
  random: Random,
  budget: MatchBudget = MATCH_BUDGET,
): PackMatch {
  assert(
    series >= 1 && parallel >= 1 && cells.length >= series * parallel,
    `matchCells: ${cells.length} cells are fewer than ${series} × ${parallel}`,
  );
  const chosen = [...cells]
    .sort((a, b) => b.capacity - a.capacity || a.code.localeCompare(b.code))
    .slice(0, series * parallel);
  const packed = (groups: readonly (readonly MatchCell[])[], proved: boolean): PackMatch => {
    const sorted = [...groups].sort((a, b) => sum(a) - sum(b));
    const [weakest = [], strongest = []] = [sorted[0], sorted.at(-1)];
    return { groups: sorted, packCapacity: sum(weakest), spread: sum(strongest) - sum(weakest), proved };
  };
  if (parallel <= 2 || series === 1)
    return packed(
      Array.from({ length: series }, (_, k) =>
        series === 1
          ? chosen
          : parallel === 1
            ? chosen.slice(k, k + 1)
            : [chosen[k], chosen[2 * series - 1 - k]].filter((c) => c !== undefined),
      ),
      true,
    );
  const good = byExchange(chosen, series, parallel, random, budget);
  const { best, complete } = inFull(chosen, series, parallel, good, budget.nodes);
  return packed(best, complete);
}

/** The cells dealt out back and forth: a fair start. */
function dealt(cells: readonly MatchCell[], series: number): MatchCell[][] {
  const groups: MatchCell[][] = Array.from({ length: series }, () => []);
  for (const [k, c] of cells.entries()) {
    const turn = Math.floor(k / series);
    groups[turn % 2 === 0 ? k % series : series - 1 - (k % series)]?.push(c);
  }
  return groups;
}

const weakest = (groups: readonly (readonly MatchCell[])[]): number => lowest(groups.map(sum));

/** Exchanges one cell of the weakest group for one of another while that helps the weaker of both; true where something was exchanged. */
function exchange(groups: MatchCell[][]): boolean {
  const sums = groups.map(sum);
  const w = sums.indexOf(lowest(sums));
  const [weak, low] = [groups[w] ?? [], sums[w] ?? 0];
  let best: { gain: number; g: number; i: number; j: number } | null = null;
  for (const [g, group] of groups.entries()) {
    if (g === w) continue;
    for (const [i, mine] of weak.entries())
      for (const [j, theirs] of group.entries()) {
        const more = theirs.capacity - mine.capacity;
        const gain = Math.min(low + more, (sums[g] ?? 0) - more) - low;
        if (gain > SAME && gain > (best?.gain ?? 0)) best = { gain, g, i, j };
      }
  }
  if (!best) return false;
  const other = groups[best.g] ?? [];
  const [a, b] = [weak[best.i], other[best.j]];
  if (a && b) [weak[best.i], other[best.j]] = [b, a];
  return true;
}

/** A few cells of random groups change places: a new start near the old one. */
function shaken(groups: readonly (readonly MatchCell[])[], random: Random): MatchCell[][] {
  const out = groups.map((g) => [...g]);
  const any = (n: number): number => Math.min(n - 1, Math.floor(random.uniform() * n));
  for (let k = 0; k < 3; k++) {
    const [a, b] = [out[any(out.length)], out[any(out.length)]];
    if (!a || !b || a === b) continue;
    const [i, j] = [any(a.length), any(b.length)];
    const [x, y] = [a[i], b[j]];
    if (x && y) [a[i], b[j]] = [y, x];
  }
  return out;
}

function byExchange(
  cells: readonly MatchCell[],
  series: number,
  parallel: number,
  random: Random,
  budget: MatchBudget,
): MatchCell[][] {
  const ideal = sum(cells) / series;
  let best = dealt(cells, series);
  while (exchange(best));
  for (let k = 0; k < budget.rounds && ideal - weakest(best) > SAME * parallel && !budget.over?.(); k++) {
    const next = shaken(best, random);
    while (exchange(next));
    if (weakest(next) >= weakest(best)) best = next;
  }
  return best;
}

/**
 * Every grouping that could do better, a group at a time: the largest cell left stands in the next group, as the order of groups
 * says nothing. Cut short where the cells left can't lift all groups left above the best known.
 */
function inFull(
  cells: readonly MatchCell[],
  series: number,
  parallel: number,
  start: MatchCell[][],
  most: number,
): { best: readonly (readonly MatchCell[])[]; complete: boolean } {
  let best: readonly (readonly MatchCell[])[] = start;
  let bar = weakest(start);
  let nodes = 0;
  const fill = (left: readonly MatchCell[], groups: readonly MatchCell[][]): void => {
    if (nodes > most) return;
    if (left.length === 0) {
      const low = weakest(groups);
      if (low > bar + SAME) [best, bar] = [groups, low];
      return;
    }
    if (sum(left) / (series - groups.length) <= bar + SAME) return;
    const [first, ...others] = left;
    if (!first) return;
    const pick = (from: number, group: MatchCell[], total: number): void => {
      if (++nodes > most) return;
      const missing = parallel - group.length;
      if (missing === 0) {
        if (total > bar + SAME)
          fill(
            left.filter((c) => !group.includes(c)),
            [...groups, group],
          );
        return;
      }
      // Cells stand largest first: even the next ones can't lift this group above the best known.
      if (total + others.slice(from, from + missing).reduce((s, c) => s + c.capacity, 0) <= bar + SAME) return;
      for (let k = from; k + missing <= others.length; k++) {
        const c = others[k];
        if (c) pick(k + 1, [...group, c], total + c.capacity);
      }
    };
    pick(0, [first], first.capacity);
  };
  fill(cells, []);
  return { best, complete: nodes <= most };
}
