import { readingOf, type Accuracy, type MeterRange, type PinnedMeter, meterSource } from "../instruments";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type Readings, type Role, type RunSetup } from "../measurement";
import { analyseReadings } from "../procedures";
import { loadSweep } from "../procedures/load-sweep";
import { held, METERS, sweepSetup } from "../procedures/load-sweep/fixtures/make";
import { budget, expandedUncertainty, numeric, leads } from "../quantities";
import { MOST_REPEATS, changesFor, pointToTake, scaledDoubt, whatSettles, type OtherRange, type SettleMeans } from ".";

const COARSE: Accuracy = { gain: 0.005, counts: 3, resolution: 0.001 };
const FINE: Accuracy = { gain: 0.0002, counts: 2, resolution: 0.0001 };
const range = (id: string, accuracy: Accuracy, upTo = 6): MeterRange => ({
  id,
  title: `${upTo} V`,
  unit: "V",
  upTo,
  accuracy,
});
const other = (instrumentId: string, instrument: string, r: MeterRange): OtherRange => ({
  instrumentId,
  instrument,
  range: r,
});
const pinned: PinnedMeter = { instrumentId: "own", rangeId: "6", title: "Dunlin, 6 V", upTo: 6 };

/** The slow, obvious twin of analysing anew: a finding's sources of one role scaled from one meter to another; null where the first meter lacks one. */
function withMeter(f: Finding, role: Role, before: Accuracy | undefined, after: Accuracy): Finding | null {
  if (!before) return null;
  const ratio = (a: number, b: number): number | null => (a > 0 ? b / a : b > 0 ? null : 1);
  const gain = ratio(before.gain, after.gain);
  const offset = ratio(before.counts * before.resolution, after.counts * after.resolution);
  if (gain === null || offset === null) return null;
  const own = before.resolution > 0 ? after.resolution / before.resolution : 1;
  return scaledDoubt(f, (source) => {
    if (source.role !== role) return 1;
    return source.kind === "gain" ? gain : source.kind === "offset" ? offset : source.kind === "own" ? own : 1;
  });
}

/** An output read once at so many volts. */
const found = (volts: number, accuracy: Accuracy | undefined): Finding => {
  const x = readingOf(volts, "outputVoltage", "p1", accuracy);
  return {
    characteristic: "boost.no-load-voltage",
    conditions: { battery: 3.6 },
    value: volts,
    unit: "V",
    expandedUncertainty: expandedUncertainty(x),
    budget: budget(x),
    points: ["p1"],
    unfair: [],
  };
};
const means = (change: Partial<SettleMeans> = {}): SettleMeans => ({
  setup: { conditions: {}, instruments: { outputVoltage: COARSE }, meters: { outputVoltage: pinned } },
  ranges: [],
  largest: { outputVoltage: 5.1 },
  ...change,
});
const again = (volts: number) => (setup: RunSetup) => Promise.resolve([found(volts, setup.instruments.outputVoltage)]);
const ATLEAST = { kind: "at-least", low: 5 } as const;

describe("one source of doubt scaled, the rest kept", () => {
  test("worked: 3 mV of gain and 4 mV of the reading's own; the own part halved leaves U = 7.2 mV", () => {
    const f: Finding = {
      ...found(5, COARSE),
      expandedUncertainty: 0.01,
      budget: [
        { source: meterSource("outputVoltage", "own", "p"), u: 0.004, share: 0.64 },
        { source: meterSource("outputVoltage", "gain"), u: 0.003, share: 0.36 },
      ],
    };
    const half = scaledDoubt(f, (s) => (s.kind === "own" ? 0.5 : 1));
    expect(half.expandedUncertainty).toBeCloseTo(0.0072111, 6);
    expect(half.budget.map((b) => b.source)).toEqual([
      meterSource("outputVoltage", "gain"),
      meterSource("outputVoltage", "own", "p"),
    ]);
    expect(half.budget.reduce((s, b) => s + b.share, 0)).toBeCloseTo(1, 12);
  });
  test("another meter by scaling is another meter by reading anew, to the last digit", () => {
    for (const after of [
      FINE,
      { gain: 0.01, counts: 1, resolution: 0.002 },
      { gain: 0.005, counts: 0, resolution: 0.001 },
    ])
      expect(withMeter(found(5.02, COARSE), "outputVoltage", COARSE, after)?.expandedUncertainty).toBeCloseTo(
        found(5.02, after).expandedUncertainty ?? NaN,
        12,
      );
  });
  test("what the old meter did not have can't be scaled: the answer is none, not a guess", () => {
    expect(
      withMeter(
        found(5, { gain: 0, counts: 3, resolution: 0.001 }),
        "outputVoltage",
        { gain: 0, counts: 3, resolution: 0.001 },
        FINE,
      ),
    ).toBeNull();
    expect(withMeter(found(5, undefined), "outputVoltage", undefined, FINE)).toBeNull();
  });
  test("another role's meter changes nothing", () => {
    expect(withMeter(found(5.02, COARSE), "batteryVoltage", COARSE, FINE)?.expandedUncertainty).toBeCloseTo(
      found(5.02, COARSE).expandedUncertainty ?? NaN,
      15,
    );
  });
});

describe("the same by the load sweep's own analysis", () => {
  test("its no-load voltage analysed with a finer meter has the doubt that scaling gives", () => {
    const setup = sweepSetup();
    const readings: Readings = { kind: "points", points: [0, 0.3, 0.6, 0.9].map((a) => held(3.6, a)) };
    const find = (s: RunSetup) =>
      analyseReadings(loadSweep as never, readings, s, NO_CORRECTIONS).findings.find(
        (f) => f.characteristic === "boost.no-load-voltage",
      ) as Finding;
    const before = find(setup as RunSetup);
    const after = find({ ...(setup as RunSetup), instruments: { ...setup.instruments, outputVoltage: FINE } });
    expect(withMeter(before, "outputVoltage", METERS.outputVoltage, FINE)?.expandedUncertainty).toBeCloseTo(
      after.expandedUncertainty ?? NaN,
      9,
    );
    expect(after.value).toBeCloseTo(numeric(before.value), 9);
  });
});

describe("what would settle a close call", () => {
  test("the better range and meter are listed with the interval each would give; what leaves it open is not", async () => {
    const list = await whatSettles(
      found(5.02, COARSE),
      ATLEAST,
      "V",
      HOUSE_RULES,
      means({
        ranges: [
          other("own", "Dunlin", range("4", { gain: 0.0005, counts: 2, resolution: 0.001 })),
          other("own", "Dunlin", range("60", { gain: 0.005, counts: 3, resolution: 0.01 }, 60)),
          other("curlew", "Curlew", range("10", FINE, 10)),
        ],
      }),
      again(5.02),
    );
    expect(list.map((s) => [s.change.kind, s.word])).toEqual([
      ["range", "meets"],
      ["meter", "meets"],
      ["check", "meets"],
    ]);
    const meter = list.find((s) => s.change.kind === "meter");
    const u = found(5.02, FINE).expandedUncertainty ?? NaN;
    expect(meter?.interval.low).toBeCloseTo(5.02 - u, 9);
    expect(meter?.interval.high).toBeCloseTo(5.02 + u, 9);
  });
  test("a range that does not reach what the run read is not offered, nor is the one it was read with", () => {
    const ranges = [other("c", "Curlew", range("4", FINE, 4)), other("own", "Dunlin", range("6", COARSE))];
    expect(
      changesFor(found(5.02, COARSE), means({ ranges })).filter((c) => c.kind === "meter" || c.kind === "range"),
    ).toEqual([]);
    expect(
      changesFor(
        found(5.02, COARSE),
        means({ ranges, largest: {}, setup: { conditions: {}, instruments: { outputVoltage: COARSE } } }),
      ).filter((c) => c.kind === "meter"),
    ).toEqual([]);
  });
  test("repeats settle only where the reading's own part dominates, and the fewest are named", async () => {
    const noisy: Finding = {
      ...found(5.02, COARSE),
      expandedUncertainty: 0.06,
      budget: [{ source: meterSource("outputVoltage", "own", "p"), u: 0.03, share: 1 }],
    };
    const [repeat] = await whatSettles(noisy, ATLEAST, "V", HOUSE_RULES, means(), again(5.02));
    // 0.06/√n under 0.02 needs n = 9 (touching the limit is inside).
    expect(repeat).toMatchObject({ change: { kind: "repeats", times: 9 }, word: "meets" });
    const biased: Finding = { ...noisy, budget: [{ source: meterSource("outputVoltage", "gain"), u: 0.03, share: 1 }] };
    expect(await whatSettles(biased, ATLEAST, "V", HOUSE_RULES, means(), again(5.02))).toEqual([]);
    const hopeless: Finding = {
      ...noisy,
      expandedUncertainty: 1,
      budget: [{ source: meterSource("outputVoltage", "own", "p"), u: 0.5, share: 1 }],
    };
    expect((0.5 * 2) / Math.sqrt(MOST_REPEATS)).toBeGreaterThan(0.02);
    expect(await whatSettles(hopeless, ATLEAST, "V", HOUSE_RULES, means(), again(5.02))).toEqual([]);
  });
  test("four wires are offered only where leads have a share, and take exactly that away", async () => {
    const led: Finding = {
      ...found(4.99, COARSE),
      expandedUncertainty: 0.0403,
      budget: [
        { source: leads("output lead resistance"), u: 0.02, share: 0.98 },
        { source: meterSource("outputVoltage", "gain"), u: 0.0025, share: 0.02 },
      ],
    };
    const list = await whatSettles(led, ATLEAST, "V", HOUSE_RULES, means(), again(4.99));
    expect(list).toMatchObject([{ change: { kind: "four wires" }, word: "misses" }]);
    expect(list[0]?.interval.high).toBeCloseTo(4.995, 9);
    expect(changesFor(found(5, COARSE), means()).some((c) => c.kind === "four wires")).toBe(false);
  });
  test("a check against a better meter leaves that meter's gain and the own resolution", async () => {
    const list = await whatSettles(
      found(5.02, COARSE),
      ATLEAST,
      "V",
      HOUSE_RULES,
      means({ ranges: [other("curlew", "Curlew", range("10", FINE, 10))] }),
      again(5.02),
    );
    const check = list.find((s) => s.change.kind === "check");
    const accuracy = {
      gain: FINE.gain,
      counts: (FINE.counts * FINE.resolution) / COARSE.resolution,
      resolution: COARSE.resolution,
    };
    expect(check?.interval.high).toBeCloseTo(5.02 + (found(5.02, accuracy).expandedUncertainty ?? NaN), 9);
  });
  test("a finding that the new analysis no longer gives settles nothing", async () => {
    expect(
      await whatSettles(
        found(5.02, COARSE),
        ATLEAST,
        "V",
        HOUSE_RULES,
        means({ ranges: [other("c", "Curlew", range("10", FINE, 10))] }),
        () => Promise.resolve([]),
      ),
    ).toEqual([]);
  });
});

describe("a point at the limit", () => {
  const bracketed: Finding = {
    ...found(1, undefined),
    unit: "A",
    value: 0.9,
    expandedUncertainty: 0.004,
    bracket: { low: 0.9, high: 1.1 },
  };
  test("is named where the limit lies between the last held and the first fallen", () => {
    expect(pointToTake(bracketed, { low: 1, high: Infinity }, "A")).toMatch(/^Record a point at 1\.004.A/);
    expect(pointToTake(bracketed, { low: -Infinity, high: 1 }, "A")).toMatch(/^Record a point at 996\.0.mA/);
  });
  test("is none where there is no bracket, or the limit's doubt reaches past it", () => {
    expect(
      pointToTake({ ...bracketed, bracket: undefined } as unknown as Finding, { low: 1, high: Infinity }, "A"),
    ).toBeNull();
    expect(pointToTake(bracketed, { low: 1.2, high: Infinity }, "A")).toBeNull();
    expect(pointToTake(bracketed, { low: 1.098, high: Infinity }, "A")).toBeNull();
  });
});

test("where nothing fell yet, one more point past the last one held is what settles it", () => {
  const held = {
    characteristic: "boost.max-current",
    conditions: {},
    value: 1.299,
    unit: "A",
    expandedUncertainty: 0.004,
    bound: "at-least",
    budget: [],
    points: [],
    unfair: [],
  } as const;
  expect(pointToTake(held, { low: 1.3, high: Infinity }, "A")).toMatch(
    /one more point at 1\.308\sA: past the last one held, 1\.299\sA/,
  );
  // Once the bound itself lies past the limit there is nothing to settle.
  expect(pointToTake({ ...held, value: 1.4 }, { low: 1.3, high: Infinity }, "A")).toBeNull();
});
