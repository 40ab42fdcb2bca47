import { overlap, relate, saidTwice, type Claim, type ClaimReading, type Limit } from ".";

const nominal = (v: number, t: number | null): Limit => ({
  kind: "nominal",
  nominal: v,
  tolerance: t === null ? null : { kind: "absolute", value: t },
});
const claim = (id: string, ...readings: ClaimReading[]): Claim => ({
  id,
  readings,
  source: { kind: "listing", wording: id, date: "2026-11-01" },
});
const reading = (characteristic: string, limit: Limit, conditions: ClaimReading["conditions"] = {}): ClaimReading => ({
  characteristic,
  limit,
  conditions,
});

describe("how two limits stand to each other", () => {
  test.each<[string, Limit, Limit, string]>([
    ["equal", nominal(5, 0.1), { kind: "from-to", low: 4.9, high: 5.1 }, "the same"],
    ["a bare number has the house tolerance", nominal(5, null), nominal(5, 0.25), "the same"],
    ["one inside the other", nominal(5, 0.05), nominal(5, 0.1), "one stricter"],
    ["at least more is stricter", { kind: "at-least", low: 1.5 }, { kind: "at-least", low: 1 }, "one stricter"],
    ["overlapping", nominal(5, 0.1), nominal(5.15, 0.1), "overlapping"],
    ["apart", nominal(5, 0.1), nominal(5.3, 0.1), "contradicting"],
    ["at most below at least", { kind: "at-most", high: 1 }, { kind: "at-least", low: 2 }, "contradicting"],
    ["yes and no", { kind: "yes-no", value: true }, { kind: "yes-no", value: false }, "contradicting"],
    [
      "words among words",
      { kind: "one-of", words: ["Red"] },
      { kind: "one-of", words: ["red", "blue"] },
      "one stricter",
    ],
    [
      "words that share one",
      { kind: "one-of", words: ["red", "green"] },
      { kind: "one-of", words: ["red", "blue"] },
      "overlapping",
    ],
  ])("%s", (_n, a, b, expected) => {
    expect(relate(a, b, 0.05)).toBe(expected);
    expect(relate(b, a, 0.05)).toBe(expected);
  });
});

test("conditions part two claims only where both name them and no run can meet both", () => {
  expect(overlap({ battery: { at: 3.6 } }, {})).toBe(true);
  expect(overlap({ battery: { at: 3.6 } }, { battery: { from: 3, to: 4.2 } })).toBe(true);
  expect(overlap({ battery: { at: 3 } }, { battery: { at: 3.6 } })).toBe(false);
  expect(overlap({ state: { word: "No-load " } }, { state: { word: "no-load" } })).toBe(true);
  expect(overlap({ state: { word: "cut-off" } }, { state: { word: "no-load" } })).toBe(false);
});

test("a quantity that two claims speak of stands side by side, with the gravest relation between any two", () => {
  const found = saidTwice(
    [
      claim("a", reading("boost.max-current", { kind: "at-least", low: 1.5 })),
      claim("b", reading("boost.no-load-voltage", nominal(5, 0.1))),
      claim("c", reading("boost.max-current", { kind: "at-most", high: 1 })),
      claim("d", reading("boost.max-current", { kind: "at-least", low: 1 })),
      claim("e", reading("standby.current", { kind: "at-most", high: 1e-4 }, { state: { word: "no-load" } })),
      claim("f", reading("standby.current", { kind: "at-most", high: 1e-6 }, { state: { word: "cut-off" } })),
    ],
    0.05,
  );
  expect(found.map((g) => [g.characteristic, g.relation, g.sayings.map((s) => s.claim.id)])).toEqual([
    ["boost.max-current", "contradicting", ["a", "c", "d"]],
  ]);
});

test("two ways of reading one claim are not two claims", () => {
  expect(
    saidTwice(
      [claim("a", reading("boost.max-current", nominal(1.8, null)), reading("boost.max-current", nominal(1, null)))],
      0.05,
    ),
  ).toEqual([]);
});
