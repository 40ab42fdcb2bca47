import { plateaus } from ".";

const column = (...parts: readonly (readonly [count: number, value: number])[]) =>
  Float64Array.from(parts.flatMap(([n, v]) => Array.from({ length: n }, (_, k) => v + 1e-4 * (k % 2))));
const times = (n: number) => Float64Array.from({ length: n }, (_, k) => k / 2);

test("levels are told apart, samples on the way between them are left out", () => {
  const values = column([10, 0.1], [1, 0.09], [10, 0.08], [10, 0.06]);
  const found = plateaus(times(values.length), values, 0.003, 3);
  expect(found.map((p) => Number(p.value.toFixed(2)))).toEqual([0.1, 0.08, 0.06]);
  expect(found.map((p) => [p.first, p.end])).toEqual([
    [0, 10],
    [11, 21],
    [21, 31],
  ]);
  expect(found[1]?.to).toBe(10);
});

test("missing readings are passed over, an empty column has no level", () => {
  const values = Float64Array.of(1, NaN, 1, 1, NaN, 2, 2, 2);
  expect(plateaus(times(8), values, 0.1).map((p) => [p.value, p.first, p.end])).toEqual([
    [1, 0, 5],
    [2, 5, 8],
  ]);
  expect(plateaus(new Float64Array(), new Float64Array(), 0.1)).toEqual([]);
});

test("noise of a few steps is one level, however long", () => {
  const values = Float64Array.from({ length: 5000 }, (_, k) => 0.5 + 0.002 * Math.sin(k));
  expect(plateaus(times(5000), values, 0.01)).toHaveLength(1);
});
