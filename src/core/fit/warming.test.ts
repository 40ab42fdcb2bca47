import fc from "fast-check";
import { median } from "../quantities";
import { seeded } from "../simulator";
import { fitWarming, powerOn, type WarmingReadings } from ".";

const PRIORS = { offset: 0.8, start: 0.7, noise: 0.05 };

interface Made {
  readonly rise: number;
  readonly tau: number;
  readonly quick?: number;
  readonly quickTau?: number;
  readonly seconds: number;
  readonly noise?: number;
  readonly offset?: number;
  readonly drift?: number;
  readonly every?: number;
}
/** A part of 1 W at 22 °C, cold for 40 s first; the exact solution of its two lags. */
function warming(m: Made, seed = 1): WarmingReadings {
  const r = seeded(seed);
  const every = m.every ?? 5;
  const time = Float64Array.from({ length: Math.round(m.seconds / every) + 1 }, (_, k) => k * every);
  const since = (t: number) => Math.max(0, t - 40 + every / 2);
  const air = (t: number) => 22 + (m.drift ?? 0) * t;
  // A board that follows a drifting room trails it by drift × τ.
  const trail = (t: number) => (m.drift ?? 0) * m.tau * (1 - Math.exp(-t / m.tau));
  return {
    time,
    power: time.map((t) => (t < 40 ? 0 : 1)),
    ambient: time.map((t) => air(t)),
    part: time.map(
      (t) =>
        air(t) -
        trail(t) +
        (m.offset ?? 0) +
        m.rise * (1 - Math.exp(-since(t) / m.tau)) +
        (m.quick ?? 0) * (1 - Math.exp(-since(t) / (m.quickTau ?? 8))) +
        (m.noise ?? 0) * r.normal(),
    ),
  };
}

test("from the first part of a rise it foretells the whole of it, the quick one kept apart", () => {
  const f = fitWarming(warming({ rise: 30, tau: 600, quick: 5, quickTau: 9, seconds: 900 }), PRIORS);
  expect(f?.tau).toBeCloseTo(600, -1);
  expect(Math.abs((f?.rise ?? 0) - 35)).toBeLessThan(0.5);
  expect(Math.abs((f?.quick ?? 0) - 5)).toBeLessThan(0.5);
  expect(f?.left).toBeCloseTo(30 * Math.exp(-862.5 / 600), 0);
});

test("two thermometers that differ are told from a rise, and a drifting room is followed with the board's lag", () => {
  const f = fitWarming(warming({ rise: 30, tau: 500, offset: 0.9, drift: 1e-3, seconds: 2400 }), PRIORS);
  expect(Math.abs((f?.offset ?? 0) - 0.9)).toBeLessThan(0.35);
  expect(Math.abs((f?.rise ?? 0) - 30)).toBeLessThan(0.4);
  // Without the lag the drift of 2.4 K would be taken for some of the rise.
  expect(Math.abs((f?.tau ?? 0) - 500)).toBeLessThan(12);
});

test("the longer it is logged, the surer the prediction, and it stays within what it said", () => {
  const seed = Date.now() % 1e6;
  const doubts: { early: number; late: number }[] = [];
  fc.assert(
    fc.property(
      fc.double({ min: 10, max: 60, noNaN: true }),
      fc.double({ min: 150, max: 900, noNaN: true }),
      fc.integer({ min: 1, max: 1e6 }),
      (rise, tau, s) => {
        const long = warming({ rise, tau, quick: 3, seconds: 2.5 * tau + 40, noise: 0.04 }, s);
        const until = (share: number): WarmingReadings => {
          const n = Math.floor(share * long.time.length);
          return {
            time: long.time.subarray(0, n),
            part: long.part.subarray(0, n),
            ambient: long.ambient.subarray(0, n),
            power: long.power.subarray(0, n),
          };
        };
        const [early, late] = [fitWarming(until(0.35), PRIORS), fitWarming(until(1), PRIORS)];
        doubts.push({ early: early?.u.steady ?? NaN, late: late?.u.steady ?? NaN });
        // Four standard deviations: one in ten thousand would be beyond.
        expect(Math.abs((late?.rise ?? 0) - rise - 3)).toBeLessThan(4 * (late?.u.rise ?? 0) + 0.15);
        expect(Math.abs((early?.rise ?? 0) - rise - 3)).toBeLessThan(4 * (early?.u.rise ?? 0) + 0.3);
      },
    ),
    { numRuns: 30, seed, verbose: 1 },
  );
  expect(median(doubts.map((d) => d.late))).toBeLessThan(0.6 * median(doubts.map((d) => d.early)));
});

test("nothing is predicted of too few readings, nor of what does not warm", () => {
  const { time, part, ambient, power } = warming({ rise: 20, tau: 300, seconds: 30 });
  expect(fitWarming({ time, part, ambient, power }, PRIORS)).toBeNull();
  expect(powerOn(Float64Array.of(0, 0.001, 0.9, 1))).toBe(2);
  const falling = warming({ rise: -20, tau: 300, seconds: 900 });
  const f = fitWarming(falling, PRIORS);
  expect(f === null || f.rise < 1).toBe(true);
});

test("the rest before the load pins the start: part and ambient that differ by 1.1 K there give a rise from 20.9 °C", () => {
  for (const seconds of [300, 700, 1500]) {
    // Ambient is read at 22 °C throughout, the part rests at 20.9 °C.
    const w = warming({ rise: 24, tau: 300, quick: 4, quickTau: 15, seconds, every: 2, offset: -1.1, noise: 0.1 }, 9);
    const f = fitWarming(w, { ...PRIORS, noise: 0.1, rested: 0.003 });
    expect(22 + (f?.offset ?? 0)).toBeCloseTo(20.9, 1);
  }
});
