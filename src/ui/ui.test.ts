import { fieldText } from "./number-field";
import { axis, axisScale, clockScale, thin, timeAxis } from "./plot-data";
import { ELEMENTS } from "@/core/quantities";

const { nth } = ELEMENTS;

test("a field is filled as one would type it", () => {
  expect(fieldText(5, "V")).toBe("5");
  expect(fieldText(0.02, "A")).toBe("20m");
  expect(fieldText(0.05, "1")).toBe("5");
  expect(fieldText(0, "Ω")).toBe("0");
  expect(fieldText(4700, "Ω")).toBe("4.7k");
});

test("axes end on round numbers and hold every value", () => {
  const a = axis([0.36, 0.896]);
  expect(a.low).toBeLessThanOrEqual(0.36);
  expect(a.high).toBeGreaterThan(0.9);
  expect(axis([]).ticks.length).toBeGreaterThan(1);
  expect(axis([5, 5]).high).toBeGreaterThan(5);
});

test("thinning loses no spike", () => {
  const points = Array.from({ length: 5000 }, (_, x) => ({ x, y: x === 3210 ? 99 : x === 17 ? -99 : Math.sin(x) }));
  const kept = thin(points, 400);
  expect(kept.length).toBeLessThanOrEqual(400);
  expect(kept.map((p) => p.y)).toEqual(expect.arrayContaining([99, -99]));
  expect(kept.map((p) => p.x)).toEqual([...kept.map((p) => p.x)].sort((a, b) => a - b));
});

describe("an axis of time", () => {
  test.each([
    [[0, 9600], 1800, "2:30"],
    [[0, 600], 120, "10:00"],
    [[0, 100], 15, "1:30"],
    [[0, 200000], 21600 * 2, "48:00"],
  ])("over %p s counts in steps of %p s", (values, step, last) => {
    const a = timeAxis(nth(values, 0), nth(values, 1));
    expect((a.ticks[1] ?? 0) - (a.ticks[0] ?? 0)).toBe(step);
    expect(a.high).toBe(values[1]);
    expect(clockScale(a.low, a.high, a.ticks).tick(a.ticks.at(-1) ?? 0)).toBe(last);
  });

  test.each([
    [3600, 3690, "h:mm:ss", "1:00:00"],
    [7200, 7200.4, "h:mm:ss", "2:00:00.00"],
    [12.5, 13.1, "m:ss.s", "0:12.5"],
    [4e-6, 24e-6, "µs", "5"],
    [0, 0.04, "ms", "0"],
    [3500, 9000, "h:mm", "1:00"],
  ])("between %p and %p s is written as %s", (from, to, unit, first) => {
    const a = timeAxis(from, to);
    expect([a.low, a.high]).toEqual([from, to]);
    const scale = clockScale(a.low, a.high, a.ticks);
    expect([scale.unit, scale.tick(nth(a.ticks, 0))]).toEqual([unit, first]);
  });
});

test.each<[Parameters<typeof axisScale>[0], number, string, string]>([
  ["A", 1.2, "A", "0.8"],
  ["A", 0.9, "mA", "800"],
  ["1", 0.9, "%", "80"],
  ["°C", 90, "°C", "0.8"],
  ["V", 5, "V", "0.8"],
])("an axis in %s up to %p has one unit for all its ticks", (unit, high, shown, tick) => {
  const s = axisScale(unit, { low: 0, high });
  expect(s.unit).toBe(shown);
  expect(s.tick(0.8)).toBe(tick);
});
