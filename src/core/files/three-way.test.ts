import { sameValue, threeWay, withMine } from "./three-way";

describe("two edits of one thing", () => {
  test("fields that only one side changed are taken from that side, nested ones too", () => {
    const base = { title: "Sedge", note: "", rules: { a: 1, b: 2 }, gone: 1 };
    const r = threeWay<Record<string, unknown>>(
      base,
      { title: "Sedge 51", note: "", rules: { a: 1, b: 3 } },
      { title: "Sedge", note: "new", rules: { a: 9, b: 2 }, gone: 1 },
    );
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
    expect(r).toEqual({
      value: { m: [item("1", "A"), item("4", "d"), item("3", "c")], words: ["y", "w", "z"], list: [2] },
      clashes: [],
    });
    const clash = threeWay({ m: [item("1", "a")] }, { m: [] }, { m: [item("1", "b")] });
    expect(clash.clashes).toHaveLength(1);
    expect(withMine(clash)).toEqual({ m: [] });
  });
  test("an object of another kind is one value: no half of each", () => {
    const r = threeWay<object>(
      { limit: { kind: "at-least", low: 1 } },
      { limit: { kind: "at-most", high: 2 } },
      { limit: { kind: "at-least", low: 3 } },
    );
    expect(r.clashes).toEqual([
      {
        path: ["limit"],
        base: { kind: "at-least", low: 1 },
        mine: { kind: "at-most", high: 2 },
        theirs: { kind: "at-least", low: 3 },
      },
    ]);
  });
  test("equality looks at bytes, and an absent key is as good as undefined", () => {
    expect(sameValue({ a: Uint8Array.of(1, 2), b: undefined }, { a: Uint8Array.of(1, 2) })).toBe(true);
    expect(sameValue({ a: Uint8Array.of(1, 2) }, { a: Uint8Array.of(1, 3) })).toBe(false);
    expect(sameValue({ toString: 1 }, {})).toBe(false);
    expect(sameValue(NaN, NaN)).toBe(true);
  });
});
