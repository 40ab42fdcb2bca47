import { seeded } from "../simulator/random";
import { programmeOfRuns, readResistor, type ProgrammedRun } from ".";

const SEED = 20261130;
const run = (ohms: number, amps: number, more: Partial<ProgrammedRun> = {}): ProgrammedRun => ({
  ohms,
  tolerance: 0.01,
  amps,
  u: 0.003 * amps,
  ...more,
});

test("two resistors, worked by hand: K and nothing inside; with something inside; one resistor alone", () => {
  expect(programmeOfRuns([run(1740, 0.5), run(8700, 0.1)])).toMatchObject({
    k: expect.closeTo(870, 6),
    offset: expect.closeTo(0, 6),
    runs: 2,
    resistors: 2,
  });
  const inside = programmeOfRuns([run(900, 1), run(1900, 0.5), run(9900, 0.1)]);
  expect(inside?.k).toBeCloseTo(1000, 6);
  expect(inside?.offset).toBeCloseTo(100, 6);
  // I × R = 1,000 V; √(0.3² + (1/√3)²) % = 0.65 %, twice that 13 V.
  const one = programmeOfRuns([run(2000, 0.5), run(2000, 0.5)]);
  expect(one).toMatchObject({ k: expect.closeTo(1000, 9), offset: 0, runs: 2, resistors: 1 });
  expect(one?.kU).toBeCloseTo(2 * 1000 * Math.hypot(0.003, 0.01 / Math.sqrt(3)), 6);
});

test("what can't be is no fit: more resistance and more current, nothing measured; less than no resistance inside is none", () => {
  expect(programmeOfRuns([run(1000, 0.5), run(2000, 0.9)])).toBeNull();
  expect(programmeOfRuns([])).toBeNull();
  expect(programmeOfRuns([run(1000, 0.5, { u: 0 })])).toBeNull();
  expect(programmeOfRuns([run(1000, 0.95), run(2000, 0.5)])?.offset).toBeGreaterThan(0);
  expect(programmeOfRuns([run(1000, 1.02), run(2000, 0.5)])).toMatchObject({ offset: 0 });
});

test(`500 random chargers: the expanded uncertainties hold the truth (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const normal = () => Array.from({ length: 12 }, () => r.uniform()).reduce((s, x) => s + x, 0) - 6;
  let [kHeld, offsetHeld, fitted] = [0, 0, 0];
  for (let n = 0; n < 500; n++) {
    const [k, offset] = [r.between(400, 1500), r.between(50, 250)];
    const runs = [0.15, 0.3, 0.5, 1].map((amps) => {
      const ohms = k / amps - offset;
      const tolerance = 0.005;
      const real = ohms * (1 + tolerance * (2 * r.uniform() - 1));
      const true_ = k / (real + offset);
      return run(ohms, true_ * (1 + 0.003 * normal()), { tolerance, u: 0.003 * true_ });
    });
    const p = programmeOfRuns(runs);
    if (!p || p.offset === 0) continue;
    fitted++;
    if (Math.abs(p.k - k) <= p.kU) kHeld++;
    if (Math.abs(p.offset - offset) <= p.offsetU) offsetHeld++;
  }
  // 95.4 % of 500, less four standard deviations of the count.
  expect({ SEED, fitted: fitted > 450, k: kHeld > 0.917 * fitted, offset: offsetHeld > 0.917 * fitted }).toEqual({
    SEED,
    fitted: true,
    k: true,
    offset: true,
  });
});

test.each<[string, number, number | null]>([
  ["1k2", 1200, null],
  ["1.2 kΩ ± 1 %", 1200, 0.01],
  ["2k ±5%", 2000, 0.05],
  ["brown red red gold", 1200, 0.05],
  ["Brown, black, black, red, brown", 10_000, 0.01],
  ["yellow violet gold", 4.7, 0.2],
  ["code 122", 1200, null],
  ["code 4992", 49_900, null],
])("a resistor written as %s", (text, ohms, tolerance) => {
  expect(readResistor(text)).toEqual({ ok: true, value: { ohms, tolerance } });
});

test.each([
  ["gold red red brown", "start from the other end"],
  ["brown red", "three to six bands"],
  ["brown red red black", "no tolerance"],
  ["code 12k", "Write a code as code 122"],
  ["0", "above zero"],
  ["1k2 ± lots", "Write the tolerance as"],
  ["plenty", ""],
])("a resistor that can't be read: %s", (text, why) => {
  const r = readResistor(text);
  expect(r.ok).toBe(false);
  expect(r.ok ? "" : r.error).toContain(why);
});
