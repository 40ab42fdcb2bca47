import { population, seedOf } from "@/testing/population";
import { seeded } from "../simulator";
import { sameValue, threeWay } from "./three-way";

const TRIALS = population(500, 20_000);
test(`${TRIALS} random pairs of edits: each side's changes are in the outcome or among the clashes (seed ${seedOf(20261702)})`, () => {
  const random = seeded(seedOf(20261702));
  const roll = (n: number) => Math.floor(random.uniform() * n);
  const make = (depth: number): Record<string, unknown> =>
    Object.fromEntries(
      ["a", "b", "c"].flatMap((k) => (roll(4) === 0 ? [] : [[k, depth && roll(3) === 0 ? make(depth - 1) : roll(3)]])),
    );
  const leaves = (v: unknown, path: string): [string, unknown][] =>
    typeof v === "object" && v !== null
      ? Object.entries(v).flatMap(([k, x]) => leaves(x, `${path}.${k}`))
      : [[path, v]];
  for (let t = 0; t < TRIALS; t++) {
    const [base, mine, there] = [make(2), make(2), make(2)];
    const r = threeWay(base, mine, there);
    const clashed = (path: string) =>
      r.clashes.some((c) => path.startsWith(`.${c.path.join(".")}`) || c.path.length === 0);
    const [b, out] = [new Map(leaves(base, "")), new Map(leaves(r.value, ""))];
    for (const [side, name] of [
      [mine, "mine"],
      [there, "there"],
    ] as const)
      for (const [path, v] of leaves(side, ""))
        if (!(b.has(path) && b.get(path) === v) && !clashed(path))
          expect([t, name, path, out.get(path)]).toEqual([t, name, path, v]);
    // Merging is even-handed: with the sides exchanged it clashes at the same fields.
    expect(
      threeWay(base, there, mine)
        .clashes.map((c) => c.path.join("."))
        .sort(),
    ).toEqual(r.clashes.map((c) => c.path.join(".")).sort());
    // One side that changed nothing leaves the other's as it is.
    expect(sameValue(threeWay(base, base, there).value, there)).toBe(true);
    expect(sameValue(threeWay(base, mine, base).value, mine)).toBe(true);
  }
});
