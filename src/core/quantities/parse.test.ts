import fc from "fast-check";
import { formatParts, formatQuantity, parseDecimal, parseQuantity, parseTolerance, type Unit } from ".";

const SEED = 20261125;
const value = (text: string, unit: Unit) => {
  const r = parseQuantity(text, unit);
  return r.ok ? r.value.value : r.error;
};

describe("parseQuantity", () => {
  test.each<[string, Unit, number]>([
    ["1A5", "A", 1.5],
    ["240m", "V", 0.24],
    ["5k1", "Ω", 5100],
    ["4R7", "Ω", 4.7],
    ["3V3", "V", 3.3],
    ["3,65 V", "V", 3.65],
    ["1.27 A", "A", 1.27],
    ["18u", "A", 18e-6],
    ["18µ", "A", 18e-6],
    ["18μA", "A", 18e-6],
    ["2M2", "Ω", 2.2e6],
    ["10 kΩ", "Ω", 1e4],
    ["10 k\u2126", "Ω", 1e4],
    ["10K", "Ω", 1e4],
    ["1.000,5", "Ω", 1000.5],
    ["1,000.5", "Ω", 1000.5],
    ["1 000,5", "Ω", 1000.5],
    ["\u22120,5", "A", -0.5],
    ["1.5e-3", "A", 1.5e-3],
    ["85 %", "1", 0.85],
    ["0,9", "1", 0.9],
    ["2h", "s", 7200],
    ["4 min", "s", 240],
    ["1:27:30", "s", 5250],
    ["0:00:07.5", "s", 7.5],
    ["2200 mAh", "Ah", 2.2],
    ["45 °C", "°C", 45],
    ["45", "°C", 45],
    [".5", "V", 0.5],
    ["5.", "V", 5],
  ])("%s in a field of %s is %d", (text, unit, expected) => {
    expect(value(text, unit)).toBeCloseTo(expected, 12);
  });

  test.each<[string, Unit, RegExp]>([
    ["", "V", /Empty/],
    ["abc", "V", /not a number/],
    ["3 A", "V", /takes volts.*amperes/],
    ["1A5", "V", /no number|takes volts/],
    ["1.2.3", "V", /without guessing/],
    ["5 x", "V", /no unit of volts/],
    ["34:47", "s", /no unit of seconds/],
    ["1:27:75", "s", /no unit of seconds/],
    ["1,00,0", "V", /without guessing/],
    ["1e999", "V", /without guessing|outside/],
    ["4R7", "A", /amperes/],
  ])("%s in a field of %s is refused with the reason", (text, unit, reason) => {
    expect(value(text, unit)).toMatch(reason);
  });

  test(`what is written is read back (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.constantFrom<Unit>("V", "A", "W", "Ω", "Ah", "1", "K"),
        (v, unit) => {
          fc.pre(v === 0 || Math.abs(v) > 1e-9);
          const back = parseQuantity(formatQuantity(v, unit, { digits: 9 }), unit);
          return back.ok && Math.abs(back.value.value - v) <= 2e-8 * Math.abs(v) + 1e-12;
        },
      ),
      { seed: SEED, numRuns: 500 },
    );
  });

  test(`no text makes it throw (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const r = parseQuantity(text, "A");
        return r.ok ? Number.isFinite(r.value.value) : r.error.length > 0;
      }),
      { seed: SEED, numRuns: 1000 },
    );
  });
});

test("parseDecimal takes the last separator as the decimal sign and refuses broken groups", () => {
  expect(parseDecimal("1,000,000")).toBe(1e6);
  expect(parseDecimal("1.234.567,8")).toBe(1234567.8);
  expect(parseDecimal("1,000")).toBe(1);
  expect(parseDecimal("12,34,5")).toBeNull();
  expect(parseDecimal("")).toBeNull();
});

test("parseTolerance tells a share from an absolute half width", () => {
  expect(parseTolerance("±2 %", "V")).toMatchObject({ ok: true, value: { kind: "relative", value: 0.02 } });
  expect(parseTolerance("+-50m", "V")).toMatchObject({ ok: true, value: { kind: "absolute", value: 0.05 } });
  expect(parseTolerance("0,05 V", "V")).toMatchObject({ ok: true, value: { kind: "absolute", value: 0.05 } });
  expect(parseTolerance("-2 %", "V")).toMatchObject({ ok: false });
});

describe("formatQuantity", () => {
  test.each<[number, Unit, Parameters<typeof formatQuantity>[2], string]>([
    [0.24, "A", { digits: 4 }, "240.0\u00a0mA"],
    [5.0312, "V", { uncertainty: 0.0043, withUncertainty: true }, "5.0312 ± 0.0043\u00a0V"],
    [1.2005, "A", { uncertainty: 0.0023, withUncertainty: true }, "1.2005 ± 0.0023\u00a0A"],
    [0.935, "1", { uncertainty: 0.0035, withUncertainty: true }, "93.50 ± 0.35\u00a0%"],
    [2.87e-4, "A", { uncertainty: 4.6e-5 }, "287\u00a0µA"],
    [-0.5, "A", undefined, "\u2212500\u00a0mA"],
    [5, "V", undefined, "5\u00a0V"],
    [0.9999999, "A", { digits: 4 }, "1.000\u00a0A"],
    [NaN, "V", undefined, "—\u00a0V"],
    [7384, "s", undefined, "2 h 03 min"],
    [11624600, "s", undefined, "135 d"],
  ])("%d %s", (v, unit, options, expected) => {
    expect(formatQuantity(v, unit, options)).toBe(expected);
  });

  test("a value smaller than its uncertainty shows no more than the uncertainty supports", () => {
    expect(formatParts(0.0004, "V", { uncertainty: 0.01, withUncertainty: true })).toEqual({
      number: "0 ± 10",
      unit: "mV",
    });
  });
});
