import fc from "fast-check";
import { fitPolynomial } from "./least-squares";
import { median, normalCdf, quantile, quantiles, scatterOfMean, studentT } from "./statistics";

const SEED = 97;

describe("order statistics", () => {
  test.each([
    [[], NaN],
    [[3], 3],
    [[3, 1], 2],
    [[5, 1, 3], 3],
    [[4, 1, 3, 2], 2.5],
  ])("median of %p is %p", (values, expected) => {
    expect(median(values)).toEqual(expected);
  });

  test("their argument stays as it was", () => {
    const values = [3, 1, 2];
    median(values);
    quantile(values, 0.5);
    expect(values).toEqual([3, 1, 2]);
  });

  test.each([
    [0, 10],
    [0.25, 17.5],
    [0.5, 25],
    [1, 40],
    [-1, 10],
    [2, 40],
  ])("the %p quantile of 10, 20, 30, 40 is %p", (p, expected) => {
    expect(quantile([40, 10, 30, 20], p)).toBeCloseTo(expected, 12);
  });

  test(`several quantiles at once are each the one by itself, and leave the values as they were (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 4 }),
        (values, shares) => {
          const list = Float64Array.from(values);
          expect(quantiles(list, shares)).toEqual(shares.map((p) => quantile(values, p)));
          expect([...list]).toEqual([...Float64Array.from(values)]);
        },
      ),
      { seed: SEED, numRuns: 200 },
    );
    expect(quantiles(new Float64Array(), [0.5])).toEqual([NaN]);
  });

  test(`the median is the half quantile, and none lies outside the values (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, p) => {
          const q = quantile(values, p);
          return (
            Math.abs(median(values) - quantile(values, 0.5)) < 1e-6 &&
            q >= Math.min(...values) - 1e-9 &&
            q <= Math.max(...values) + 1e-9
          );
        },
      ),
      { seed: SEED, numRuns: 300 },
    );
  });
});

// Tabulated values of the standard normal distribution.
test.each([
  [0, 0.5],
  [0.5, 0.69146246],
  [1, 0.84134475],
  [1.645, 0.95001509],
  [1.96, 0.9750021],
  [2, 0.97724987],
  [3, 0.9986501],
  [-1, 0.15865525],
  [-2.5, 0.00620967],
  [9, 1],
  [-9, 0],
  [Infinity, 1],
  [-Infinity, 0],
])("Φ(%p) = %p", (z, expected) => {
  expect(Math.abs(normalCdf(z) - expected)).toBeLessThan(2e-7);
});

describe("least squares", () => {
  test("worked: 1 + 2x + 3x² through five exact points", () => {
    const x = [0, 0.1, 0.4, 0.9, 1.6];
    const fit = fitPolynomial(
      x,
      x.map((v) => 1 + 2 * v + 3 * v * v),
      2,
    );
    expect(fit?.coefficients.map((c) => Number(c.toFixed(9)))).toEqual([1, 2, 3]);
    expect(Math.max(...(fit?.residuals ?? [1]).map(Math.abs))).toBeLessThan(1e-9);
  });

  test("a slope by hand: (0,1) (1,3) (2,4) has slope 1.5 and intercept 7/6", () => {
    const fit = fitPolynomial([0, 1, 2], [1, 3, 4], 1);
    expect(fit?.coefficients[1]).toBeCloseTo(1.5, 12);
    expect(fit?.coefficients[0]).toBeCloseTo(7 / 6, 12);
  });

  test("a weight of nearly nothing leaves a point out", () => {
    const fit = fitPolynomial([0, 1, 2, 3], [0, 1, 2, 300], 1, [1, 1, 1, 1e-9]);
    expect(fit?.coefficients[1]).toBeCloseTo(1, 4);
  });

  test.each<[string, number[], number[]]>([
    ["too few points", [1], [1]],
    ["points all at one load", [1, 1, 1], [1, 2, 3]],
    ["a missing number", [0, 1, NaN], [1, 2, 3]],
  ])("%s give no fit", (_, x, y) => {
    expect(fitPolynomial(x, y, 1)).toBeNull();
  });

  test("lengths that differ are a bug", () => {
    expect(() => fitPolynomial([1, 2], [1], 1)).toThrow(/lengths differ/);
  });

  test(`milliamps and amps are conditioned alike, and the stated sensitivity is the real one (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.constantFrom(1e-3, 1, 1e3),
        fc.tuple(
          fc.double({ min: -5, max: 5, noNaN: true }),
          fc.double({ min: -5, max: 5, noNaN: true }),
          fc.double({ min: -5, max: 5, noNaN: true }),
        ),
        fc.nat(6),
        (scale, c, which) => {
          const x = [0.01, 0.07, 0.2, 0.35, 0.6, 0.8, 1].map((v) => v * scale);
          const y = x.map((v) => c[0] + c[1] * (v / scale) + c[2] * (v / scale) ** 2);
          const fit = fitPolynomial(x, y, 2);
          const moved = fitPolynomial(
            x,
            y.map((v, i) => (i === which ? v + 0.01 : v)),
            2,
          );
          if (!fit || !moved) return false;
          const near = Math.abs((fit.coefficients[2] ?? NaN) * scale * scale - c[2]) < 1e-6;
          const predicted = (fit.sensitivity[1]?.[which] ?? NaN) * 0.01;
          const real = (moved.coefficients[1] ?? NaN) - (fit.coefficients[1] ?? NaN);
          return near && Math.abs(predicted - real) < 1e-7 * Math.max(1, Math.abs(real) * 1e2);
        },
      ),
      { seed: SEED, numRuns: 200 },
    );
  });
});

test.each([
  [1, 13.97],
  [2, 4.53],
  [10, 2.28],
  [12, 2.23],
  [40, 2.065],
  [1e9, 2],
])("Student's t with %p degrees of freedom covers 95.45 %% at %p (JCGM 100, Table G.2)", (freedom, t) => {
  expect(Math.abs(studentT(freedom) - t)).toBeLessThan(0.012);
});

test("the scatter of a mean is widened by t/2, and a single value has none", () => {
  // Worked: 1, 2, 3 have s = 1, s/√3 = 0.5774, times 4.53/2.
  expect(scatterOfMean([1, 2, 3])).toBeCloseTo((0.57735 * 4.53) / 2, 4);
  expect(scatterOfMean([5])).toBe(0);
  expect(() => studentT(0)).toThrow(/freedom/);
});
