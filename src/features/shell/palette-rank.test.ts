import { rank } from "./palette-rank";

/** Entries in the order in which the palette would show them. */
const order = (typed: string, entries: readonly (readonly string[])[]) =>
  entries
    .map((names) => ({ names, fit: rank(names, typed) }))
    .filter((x) => x.fit > 0)
    .sort((a, b) => b.fit - a.fit)
    .map((x) => x.names[0]);

test("letters strewn over several words are no match", () => {
  expect(rank(["Packs", "match", "series", "parallel"], "marl")).toBe(0);
  expect(rank(["Marl 15", "boost"], "marl")).toBeGreaterThan(0.9);
});

test("a name that begins so comes before a word that does, and that before a part of a word", () => {
  expect(order("mar", [["Quick sums", "margin"], ["Summary"], ["Old Marl"], ["Marl 15"]])).toEqual([
    "Marl 15",
    "Old Marl",
    "Quick sums",
    "Summary",
  ]);
});

test.each([
  ["colours: dark", ["Colours: dark"], true],
  ["DARK", ["Colours: dark"], true],
  ["marl sweep", ["Marl 15: Load sweep, 3 Nov"], true],
  ["sweep marl", ["Marl 15: Load sweep, 3 Nov"], true],
  ["marl charge", ["Marl 15: Load sweep, 3 Nov"], false],
  ["", ["Anything"], true],
])("%s finds or does not find %s", (typed, names, found) => {
  expect(rank(names, typed) > 0).toBe(found);
});

test("what is called just so comes first", () => {
  expect(order("cells", [["Cells of the day"], ["Cells"]])).toEqual(["Cells", "Cells of the day"]);
});
