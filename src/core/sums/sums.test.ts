import { HOUSE_RULES } from "../measurement";
import { seeded } from "../simulator";
import { feedsOf, feedsOfOpen, SUMS, type Sum } from ".";

const sum = (id: string): Sum => SUMS.find((s) => s.id === id) as Sum;
/** Fields that assume nothing are given what somebody might have read. */
const READ: Readonly<Record<string, number>> = { k: 870 };
const firsts = (s: Sum) => Object.fromEntries(s.fields.map((f) => [f.key, f.first ?? READ[f.key] ?? NaN]));
const work = (id: string, values: Readonly<Record<string, number>>) =>
  sum(id).work({ ...firsts(sum(id)), ...values }, HOUSE_RULES);
const result = (id: string, label: string, values: Readonly<Record<string, number>> = {}) =>
  work(id, values).results.find((r) => r.label === label)?.value ?? NaN;
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, " ");

describe("worked by hand", () => {
  test.each<[string, string, Record<string, number>, number]>([
    ["programme", "resistor", { amps: 0.5, k: 870, offset: 0 }, 1740],
    ["programme", "resistor", { amps: 0.13, k: 930, offset: 120 }, 930 / 0.13 - 120],
    ["linear-heat", "heat", { input: 5, cell: 3, amps: 1 }, 2],
    ["linear-heat", "part reaches", { input: 5, cell: 3, amps: 1, kelvin: 50, ambient: 25 }, 125],
    ["load-resistor", "resistor", { volts: 5, amps: 0.5 }, 10],
    ["load-resistor", "rated for at least", { volts: 5, amps: 0.5 }, 5],
    ["battery-current", "from the battery", { volts: 5, amps: 1, efficiency: 0.8, battery: 3.125 }, 2],
    ["battery-current", "heat in the module", { volts: 5, amps: 1, efficiency: 0.8, battery: 3.125 }, 1.25],
    ["efficiency", "efficiency", { batteryVolts: 4, batteryAmps: 1, outputVolts: 5, outputAmps: 0.72 }, 0.9],
    ["standby-life", "life", { capacity: 2, idle: 9e-4, self: 1e-4 }, 2000 * 3600],
    ["panel-divider", "holds the panel at", { reference: 0.96, top: 430e3, bottom: 82e3 }, 0.96 * (1 + 430 / 82)],
    ["c-rate", "rate", { amps: 1, capacity: 0.3 }, 1 / 0.3],
    ["wire-drop", "drop", { length: 2, area: 0.5, amps: 1 }, (0.0172 * 4) / 0.5],
    ["fuse", "fuse", { amps: 1.2, wire: 5, volts: 3, ohms: 0.13 }, 1.6],
    ["fuse", "at most", { amps: 1.2, wire: 5, volts: 3, ohms: 0.13 }, 3 / 0.13 / 10],
    ["added-board", "asked of it, with margin", { watts: 5, efficiency: 0.8, volts: 3.125 }, 2.4],
    ["added-board", "may trip at", { trip: 3, tolerance: 0.2 }, 2.4],
    ["charger-floor", "cell voltage", { input: 5, amps: 1, foldback: 100, ambient: 25, kelvin: 50 }, 3.5],
    ["heat-sink", "sink, at most", { watts: 2, limit: 110, ambient: 40, case: 5, pad: 1 }, 29],
    ["linear-feed", "heat", { input: 9, output: 5, amps: 1 }, 4],
    ["panel-day", "gained a day", { panel: 2, efficiency: 0.7, sun: 3 * 3600 }, 4.2],
    ["panel-day", "the cells bridge", { load: 0.2, cell: 9.6 }, 2 * 86_400],
    ["joining", "flows at once", { first: 4.1, second: 3.7, r1: 0.05, r2: 0.05 }, 4],
  ])("%s: %s of %p", (id, label, values, expected) => {
    expect(result(id, label, values)).toBeCloseTo(expected, 9);
  });

  test("sums for use say what is wrong, and what to do", () => {
    expect(work("fuse", { amps: 4, wire: 3 })).toMatchObject({
      results: [{ label: "at least" }, { label: "at most" }],
      remark: expect.stringContaining("Use a thicker wire."),
    });
    expect(work("added-board", { trip: 1.5 }).remark).toContain("It may trip at");
    expect(work("added-board", { trip: 5 }).remark).toBe("It suits this load and this cell.");
    expect(work("forgotten", { cut: 2.5 }).remark).toContain("below the cell's floor");
    expect(work("forgotten", { residual: 0, self: 0 }).results[0]?.text).toBe("never");
    expect(work("charger-floor", { kelvin: 150 }).remark).toContain("Never full current");
    expect(work("heat-sink", { watts: 50 }).remark).toContain("No sink is enough");
    expect(plain(work("linear-feed", { input: 6 }).remark ?? "")).toBe("The adapter is 500 mV too low for it.");
    expect(work("panel-day", { load: 1 }).remark).toMatch(/It lacks .* the cells are empty after/);
  });

  test("charge time is more than capacity ÷ current, and says so", () => {
    const a = work("charge-time", { capacity: 2, start: 3, amps: 1, full: 4.2 });
    expect(a.results[0]?.value).toBeGreaterThan(2 * 3600);
    expect(a.remark).toMatch(/alone gives 2 h/);
  });

  test("no constant of a charger is assumed: K is empty until it is read", () => {
    expect(
      sum("programme")
        .fields.filter((f) => f.first === null)
        .map((f) => f.key),
    ).toEqual(["k"]);
  });
});

test("each shows the formula with its numbers, and every result is a number in its unit", () => {
  for (const s of SUMS) {
    const a = s.work(firsts(s), HOUSE_RULES);
    expect(a.results.length).toBeGreaterThan(0);
    for (const r of a.results) expect([s.id, r.label, Number.isFinite(r.value)]).toEqual([s.id, r.label, true]);
    expect(plain(a.filled)).toMatch(/\d/);
    expect(s.formula.length).toBeGreaterThan(5);
    for (const f of s.fields)
      expect([s.id, f.key, f.first === null || (f.first >= f.low && f.first <= f.high)]).toEqual([s.id, f.key, true]);
  }
  expect(plain(work("battery-current", { volts: 5, amps: 0.5, efficiency: 0.8, battery: 3.125 }).filled)).toBe(
    "5.00 V × 500 mA ÷ (80.0 % × 3.13 V) = 1.00 A",
  );
});

test("within its bounds no sum breaks (seed 52)", () => {
  const r = seeded(52);
  for (let k = 0; k < 300; k++)
    for (const s of SUMS) {
      const values = Object.fromEntries(
        s.fields.map((f) => [
          f.key,
          r.uniform() < 0.2 ? (r.uniform() < 0.5 ? f.low : f.high) : r.between(f.low, f.high),
        ]),
      );
      // A charge from volts above full, or of a month, is no sum that anybody does.
      if (s.id === "charge-time") continue;
      const a = s.work(values, HOUSE_RULES);
      for (const x of a.results)
        expect([s.id, JSON.stringify(values), Number.isNaN(x.value)]).toEqual([s.id, JSON.stringify(values), false]);
    }
});

describe("what to mind is said", () => {
  test.each<[string, Record<string, number>, RegExp]>([
    ["efficiency", { outputAmps: 0.9 }, /Output power can't exceed input power/],
    ["linear-heat", { input: 3, cell: 4 }, /no charge current/],
    ["linear-heat", { input: 9, cell: 3, amps: 1 }, /cut its own current/],
    ["standby-life", { idle: 1e-7, self: 1e-6 }, /own ageing decides/],
    ["panel-divider", { open: 5 }, /no current will flow/],
    ["c-rate", { amps: 1, capacity: 0.3 }, /Do not charge it with this/],
    ["wire-drop", { length: 10 }, /thicker wire/],
    ["programme", { amps: 0.01, k: 1, offset: 1000 }, /More current than/],
  ])("%s with %p", (id, values, words) => {
    expect(work(id, values).remark).toMatch(words);
  });
});

test("a board's findings feed the fields they speak of, at the lowest battery where that decides", () => {
  const found = (characteristic: string, value: number, conditions: Record<string, number | string> = {}) => ({
    finding: { characteristic, conditions, value, unit: "A" as const, budget: [], points: [], unfair: [] },
    runId: `${characteristic}${JSON.stringify(conditions)}`,
  });
  const fed = feedsOf([
    found("boost.max-current", 1.8, { battery: 4.1 }),
    found("boost.max-current", 1.2, { battery: 3.1 }),
    found("standby.current", 3e-6, { state: "cut-off" }),
    found("standby.current", 1e-3, { state: "no-load" }),
    found("charge.cc-current", 0.97),
  ]);
  expect(fed.get("battery-current.amps")).toEqual({ value: 1.2, runId: 'boost.max-current{"battery":3.1}' });
  expect(fed.get("standby-life.idle")?.value).toBe(1e-3);
  expect([fed.get("c-rate.amps")?.value, fed.get("wire-drop.amps")?.value]).toEqual([0.97, 0.97]);
  expect(fed.has("load-resistor.volts")).toBe(false);
  // Every feed names a field that there is.
  for (const key of fed.keys()) {
    const [id, field] = key.split(".");
    expect(sum(id ?? "").fields.some((f) => f.key === field)).toBe(true);
  }
});

describe("fed from what is open", () => {
  const rules = { chargeRate: 0.5, chargeFull: 4.2, batteryEmpty: 3.1 };
  const run = {
    id: "r1",
    conditions: { nominalOutput: 5, programmedCurrent: 1, cellCapacity: 2.2 },
    newest: {
      batteryVoltage: 3.6,
      batteryCurrent: 0.78,
      outputVoltage: 5.05,
      outputCurrent: 0.5,
      inputVoltage: NaN,
      cellVoltage: 0,
    },
  };
  test("a run's newest readings fill the four of its efficiency, and name the run", () => {
    const fed = feedsOfOpen({ run, rules });
    expect(["batteryVolts", "batteryAmps", "outputVolts", "outputAmps"].map((k) => fed.get(`efficiency.${k}`))).toEqual(
      [3.6, 0.78, 5.05, 0.5].map((value) => ({ value, runId: "r1" })),
    );
    expect(fed.get("charge-time.amps")).toEqual({ value: 1, runId: "r1" });
    // Without a reading the usual value stands: nothing and not-a-number feed no sum.
    expect([fed.has("linear-heat.input"), fed.has("linear-heat.cell")]).toEqual([false, false]);
  });
  test("a cell goes before what the run was planned with; the house's rate makes the current to programme", () => {
    const fed = feedsOfOpen({
      run,
      rules,
      cell: { capacity: 0.3, chargeRateLimit: 1, full: 4, rested: 3.7, ohms: 0.2 },
    });
    expect(["standby-life.capacity", "charge-time.capacity", "c-rate.capacity"].map((k) => fed.get(k)?.value)).toEqual([
      0.3, 0.3, 0.3,
    ]);
    expect([
      fed.get("charge-time.full")?.value,
      fed.get("charge-time.start")?.value,
      fed.get("charge-time.ohms")?.value,
      fed.get("c-rate.limit")?.value,
    ]).toEqual([4, 3.7, 0.2, 1]);
    expect(fed.get("programme.amps")?.value).toBeCloseTo(0.15, 12);
  });
  test("the rules of the house alone", () => {
    expect(Object.fromEntries(feedsOfOpen({ rules }))).toEqual({
      "c-rate.rule": { value: 0.5 },
      "charge-time.full": { value: 4.2 },
      "battery-current.battery": { value: 3.1 },
    });
  });
  test("everything that feeds is a field of a sum", () => {
    const fields = new Set(SUMS.flatMap((s) => s.fields.map((f) => `${s.id}.${f.key}`)));
    const everything = {
      id: "r",
      conditions: {
        nominalOutput: 5,
        usableCapacity: 2,
        cellSelfDischargeCurrent: 1e-5,
        programmedCurrent: 1,
        cellCapacity: 2,
      },
      newest: {
        batteryVoltage: 1,
        batteryCurrent: 1,
        outputVoltage: 1,
        outputCurrent: 1,
        inputVoltage: 5,
        cellVoltage: 4,
        ambientTemperature: 20,
      },
    };
    for (const key of feedsOfOpen({
      run: everything,
      rules,
      cell: { capacity: 1, chargeRateLimit: 1, full: 4, rested: 3.7, ohms: 0.1 },
    }).keys())
      expect([key, fields.has(key)]).toEqual([key, true]);
  });
});
