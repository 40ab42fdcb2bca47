import fc from "fast-check";
import { chooseLoads, type LoadResistor } from "./resistors";

const SEED = 60;

/** Every arrangement of up to three pieces, the slow way, with the power in each piece from its own volts. */
function everyWay(volts: number, drawer: readonly LoadResistor[]): { ohms: number; strain: number }[] {
  const out: { ohms: number; strain: number }[] = [];
  const strain = (pieces: [LoadResistor, number][]) => Math.max(...pieces.map(([r, v]) => (v * v) / r.ohms / r.watts));
  const series = (list: LoadResistor[]) => {
    const ohms = list.reduce((s, r) => s + r.ohms, 0);
    out.push({ ohms, strain: strain(list.map((r) => [r, (volts * r.ohms) / ohms])) });
  };
  const parallel = (list: LoadResistor[]) =>
    out.push({ ohms: 1 / list.reduce((s, r) => s + 1 / r.ohms, 0), strain: strain(list.map((r) => [r, volts])) });
  drawer.forEach((a, i) => {
    series([a]);
    drawer.forEach((b, j) => {
      if (j > i) {
        series([a, b]);
        parallel([a, b]);
      }
      drawer.forEach((c, k) => {
        if (k > j && j > i) {
          series([a, b, c]);
          parallel([a, b, c]);
        }
        if (j > i && k !== i && k !== j) {
          const pair = (a.ohms * b.ohms) / (a.ohms + b.ohms);
          const ohms = pair + c.ohms;
          const vPair = (volts * pair) / ohms;
          out.push({
            ohms,
            strain: strain([
              [a, vPair],
              [b, vPair],
              [c, volts - vPair],
            ]),
          });
        }
      });
    });
  });
  return out;
}

test("worked: 1 A at 5 V from two 10 Ω 5 W pieces is both in parallel at half their rating", () => {
  const [c] = chooseLoads([1], 5, [
    { ohms: 10, watts: 5 },
    { ohms: 10, watts: 5 },
    { ohms: 470, watts: 1 },
  ]);
  expect(c).toMatchObject({ ohms: 5, amps: 1, arrangement: "parallel", text: "10 Ω ∥ 10 Ω", cool: true });
  expect(c?.strain).toBeCloseTo(0.5, 9);
});

test("a hot choice is marked, with how far past its rating it is", () => {
  const [c] = chooseLoads([1], 5, [{ ohms: 5, watts: 0.25 }]);
  expect(c).toMatchObject({ cool: false });
  expect(c?.strain).toBeCloseTo(20, 6);
});

test(`against every way tried slowly (seed ${SEED})`, () => {
  const piece = fc.record({
    ohms: fc.constantFrom(1, 2.2, 4.7, 10, 22, 47, 100),
    watts: fc.constantFrom(0.25, 1, 5, 10),
  });
  fc.assert(
    fc.property(
      fc.array(piece, { minLength: 1, maxLength: 6 }),
      fc.double({ min: 0.02, max: 2, noNaN: true }),
      (drawer, amps) => {
        const [choice] = chooseLoads([amps], 5, drawer);
        const all = everyWay(5, drawer);
        const miss = (ohms: number) => Math.abs(Math.log(5 / ohms / amps));
        const nearest = Math.min(...all.map((w) => miss(w.ohms)));
        const same = all.filter((w) => Math.abs(w.ohms / (choice?.ohms ?? NaN) - 1) < 1e-9);
        // The strain is that of a real arrangement, and a nearer one was passed over only for heat or a tie of pieces.
        const strainReal = same.some((w) => Math.abs(w.strain - (choice?.strain ?? NaN)) < 1e-9);
        const near =
          miss(choice?.ohms ?? NaN) <= nearest + 0.0041 ||
          (choice?.cool === true && miss(choice.ohms) <= Math.max(0.1, 1.5 * nearest + 0.01));
        return strainReal && near;
      },
    ),
    { seed: SEED, numRuns: 300 },
  );
});

test("no drawer and no load give no choice; no volts is a bug", () => {
  expect(chooseLoads([1], 5, [])).toEqual([]);
  expect(chooseLoads([], 5, [{ ohms: 10, watts: 1 }])).toEqual([]);
  expect(() => chooseLoads([1], 0, [])).toThrow(/positive/);
});
