import fc from "fast-check";
import { alignOnSteps, envelope, extremesOf, heatPower, indexAt, largestSteps } from ".";

const ramp = (n: number, f: (k: number) => number) => Float64Array.from({ length: n }, (_, k) => f(k));

/** A column a row a second, and some stretch of it. */
function stretch(values: readonly number[], a: number, b: number) {
  const v = Float64Array.from(values);
  const [from, to] = [a % v.length, b % v.length].sort((x, y) => x - y) as [number, number];
  return { v, time: ramp(v.length, (k) => k), from, to };
}

test("thinning keeps every stretch's lowest and highest, in order, whatever is looked at", () => {
  const seed = Date.now() % 1e6;
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 2, maxLength: 400 }),
      fc.integer({ min: 4, max: 60 }),
      fc.nat(),
      fc.nat(),
      (values, most, a, b) => {
        const { v, time, from, to } = stretch(values, a, b);
        const c = envelope(time, v, from, to, most);
        expect(c.x.length).toBeLessThanOrEqual(most + 2);
        expect([...c.x]).toEqual([...c.x].sort((x, y) => x - y));
        const seen = v.slice(Math.max(0, from - 1), to + 2);
        expect(Math.max(...c.y)).toBe(Math.max(...seen));
        expect(Math.min(...c.y)).toBe(Math.min(...seen));
        c.x.forEach((x, k) => expect(v[x]).toBe(c.y[k]));
      },
    ),
    { numRuns: 200, seed, verbose: 1 },
  );
});

test("with its extremes known a column is thinned to the very same points, readings missing or equal included", () => {
  const seed = Date.now() % 1e6;
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(NaN, NaN, 0, 1, 1, 2, -3), { minLength: 2, maxLength: 1500 }),
      fc.integer({ min: 4, max: 40 }),
      fc.nat(),
      fc.nat(),
      (values, most, a, b) => {
        const { v, time, from, to } = stretch(values, a, b);
        expect(envelope(time, v, from, to, most, extremesOf(v))).toEqual(envelope(time, v, from, to, most));
      },
    ),
    { numRuns: 300, seed, verbose: 1 },
  );
});

test("a spike of one sample in a million is still there, and no reading is no point", () => {
  const v = ramp(1e6, () => 1);
  v[654321] = 9;
  v.fill(NaN, 1000, 2000);
  const c = envelope(
    ramp(1e6, (k) => k),
    v,
  );
  expect(Math.max(...c.y)).toBe(9);
  expect(c.x[c.y.indexOf(9)]).toBe(654321);
  expect(c.y.every(Number.isFinite)).toBe(true);
});

test("a time between rows leads to the later one", () => {
  const t = Float64Array.of(0, 1, 4);
  expect([-1, 0, 0.5, 4, 5].map((x) => indexAt(t, x))).toEqual([0, 0, 1, 2, 3]);
});

test("heat is input power less cell power, and unknown where a reading is missing", () => {
  const of = (x: number) => Float64Array.of(x, NaN);
  expect([
    ...(heatPower({ inputVoltage: of(5), inputCurrent: of(1), cellVoltage: of(3.6), cellCurrent: of(1) }) ?? []),
  ]).toEqual([expect.closeTo(1.4, 9), NaN]);
  expect(heatPower({ inputVoltage: of(5), cellVoltage: of(3.6), cellCurrent: of(1) })).toBeNull();
});

describe("two clocks", () => {
  // One logger sees the cell's current, the other the input's: both see the charge begin, step up and stop.
  const current = (t: number) => (t < 30 ? 0 : t < 200 ? 0.1 : t < 900 ? 1 : 0);
  const noise = (k: number) => 0.002 * Math.sin(12.9898 * k * k);
  const first = ramp(500, (k) => 2 * k);
  const second = ramp(333, (k) => 3 * k);

  test.each([0, 47, -25])("are laid on each other where both saw a step, %p s apart", (apart) => {
    const a = largestSteps(
      first,
      ramp(500, (k) => current(2 * k) + noise(k)),
    );
    const b = largestSteps(
      second,
      ramp(333, (k) => 1.02 * current(3 * k + apart) + 0.004 + noise(k + 7)),
    );
    expect(a.map((s) => Math.round(s.height * 10) / 10)).toEqual([-1, 0.9, 0.1]);
    const r = alignOnSteps(a, b, 5);
    expect(r?.matched).toBeGreaterThanOrEqual(2);
    expect(Math.abs((r?.offset ?? NaN) - apart)).toBeLessThan(2.6);
  });

  test("with no step in sight stay as they are", () => {
    expect(alignOnSteps(largestSteps(first, ramp(500, noise)), largestSteps(second, ramp(333, noise)), 5)).toBeNull();
  });
});
