import type { Claim, Limit } from "../claims";
import { HOUSE_RULES, type Finding } from "../measurement";
import { seeded } from "../simulator";
import { judgeClaim, type EvidenceSample } from "../verdicts";
import { claimMarks, claimRows, goodSide, type ClaimMark } from "./claim-marks";
import { density, lanes, onStrip, stripScale } from "./strip";

const claim = (characteristic: string, limit: Limit, id = "c"): Claim => ({
  id,
  readings: [{ characteristic, limit, conditions: {} }],
  source: { kind: "listing", wording: "w", date: "2026-11-01" },
});
const finding = (characteristic: string, value: number | string, more: Partial<Finding> = {}): Finding => ({
  characteristic,
  conditions: {},
  value,
  unit: typeof value === "number" ? "A" : "",
  expandedUncertainty: 0.02,
  budget: [],
  points: [],
  unfair: [],
  ...more,
});
const sample = (findings: readonly Finding[]): EvidenceSample => ({
  id: "A",
  name: "A",
  runs: [
    {
      id: "r",
      title: "r",
      startUtc: "2026-11-01T00:00:00Z",
      finished: true,
      setAside: null,
      modifiedFunctions: [],
      findings,
    },
  ],
});
function mark(limit: Limit, f: Finding | null, name = "charge.cc-current"): ClaimMark {
  const c = claim(name, limit);
  const evidence = f ? [sample([f])] : [];
  return claimMarks([c], new Map([["c", judgeClaim(c, evidence, HOUSE_RULES)]]))[0] as ClaimMark;
}

describe("a claim on the scale of its kind, worked by hand", () => {
  test.each<[string, Limit, Finding, Partial<ClaimMark>, [number, number, number]]>([
    [
      "at least: measured ÷ limit",
      { kind: "at-least", low: 1 },
      finding("charge.cc-current", 1.2),
      { axis: "share", word: "meets" },
      [1.2, 1.18, 1.22],
    ],
    [
      "at most: measured ÷ limit",
      { kind: "at-most", high: 0.5 },
      finding("charge.cc-current", 0.6),
      { axis: "share", word: "misses" },
      [1.2, 1.16, 1.24],
    ],
    [
      "nominal: distance ÷ tolerance",
      { kind: "nominal", nominal: 5, tolerance: { kind: "relative", value: 0.02 } },
      finding("charge.cc-current", 5.05),
      { axis: "tolerance", word: "meets" },
      [0.5, 0.3, 0.7],
    ],
    [
      "a bare number: the house's tolerance",
      { kind: "nominal", nominal: 1, tolerance: null },
      finding("charge.cc-current", 1.1),
      { axis: "tolerance", word: "misses" },
      [2, 1.6, 2.4],
    ],
    [
      "from–to: the place in the span",
      { kind: "from-to", low: 4, high: 6 },
      finding("charge.cc-current", 4.5),
      { axis: "span", word: "meets" },
      [0.25, 0.24, 0.26],
    ],
  ])("%s", (_, limit, f, words, [at, low, high]) => {
    const m = mark(limit, f);
    expect(m).toMatchObject(words);
    expect([m.at, m.low, m.high]).toEqual([at, low, high].map((x) => expect.closeTo(x, 9) as number));
    const good = goodSide(m.axis, m.kind);
    expect(m.at >= good.from && m.at <= good.to).toBe(m.word === "meets");
  });

  test("a temperature: kelvin from its limit", () => {
    const m = mark(
      { kind: "at-most", high: 80 },
      finding("heat.steady-temperature", 72, { unit: "°C", expandedUncertainty: 1 }),
      "heat.steady-temperature",
    );
    expect(m).toMatchObject({ axis: "kelvin", at: -8, low: -9, high: -7, word: "meets" });
  });

  test("a bound is open on its side; nothing measured has no place, but the scale of its kind; words have none", () => {
    expect(mark({ kind: "at-least", low: 1 }, finding("charge.cc-current", 1.3, { bound: "at-least" }))).toMatchObject({
      at: 1.3,
      high: Infinity,
      value: expect.stringMatching(/^at least 1\.30/) as string,
    });
    expect(mark({ kind: "at-least", low: 1 }, null)).toMatchObject({
      axis: "share",
      at: NaN,
      word: "not measured",
      value: "",
    });
    expect(
      mark({ kind: "yes-no", value: true }, finding("protect.short-present", "no"), "protect.short-present"),
    ).toMatchObject({ axis: "word", word: "misses", value: "no", at: NaN });
    expect(mark({ kind: "at-most", high: 0 }, finding("charge.cc-current", 0.1)).axis).toBe("word");
  });

  test("of several conditions the one that decides stands there: the worst of those with the verdict's word", () => {
    const c = claim("boost.max-current", { kind: "at-least", low: 1 });
    const evidence = [
      sample([
        finding("boost.max-current", 1.8, { conditions: { battery: 4.1 } }),
        finding("boost.max-current", 0.7, { conditions: { battery: 3.1 } }),
        finding("boost.max-current", 0.9, { conditions: { battery: 3.6 } }),
      ]),
    ];
    const [m] = claimMarks([c], new Map([["c", judgeClaim(c, evidence, HOUSE_RULES)]]));
    expect(m).toMatchObject({ word: "misses", at: 0.7 });
    expect(m?.value.replace(/\u00a0/g, " ")).toBe("700 ± 20 mA at a 3.1 V battery");
  });
});

test("a peak is claimed where it is best: the best of those that miss stands there", () => {
  const c = claim("boost.peak-efficiency", { kind: "at-least", low: 0.95 });
  const found = [0.9, 0.93, 0.91].map((value, k) =>
    finding("boost.peak-efficiency", value, {
      unit: "1",
      expandedUncertainty: 0.002,
      conditions: { battery: 4.1 - 0.5 * k },
    }),
  );
  const [m] = claimMarks([c], new Map([["c", judgeClaim(c, [sample(found)], HOUSE_RULES)]]));
  expect(m).toMatchObject({ word: "misses", at: expect.closeTo(0.93 / 0.95, 9) as number });
});

test("rows keep quantities and kinds of limit apart, in the order of the dictionary", () => {
  const least = mark(
    { kind: "at-least", low: 0.5 },
    finding("charge.termination-current", 1.2),
    "charge.termination-current",
  );
  const nominal = mark(
    { kind: "nominal", nominal: 1, tolerance: null },
    finding("charge.termination-current", 1),
    "charge.termination-current",
  );
  const charge = mark(
    { kind: "nominal", nominal: 1, tolerance: null },
    finding("charge.cc-current", 1),
    "charge.cc-current",
  );
  const rows = claimRows([
    { boardId: "a", marks: [least, nominal] },
    { boardId: "b", marks: [charge, least] },
  ]);
  expect(rows.map((r) => [r.label, r.kindLabel, r.marks.map((m) => m.boardId)])).toEqual([
    ["Charge current", "nominal ± tolerance", ["b"]],
    ["Termination current", "at least", ["a", "b"]],
    ["Termination current", "nominal ± tolerance", ["a"]],
  ]);
  expect(
    claimRows([{ boardId: "a", marks: [least, charge] }], (c) => c === "charge.cc-current").map((r) => r.label),
  ).toEqual(["Charge current"]);
});

describe("a strip", () => {
  test("has round ticks inside its ends, holds what is fixed, and clips what is far off", () => {
    const s = stripScale([0.9, 1.1, 9], [0, 1], 1);
    expect(s.high).toBeCloseTo(2 * 1.06, 9);
    expect(onStrip(s, 9)).toEqual({ at: 1, beyond: 1 });
    expect(onStrip(s, -5).beyond).toBe(-1);
    expect(s.ticks).toEqual([0, 0.5, 1, 1.5, 2]);
    expect(stripScale([], []).ticks).toEqual([0, 1]);
    expect(stripScale([NaN, Infinity, 3]).low).toBeLessThan(3);
  });

  test("labels on one lane never cover each other (seed 818)", () => {
    const random = seeded(818);
    for (let turn = 0; turn < 200; turn++) {
      const labels = Array.from({ length: 1 + Math.floor(30 * random.uniform()) }, () => ({
        from: 600 * random.uniform(),
        width: 20 + 100 * random.uniform(),
      }));
      const lane = lanes(labels);
      for (let a = 0; a < labels.length; a++)
        for (let b = 0; b < a; b++) {
          const [x, y] = [labels[a] as { from: number; width: number }, labels[b] as { from: number; width: number }];
          if (lane[a] === lane[b]) expect(x.from + x.width <= y.from || y.from + y.width <= x.from).toBe(true);
        }
    }
  });

  test("density counts every value once, those beyond the ends in the last stretch", () => {
    const counts = density({ low: 0, high: 10, ticks: [] }, [-3, 0, 4.9, 5, 9.99, 10, 22, NaN], 10);
    expect([...counts]).toEqual([2, 0, 0, 0, 1, 1, 0, 0, 0, 3]);
  });
});
