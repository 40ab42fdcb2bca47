import fc from "fast-check";
import {
  decimalsFor,
  formatDuration,
  fromTo,
  formatParts,
  formatQuantity,
  parseQuantity,
  plainNumber,
  writeUncertaintiesTo,
  type Unit,
} from ".";

const SEED = 41;
const text = (value: number, unit: Unit, options = {}) => formatQuantity(value, unit, options).replace(/\u00a0/g, " ");

describe("a quantity in words", () => {
  test.each<[number, Unit, string]>([
    [0.24, "A", "240 mA"],
    [1.5, "A", "1.5 A"],
    [5, "V", "5 V"],
    [0, "V", "0 V"],
    [-0.0032, "A", "−3.2 mA"],
    [150e-6, "A", "150 µA"],
    [5100, "Ω", "5.1 kΩ"],
    [0.0427, "Ω", "42.7 mΩ"],
    [0.9357, "1", "93.57 %"],
    [1.02, "1", "102 %"],
    [21.45, "°C", "21.45 °C"],
    [38, "K/W", "38 K/W"],
    [2.2, "Ah", "2.2 Ah"],
    [0.3, "Ah", "300 mAh"],
    [NaN, "V", "— V"],
    [Infinity, "1", "— %"],
  ])("%p %s is %s", (value, unit, expected) => {
    expect(text(value, unit)).toBe(expected);
  });

  test.each<[number, Unit, number, string]>([
    [5.0313, "V", 0.0043, "5.0313 ± 0.0043 V"],
    [5.0313, "V", 0.043, "5.031 ± 0.043 V"],
    [0.9357, "1", 0.0032, "93.57 ± 0.32 %"],
    [2.0924, "A", 0.0037, "2.0924 ± 0.0037 A"],
    [0.085, "Ω", 0.035, "85 ± 35 mΩ"],
    [38.04, "K/W", 1.23, "38.0 ± 1.2 K/W"],
    [6474.68, "s", 31.4, "1 h 47 min 55 s ± 31 s"],
    [9275.77, "s", 140, "2 h 35 min ± 2 min 20 s"],
    [4096, "s", 1.06, "1 h 08 min 16 s ± 1.1 s"],
  ])("%p %s known within %p shows the digits that are supported", (value, unit, uncertainty, expected) => {
    expect(text(value, unit, { uncertainty, withUncertainty: true })).toBe(expected);
  });

  test("digits asked for are kept, zeros too", () => {
    expect(text(4.1, "V", { digits: 4 })).toBe("4.100 V");
    expect(text(0.9996, "V", { digits: 3 })).toBe("1.00 V");
    expect(text(999.96e-3, "A", { digits: 4 })).toBe("1.000 A");
  });

  test("number and unit come apart for a readout", () => {
    expect(formatParts(0.0124, "A", { digits: 3 })).toEqual({ number: "12.4", unit: "mA" });
    expect(formatParts(0.5, "1", { digits: 2 })).toEqual({ number: "50", unit: "%" });
  });

  test("a count is no ratio", () => {
    expect(text(1, "count", { withUncertainty: true, uncertainty: 0 })).toBe("1");
    expect(formatParts(12, "count", { digits: 4 })).toEqual({ number: "12", unit: "" });
    expect(formatParts(Number.NaN, "count")).toEqual({ number: "—", unit: "" });
  });
});

test.each([
  [0.0043, 4],
  [1.2, 1],
  [37, 0],
  [0.0996, 2],
  [0, 12],
  [NaN, 12],
])("an uncertainty of %p is shown to %p decimals", (uncertainty, decimals) => {
  expect(decimalsFor(uncertainty)).toBe(decimals);
});

test.each([
  [12.5, "12.5 s"],
  [-3, "−3 s"],
  [250, "4 min 10 s"],
  [3600, "1 h 00 min"],
  [9300, "2 h 35 min"],
  [7199.9, "2 h 00 min"],
  [172800, "2 d"],
  [135 * 86400, "135 d"],
  [2.4 * 365.25 * 86400, "2.4 years"],
  [NaN, "—"],
])("%p s is %s", (seconds, expected) => {
  expect(formatDuration(seconds)).toBe(expected);
});

test(`what is written is read back, to the digits shown (seed ${SEED})`, () => {
  const units: readonly Unit[] = ["V", "A", "W", "Ω", "Ah", "Wh", "°C", "1"];
  fc.assert(
    fc.property(
      fc.constantFrom(...units),
      fc.double({ min: 1e-5, max: 9e4, noNaN: true }),
      fc.boolean(),
      (unit, size, negative) => {
        const value = negative && unit !== "Ω" ? -size : size;
        const written = formatQuantity(value, unit, { digits: 5 });
        const read = parseQuantity(written.replace(/\u00a0/g, " "), unit);
        if (!read.ok) throw new Error(`${written}: ${read.error}`);
        // Units without prefixes keep five digits only above a hundred-thousandth.
        return Math.abs(read.value.value - value) <= 1e-4 * Math.abs(value);
      },
    ),
    { seed: SEED, numRuns: 500 },
  );
});

test.each([
  [0.0163, { uncertainty: 0.0004, withUncertainty: true }, "16.30 ± 0.40 ms"],
  [0, { uncertainty: 0.0023, withUncertainty: true }, "0.0 ± 2.3 ms"],
  [0.02, {}, "20 ms"],
  [0.4, {}, "0.4 s"],
  [12.5, {}, "12.5 s"],
] as const)("a time of %p s, brief ones with their prefix", (value, options, text) => {
  expect(formatQuantity(value, "s", options).replace(/\u00a0/g, " ")).toBe(text);
});

describe("digits of an uncertainty", () => {
  afterEach(() => writeUncertaintiesTo(2));
  test("two to begin with, one where the house writes one; the value is cut where its uncertainty is", () => {
    const both = () =>
      formatQuantity(5.03124, "V", { uncertainty: 0.0043, withUncertainty: true }).replace(/\u00a0/g, " ");
    expect(both()).toBe("5.0312 ± 0.0043 V");
    writeUncertaintiesTo(1);
    expect(both()).toBe("5.031 ± 0.004 V");
    expect([decimalsFor(0.0096), decimalsFor(0.096), decimalsFor(37)]).toEqual([2, 1, 0]);
  });
});

test("lengths are written with a prefix and read back", () => {
  expect(formatQuantity(0.045, "m").replace(/\u00a0/g, " ")).toBe("45 mm");
  expect(formatQuantity(1.2, "m").replace(/\u00a0/g, " ")).toBe("1.2 m");
  for (const [text, value] of [
    ["45 mm", 0.045],
    ["45mm", 0.045],
    ["4.5 cm", 0.045],
    ["0,045", 0.045],
    ["2 m", 2],
    ["2m", 2],
  ] as const)
    expect([text, parseQuantity(text, "m")]).toMatchObject([
      text,
      { ok: true, value: { value: expect.closeTo(value, 12) } },
    ]);
});

test.each([
  ["1.258\u00a0A", "1.263\u00a0A", "1.258 to 1.263\u00a0A"],
  ["900\u00a0mA", "1.1\u00a0A", "900\u00a0mA to 1.1\u00a0A"],
  ["2\u00a0h 27\u00a0min", "3\u00a0h", "2\u00a0h 27\u00a0min to 3\u00a0h"],
  ["3", "4", "3 to 4"],
])("from %s to %s is written %s", (low, high, text) => {
  expect(fromTo(low, high)).toBe(text);
});

test.each<[number, number | undefined, string]>([
  [4.19176, 0.0033, "4.1918"],
  [0.004177999999999999, undefined, "0.004178"],
  [0.1 + 0.2, undefined, "0.3"],
  [-12.3456, 1.2, "-12.3"],
  [1234.5, 37, "1235"],
  [NaN, 0.1, ""],
  [0, undefined, "0"],
])("%p with an uncertainty of %p is %p in a table for programs", (value, uncertainty, expected) => {
  expect(plainNumber(value, uncertainty)).toBe(expected);
});
