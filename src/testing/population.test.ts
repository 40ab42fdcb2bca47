import { seeded } from "@/core/simulator";
import { fewestHeld } from "./population";

test("intervals that hold their truth too seldom fail, those that hold it as often as they say pass", () => {
  for (const n of [500, 1000, 2000]) {
    expect([n, 0.91 * n < fewestHeld(n)]).toEqual([n, true]);
    expect([n, 0.95 * n > fewestHeld(n), 0.9545 * n > fewestHeld(n)]).toEqual([n, true, true]);
  }
  // Of a handful nothing can be told: one that fails is no proof.
  expect(fewestHeld(3)).toBe(1);
  expect(fewestHeld(20)).toBeLessThan(18);
});

test("fewer than that come about once in a thousand draws, as drawing shows", () => {
  const random = seeded(7);
  const n = 60;
  const least = fewestHeld(n);
  let [fewer, atMost] = [0, 0];
  const draws = 40_000;
  for (let d = 0; d < draws; d++) {
    let held = 0;
    for (let k = 0; k < n; k++) if (random.between(0, 1) < 0.95) held++;
    if (held < least) fewer++;
    if (held <= least) atMost++;
  }
  expect(fewer / draws).toBeLessThan(0.0015);
  expect(atMost / draws).toBeGreaterThan(0.0006);
});
