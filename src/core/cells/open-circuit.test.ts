import { seeded } from "../simulator";
import { CHEMISTRIES, CHEMISTRY_LIMITS, openCircuit, stateOfCharge } from ".";

describe.each(CHEMISTRIES)("the open-circuit curve of %s", (chemistry) => {
  test("never falls as the cell fills, and is held at its ends", () => {
    let before = -Infinity;
    for (let k = 0; k <= 2000; k++) {
      const v = openCircuit(chemistry, -0.02 + (1.07 * k) / 2000);
      expect([k, v >= before - 1e-12]).toEqual([k, true]);
      before = v;
    }
    expect(openCircuit(chemistry, -1)).toBe(openCircuit(chemistry, -0.02));
    expect(openCircuit(chemistry, 2)).toBe(openCircuit(chemistry, 1.05));
  });

  test("volts give the state of charge back (seed 11)", () => {
    const random = seeded(11);
    for (let k = 0; k < 300; k++) {
      const soc = random.uniform();
      const back = stateOfCharge(chemistry, openCircuit(chemistry, soc));
      // Where the curve is flat many states show the same volts; the volts themselves come back.
      expect({ k, soc, good: Math.abs(openCircuit(chemistry, back) - openCircuit(chemistry, soc)) < 1e-6 }).toEqual({
        k,
        soc,
        good: true,
      });
    }
  });

  test("volts beyond the curve are an empty or a full cell", () => {
    expect(stateOfCharge(chemistry, 0)).toBeCloseTo(-0.02, 6);
    expect(stateOfCharge(chemistry, 9)).toBeCloseTo(1.05, 6);
  });

  test("a full cell stands between its nominal and its highest volts", () => {
    const limits = CHEMISTRY_LIMITS[chemistry] as unknown as Readonly<Record<string, unknown>>;
    expect(limits).toBeDefined();
    expect(openCircuit(chemistry, 0.5)).toBeGreaterThan(chemistry === "lithium-ion" ? 3.6 : 3.2);
    expect(openCircuit(chemistry, 0.5)).toBeLessThan(chemistry === "lithium-ion" ? 3.9 : 3.4);
  });
});

test("worked: a lithium-ion cell half full shows 3.74 V, full 4.21 V; at 3.00 V a hundredth is left", () => {
  expect(openCircuit("lithium-ion", 0.5)).toBeCloseTo(3.74, 3);
  expect(openCircuit("lithium-ion", 1)).toBeCloseTo(4.21, 2);
  expect(stateOfCharge("lithium-ion", 3)).toBeGreaterThan(0.005);
  expect(stateOfCharge("lithium-ion", 3)).toBeLessThan(0.02);
});
