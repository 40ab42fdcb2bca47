import { HOUSE_RULES, type Point } from "../../measurement";
import { analyseSweep } from "./analyse";
import { bisect, nextSweepStep, settableLoads } from "./guide";
import { loadLadder, planSweep, supplyNeeds } from "./plan";
import { checkSweepPoint } from "./check";
import { sweepCautions, sweepStopRules } from "./cautions";
import { sweepWiring } from "./setup";
import { RIG, claim, corrected, held, point, sweepSetup } from "./fixtures/make";

const setup = sweepSetup();
const plan = setup.plan as NonNullable<typeof setup.plan>;

describe("the plan", () => {
  test("loads run from none to past the claim, denser at light load and near the limit", () => {
    const loads = loadLadder(1);
    expect(loads[0]).toBe(0);
    expect(loads.at(-1)).toBeCloseTo(1.3, 6);
    expect(loads.filter((a) => a > 0 && a <= 0.05).length).toBeGreaterThanOrEqual(4);
    expect(loads.filter((a) => a >= 0.9 && a <= 1.1).length).toBeGreaterThanOrEqual(4);
    expect([...loads].sort((a, b) => a - b)).toEqual(loads);
  });

  test("the supply's limit is the bench's, what the sweep needs is worked out, and a weak supply is cautioned", () => {
    expect(setup.conditions.supplyCurrentLimit).toBe(RIG.supplyCurrentLimit);
    // Worked: 5 V and 1.3 A from 3.1 V at 75 %.
    expect(supplyNeeds(setup)).toBeCloseTo(2.7957, 4);
    expect(sweepCautions(setup).some((c) => c.text.includes("would come from the supply"))).toBe(false);
    const weak = sweepSetup({ rig: { ...RIG, supplyCurrentLimit: 1 } });
    expect(weak.conditions.supplyCurrentLimit).toBe(1);
    expect(sweepCautions(weak).some((c) => c.text.includes("would come from the supply"))).toBe(true);
  });

  test("without an output voltage it is refused with the remedy", () => {
    const r = planSweep({
      claims: [claim("boost.max-current", { kind: "at-least", low: 1 })],
      rules: HOUSE_RULES,
      rig: RIG,
    });
    expect(r).toMatchObject({ ok: false, error: expect.stringContaining("No-load voltage") });
  });

  test("an adjustable output is swept at its setting", () => {
    expect(sweepSetup({ configuration: { output: 9, words: "J1 closed" } }).conditions).toMatchObject({
      nominalOutput: 9,
      output: 9,
      configuration: "J1 closed",
    });
  });

  test("wiring, cautions and stop rules speak of this set-up", () => {
    expect(sweepWiring(setup).devices.map((d) => d.kind)).toEqual(["supply", "module", "load"]);
    expect(sweepStopRules(setup)[0]).toMatchObject({ role: "partTemperature", above: 85 });
    const drawn = { ...setup, plan: { ...plan, drawer: [] } };
    expect(sweepCautions(drawn).filter((c) => c.severity === "danger")).toHaveLength(3);
  });
});

describe("the next step", () => {
  const step = (points: readonly Point[], change = {}) => nextSweepStep(setup, points, corrected(change));

  test("begins unloaded at the fullest battery", () => {
    expect(step([])).toMatchObject({ kind: "point", settings: { supplyVoltage: 4.1, load: { value: 0 } } });
  });

  test("then raises the load, and says what to expect", () => {
    const s = step([held(4.1, 0)]);
    expect(s.settings.load?.value).toBe(plan.loads[1]);
    expect(s.expect.batteryCurrent).toBeCloseTo((5.02 * 0.002) / 0.88 / 4.1, 3);
  });

  test("after a collapse the load comes off first, then the bracket is halved until it is known within the resolution", () => {
    const points = [held(4.1, 0), held(4.1, 0.5), held(4.1, 1, 4.2)];
    const recoveries = new Map<string, "automatic">();
    expect(step(points, { recoveries }).kind).toBe("restart");
    recoveries.set(points[2]?.id ?? "", "automatic");
    const asked: number[] = [];
    for (let k = 0; k < 20; k++) {
      const s = step(points, { recoveries });
      if (s.settings.supplyVoltage !== 4.1) break;
      const amps = s.settings.load?.value ?? NaN;
      asked.push(amps);
      const p = held(4.1, amps, amps <= 0.83 ? 5 : 4.2);
      points.push(p);
      if (amps > 0.83) recoveries.set(p.id, "automatic");
    }
    expect(asked[0]).toBeCloseTo(0.75, 6);
    const top = Math.max(...asked.filter((a) => a <= 0.83));
    const low = Math.min(...asked.filter((a) => a > 0.83));
    expect(low - top).toBeLessThanOrEqual(plan.resolution + 1e-9);
    expect(asked.length).toBeLessThanOrEqual(6);
  });

  test("points to come fall with every column that is closed and every load that stood; at the end as many as were taken", () => {
    const all = step([]).progress.of;
    expect(step([], { closed: new Set(["battery 4.1"]) }).progress.of).toBeCloseTo((2 * all) / 3, 9);
    expect(step([held(4.1, 0)]).progress).toEqual({ taken: 1, of: all });
    expect(step([], { closed: new Set(["battery 4.1", "battery 3.6", "battery 3.1"]) }).progress).toEqual({
      taken: 0,
      of: 0,
    });
  });
  test("a column that was closed is passed over", () => {
    expect(step([held(4.1, 0)], { closed: new Set(["battery 4.1"]) }).settings.supplyVoltage).toBe(3.6);
  });

  test("is done when every battery is", () => {
    expect(step([], { closed: new Set(["battery 4.1", "battery 3.6", "battery 3.1"]) }).kind).toBe("done");
  });

  test("a load that did not dwell is asked again", () => {
    expect(step([held(4.1, 0, 5, 1)]).settings.load?.value).toBe(0);
  });

  test("an output above its band at every load that is steady ends in a narrow gap", () => {
    const points: Point[] = [];
    const recoveries = new Map<string, "automatic">();
    for (let k = 0; k < 60; k++) {
      const s = step(points, { recoveries });
      if (s.settings.supplyVoltage !== 4.1) break;
      const amps = s.settings.load?.value ?? NaN;
      const p = held(4.1, amps, amps <= 1.12 ? 5.31 : 0);
      points.push(p);
      if (amps > 1.12) recoveries.set(p.id, "automatic");
    }
    expect(points.length).toBeLessThan(40);
    const loads = points.map((p) => p.settings.load?.value ?? NaN);
    expect(
      Math.min(...loads.filter((a) => a > 1.12)) - Math.max(...loads.filter((a) => a <= 1.12)),
    ).toBeLessThanOrEqual(plan.resolution + 1e-9);
  });

  test("starts are searched kind by kind, each load set as its kind", () => {
    const wanted = {
      ...setup,
      plan: { ...plan, batteries: [4.1], starts: true, startKinds: ["resistance", "power"] as const },
    };
    const points: Point[] = plan.loads.filter((a) => a <= 1).map((a) => held(4.1, a));
    const closed = new Set<string>();
    points.push(held(4.1, 1.02, 4.2));
    const recoveries = new Map([[points.at(-1)?.id ?? "", "automatic" as const]]);
    const asked: string[] = [];
    for (let k = 0; k < 30; k++) {
      const s = nextSweepStep(wanted, points, corrected({ closed, recoveries }));
      if (s.kind !== "point") break;
      const { mode = "", value = NaN } = s.settings.load ?? {};
      asked.push(mode);
      // It rises into 0.6 A as a resistance, into 0.3 A as a power.
      const amps = mode === "resistance" ? 5 / value : value / 5;
      const rises = amps <= (mode === "resistance" ? 0.6 : 0.3);
      points.push(point(4.1, 1, rises ? 5.02 : 1, rises ? amps : 0.1, { ...s.settings }));
    }
    expect(asked.join(" ")).toMatch(/^(resistance )+(power ?)+$/);
    const { findings } = analyseSweep({ kind: "points", points }, wanted, corrected({ closed, recoveries }));
    const starts = findings.filter((f) => f.characteristic === "boost.start-current");
    expect(starts.map((f) => f.conditions.kind)).toEqual(["resistance", "power"]);
    for (const [k, truth] of [0.6, 0.3].entries()) {
      const { low = NaN, high = NaN } = starts[k]?.bracket ?? {};
      expect([low <= truth + 1e-3, high >= truth - 1e-3, high - low <= plan.resolution + 1e-2]).toEqual([
        true,
        true,
        true,
      ]);
    }
  });

  test("the lowest battery that it starts from: fullest first, then far below, then halved to 20 mV, and into the load asked for", () => {
    const wanted = { ...setup, plan: { ...plan, startLoad: 0.4 } };
    const closed = new Set(plan.batteries.map((b) => `battery ${b}`));
    const points: Point[] = [];
    const volts: number[] = [];
    for (let k = 0; k < 30; k++) {
      const s = nextSweepStep(wanted, points, corrected({ closed }));
      if (s.kind !== "point") break;
      const v = s.settings.supplyVoltage ?? NaN;
      expect(s.settings).toMatchObject({ fromOff: true, load: { mode: "current", value: 0.4 } });
      volts.push(v);
      points.push(point(v, 0.6, v >= 2.874 ? 5.02 : 0, v >= 2.874 ? 0.4 : 0, { ...s.settings }));
    }
    expect(volts.slice(0, 3)).toEqual([4.1, 1.9, 3]);
    const [started, refused] = [
      Math.min(...volts.filter((v) => v >= 2.874)),
      Math.max(...volts.filter((v) => v < 2.874)),
    ];
    expect(started - refused).toBeLessThanOrEqual(0.02 + 1e-9);
    const { findings, notes } = analyseSweep({ kind: "points", points }, wanted, corrected({ closed }));
    expect(findings.map((f) => f.characteristic)).toEqual(["boost.start-voltage"]);
    expect(findings[0]).toMatchObject({
      value: started,
      conditions: { load: 0.4 },
      bracket: { low: refused, high: started },
    });
    expect(notes).toEqual([]);
  });

  test.each([
    ["one that refuses at the fullest battery is tried no further", () => 0, [4.1], undefined],
    ["one that starts far below the emptiest too", () => 5, [4.1, 1.9], "at-most"],
  ])("%s", (_, output, volts, bound) => {
    const wanted = { ...setup, plan: { ...plan, startLoad: 0.4 } };
    const closed = new Set(plan.batteries.map((b) => `battery ${b}`));
    const points: Point[] = [];
    for (
      let s = nextSweepStep(wanted, points, corrected({ closed }));
      s.kind === "point";
      s = nextSweepStep(wanted, points, corrected({ closed }))
    )
      points.push(point(s.settings.supplyVoltage ?? NaN, 0.6, output(), output() ? 0.4 : 0, { ...s.settings }));
    expect(points.map((p) => p.settings.supplyVoltage)).toEqual(volts);
    expect(
      analyseSweep({ kind: "points", points }, wanted, corrected({ closed })).findings.find(
        (f) => f.characteristic === "boost.start-voltage",
      )?.bound,
    ).toBe(bound);
  });

  test("warns before the supply would be the one to give up", () => {
    const points = plan.loads.filter((a) => a <= 1.1).map((a) => held(3.1, a));
    const tight = { ...setup, conditions: { ...setup.conditions, supplyCurrentLimit: 2 } };
    const s = nextSweepStep(tight, points, corrected({ closed: new Set(["battery 4.1", "battery 3.6"]) }));
    expect(s.caution).toContain("raise the limit first");
  });

  test("a drawer limits the steps, and a burning choice is never proposed", () => {
    const choice = (amps: number, strain = 0.2) => ({
      target: amps,
      ohms: 5 / amps,
      amps,
      arrangement: "single" as const,
      text: `${5 / amps} Ω`,
      strain,
      cool: strain <= 0.5,
    });
    const drawn = { ...plan, drawer: [choice(0.5), choice(0.75), choice(1), choice(2, 1.4)] };
    expect(settableLoads(drawn).map((l) => l.amps)).toEqual([0, 0.5, 0.75, 1]);
    expect(bisect(drawn, 0.5, 1)?.amps).toBe(0.75);
    expect(bisect(drawn, 0.75, 1)).toBeNull();
  });
});

describe("what is said of a point as it is taken", () => {
  const earlier = [held(3.6, 0), held(3.6, 0.1), held(3.6, 0.2)];
  const settings = { supplyVoltage: 3.6, supplyCurrentLimit: 3, load: { mode: "current" as const, value: 0.5 } };
  const codes = (p: Point) =>
    checkSweepPoint(p, setup, earlier, corrected({ closed: new Set(["battery 4.1"]) })).map((r) => r.code);
  const message = (p: Point, code: string) =>
    checkSweepPoint(p, setup, earlier, corrected({ closed: new Set(["battery 4.1"]) })).find((r) => r.code === code);

  test("nothing of a good one", () => {
    expect(codes(point(3.6, 0.775, 5.02, 0.5, settings))).toEqual([]);
  });
  test("a slipped milli is named with its meter", () => {
    expect(message(point(3.6, 775, 5.02, 0.5, settings), "unit-slip")).toMatchObject({ role: "batteryCurrent" });
    expect(message(point(3.6, 0.775, 5.02, 0.0005, settings), "unit-slip")).toMatchObject({ role: "outputCurrent" });
  });
  test("an efficiency over one names the suspect: the battery ammeter that reads low", () => {
    expect(message(point(3.6, 0.5, 5.02, 0.5, settings), "efficiency-over-one")).toMatchObject({
      role: "batteryCurrent",
    });
    expect(message(point(3.6, 0.775, 5.02, 0.7, settings), "efficiency-over-one")).toMatchObject({
      role: "outputCurrent",
    });
  });
  test("the supply at its own limit, and battery voltage below what was set", () => {
    expect(codes(point(2.55, 2.98, 4.2, 0.5, settings))).toEqual(
      expect.arrayContaining(["supply-limit", "battery-below-set", "collapse"]),
    );
  });
  test("a point that has not stood long enough", () => {
    expect(codes(point(3.6, 0.775, 5.02, 0.5, settings, 2))).toEqual(["not-dwelt"]);
  });
  test("an output above the band, and a missing reading", () => {
    expect(codes(point(3.6, 0.85, 5.5, 0.5, settings))).toContain("above-band");
    expect(codes(point(3.6, null, 5.02, 0.5, settings))).toEqual(["missing"]);
  });
});
