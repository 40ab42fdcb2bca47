import { seeded, type Random } from "../simulator/random";
import { matchCells, type MatchCell } from ".";

const cellsOf = (r: Random, n: number, low = 1.8, high = 2.4): MatchCell[] =>
  Array.from({ length: n }, (_, k) => ({
    code: `C${String(k).padStart(3, "0")}`,
    capacity: Math.round(1000 * r.between(low, high)) / 1000,
  }));
const held = (group: readonly MatchCell[]): number => group.reduce((s, c) => s + c.capacity, 0);

/** The slow, obvious twin: every way to fill the groups from all cells, not only the largest. */
function bestOfAll(cells: readonly MatchCell[], series: number, parallel: number): number {
  let best = 0;
  const groups = (pool: readonly MatchCell[], done: number, low: number): void => {
    if (done === series) {
      best = Math.max(best, low);
      return;
    }
    for (const pick of combinations(pool, parallel))
      groups(
        pool.filter((c) => !pick.includes(c)),
        done + 1,
        Math.min(low, held(pick)),
      );
  };
  groups(cells, 0, Infinity);
  return best;
}

function combinations(pool: readonly MatchCell[], n: number): MatchCell[][] {
  if (n === 0) return [[]];
  return pool.flatMap((c, k) => combinations(pool.slice(k + 1), n - 1).map((rest) => [c, ...rest]));
}

const SEED = 20261130;

test(`500 small packs hold as much as any grouping of any of the cells (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const shapes = [
    [2, 1],
    [3, 1],
    [2, 2],
    [3, 2],
    [2, 3],
  ] as const;
  for (let k = 0; k < 500; k++) {
    const [series, parallel] = shapes[k % shapes.length] ?? [2, 2];
    const cells = cellsOf(r, series * parallel + (k % 2));
    const m = matchCells(cells, series, parallel, seeded(1));
    expect(m.proved).toBe(true);
    expect(m.groups.map((g) => g.length)).toEqual(Array.from({ length: series }, () => parallel));
    expect(new Set(m.groups.flat()).size).toBe(series * parallel);
    expect([k, m.packCapacity]).toEqual([k, expect.closeTo(bestOfAll(cells, series, parallel), 9)]);
    expect(m.packCapacity).toBeCloseTo(held(m.groups[0] ?? []), 12);
    expect(m.spread).toBeCloseTo(held(m.groups.at(-1) ?? []) - m.packCapacity, 12);
  }
});

test(`packs of 100 cells come within 0.5 % of what no grouping can exceed (seed ${SEED + 1})`, () => {
  const r = seeded(SEED + 1);
  for (let k = 0; k < 20; k++) {
    const [series, parallel] = (
      [
        [10, 10],
        [20, 5],
        [25, 4],
        [33, 3],
      ] as const
    )[k % 4] ?? [10, 10];
    const cells = cellsOf(r, 100);
    const m = matchCells(cells, series, parallel, seeded(1), { nodes: 5000, rounds: 200 });
    const most = held([...cells].sort((a, b) => b.capacity - a.capacity).slice(0, series * parallel)) / series;
    expect([k, m.packCapacity > most * 0.995]).toEqual([k, true]);
    expect(m.packCapacity).toBeLessThanOrEqual(most + 1e-9);
  }
});

test("worked: seven cells into 3 × 2, the least left out and the largest beside the smallest", () => {
  const cells = [2.3, 2.2, 2.1, 2.0, 1.9, 1.8, 1.0].map((capacity, k) => ({ code: `C${k}`, capacity }));
  const m = matchCells(cells, 3, 2, seeded(1));
  expect(m.packCapacity).toBeCloseTo(4.1, 12);
  expect(m.groups.flat().map((c) => c.code)).not.toContain("C6");
});
