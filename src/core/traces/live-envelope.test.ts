import fc from "fast-check";
import { LiveEnvelope } from ".";

test("however long a column grows: its lowest, its highest and its order are kept, in memory that does not grow", () => {
  const seed = Date.now() % 1e6;
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 20_000 }),
      fc.integer({ min: 0, max: 19_999 }),
      fc.double({ min: 0.01, max: 3, noNaN: true }),
      (rows, spikeAt, wave) => {
        const e = new LiveEnvelope();
        const value = (k: number) => (k === spikeAt ? 99 : k % 997 === 5 ? NaN : Math.sin(k * wave));
        let [low, high] = [Infinity, -Infinity];
        for (let k = 0; k < rows; k++) {
          const v = value(k);
          e.push(k, v);
          if (v < low) low = v;
          if (v > high) high = v;
        }
        const { x, y } = e.curve();
        expect(x.length).toBeLessThanOrEqual(1600);
        expect([...x]).toEqual([...x].sort((a, b) => a - b));
        x.forEach((t, k) => expect(y[k]).toBe(value(t)));
        if (Number.isFinite(low))
          expect([y.reduce((a, b) => Math.min(a, b)), y.reduce((a, b) => Math.max(a, b))]).toEqual([low, high]);
      },
    ),
    { numRuns: 60, seed, verbose: 1 },
  );
});

test("before there is much of it, every reading is shown", () => {
  const e = new LiveEnvelope();
  for (let k = 0; k < 300; k++) e.push(k, k * k);
  expect(new Set(e.curve().x).size).toBe(300);
});
