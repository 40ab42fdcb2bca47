import fc from "fast-check";
import { accuracyAt } from "../instruments";
import {
  BENCH_ACCURACY,
  BENCH_METERS,
  SIMULATED_BOARDS,
  TextInstruments,
  VirtualBench,
  batteryCurrentFor,
  benchFor,
  boostState,
  randomBoost,
  seeded,
  drawMeter,
  showReading,
} from ".";

const SEED = 99;
const board = SIMULATED_BOARDS["steady-synchronous"].model;
const diode = SIMULATED_BOARDS["diode-rectifier"].model;
const running = (model: typeof board | typeof diode, amps: number, volts = 3.6, limit = 5) => {
  const bench = new VirtualBench(benchFor(model, 1));
  bench.setSupply({ volts, limit, on: true });
  bench.setLoad({ load: { mode: "current", value: 0 }, on: false });
  bench.advance(1);
  bench.setLoad({ load: { mode: "current", value: amps }, on: amps > 0 });
  bench.advance(5);
  return bench;
};

describe("the boost converter", () => {
  test(`keeps the energy balance at any load, in regulation or limited (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.double({ min: 2.8, max: 4.2, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.constantFrom("current", "resistance", "power"),
        (seed, vb, x, mode) => {
          const m = randomBoost(seeded(seed));
          const s = boostState(
            m,
            vb,
            { mode: mode as "current", value: mode === "resistance" ? 2 + 50 * x : mode === "power" ? 5 * x : x },
            30,
          );
          const balance = vb * s.batteryCurrent - s.outputVoltage * s.outputCurrent - s.loss;
          return Math.abs(balance) < 1e-9 && s.loss >= -1e-9 && s.outputVoltage >= 0;
        },
      ),
      { seed: SEED, numRuns: 400 },
    );
  });

  test("its battery current solves the power balance written out term by term", () => {
    const vb = 3.6,
      vo = 5.06,
      io = 0.5,
      t = 40;
    const ib = batteryCurrentFor(board, vb, vo, io, t) ?? NaN;
    const d = 1 - vb / vo;
    const hot = 1 + 0.0039 * 15;
    const rectifier = (board.rectifier as { ohms: number }).ohms;
    const losses =
      ib * ib * hot * (board.inductorOhms + d * board.switchOhms + (1 - d) * rectifier) +
      0.5 * vo * ib * board.transition * board.frequency +
      vb * board.quiescent +
      board.gateCharge * vo * board.frequency;
    expect(vb * ib).toBeCloseTo(vo * io + losses, 9);
  });

  test("a diode costs its drop at every ampere: less efficient than a switch", () => {
    const eta = (m: typeof board | typeof diode) => {
      const s = boostState(m, 3.6, { mode: "current", value: 0.5 }, 25);
      return (s.outputVoltage * s.outputCurrent) / (3.6 * s.batteryCurrent);
    };
    expect(eta(diode)).toBeLessThan(eta(board) - 0.03);
  });

  test("past its limit the battery current stands and the output falls", () => {
    const s = boostState(board, 3.1, { mode: "current", value: 2 }, 25);
    expect(s.limited).toBe(true);
    expect(s.batteryCurrent).toBeCloseTo(board.inputLimit, 3);
    expect(s.outputVoltage).toBeLessThan(4.75);
  });
});

describe("the bench", () => {
  test("a supply at its own limit drags the battery voltage down", () => {
    const t = running(board, 1.2, 3.6, 1.2).truth();
    expect(t.batteryCurrent).toBeCloseTo(1.2, 6);
    expect(t.batteryVoltage).toBeLessThan(3);
  });

  test("a board that switches off waits for the load to go, as its model says", () => {
    const bench = running(diode, 3);
    expect(bench.truth().outputVoltage).toBe(0);
    bench.advance(30);
    expect(bench.truth().outputVoltage).toBe(0);
    bench.setLoad({ load: { mode: "current", value: 0 } });
    bench.advance(1);
    expect(bench.truth().outputVoltage).toBeGreaterThan(5);
  });

  test("starting into a load is harder than holding it", () => {
    const held = running(board, 1.7, 3.6);
    expect(held.truth().outputVoltage).toBeGreaterThan(4.75);
    held.setSupply({ on: false });
    held.advance(1);
    held.setSupply({ on: true });
    held.advance(5);
    expect(held.truth().outputVoltage).toBeLessThan(4.75);
  });

  test("heat follows one exponential to loss × thermal resistance", () => {
    const bench = running(board, 1);
    bench.advance(900);
    const t = bench.truth();
    const loss = t.batteryVoltage * t.batteryCurrent - t.outputVoltage * t.outputCurrent;
    expect(t.partTemperature - 21).toBeCloseTo(loss * board.thermal.resistance, 1);
  });

  test("leads drop volts between the supply and the module, and meters at the far ends see the supply's side", () => {
    const bench = new VirtualBench(benchFor(board, 3, { inputLeadResistance: 0.1, outputLeadResistance: 0.2 }));
    bench.setSupply({ volts: 3.6, limit: 5, on: true });
    bench.setLoad({ load: { mode: "current", value: 0.5 }, on: true });
    bench.advance(10);
    const t = bench.truth();
    expect(t.supplyVoltage).toBeCloseTo(3.6, 4);
    expect(t.batteryVoltage).toBeCloseTo(3.6 - 0.1 * t.batteryCurrent, 4);
    expect(t.loadVoltage).toBeCloseTo(t.outputVoltage - 0.1, 4);
  });

  test("the same seed gives the same readings, another does not", () => {
    const read = (seed: number) => {
      const b = new VirtualBench(benchFor(board, seed));
      b.setSupply({ volts: 3.6, limit: 3, on: true });
      b.advance(5);
      return BENCH_METERS.map((m) => b.measure(m));
    };
    expect(read(5)).toEqual(read(5));
    expect(read(5)).not.toEqual(read(6));
    expect(() => new VirtualBench(benchFor(board, 1)).advance(-1)).toThrow(/can't pass/);
  });
});

test(`meters stay inside their accuracy and a step of noise (seed ${SEED})`, () => {
  const random = seeded(SEED);
  for (let k = 0; k < 500; k++) {
    const meter = drawMeter(BENCH_ACCURACY.outputVoltage, random);
    const truth = random.between(0, 6);
    expect(Math.abs(showReading(meter, truth, random) - truth)).toBeLessThanOrEqual(
      accuracyAt(meter.accuracy, truth) + 2.5 * meter.accuracy.resolution,
    );
  }
});

describe("text commands", () => {
  const bench = new VirtualBench(benchFor(board, 8));
  const text = new TextInstruments(bench);
  test("set and measure as instruments do", () => {
    expect(text.send("supply", "*IDN?")).toContain("SIMULATED SUPPLY");
    for (const line of ["SOUR:VOLT 3.6", "SOUR:CURR 3", "OUTP ON"]) expect(text.send("supply", line)).toBeNull();
    text.send("load", "SOUR:CURR 0.5");
    text.send("load", "INP ON");
    bench.advance(5);
    expect(Number(text.send("meter:outputVoltage", "MEAS:VOLT?"))).toBeCloseTo(5.05, 1);
    expect(Number(text.send("meter:outputCurrent", "MEAS:CURR?"))).toBeCloseTo(0.5, 2);
    expect(text.send("supply", "SYST:ERR?")).toContain("No error");
  });
  test.each([
    ["supply", "SOUR:VOLT 300", /-222/],
    ["supply", "SOUR:VOLT abc", /-104/],
    ["load", "FROB 1", /-113/],
    ["meter:outputVoltage", "MEAS:CURR?", /-113/],
  ] as const)("%s: %s is refused and reported", (address, line, error) => {
    text.send(address, line);
    expect(text.send(address, "SYST:ERR?")).toMatch(error);
    expect(text.send(address, "SYST:ERR?")).toContain("No error");
  });
  test("reset leaves supply and load off", () => {
    text.send("supply", "*RST");
    text.send("load", "*RST");
    bench.advance(1);
    expect(bench.truth().outputVoltage).toBe(0);
  });
});
