import fc from "fast-check";
import { stateOfCharge, openCircuit } from "../cells";
import { logCharge } from "../rehearsal/charge-log";
import { HONEST_CHARGE } from "../simulator";
import {
  checkChargeCurrent,
  chooseProgramme,
  fitProgramme,
  forecastCharge,
  programmedCurrent,
  type ForecastInput,
} from ".";
import { ELEMENTS } from "../quantities";

const { nth } = ELEMENTS;

describe("a charge current", () => {
  test.each([
    [
      1,
      0.3,
      1,
      "refused",
      0.15,
      /1\.00 A into 300 mAh is 3\.3 C; the cell allows 1 C.*150 mA or less, or take a cell of at least 1\.0 Ah/,
    ],
    [1, 1.4, 1, "above the house rule", 0.7, /0\.71 C, above the house rule of 0\.5 C/],
    [1, 2.2, 1, "within", 1.1, /0\.45 C: within/],
    [0.6, 1, 0.5, "refused", 0.5, /allows 0\.5 C/],
  ] as const)("of %p A into %p Ah that allows %p C is %s", (amps, capacity, limit, verdict, advised, words) => {
    const c = checkChargeCurrent(amps, capacity, limit, 0.5);
    expect([c.verdict, c.advised]).toEqual([verdict, expect.closeTo(advised, 9)]);
    expect(c.message.replace(/\u00a0/g, " ")).toMatch(words);
  });
});

describe("the programming resistor", () => {
  const sheet = { k: 870, offset: 0, tolerance: 0.1 };

  test("sets K ÷ (R + offset)", () => {
    expect(programmedCurrent(sheet, 1740)).toBeCloseTo(0.5, 12);
    expect(programmedCurrent({ k: 1100, offset: 200 }, 2000)).toBeCloseTo(0.5, 12);
  });

  test("K and offset come back from measured pairs", () => {
    const seed = Date.now() % 1e6;
    fc.assert(
      fc.property(
        fc.double({ min: 200, max: 3000, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (k, offset) => {
          const fit = fitProgramme([900, 2000, 4700, 10000].map((ohms) => ({ ohms, amps: k / (ohms + offset) })));
          expect(fit?.k).toBeCloseTo(k, 3);
          expect(fit?.offset).toBeCloseTo(offset, 2);
          expect(fit?.tolerance).toBe(0.01);
        },
      ),
      { numRuns: 100, seed, verbose: 1 },
    );
    expect(fitProgramme([{ ohms: 2000, amps: 0.5 }])).toBeNull();
    expect(
      fitProgramme([
        { ohms: 2000, amps: 0.5 },
        { ohms: 1000, amps: 0.4 },
      ]),
    ).toBeNull();
  });

  test("is the nearest that can be bought, or one or two from the drawer, with what it really gives", () => {
    const [best, ...others] = chooseProgramme(0.15, sheet, "E24", [4700, 1200, 15000]);
    expect(best).toMatchObject({ join: "series", parts: [4700, 1200], ohms: 5900 });
    expect(best?.amps).toBeCloseTo(870 / 5900, 9);
    expect(others.map((c) => c.ohms)).toEqual([5600, 4700]);
    expect([best?.low, best?.high]).toEqual([expect.closeTo(783 / 5959, 9), expect.closeTo(957 / 5841, 9)]);
    expect(chooseProgramme(0.05, sheet, "E24", [])[0]?.doubt).toMatch(/below 100 mA/);
    expect(chooseProgramme(0.05, { ...sheet, range: { low: 0.1, high: 1 } }, "E24", [])[0]?.doubt).toMatch(
      /below the charger's range/,
    );
    expect(chooseProgramme(10, { k: 100, offset: 50, tolerance: 0.1 }, "E24", [])).toEqual([]);
  });
});

describe("a forecast", () => {
  const INPUT: ForecastInput = {
    chemistry: "lithium-ion",
    capacity: 2,
    startVoltage: 3,
    current: 1,
    fullVoltage: 4.2,
    resistance: 0.1,
    supplyVoltage: 5,
    cable: 0.1,
    ambient: 22,
    thermalResistance: 40,
  };

  test("has the phases that the start calls for, and counts what is put in", () => {
    const f = forecastCharge(INPUT);
    expect(f.phases.map((p) => p.name)).toEqual(["constant current", "constant voltage"]);
    expect(f.total).toBe(f.phases.reduce((s, p) => s + p.seconds, 0));
    expect(f.charge).toBeCloseTo(2 * (1 - stateOfCharge("lithium-ion", 3)), 1);
    expect(forecastCharge({ ...INPUT, startVoltage: 2.6 }).phases[0]).toMatchObject({ name: "pre-charge" });
    expect(forecastCharge({ ...INPUT, startVoltage: 4.2 }).total).toBe(0);
  });

  test("is hottest at its beginning: (input − cell) × current", () => {
    const f = forecastCharge(INPUT);
    expect(f.heat.at).toBeLessThan(120);
    expect(f.heat.watts).toBeGreaterThan(1.6);
    expect(f.heat.watts).toBeLessThan((5 - 0.1 - 3) * 1);
    expect(f.heat.temperature).toBeCloseTo(22 + 40 * f.heat.watts, 9);
    expect(f.supply.leastVoltage).toBeCloseTo(4.6, 9);
  });

  test("is drawn as it would be logged: it ends where it is counted to, and adds up to the charge", () => {
    const f = forecastCharge(INPUT);
    const { time, current, voltage, temperature } = f.curve;
    expect(time.length).toBeLessThanOrEqual(302);
    expect(time[0]).toBe(0);
    expect(time.at(-1)).toBe(f.total - 10);
    const charge = time.slice(1).reduce((sum, t, k) => sum + (nth(current, k) * (t - nth(time, k))) / 3600, 0);
    expect(charge).toBeCloseTo(f.charge, 1);
    expect(Math.max(...voltage)).toBeCloseTo(4.2, 9);
    expect(current[0]).toBe(1);
    // A part starts as cold as the room, and is never as hot as its hottest moment would make it for ever.
    expect(temperature[0]).toBe(22);
    expect(Math.max(...temperature)).toBeLessThan(f.heat.temperature);
    expect(Math.max(...temperature)).toBeGreaterThan(22 + 0.7 * (f.heat.temperature - 22));
  });

  test("comes near what the simulated bench then does", () => {
    const bench = HONEST_CHARGE;
    const { simulation } = logCharge(bench, { every: 20, seed: 3, before: 10, after: 0, most: 8 * 3600 });
    const at = (kind: string) => simulation.landmarks.find((l) => l.kind === kind)?.time ?? NaN;
    const f = forecastCharge({
      ...INPUT,
      capacity: 2.2 * 0.97,
      startVoltage: openCircuit("lithium-ion", bench.soc),
      resistance: 0.15 / 2.2,
      supplyVoltage: 5.1,
      cable: 0.08,
    });
    expect(Math.abs(f.total / (at("stop") - at("start")) - 1)).toBeLessThan(0.15);
  });
});
