import { budget, divide, expandedUncertainty, standardUncertainty, subtract, partOf } from "../quantities";
import { accuracyAt, readingOf, meterSource, type Accuracy } from ".";

const VOLTS: Accuracy = { gain: 0.0005, counts: 2, resolution: 0.001 };
const AMPS: Accuracy = { gain: 0.0015, counts: 5, resolution: 0.0001 };

test.each<[Accuracy, number, number]>([
  [VOLTS, 5, 0.0045],
  [VOLTS, -5, 0.0045],
  [VOLTS, 0, 0.002],
  [AMPS, 1, 0.002],
])("%p at %p reaches %p", (accuracy, value, expected) => {
  expect(accuracyAt(accuracy, value)).toBeCloseTo(expected, 12);
});

test("a reading: gain and offset are the meter's, the rest its own; all rectangular", () => {
  const r = readingOf(5, "outputVoltage", "p1", VOLTS);
  expect(partOf(r, meterSource("outputVoltage", "gain"))).toBeCloseTo((0.0005 * 5) / Math.sqrt(3), 12);
  expect(partOf(r, meterSource("outputVoltage", "offset"))).toBeCloseTo(0.002 / Math.sqrt(3), 12);
  expect(partOf(r, meterSource("outputVoltage", "own", "p1"))).toBeCloseTo(
    Math.hypot(0.0005 / Math.sqrt(3), 0.0005),
    12,
  );
});

test("in a difference of two readings of one meter the offset cancels", () => {
  const difference = subtract(
    readingOf(5.08, "outputVoltage", "a", VOLTS),
    readingOf(5.02, "outputVoltage", "b", VOLTS),
  );
  expect(partOf(difference, meterSource("outputVoltage", "offset"))).toBeCloseTo(0, 15);
  expect(partOf(difference, meterSource("outputVoltage", "gain"))).toBeCloseTo((0.0005 * 0.06) / Math.sqrt(3), 9);
  // What is left is little more than the two readings' own steps.
  expect(expandedUncertainty(difference)).toBeLessThan(0.0018);
});

test("in a ratio of two readings of one meter the gain cancels, of two meters it does not", () => {
  const same = divide(readingOf(2, "outputCurrent", "a", AMPS), readingOf(1, "outputCurrent", "b", AMPS));
  const other = divide(readingOf(2, "outputCurrent", "a", AMPS), readingOf(1, "batteryCurrent", "b", AMPS));
  expect(partOf(same, meterSource("outputCurrent", "gain"))).toBeCloseTo(0, 12);
  expect(standardUncertainty(other)).toBeGreaterThan(2 * standardUncertainty(same));
});

test("a meter without an accuracy is taken as exact", () => {
  expect(standardUncertainty(readingOf(5, "outputVoltage", "p", undefined))).toBe(0);
});

test("a budget names the largest source first and its shares add up to one", () => {
  const shares = budget(readingOf(12, "outputVoltage", "p", VOLTS));
  expect(shares[0]?.source).toEqual(meterSource("outputVoltage", "gain"));
  expect(shares.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
});
