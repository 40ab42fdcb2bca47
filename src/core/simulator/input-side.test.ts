import fc from "fast-check";
import {
  chargeBench,
  ChargeSimulation,
  CellSimulation,
  MeterPairSimulation,
  ModuleSimulation,
  PackSimulation,
  PanelSimulation,
  panelBest,
  panelCurrent,
  panelOpen,
  PathSimulation,
  seeded,
  SIMULATED_CELLS,
  SIMULATED_MODULES,
  SIMULATED_PACKS,
  SIMULATED_PANELS,
  SIMULATED_PATHS,
  transientAt,
  type ModuleSettings,
  type PackBench,
  type PanelBench,
  type PathBench,
} from ".";

const ON: ModuleSettings = {
  supplyVoltage: 3.6,
  supplyOn: true,
  load: 0,
  shorted: false,
  output: true,
  chargeCurrent: 0,
  input: false,
};

describe("heat", () => {
  const hot = (more: object = {}) =>
    new ModuleSimulation({
      module: { ...SIMULATED_MODULES["steady-synchronous"].model, autoOff: null },
      supplyLimit: 5,
      leads: 0,
      groundsJoined: false,
      ambient: 20,
      ...more,
    });
  const after = (m: ModuleSimulation, seconds: number, load = 1) => {
    m.set({ ...ON, load });
    m.advance(seconds);
    return m.read();
  };
  test("the part rises quickly against its board, the board slowly against the air, to the sum of both resistances", () => {
    const m = hot();
    const soon = after(m, 30);
    const watts = soon.batteryVoltage * soon.batteryCurrent - soon.outputVoltage * soon.outputCurrent;
    // After 30 s the quick part (9 s) is there, of the slow one (420 s) a fifteenth.
    expect((soon.partTemperature - 20) / watts).toBeGreaterThan(5);
    expect((soon.partTemperature - 20) / watts).toBeLessThan(9);
    const late = after(m, 6 * 420);
    const loss = late.batteryVoltage * late.batteryCurrent - late.outputVoltage * late.outputCurrent;
    expect((late.partTemperature - 20) / loss).toBeCloseTo(31, 0);
  });
  test("a drifting room takes the board with it, and a shiny part hides its heat from infrared", () => {
    const drifting = hot({ drift: 1e-3 });
    drifting.set({ ...ON, supplyOn: false });
    drifting.advance(4000);
    const r = drifting.read();
    expect(r.ambientTemperature).toBeCloseTo(24, 9);
    // It trails by drift × time constant.
    expect(r.ambientTemperature - r.partTemperature).toBeCloseTo(0.42, 2);
    const [bare, taped] = [hot({ emissivity: 0.2 }), hot()].map((m) => after(m, 1500).partTemperature - 20) as [
      number,
      number,
    ];
    expect(bare / taped).toBeCloseTo(0.2, 6);
  });
});

describe("a path between input, cell and load", () => {
  const bench = (id: keyof typeof SIMULATED_PATHS, change: Partial<PathBench> = {}): PathBench => ({
    module: SIMULATED_PATHS[id].model,
    supply: { volts: 5.1, limit: 3, cable: 0.1 },
    cell: { chemistry: "lithium-ion", capacity: 1, resistance: 0.1 },
    soc: 0.5,
    ...change,
  });
  test("fed from the input it keeps the cell's current apart; on the cell the load is taken out of it", () => {
    for (const [id, fed] of [
      ["seamless-path", true],
      ["hangs-on-cell", false],
    ] as const) {
      const p = new PathSimulation(bench(id));
      p.set({ ...ON, input: true });
      const free = p.read();
      p.set({ ...ON, input: true, load: 0.3 });
      const loaded = p.read();
      const more = (loaded.inputCurrent ?? 0) - (free.inputCurrent ?? 0);
      expect(more > 0.25).toBe(fed);
      expect((loaded.cellCurrent ?? 0) < (free.cellCurrent ?? 0) - 0.25).toBe(!fed);
      expect(loaded.inputVoltage).toBeCloseTo(5.1 - 0.1 * (loaded.inputCurrent ?? 0), 9);
    }
  });
  test("a board that looks after its input gives the load first", () => {
    const p = new PathSimulation(bench("seamless-path"));
    p.set({ ...ON, input: true, load: 0.7 });
    const r = p.read();
    expect(r.inputCurrent).toBeCloseTo(1, 9);
    expect(r.cellCurrent).toBeCloseTo(0.3, 9);
  });
  test("the charge ends where the end current is reached, and never where the load hides it", () => {
    for (const [id, ends] of [
      ["seamless-path", true],
      ["hangs-on-cell", false],
    ] as const) {
      const p = new PathSimulation(bench(id, { soc: 0.9 }));
      p.set({ ...ON, input: true, load: 0.2 });
      p.advance(3 * 3600);
      expect(p.finished).toBe(ends);
    }
  });
  test("a transient is its dip at once, lasts, recovers, and may swing over; without a load there is none", () => {
    const x = { dip: 1, hold: 0.01, tau: 0.005, overshoot: 0.3, ring: 0.01 };
    expect(transientAt(x, -1)).toBe(0);
    expect(transientAt(x, 0.005)).toBe(-1);
    expect(transientAt(x, 0.015)).toBeCloseTo(-Math.exp(-1), 9);
    expect(transientAt(x, 0.03)).toBeCloseTo(0.3 - Math.exp(-4), 9);
    const p = new PathSimulation(bench("dropping-path"));
    for (const [load, falls] of [
      [0, false],
      [0.2, true],
    ] as const) {
      p.set({ ...ON, input: true, load });
      p.advance(1);
      p.set({ ...ON, input: false, load });
      p.advance(0.05);
      expect((p.read().outputVoltage ?? 0) < 4).toBe(falls);
      p.advance(1);
    }
  });
});

describe("a panel", () => {
  const { panel } = SIMULATED_PANELS["holding-switcher"];
  const bench = (id: keyof typeof SIMULATED_PANELS, clouds = 0): PanelBench => ({
    ...SIMULATED_PANELS[id],
    clouds,
    seed: 5,
    cell: { chemistry: "lithium-ion", capacity: 2, resistance: 0.05 },
    soc: 0.4,
  });
  test("gives its short current at no volts, nothing at its open voltage, and most at a knee between", () => {
    expect(panelCurrent(panel, 1, 0)).toBeCloseTo(panel.short, 9);
    expect(panelCurrent(panel, 1, panel.open)).toBeCloseTo(0, 9);
    expect(panelOpen(panel, 1)).toBeCloseTo(panel.open, 9);
    const best = panelBest(panel, 1);
    for (const v of [0.9, 0.97, 1.03, 1.1])
      expect(best.volts * v * panelCurrent(panel, 1, best.volts * v)).toBeLessThan(best.watts);
  });
  test("a switching charger passes its share of the power on, a linear one the amps, and neither makes any", () => {
    const seed = Date.now() % 1e6;
    fc.assert(
      fc.property(
        fc.constantFrom("holding-switcher" as const, "poor-switcher" as const, "linear-dragger" as const),
        fc.double({ min: 10, max: 3000, noNaN: true }),
        (id, seconds) => {
          const p = new PanelSimulation({ ...bench(id, 20), soc: 0.3 });
          p.set({ ...ON, input: true });
          p.advance(seconds);
          const r = p.read();
          const [into, out] = [
            (r.inputVoltage ?? 0) * (r.inputCurrent ?? 0),
            (r.cellVoltage ?? 0) * (r.cellCurrent ?? 0),
          ];
          if (into < 0.01) return;
          const { charger } = SIMULATED_PANELS[id];
          expect(out / into).toBeLessThanOrEqual(1);
          if (charger.kind === "switching") expect(out / into).toBeCloseTo(charger.efficiency, 6);
          else expect(r.cellCurrent).toBeCloseTo(r.inputCurrent ?? 0, 9);
          expect((r.inputVoltage ?? 0) * (r.inputCurrent ?? 0)).toBeLessThanOrEqual(
            panelBest(panel, p.light()).watts + 1e-9,
          );
        },
      ),
      { numRuns: 60, seed, verbose: 1 },
    );
  });
  test("after too dark a cloud it waits its time before it charges again", () => {
    const p = new PanelSimulation(bench("poor-switcher", 40));
    p.set({ ...ON, input: true });
    p.advance(3 * 3600);
    expect(p.restarts.length).toBeGreaterThan(0);
    for (const r of p.restarts) expect(r.charging - r.light).toBeCloseTo(9, 6);
  });
});

test("two meters on one point differ by leads, offset and gain, and by nothing else", () => {
  const m = new MeterPairSimulation({
    volts: 5,
    source: 0.05,
    leads: 0.1,
    offset: 0.01,
    gain: 0.001,
    checks: "outputVoltage",
  });
  m.set({ ...ON, load: 0.5 });
  const r = m.read();
  expect(r.referenceVoltage).toBeCloseTo(4.975, 9);
  expect(r.outputVoltage).toBeCloseTo((4.975 - 0.05) * 1.001 + 0.01, 9);
});

describe("cells and packs", () => {
  test("what comes out of a cell is what its charge falls by, and its volts step by its resistance", () => {
    const s = new CellSimulation(SIMULATED_CELLS["honest-cell"].model, 0.9);
    const free = s.read().batteryVoltage ?? 0;
    s.set({ ...ON, load: 1 });
    expect(free - (s.read().batteryVoltage ?? 0)).toBeCloseTo(s.cell.resistance, 9);
    s.advance(1800);
    expect(0.9 - s.cell.soc).toBeCloseTo(0.5 / (2.3 * 0.97), 6);
  });
  const made = (change: Partial<PackBench> = {}) =>
    new PackSimulation({ ...SIMULATED_PACKS["drifted-four"].bench, ...change });
  test("the highest cell cuts the charge, the lowest the discharge, and charging is allowed again below the release", () => {
    const p = made({ charger: { current: 0.7, volts: 17.5 } });
    p.set({ ...ON, input: true });
    p.advance(3 * 3600);
    const [cut, release] = p.landmarks;
    expect(cut?.kind).toBe("cut");
    expect(Math.max(...(cut?.volts ?? []))).toBeGreaterThan(4.25);
    expect(Math.max(...(cut?.volts ?? []))).toBeLessThan(4.26);
    expect(release?.kind).toBe("release");
    expect(Math.max(...(release?.volts ?? []))).toBeLessThan(4.195);
    p.set({ ...ON, load: 0.8 });
    p.advance(3 * 3600);
    const low = p.landmarks.find((m) => m.kind === "low-cut");
    expect(Math.min(...(low?.volts ?? []))).toBeLessThan(2.8);
    expect(p.read().cellCurrent).toBe(0);
  });
  test("a balancer takes from the high cells alone", () => {
    const [bare, bled] = [
      made(),
      made({ board: { ...SIMULATED_PACKS["drifted-four"].bench.board, balancer: { above: 3.5, amps: 0.05 } } }),
    ].map((p) => {
      p.set({ ...ON, input: true });
      p.advance(1200);
      return p.cells.map((c) => c.soc);
    }) as [number[], number[]];
    bare.forEach((soc, k) => expect(bled[k]).toBeLessThan(soc));
  });
});

test("a charger that switches draws its cell's power over its efficiency, whatever its cable takes", () => {
  const r = seeded(8);
  for (let k = 0; k < 40; k++) {
    const switching = r.between(0.7, 0.95);
    const s = new ChargeSimulation(
      chargeBench({
        charger: { switching },
        supply: { volts: r.between(5, 12), cable: r.between(0, 0.3) },
        soc: r.between(0.1, 0.8),
      }),
    );
    s.plug(true);
    s.advance(600);
    const x = s.read();
    if (x.cellCurrent < 0.05) continue;
    const quiescent = 0.002 * x.inputVoltage;
    expect((x.inputVoltage * x.inputCurrent - quiescent) / ((x.cellVoltage * x.cellCurrent) / switching)).toBeCloseTo(
      1,
      2,
    );
  }
});
