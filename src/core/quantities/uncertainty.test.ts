import fc from "fast-check";
import { readingOf, meterSource } from "../instruments";
import {
  add,
  budget,
  divide,
  exact,
  expandedUncertainty,
  fitPolynomial,
  multiply,
  nearestStandard,
  normalCdf,
  propagate,
  quantile,
  rectangular,
  scale,
  seriesValues,
  standardUncertainty,
  subtract,
  uncertain,
  partOf,
  type Uncertain,
  ownUncertainty,
  model,
  power,
} from ".";

const SEED = 4711;
const meter = { gain: 0.0005, counts: 2, resolution: 0.001 };

describe("uncertainty by error source", () => {
  test("a rectangular half width of 1 has the standard uncertainty 1/√3 (JCGM 100, 4.3.7)", () => {
    expect(rectangular(1)).toBeCloseTo(0.57735, 5);
  });

  test("independent shares add by squares: 3 and 4 make 5", () => {
    expect(standardUncertainty(add(uncertain(1, [[model("a"), 3]]), uncertain(1, [[model("b"), 4]])))).toBeCloseTo(
      5,
      12,
    );
  });

  test("the same source adds with its sign: a difference of two readings of one meter loses the offset", () => {
    const a = readingOf(5.1, "outputVoltage", "p1", meter);
    const b = readingOf(5.0, "outputVoltage", "p2", meter);
    const d = subtract(a, b);
    expect(Math.abs(partOf(d, meterSource("outputVoltage", "offset")))).toBeLessThan(1e-12);
    expect(Math.abs(partOf(d, meterSource("outputVoltage", "gain")))).toBeCloseTo(rectangular(0.0005 * 0.1), 12);
    expect(expandedUncertainty(d)).toBeLessThan(expandedUncertainty(a) / 2);
  });

  test("a mean of n readings keeps gain and offset and loses only the independent part", () => {
    const n = 16;
    const readings = Array.from({ length: n }, (_, i) => readingOf(5, "outputVoltage", `p${i}`, meter));
    const mean = propagate(
      5,
      readings.map((r) => [1 / n, r] as const),
    );
    const one = partOf(readings[0] as Uncertain, meterSource("outputVoltage", "own", "p0"));
    expect(one).toBeGreaterThan(0);
    expect(ownUncertainty(mean)).toBeCloseTo(one / 4, 12);
    expect(partOf(mean, meterSource("outputVoltage", "offset"))).toBeCloseTo(rectangular(0.002), 12);
  });

  test("JCGM 100 H.2-like product: relative shares of a power add by squares", () => {
    const p = multiply(uncertain(5, [[model("v"), 0.01]]), uncertain(2, [[model("i"), 0.008]]));
    expect(p.value).toBe(10);
    expect(standardUncertainty(p) / p.value).toBeCloseTo(Math.hypot(0.01 / 5, 0.008 / 2), 12);
  });

  test("the budget's shares sum to one, largest first", () => {
    const b = budget(
      uncertain(1, [
        [model("a"), 1],
        [model("b"), -3],
      ]),
    );
    expect(b.map((s) => s.source)).toEqual([model("b"), model("a")]);
    expect(b.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 12);
    expect(budget(exact(3))).toEqual([]);
  });

  test(`propagation agrees with drawing at random (seed ${SEED})`, () => {
    // The slow, obvious twin: draw the errors, work out the efficiency, look at the spread.
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 4.2, noNaN: true }),
        fc.double({ min: 0.2, max: 2, noNaN: true }),
        fc.integer(),
        (vb, ib, seed) => {
          let state = seed >>> 0;
          const uniform = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296) * 2 - 1;
          const vo = 5;
          const io = (0.9 * vb * ib) / vo;
          const u = { vb: 0.004, ib: 0.006, vo: 0.005, io: 0.004 };
          const x = (v: number, name: keyof typeof u) => uncertain(v, [[model(name), rectangular(u[name])]]);
          const eta = divide(multiply(x(vo, "vo"), x(io, "io")), multiply(x(vb, "vb"), x(ib, "ib")));
          const draws = Array.from(
            { length: 4000 },
            () =>
              ((vo + u.vo * uniform()) * (io + u.io * uniform())) / ((vb + u.vb * uniform()) * (ib + u.ib * uniform())),
          );
          const mean = draws.reduce((s, d) => s + d, 0) / draws.length;
          const sd = Math.sqrt(draws.reduce((s, d) => s + (d - mean) ** 2, 0) / draws.length);
          return Math.abs(sd / standardUncertainty(eta) - 1) < 0.1;
        },
      ),
      { seed: SEED, numRuns: 25 },
    );
  });

  test("two parts of one source add with their signs instead of overwriting each other", () => {
    expect(
      standardUncertainty(
        uncertain(1, [
          [model("gain"), 2],
          [model("gain"), 3],
          [model("own"), 12],
        ]),
      ),
    ).toBeCloseTo(13, 12);
    expect(
      standardUncertainty(
        uncertain(0, [
          [model("offset"), 3],
          [model("offset"), -3],
        ]),
      ),
    ).toBe(0);
  });

  test("scaling scales every share", () => {
    expect(standardUncertainty(scale(uncertain(2, [[model("a"), 0.5]]), -3))).toBeCloseTo(1.5, 12);
  });
});

describe("statistics", () => {
  test("normalCdf against tabulated values", () => {
    for (const [z, p] of [
      [0, 0.5],
      [1, 0.841345],
      [1.959964, 0.975],
      [-2.5, 0.00621],
      [9, 1],
    ] as const)
      expect(normalCdf(z)).toBeCloseTo(p, 5);
    expect(normalCdf(NaN)).toBeNaN();
  });

  test("a parabola is fitted exactly, and its sensitivities reproduce the coefficients", () => {
    const x = [0, 0.001, 0.2, 0.5, 1.1];
    const y = x.map((v) => 0.004 + 0.3 * v + 0.12 * v * v);
    const fit = fitPolynomial(x, y, 2);
    expect(fit?.coefficients[0]).toBeCloseTo(0.004, 9);
    expect(fit?.coefficients[1]).toBeCloseTo(0.3, 9);
    expect(fit?.coefficients[2]).toBeCloseTo(0.12, 9);
    fit?.sensitivity.forEach((row, j) =>
      expect(row.reduce((s, v, i) => s + v * (y[i] ?? 0), 0)).toBeCloseTo(fit.coefficients[j] ?? NaN, 9),
    );
  });

  test("a fit is refused with too few distinct x, NaN or no data, and asserts on unequal lengths", () => {
    expect(fitPolynomial([1, 1, 1], [1, 2, 3], 1)).toBeNull();
    expect(fitPolynomial([1, NaN], [1, 2], 1)).toBeNull();
    expect(fitPolynomial([], [], 0)).toBeNull();
    expect(() => fitPolynomial([1], [], 0)).toThrow(/lengths/);
  });

  test("quantile interpolates", () => {
    expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
    expect(quantile([], 0.5)).toBeNaN();
  });
});

describe("standard values", () => {
  test("nearest by ratio in each series", () => {
    expect(nearestStandard("E24", 5000)).toBe(5100);
    expect(nearestStandard("E12", 5000)).toBe(4700);
    expect(nearestStandard("E96", 5000)).toBe(4990);
    expect(() => nearestStandard("E12", 0)).toThrow(/positive/);
  });
  test("a decade of each series has its count of values", () => {
    expect(seriesValues("E12", 10, 99.9)).toHaveLength(12);
    expect(seriesValues("E24", 10, 99.9)).toHaveLength(24);
    expect(seriesValues("E96", 10, 99.9)).toHaveLength(96);
    expect(seriesValues("E12", 10, 5)).toEqual([]);
  });
});

describe("JCGM 100, annex H.2: resistance, reactance and impedance from means that are correlated", () => {
  // Table H.2: V = 4.9990 V (3.2 mV), I = 19.6610 mA (9.5 µA), φ = 1.044 46 rad (0.75 mrad), r(V,I) = −0.36, r(V,φ) = 0.86, r(I,φ) = −0.65.
  const [v, i, phi] = [4.999, 0.019661, 1.04446];
  const [uv, ui, up] = [0.0032, 0.0000095, 0.00075];
  const [rvi, rvp, rip] = [-0.36, 0.86, -0.65];
  // Three sources that are independent and give these correlations: the rows of a Cholesky factor.
  const l22 = Math.sqrt(1 - rvi ** 2);
  const l32 = (rip - rvi * rvp) / l22;
  const l33 = Math.sqrt(1 - rvp ** 2 - l32 ** 2);
  const V = uncertain(v, [[model("a"), uv]]);
  const I = uncertain(i, [
    [model("a"), rvi * ui],
    [model("b"), l22 * ui],
  ]);
  const P = uncertain(phi, [
    [model("a"), rvp * up],
    [model("b"), l32 * up],
    [model("c"), l33 * up],
  ]);
  const R = propagate((v / i) * Math.cos(phi), [
    [Math.cos(phi) / i, V],
    [(-v / i ** 2) * Math.cos(phi), I],
    [(-v / i) * Math.sin(phi), P],
  ]);
  const X = propagate((v / i) * Math.sin(phi), [
    [Math.sin(phi) / i, V],
    [(-v / i ** 2) * Math.sin(phi), I],
    [(v / i) * Math.cos(phi), P],
  ]);
  const Z = divide(V, I);
  test.each([
    ["R", R, 127.732, 0.071],
    ["X", X, 219.847, 0.295],
    ["Z", Z, 254.26, 0.236],
  ] as const)("%s", (_name, x, value, u) => {
    expect(x.value).toBeCloseTo(value, 2);
    // The guide's own figures come from unrounded correlations.
    expect(Math.abs(standardUncertainty(x) - u)).toBeLessThan(0.004);
  });
});

test("JCGM 100, annex H.1: an end gauge against a standard, shares of 25, 9.7, 2.9 and 16.6 nm make 32 nm", () => {
  // Table H.1: calibration of the standard 25, the difference 9.7 (repeats 5.8, comparator 3.9 and 6.7), expansion 2.9, temperature 16.6.
  const difference = uncertain(215, [
    [model("repeats"), 5.8],
    [model("comparator, random"), 3.9],
    [model("comparator, systematic"), 6.7],
  ]);
  expect(standardUncertainty(difference)).toBeCloseTo(9.7, 1);
  const length = add(
    uncertain(50_000_623, [[model("standard"), 25]]),
    propagate(215, [
      [1, difference],
      [
        1,
        uncertain(0, [
          [model("expansion"), 2.9],
          [model("temperature"), 16.6],
        ]),
      ],
    ]),
  );
  expect(length.value).toBe(50_000_838);
  expect(Math.round(standardUncertainty(length))).toBe(32);
});

test("a source comes out of a budget as it went in, whatever its words hold", () => {
  for (const source of [
    { kind: "own", role: "cellVoltage", id: "cell 3|second reading" },
    { kind: "own", id: "|" },
    { kind: "sampling" },
    { kind: "gain", role: "outputCurrent" },
    { kind: "lead", id: "input lead resistance" },
  ] as const)
    expect(budget(uncertain(1, [[source, 2]])).map((b) => b.source)).toEqual([source]);
});

test("a power is the product of its factors, and an errorless one stays exact", () => {
  const x = uncertain(2, [[model("x"), 0.1]]);
  const cube = power(x, 3);
  expect([cube.value, standardUncertainty(cube)]).toEqual([8, expect.closeTo(1.2, 12)]);
  expect(standardUncertainty(cube)).toBeCloseTo(standardUncertainty(multiply(x, multiply(x, x))), 12);
  expect(standardUncertainty(power(x, -1))).toBeCloseTo(standardUncertainty(divide(exact(1), x)), 12);
  expect(power(exact(3), 2)).toEqual(exact(9));
});
