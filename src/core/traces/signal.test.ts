import { seeded } from "../simulator";
import {
  finite,
  finiteWithin,
  highestMean,
  indexAt,
  integrate,
  integrateTogether,
  interval,
  valueBefore,
  withoutSpikes,
} from ".";

const times = (n: number, step = 1) => Float64Array.from({ length: n }, (_, k) => k * step);
const always = () => true;

describe("spikes", () => {
  test("a single sample far from two neighbours that agree is none, and its place is told", () => {
    const r = withoutSpikes(Float64Array.of(1, 1, 1, 9, 1, 1), 0.001);
    expect([...r.values]).toEqual([1, 1, 1, NaN, 1, 1]);
    expect(r.spikes).toEqual([3]);
  });

  test.each<[string, number[]]>([
    ["a step that lasts", [1, 1, 1, 0.1, 0.1, 0.1]],
    ["a ramp", [1, 1.2, 1.4, 1.6, 1.8, 2]],
    ["noise of a few steps", [1, 1.004, 0.997, 1.003, 0.996, 1]],
    ["the first and the last sample", [9, 1, 1, 1, 1, 9]],
    ["readings beside a missing one", [1, NaN, 5, 1, 1, 1]],
  ])("%s is left alone", (_, values) => {
    expect(withoutSpikes(Float64Array.from(values), 0.001).spikes).toEqual([]);
  });

  test("the log itself is not altered", () => {
    const raw = Float64Array.of(1, 1, 9, 1, 1);
    withoutSpikes(raw, 0.001);
    expect(raw[2]).toBe(9);
  });
});

test.each([
  [-5, 0],
  [0, 0],
  [2.5, 3],
  [3, 3],
  [99, 5],
])("the first sample at or after %p s is number %p", (at, expected) => {
  expect(indexAt(times(5), at)).toBe(expected);
});

test("the usual interval is the median one, gaps and jitter aside", () => {
  expect(interval(Float64Array.of(0, 2.4, 5.1, 7.5, 10, 400, 402.5, 405))).toBeCloseTo(2.5, 6);
  expect([...finite(Float64Array.of(1, NaN, 3, 4), -2, 3)]).toEqual([1, 3]);
  expect([...finite(undefined, 0, 3)]).toEqual([]);
  const stretches = [
    { first: 0, end: 2 },
    { first: 3, end: 9 },
  ];
  expect([...finiteWithin(Float64Array.of(1, NaN, 3, 4, 5), stretches)]).toEqual([1, 4, 5]);
  expect([...finiteWithin(Float64Array.of(1, 2), [])]).toEqual([]);
});

describe("a value just before an edge", () => {
  test("is carried on along the line of the last readings", () => {
    const volts = Float64Array.from({ length: 20 }, (_, k) => 3 + 0.01 * k);
    const e = valueBefore(times(20), volts, 20, 20);
    expect(e?.value).toBeCloseTo(3.2, 9);
    expect(e?.slope).toBeCloseTo(0.01, 9);
  });

  test("passes over missing readings, and is none where there are none", () => {
    const volts = Float64Array.of(3, 3, NaN, 3, NaN, 3, 3, 3);
    expect(valueBefore(times(8), volts, 8, 8)?.value).toBeCloseTo(3, 9);
    expect(valueBefore(times(3), Float64Array.of(NaN, NaN, NaN), 3, 3)).toBeNull();
    expect(valueBefore(times(3), undefined, 3, 3)).toBeNull();
  });
});

const column = (n: number, f: (k: number) => number) => Float64Array.from({ length: n }, (_, k) => f(k));

describe("an integral", () => {
  const one = times(101);
  test("worked: 1 A for 100 s is 100 C; a ramp to 2 A over 100 s is 100 C", () => {
    expect(
      integrate(
        one,
        column(101, () => 1),
        null,
        0,
        100,
        1,
        always,
      ).value,
    ).toBeCloseTo(100, 9);
    expect(
      integrate(
        one,
        column(101, (k) => 0.02 * k),
        null,
        0,
        100,
        1,
        always,
      ).value,
    ).toBeCloseTo(100, 9);
  });

  test("reaches out to both ends between the samples", () => {
    expect(
      integrate(
        one,
        column(101, () => 0.5),
        column(101, () => 2),
        10.25,
        20.75,
        1,
        always,
      ).value,
    ).toBeCloseTo(10.5, 9);
  });

  test("uneven samples and missing readings change nothing of a constant", () => {
    const uneven = Float64Array.of(0, 0.7, 2.1, 2.9, 4.4, 5);
    expect(
      integrate(
        uneven,
        column(6, (k) => (k === 2 ? NaN : 2)),
        null,
        0,
        5,
        1,
        always,
      ).value,
    ).toBeCloseTo(10, 9);
  });

  test("a gap is bridged where its sides agree, and open where they don't", () => {
    const gap = Float64Array.of(0, 1, 2, 62, 63, 64);
    const bridged = integrate(
      gap,
      column(6, () => 1),
      null,
      0,
      64,
      1,
      always,
    );
    expect(bridged).toMatchObject({ bridged: [60], open: [] });
    expect(bridged.value).toBeCloseTo(64, 9);
    expect(
      integrate(
        gap,
        column(6, () => 1),
        null,
        0,
        64,
        1,
        () => false,
      ).open,
    ).toEqual([{ from: 2, to: 62 }]);
  });
});

describe("the highest mean over a window", () => {
  test("worked: 10 W for 30 s inside 1 W is 5.5 W over a minute", () => {
    const t = times(300);
    const w = column(300, (k) => (k >= 100 && k < 130 ? 10 : 1));
    const best = highestMean(t, w, 0, 299, 60);
    expect(best?.value).toBeCloseTo(5.5, 1);
    expect(best?.end).toBeGreaterThanOrEqual(129);
    expect(best?.end).toBeLessThan(165);
  });

  test("a log shorter than the window has none", () => {
    expect(
      highestMean(
        times(20),
        column(20, () => 1),
        0,
        19,
        60,
      ),
    ).toBeNull();
  });
});

test("two integrals and that of the product at once are what each gives alone, with gaps, missing readings and any ends (seed 91)", () => {
  const r = seeded(91);
  for (let k = 0; k < 200; k++) {
    const n = 2 + Math.floor(60 * r.uniform());
    let at = 0;
    const time = Float64Array.from({ length: n }, () => (at += r.uniform() < 0.05 ? 40 : 0.5 + r.uniform()));
    const hole = k % 3 === 0 ? 0.1 : 0;
    const some = () => Float64Array.from({ length: n }, () => (r.uniform() < hole ? NaN : r.between(-1, 3)));
    const [f, g] = [some(), some()];
    const [from, to] = [r.between(-5, at / 2), r.between(at / 2, at + 5)];
    const agree = (a: number, b: number) => (a + b) % 2 === 0;
    const t = integrateTogether(time, f, g, from, to, 1, agree);
    for (const [got, alone] of [
      [t.f, integrate(time, f, null, from, to, 1, agree)],
      [t.g, integrate(time, g, null, from, to, 1, agree)],
      [t.product, integrate(time, f, g, from, to, 1, agree)],
    ] as const) {
      expect(got.value).toBeCloseTo(alone.value, 9);
      expect([got.bridged, got.open]).toEqual([alone.bridged, alone.open]);
    }
  }
});

test("finite entries are a view where all are, and a copy where some are missing", () => {
  const whole = Float64Array.of(1, 2, 3, 4);
  expect(finite(whole, 1, 9)).toEqual(Float64Array.of(2, 3, 4));
  expect(finite(whole, 1, 3).buffer).toBe(whole.buffer);
  expect(finite(Float64Array.of(1, NaN, 3, Infinity, 5), 0, 5)).toEqual(Float64Array.of(1, 3, 5));
  expect(finite(whole, 3, 1)).toHaveLength(0);
});
