import { meterSource } from "../instruments";
import { seeded } from "../simulator";
import { HOUSE_RULES, type Finding, type HouseRules } from "../measurement";
import type { Claim, Limit } from "../claims";
import {
  conformityProbability,
  findingInterval,
  judgeClaim,
  judgeFinding,
  type EvidenceRun,
  type EvidenceSample,
} from ".";

const rules: HouseRules = HOUSE_RULES;
const find = (value: number, u: number, change: Partial<Finding> = {}): Finding => ({
  characteristic: "boost.max-current",
  conditions: { battery: 3.6 },
  value,
  unit: "A",
  expandedUncertainty: u,
  budget: [],
  points: ["p1"],
  unfair: [],
  ...change,
});
const atLeast = (low: number): Limit => ({ kind: "at-least", low });
const supply = {
  code: "supply-gave-up",
  message: "The supply gave up.",
  remedy: "Raise its limit.",
  pushes: "low" as const,
};

describe("one finding against one limit", () => {
  test.each<[string, Finding, Limit, string]>([
    ["whole interval inside", find(1.05, 0.02), atLeast(1), "meets"],
    ["whole interval outside", find(0.95, 0.02), atLeast(1), "misses"],
    ["across the limit", find(1.01, 0.02), atLeast(1), "too close to call"],
    ["touching the limit counts as inside", find(1.25, 0.25), atLeast(1), "meets"],
    [
      "nominal with tolerance, inside",
      find(5.05, 0.01),
      { kind: "nominal", nominal: 5, tolerance: { kind: "relative", value: 0.02 } },
      "meets",
    ],
    [
      "nominal with tolerance, above",
      find(5.15, 0.01),
      { kind: "nominal", nominal: 5, tolerance: { kind: "absolute", value: 0.1 } },
      "misses",
    ],
    ["from–to", find(4.2, 0.02), { kind: "from-to", low: 4.1, high: 4.3 }, "meets"],
    ["at most", find(0.2, 0.01), { kind: "at-most", high: 0.15 }, "misses"],
    ["a lower bound past the claim", find(1.2, 0.01, { bound: "at-least" }), atLeast(1), "meets"],
    [
      "a lower bound short of the claim is not a miss",
      find(0.8, 0.01, { bound: "at-least" }),
      atLeast(1),
      "not measured",
    ],
    [
      "a lower bound above an upper limit",
      find(0.8, 0.01, { bound: "at-least" }),
      { kind: "at-most", high: 0.5 },
      "misses",
    ],
    [
      "a lower bound says nothing of an upper limit above it",
      find(0.8, 0.01, { bound: "at-least" }),
      { kind: "at-most", high: 1 },
      "not measured",
    ],
    [
      "a bracket across the claim",
      find(0.9, 0.01, { bracket: { low: 0.9, high: 1.1 } }),
      atLeast(1),
      "too close to call",
    ],
    ["a bracket below the claim", find(0.9, 0.01, { bracket: { low: 0.9, high: 0.95 } }), atLeast(1), "misses"],
    ["yes/no", { ...find(0, 0), value: "no" }, { kind: "yes-no", value: true }, "misses"],
    [
      "one of",
      { ...find(0, 0), value: "automatic" },
      { kind: "one-of", words: ["automatic", "load-removal"] },
      "meets",
    ],
  ])("%s", (_name, f, limit, word) => {
    expect(judgeFinding(f, limit, "A", rules).word).toBe(word);
  });

  test("an interval is written finely enough that its ends and the limit are told apart, and never with fewer than four digits", () => {
    const why = (f: Finding, limit: Limit, unit: "V" | "A") =>
      judgeFinding({ ...f, unit }, limit, unit, rules)
        .why.join()
        .replace(/\u00a0/g, " ");
    expect(why(find(4.192, 0.0033), { kind: "from-to", low: 4.1895, high: 4.2105 }, "V")).toContain(
      "Measured 4.1887 to 4.1953 V, which reaches across 4.1895 V",
    );
    expect(why(find(1.01, 0.02), atLeast(1.003), "A")).toContain(
      "Measured 990.0 mA to 1.030 A, which reaches across 1.003 A",
    );
    expect(why(find(1, 0), atLeast(0.5), "A")).toContain("Measured 1.000 to 1.000 A");
    expect(why(find(1.2, 0.01, { bound: "at-least" }), atLeast(1), "A")).toContain("Measured at least 1.190 A");
  });

  test("nothing is rounded before judging", () => {
    expect(judgeFinding(find(1.0004, 0.0001), atLeast(1.0003), "A", rules).word).toBe("meets");
    expect(judgeFinding(find(0.99996, 0.00001), atLeast(1), "A", rules).word).toBe("misses");
  });

  test("unfairness voids a miss that it could have caused, and no other verdict", () => {
    expect(judgeFinding(find(0.9, 0.01, { unfair: [supply] }), atLeast(1), "A", rules)).toMatchObject({
      word: "not fairly tested",
      settle: ["Raise its limit."],
      unfair: [supply.code],
    });
    expect(judgeFinding(find(1.1, 0.01, { unfair: [supply] }), atLeast(1), "A", rules)).toMatchObject({
      word: "meets",
      unfair: [],
    });
    expect(judgeFinding(find(1.1, 0.01, { unfair: [supply] }), { kind: "at-most", high: 1 }, "A", rules).word).toBe(
      "misses",
    );
    // What was pushed to the good side of a limit has not met it: a shiny part that reads low is not cool.
    expect(judgeFinding(find(0.9, 0.01, { unfair: [supply] }), { kind: "at-most", high: 1 }, "A", rules)).toMatchObject(
      { word: "not fairly tested", settle: ["Raise its limit."] },
    );
  });

  test("a bare number gets the house tolerance, named as ours", () => {
    const v = judgeFinding(find(5.2, 0.01), { kind: "nominal", nominal: 5, tolerance: null }, "V", rules);
    expect(v).toMatchObject({ word: "meets", limits: { low: 4.75, high: 5.25 } });
    expect(v.why.join()).toContain("ours, not the maker's");
  });

  test("a wider coverage factor widens the interval", () => {
    expect(findingInterval(find(1, 0.02), 3)).toEqual({ low: 0.97, high: 1.03 });
    expect(judgeFinding(find(1.025, 0.02), atLeast(1), "A", { ...rules, coverage: 3 }).word).toBe("too close to call");
  });

  test("a close call says what would settle it", () => {
    const meter = find(1.01, 0.02, {
      budget: [
        { source: meterSource("outputCurrent", "gain"), u: 0.009, share: 0.9 },
        { source: meterSource("outputCurrent", "own", "p1"), u: 0.003, share: 0.1 },
      ],
    });
    expect(judgeFinding(meter, atLeast(1), "A", rules).settle.join()).toMatch(
      /output current meter \(90 %.*better meter/,
    );
    const noise = find(1.01, 0.02, {
      budget: [{ source: meterSource("outputCurrent", "own", "p1"), u: 0.01, share: 1 }],
    });
    expect(judgeFinding(noise, atLeast(1), "A", rules).settle.join()).toContain("Repeat the reading");
    const step = find(0.9, 0.01, { bracket: { low: 0.9, high: 1.1 } });
    expect(judgeFinding(step, atLeast(1), "A", rules).settle.join()).toContain("Record points between");
  });
});

describe("guards (JCGM 106, 8)", () => {
  const by = (guard: HouseRules["guard"], f: Finding, limit: Limit = atLeast(1)) =>
    judgeFinding(f, limit, "A", { ...rules, guard }).word;
  test("worked: 1.01 A with u = 10 mA conforms with 84 %: open by the interval and by 95 %, kept by the value", () => {
    expect([
      by("whole interval", find(1.01, 0.02)),
      by("probable", find(1.01, 0.02)),
      by("estimate", find(1.01, 0.02)),
    ]).toEqual(["too close to call", "too close to call", "meets"]);
  });
  test("worked: one-sided, 95 % needs 1.645 u inside, the whole interval 2 u", () => {
    expect([
      by("probable", find(1.0166, 0.02)),
      by("probable", find(1.0163, 0.02)),
      by("whole interval", find(1.0166, 0.02)),
      by("whole interval", find(1.0201, 0.02)),
    ]).toEqual(["meets", "too close to call", "too close to call", "meets"]);
    expect([by("probable", find(0.9834, 0.02)), by("probable", find(0.9837, 0.02))]).toEqual([
      "misses",
      "too close to call",
    ]);
  });
  test("two-sided, both sides are told apart; the sentence says by what it was called", () => {
    const limit: Limit = { kind: "from-to", low: 0.9, high: 1 };
    expect([
      by("probable", find(1.0166, 0.02), limit),
      by("estimate", find(1.001, 0.02), limit),
      by("estimate", find(0.899, 0.02), limit),
    ]).toEqual(["misses", "misses", "misses"]);
    expect(judgeFinding(find(1.001, 0.02), limit, "A", { ...rules, guard: "estimate" }).why.join()).toContain(
      "the value itself above",
    );
    expect(judgeFinding(find(1.0166, 0.02), atLeast(1), "A", { ...rules, guard: "probable" }).why.join()).toContain(
      "95 % of its probability inside",
    );
  });
  test("a bound is called by its interval, a bracket by all of it, whatever the guard", () => {
    for (const guard of ["whole interval", "probable", "estimate"] as const) {
      expect(by(guard, find(0.8, 0.01, { bound: "at-least" }))).toBe("not measured");
      expect(by(guard, find(0.9, 0.001, { bracket: { low: 0.9, high: 1.1 } }))).toBe("too close to call");
    }
  });
  test("what the interval calls, every laxer guard calls alike", () => {
    const seed = 26;
    const random = seeded(seed);
    for (let k = 0; k < 500; k++) {
      const f = find(0.9 + 0.2 * random.uniform(), 0.05 * random.uniform());
      const strict = by("whole interval", f);
      if (strict === "too close to call") continue;
      expect({ seed, k, probable: by("probable", f), estimate: by("estimate", f) }).toEqual({
        seed,
        k,
        probable: strict,
        estimate: strict,
      });
    }
  });
});

describe("conformity probability (JCGM 106, 7.2)", () => {
  test("worked: estimate one standard uncertainty inside a one-sided limit conforms with 84 %", () => {
    expect(conformityProbability(find(1.01, 0.02), 1, Infinity)).toBeCloseTo(0.8413, 3);
  });
  test("a diode's breakdown under an upper limit of −5.40 V, estimated at −5.47 V with u = 50 mV: 92 %", () => {
    expect(conformityProbability(find(-5.47, 0.1), -Infinity, -5.4)).toBeCloseTo(0.919, 3);
  });
  test("a viscosity within 12.5 and 16.3 mm²/s, estimated at 13.6 with u = 1.8: 66 %", () => {
    expect(conformityProbability(find(13.6, 3.6), 12.5, 16.3)).toBeCloseTo(0.66, 2);
  });
  test("worked: in the middle of ±2 standard uncertainties it conforms with 95.4 %", () => {
    expect(conformityProbability(find(5, 0.02), 4.98, 5.02)).toBeCloseTo(0.9545, 3);
  });
  test("a bracket halved by the limit conforms with about half", () => {
    expect(conformityProbability(find(0.9, 0.0001, { bracket: { low: 0.9, high: 1.1 } }), 1, Infinity)).toBeCloseTo(
      0.5,
      2,
    );
  });
  test("a bound has none; no uncertainty makes it 0 or 1", () => {
    expect(conformityProbability(find(1, 0.1, { bound: "at-least" }), 0, 2)).toBeNull();
    expect(conformityProbability(find(1, 0), 0.9, 2)).toBe(1);
  });
});

describe("which runs count", () => {
  const claim = (change: Partial<Claim["readings"][number]> = {}): Claim => ({
    id: "c",
    source: { kind: "listing", wording: "1 A", date: "2026-11-01" },
    readings: [
      { characteristic: "boost.max-current", limit: atLeast(1), conditions: { battery: { at: 3.6 } }, ...change },
    ],
  });
  const run = (id: string, day: number, findings: Finding[], change: Partial<EvidenceRun> = {}): EvidenceRun => ({
    id,
    title: id,
    startUtc: `2026-11-${String(day).padStart(2, "0")}T10:00:00Z`,
    finished: true,
    setAside: null,
    modifiedFunctions: [],
    findings,
    ...change,
  });
  const sample = (id: string, ...runs: EvidenceRun[]): EvidenceSample => ({ id, name: id, runs });
  const word = (c: Claim, ...s: EvidenceSample[]) => judgeClaim(c, s, rules).word;

  test("no run: not measured; a run under other conditions says so", () => {
    expect(judgeClaim(claim(), [], rules)).toMatchObject({
      word: "not measured",
      readings: [{ why: ["No run has measured it yet."] }],
    });
    const other = judgeClaim(
      claim(),
      [sample("A", run("r", 1, [find(1.2, 0.01, { conditions: { battery: 4.1 } })]))],
      rules,
    );
    expect(other.readings[0]?.why[0]).toContain("other conditions");
  });
  test("the newest counts, and a disagreement is reported", () => {
    const v = judgeClaim(
      claim(),
      [sample("A", run("old", 1, [find(0.8, 0.01)]), run("new", 2, [find(1.2, 0.01)]))],
      rules,
    );
    expect(v.word).toBe("meets");
    expect(v.readings[0]?.why.join()).toContain("disagrees");
  });
  test("an older fair run beats a newer unfair one", () => {
    expect(
      word(
        claim(),
        sample("A", run("fair", 1, [find(0.8, 0.01)]), run("unfair", 2, [find(0.7, 0.01, { unfair: [supply] })])),
      ),
    ).toBe("misses");
  });
  test("runs set aside, unfinished, or after a modification of that function don't count", () => {
    const bad = [find(0.5, 0.01)];
    const good = run("good", 1, [find(1.2, 0.01)]);
    expect(word(claim(), sample("A", good, run("aside", 2, bad, { setAside: "wrong leads" })))).toBe("meets");
    expect(word(claim(), sample("A", good, run("open", 2, bad, { finished: false })))).toBe("meets");
    expect(word(claim(), sample("A", good, run("modified", 2, bad, { modifiedFunctions: ["boost"] })))).toBe("meets");
    expect(word(claim(), sample("A", run("modified", 2, bad, { modifiedFunctions: ["charger"] })))).toBe("misses");
  });
  test("the worst sample decides, and the samples are counted", () => {
    const v = judgeClaim(
      claim(),
      [sample("A", run("a", 1, [find(1.2, 0.01)])), sample("B", run("b", 1, [find(0.9, 0.01)])), sample("C")],
      rules,
    );
    expect(v).toMatchObject({ word: "misses", readings: [{ samples: 2 }] });
  });

  const range = (...at: [number, number][]) =>
    sample(
      "A",
      run(
        "r",
        1,
        at.map(([battery, v]) => find(v, 0.01, { conditions: { battery } })),
      ),
    );
  test("a claim over a range is missed by one point inside it, met only when both ends were tested", () => {
    const c = claim({ conditions: { battery: { from: 3, to: 4.2 } } });
    expect(word(c, range([4.2, 1.5], [3.6, 0.9], [3, 1.2]))).toBe("misses");
    expect(word(c, range([4.2, 1.5], [3, 1.2]))).toBe("meets");
    expect(word(c, range([4.2, 1.5], [3.6, 1.2]))).toBe("not measured");
  });
  test("a claim that names no battery is taken over the house's range, and says that this is ours", () => {
    const c = claim({ conditions: {} });
    expect(word(c, range([4.1, 1.5], [3.1, 1.2]))).toBe("meets");
    expect(judgeClaim(c, [range([4.1, 1.5])], rules)).toMatchObject({
      word: "not measured",
      readings: [{ why: expect.arrayContaining([expect.stringContaining("ours")]) }],
    });
  });
  test("a peak is claimed where it is best", () => {
    const c = claim({ characteristic: "boost.peak-efficiency", conditions: {}, limit: atLeast(0.95) });
    const s = sample(
      "A",
      run(
        "r",
        1,
        [0.96, 0.94].map((v, i) =>
          find(v, 0.001, { characteristic: "boost.peak-efficiency", unit: "1", conditions: { battery: 4.1 - i } }),
        ),
      ),
    );
    expect(word(c, s)).toBe("meets");
  });
  test("readings that fare differently make the claim unclear; alike they don't", () => {
    const two = (low: number): Claim => ({
      ...claim(),
      readings: [
        ...claim().readings,
        { characteristic: "boost.input-current-limit", limit: atLeast(low), conditions: {} },
      ],
    });
    const s = sample(
      "A",
      run("r", 1, [find(1.2, 0.01), find(1.5, 0.01, { characteristic: "boost.input-current-limit", conditions: {} })]),
    );
    expect(word(two(1.8), s)).toBe("claim unclear");
    expect(word(two(1.4), s)).toBe("meets");
  });
  test("a jumper's position decides whether a run speaks of the claim", () => {
    const c = claim({ conditions: { battery: { at: 3.6 }, configuration: { word: "J1 closed" } } });
    const at = (configuration: string) =>
      sample("A", run("r", 1, [find(1.2, 0.01, { conditions: { battery: 3.6, configuration } })]));
    expect(word(c, at("J1 closed"))).toBe("meets");
    expect(word(c, at("J1 open"))).toBe("not measured");
  });
});
