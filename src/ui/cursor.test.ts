import { seeded } from "@/core/simulator";
import { nearest } from "./cursor";
import { ELEMENTS } from "@/core/quantities";

const { sampleAt } = ELEMENTS;

test("the nearest of a rising list is that of a slow search (seed 515)", () => {
  const random = seeded(515);
  for (let turn = 0; turn < 300; turn++) {
    const xs = Float64Array.from({ length: 1 + Math.floor(40 * random.uniform()) }, () => 10 * random.uniform()).sort();
    const x = -2 + 14 * random.uniform();
    const far = (k: number) => Math.abs(sampleAt(xs, k) - x);
    const best = [...xs.keys()].reduce((a, b) => (far(b) < far(a) ? b : a), 0);
    expect(far(nearest(xs, x))).toBe(far(best));
  }
  expect(nearest([], 1)).toBe(-1);
  expect(nearest([3], 100)).toBe(0);
});
