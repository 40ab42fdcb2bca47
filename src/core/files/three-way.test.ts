import { population, seedOf } from "@/testing/population";
import { seeded } from "../simulator";
import { sameValue, threeWay, withMine } from "./three-way";

describe("two edits of one thing", () => {
  test("fields that only one side changed are taken from that side, nested ones too", () => {
    const base = { title: "Sedge", note: "", rules: { a: 1, b: 2 }, gone: 1 };
    const r = threeWay<Record<string, unknown>>(base, { title: "Sedge 51", note: "", rules: { a: 1, b: 3 } }, { title: "Sedge", note: "new", rules: { a: 9, b: 2 }, gone: 1 });
    expect(r).toEqual({ value: { title: "Sedge 51", note: "new", rules: { a: 9, b: 3 } }, clashes: [] });
  });
  test("a field that both changed is a clash with all three values; `withMine` puts mine in", () => {
    const r = threeWay<Record<string, unknown>>({ a: { x: 1 }, n: 1 }, { a: { x: 2 }, n: 1 }, { a: { x: 3 }, n: 5 });
    expect(r).toEqual({ value: { a: { x: 3 }, n: 5 }, clashes: [{ path: ["a", "x"], base: 1, mine: 2, theirs: 3 }] });
    expect(withMine(r)).toEqual({ a: { x: 2 }, n: 5 });
    expect(withMine(threeWay<Record<string, unknown>>({ a: 1 }, {}, { a: 2 }))).toEqual({});
  });
  test("lists of things with an id merge thing by thing, words as sets, other lists as one value", () => {
    const item = (id: string, text: string) => ({ id, text });
    const r = threeWay(
      { m: [item("1", "a"), item("2", "b")], words: ["x", "y"], list: [1, 2] },
      { m: [item("1", "A"), item("2", "b"), item("3", "c")], words: ["y", "z"], list: [1, 2] },
      { m: [item("1", "a"), item("4", "d")], words: ["x", "y", "w"], list: [2] },
    );
    expect(r).toEqual({ value: { m: [item("1", "A"), item("4", "d"), item("3", "c")], words: ["y", "w", "z"], list: [2] }, clashes: [] });
    const clash = threeWay({ m: [item("1", "a")] }, { m: [] }, { m: [item("1", "b")] });
    expect(clash.clashes).toHaveLength(1);
    expect(withMine(clash)).toEqual({ m: [] });
  });
  test("an object of another kind is one value: no half of each", () => {
    const r = threeWay<object>({ limit: { kind: "at-least", low: 1 } }, { limit: { kind: "at-most", high: 2 } }, { limit: { kind: "at-least", low: 3 } });
    expect(r.clashes).toEqual([{ path: ["limit"], base: { kind: "at-least", low: 1 }, mine: { kind: "at-most", high: 2 }, theirs: { kind: "at-least", low: 3 } }]);
  });
  test("equality looks at bytes, and an absent key is as good as undefined", () => {
    expect(sameValue({ a: Uint8Array.of(1, 2), b: undefined }, { a: Uint8Array.of(1, 2) })).toBe(true);
    expect(sameValue({ a: Uint8Array.of(1, 2) }, { a: Uint8Array.of(1, 3) })).toBe(false);
    expect(sameValue({ toString: 1 }, {})).toBe(false);
    expect(sameValue(NaN, NaN)).toBe(true);
  });
});

const TRIALS = population(500, 20_000);
test(`${TRIALS} random pairs of edits: each side's changes are in the outcome or among the clashes (seed ${seedOf(20261702)})`, () => {
  const random = seeded(seedOf(20261702));
  const roll = (n: number) => Math.floor(random.uniform() * n);
  const make = (depth: number): Record<string, unknown> => Object.fromEntries(["a", "b", "c"].flatMap((k) => (roll(4) === 0 ? [] : [[k, depth && roll(3) === 0 ? make(depth - 1) : roll(3)]])));
  const leaves = (v: unknown, path: string): [string, unknown][] => (typeof v === "object" && v !== null ? Object.entries(v).flatMap(([k, x]) => leaves(x, `${path}.${k}`)) : [[path, v]]);
  for (let t = 0; t < TRIALS; t++) {
    const [base, mine, there] = [make(2), make(2), make(2)];
    const r = threeWay(base, mine, there);
    const clashed = (path: string) => r.clashes.some((c) => path.startsWith(`.${c.path.join(".")}`) || c.path.length === 0);
    const [b, out] = [new Map(leaves(base, "")), new Map(leaves(r.value, ""))];
    for (const [side, name] of [[mine, "mine"], [there, "there"]] as const)
      for (const [path, v] of leaves(side, "")) if (!(b.has(path) && b.get(path) === v) && !clashed(path)) expect([t, name, path, out.get(path)]).toEqual([t, name, path, v]);
    // Merging is even-handed: with the sides exchanged it clashes at the same fields.
    expect(threeWay(base, there, mine).clashes.map((c) => c.path.join(".")).sort()).toEqual(r.clashes.map((c) => c.path.join(".")).sort());
    // One side that changed nothing leaves the other's as it is.
    expect(sameValue(threeWay(base, base, there).value, there)).toBe(true);
    expect(sameValue(threeWay(base, mine, base).value, mine)).toBe(true);
  }
});
