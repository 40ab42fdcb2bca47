import { forecastCharge, type ForecastInput } from "../../fit";
import { logCharge } from "../../rehearsal/charge-log";
import { chargeBench, SIMULATED_CHARGERS } from "../../simulator";
import { chargeCycle } from ".";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup } from "../../measurement";
import type { PlanContext } from "..";
import type { ChargePlan } from "./plan";
import { numeric } from "../../quantities";

const CELL = {
  title: "Reed 2200",
  chemistry: "lithium-ion" as const,
  capacity: 2.2,
  chargeRateLimit: 1,
  chargeRate: 0.5,
  fullVoltage: 4.2,
  emptyVoltage: 3,
  ownProtection: false,
};
const METER = { gain: 0.001, counts: 2, resolution: 0.001 };
const CONTEXT: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  cell: CELL,
  rig: {
    instruments: { inputVoltage: METER, inputCurrent: METER, cellVoltage: METER, cellCurrent: METER },
    supplyCurrentLimit: 0.9,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
};
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);

function planned(patch: Partial<ChargePlan>): RunSetup<ChargePlan> {
  const r = chargeCycle.plan(CONTEXT);
  if (!r.ok) throw new Error(r.error);
  return {
    ...r.value,
    conditions: { ...r.value.conditions, programmedCurrent: 1 },
    plan: { ...(r.value.plan as ChargePlan), startVoltage: 3.4, ...patch },
  };
}

describe("a forecast of a charger that switches", () => {
  const LINEAR: ForecastInput = {
    chemistry: "lithium-ion",
    capacity: 2,
    startVoltage: 3.4,
    current: 1,
    fullVoltage: 4.2,
    resistance: 0.1,
    supplyVoltage: 9,
    cable: 0.1,
    ambient: 22,
    thermalResistance: 30,
  };
  test("is hottest where the cell takes the most power, near the end of the full current, not at the start", () => {
    const [linear, switching] = [forecastCharge(LINEAR), forecastCharge({ ...LINEAR, switching: 0.9 })];
    expect(linear.heat.at).toBeLessThan(120);
    expect(switching.heat.at).toBeGreaterThan(0.6 * switching.total);
    // 4.2 W into the cell at 90 % leaves 0.47 W.
    expect(switching.heat.watts).toBeCloseTo(4.2 / 0.9 - 4.2, 1);
    expect(linear.heat.watts).toBeGreaterThan(5);
  });
  test("takes less current than it gives from a supply above the cell", () => {
    const f = forecastCharge({ ...LINEAR, switching: 0.9 });
    expect(f.supply.amps).toBeCloseTo(4.2 / 0.9 / 9, 1);
    expect(forecastCharge(LINEAR).supply.amps).toBe(1);
  });
});

test("a supply that is too small for a linear charger may do for one that switches", () => {
  const care = (charger: ChargePlan["charger"]) =>
    chargeCycle
      .cautions(planned({ charger, supplyVoltage: 9 }))
      .map((c) => c.text)
      .join();
  expect(care("linear")).toMatch(/A linear charger is hottest just after it begins/);
  expect(care("switching")).toMatch(/A switching charger is hottest where the cell takes the most power/);
});

describe("a charge's log", () => {
  const analysed = (id: keyof typeof SIMULATED_CHARGERS, soc = 0.1) => {
    const { charger, supply } = SIMULATED_CHARGERS[id];
    const { trace } = logCharge(chargeBench({ charger, supply, soc }), {
      every: 10,
      seed: 4,
      before: 60,
      after: 120,
      most: 8 * 3600,
    });
    return chargeCycle.analyse({ kind: "trace", trace }, planned({}), NO_CORRECTIONS);
  };
  test.each([
    ["honest-ampere", "linear"],
    ["gentle-third", "linear"],
    ["switching-ampere", "switching"],
    ["switching-poor", "switching"],
  ] as const)("of %s tells that it is %s", (id, kind) => {
    const codes = analysed(id)
      .notes.map((n) => n.code)
      .filter((c) => c === "linear" || c === "switching");
    expect(codes).toEqual([kind]);
  });
  test("gives the efficiency that the charger has, within what it says, and far less heat than a linear one's", () => {
    const [switching, linear] = [analysed("switching-ampere").findings, analysed("honest-ampere").findings];
    const e = find(switching, "charge.efficiency");
    // Its own two milliamps make the 90 % a little less.
    expect(Math.abs(numeric(e?.value) - 0.898)).toBeLessThanOrEqual((e?.expandedUncertainty ?? 0) + 0.002);
    expect(find(switching, "charge.peak-dissipation")?.value).toBeLessThan(
      numeric(find(linear, "charge.peak-dissipation")?.value) / 2,
    );
    for (const name of [
      "charge.cc-current",
      "charge.cv-voltage",
      "charge.termination-current",
      "charge.total-time",
      "charge.capacity",
    ])
      expect([name, find(switching, name) !== undefined]).toEqual([name, true]);
  });
});

test("a charge is planned with the thermal resistance measured of a charger, never with that of a converter beside it", () => {
  const resistance = (functions: PlanContext["functions"]) => {
    const r = chargeCycle.plan({
      ...CONTEXT,
      ...(functions ? { functions } : {}),
      measured: { "heat.thermal-resistance": 62 },
    });
    return r.ok && r.value.plan?.thermalResistance;
  };
  expect([resistance(["charger"]), resistance(["charger", "boost"])]).toEqual([62, 40]);
});
