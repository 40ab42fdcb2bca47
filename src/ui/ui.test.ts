import { fieldText } from "./number-field";
import { axis, thin } from "./plot-data";

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
