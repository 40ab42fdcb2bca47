import {
  boostState,
  ModuleSimulation,
  randomModule,
  seeded,
  SIMULATED_MODULES,
  type ModuleBench,
  type ModuleModel,
  type ModuleSettings,
} from ".";

const SOUND: ModuleModel = SIMULATED_MODULES["steady-synchronous"].model;
const ON: ModuleSettings = {
  supplyVoltage: 3.6,
  supplyOn: true,
  load: 0.2,
  shorted: false,
  output: true,
  chargeCurrent: 0,
  input: false,
};
const bench = (change: Partial<ModuleModel> = {}, more: Partial<ModuleBench> = {}): ModuleSimulation =>
  new ModuleSimulation({
    module: { ...SOUND, ...change },
    supplyLimit: 4,
    leads: 0,
    groundsJoined: false,
    ambient: 22,
    ...more,
  });
/** Sets the bench and lets so many seconds pass. */
function after(m: ModuleSimulation, settings: Partial<ModuleSettings>, seconds: number) {
  m.set({ ...ON, ...settings });
  m.advance(seconds);
  return m.read();
}

describe("thresholds", () => {
  test("the battery is cut a delay after it crossed, and comes back a delay after the release", () => {
    const m = bench({ overDischarge: { cut: 2.9, release: 3.1, delay: 0.5, wakes: "charger" } });
    after(m, { supplyVoltage: 3 }, 1);
    // At 0.1 V/s the cut is crossed after a second and acts half a second later.
    expect(after(m, { supplyVoltage: 2.5, slew: 0.1 }, 1.3).outputVoltage).toBeGreaterThan(4.9);
    const off = after(m, { supplyVoltage: 2.5, slew: 0.1 }, 0.3);
    expect(off.outputVoltage).toBe(0);
    expect(off.batteryCurrent).toBeCloseTo(off.batteryVoltage / SOUND.cutOhms, 12);
    expect(after(m, { supplyVoltage: 3.05 }, 5).outputVoltage).toBe(0);
    expect(after(m, { supplyVoltage: 3.2 }, 1).outputVoltage).toBeGreaterThan(4.9);
  });

  test("a dip shorter than the delay cuts nothing", () => {
    const m = bench({ overDischarge: { cut: 2.9, release: 3.1, delay: 0.5, wakes: "charger" } });
    after(m, { supplyVoltage: 2.8 }, 0.3);
    expect(after(m, { supplyVoltage: 3.2 }, 2).outputVoltage).toBeGreaterThan(4.9);
  });

  test("latched: only a charger wakes it, or its load removed, as its kind is", () => {
    for (const wakes of ["charger", "load-removal"] as const) {
      const m = bench({ overDischarge: { cut: 2.9, release: null, delay: 0.1, wakes } });
      after(m, { supplyVoltage: 2.7 }, 1);
      expect(after(m, { supplyVoltage: 3.9 }, 5).outputVoltage).toBe(0);
      expect(after(m, { supplyVoltage: 3.9, load: 0 }, 1).outputVoltage > 4.9).toBe(wakes === "load-removal");
      expect(after(m, { supplyVoltage: 3.9, load: 0, chargeCurrent: 0.1 }, 1).outputVoltage).toBeGreaterThan(4.9);
    }
  });

  test("a switch in the minus wire is bypassed by joined grounds, one in the plus wire is not", () => {
    for (const lowSide of [true, false]) {
      const m = bench({ lowSide }, { groundsJoined: true });
      expect(after(m, { supplyVoltage: 2.6 }, 3).batteryCurrent > 0.1).toBe(lowSide);
    }
  });

  test("charging is cut above the over-charge threshold and allowed again below its release", () => {
    const m = bench();
    const push = (supplyVoltage: number) => after(m, { supplyVoltage, load: 0, chargeCurrent: 0.4 }, 1).cellCurrent;
    expect([4.2, 4.3, 4.15, 4.05].map(push).map((a) => a > 0.3)).toEqual([true, false, false, true]);
  });

  test("behind leads the module sees less than the supply gives", () => {
    const m = bench({}, { leads: 0.2 });
    const r = after(m, { load: 0.5 }, 1);
    expect(r.cellVoltage - r.batteryVoltage).toBeCloseTo(0.2 * r.batteryCurrent, 9);
  });
});

describe("overload", () => {
  const trip = (recovery: "automatic" | "load-removal" | "power-cycle") => bench({ trip: { amps: 1, recovery } });
  test.each(["automatic", "load-removal", "power-cycle"] as const)("after a trip it comes back by: %s", (recovery) => {
    const m = trip(recovery);
    expect(after(m, { load: 1.2 }, 1).outputVoltage).toBe(0);
    expect(after(m, { load: 0.1 }, 2).outputVoltage > 4.9).toBe(recovery === "automatic");
    expect(after(m, { load: 0 }, 2).outputVoltage > 4.9).toBe(recovery !== "power-cycle");
    after(m, { supplyOn: false }, 1);
    expect(after(m, { load: 0 }, 1).outputVoltage).toBeGreaterThan(4.9);
  });

  test("a short draws what the module allows, or all that the supply gives, after a first peak", () => {
    const limited = bench({ trip: null, shortCurrent: 0.5, shortPeak: 3 });
    expect(after(limited, { shorted: true }, 0.05).batteryCurrent).toBeGreaterThan(1);
    expect(after(limited, { shorted: true }, 2).batteryCurrent).toBeCloseTo(0.5, 6);
    const bare = bench({ trip: null, shortCurrent: null });
    expect(after(bare, { shorted: true }, 2).batteryCurrent).toBeCloseTo(4, 6);
    expect(after(bare, {}, 1).outputVoltage).toBeGreaterThan(4.9);
  });

  test("one that does not live through a short stays dead, whatever is done", () => {
    const m = bench({ trip: null, shortCurrent: null, diesShorted: true });
    after(m, { shorted: true }, 2);
    after(m, { supplyOn: false }, 2);
    expect(after(m, { load: 0 }, 5).outputVoltage).toBe(0);
  });

  test("a supply at its limit lets its volts go, and the output with them", () => {
    const m = bench({}, { supplyLimit: 0.5 });
    const r = after(m, { load: 1 }, 1);
    expect(r.batteryCurrent).toBeCloseTo(0.5, 6);
    expect(r.outputVoltage).toBeLessThan(4.5);
  });
});

describe("idle", () => {
  test("the mean over whole periods is that of its pulses, however often it is read", () => {
    for (const every of [0.5, 1, 2.5]) {
      const m = bench({ idle: { amps: 5e-5, wakes: { period: 10, seconds: 0.2, amps: 0.01 } } });
      after(m, { output: false, load: 0 }, 10);
      let sum = 0;
      for (let t = 0; t < 100; t += every) sum += every * after(m, { output: false, load: 0 }, every).batteryCurrent;
      expect(sum / 100).toBeCloseTo(5e-5 + 2e-4, 7);
    }
  });

  test("the output goes off under its least load after the delay, and a load wakes it", () => {
    const m = bench({ autoOff: { below: 0.05, delay: 20 } });
    expect(after(m, { load: 0.06 }, 60).outputVoltage).toBeGreaterThan(4.9);
    expect(after(m, { load: 0.04 }, 19).outputVoltage).toBeGreaterThan(4.9);
    expect(after(m, { load: 0.04 }, 2).outputVoltage).toBe(0);
    expect(after(m, { load: 0.2 }, 1).outputVoltage).toBeGreaterThan(4.9);
  });
});

test("connected and in its band it is the converter alone, and never gives more than it takes", () => {
  const r = seeded(4);
  for (let k = 0; k < 200; k++) {
    const module_ = randomModule(r);
    const m = new ModuleSimulation({ module: module_, supplyLimit: 5, leads: 0, groundsJoined: false, ambient: 22 });
    const load = r.between(0.12, 0.4);
    const x = after(m, { supplyVoltage: 3.8, load }, 0.2);
    const s = boostState(module_.boost, 3.8, { mode: "current", value: load }, 22);
    expect(x.outputVoltage).toBeCloseTo(s.outputVoltage, 2);
    expect(x.batteryVoltage * x.batteryCurrent).toBeGreaterThanOrEqual(x.outputVoltage * x.outputCurrent);
  }
});
