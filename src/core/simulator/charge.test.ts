import {
  agedCapacity,
  agedResistance,
  chargeBench,
  ChargeSimulation,
  HONEST_CHARGE,
  seeded,
  type ChargeBench,
  type Random,
} from ".";
import { openCircuit } from "../cells";

const SEED = 616;
const BENCH = HONEST_CHARGE;
const charged = (bench: ChargeBench, finer = 1) => {
  const s = new ChargeSimulation(bench, finer);
  s.plug(true);
  if (!s.untilStopped(12 * 3600)) throw new Error("it never stopped");
  return s;
};
const at = (s: ChargeSimulation, kind: string) => s.landmarks.find((l) => l.kind === kind)?.time ?? NaN;
const randomBench = (r: Random): ChargeBench =>
  chargeBench({
    soc: r.between(0.02, 0.5),
    cell: { capacity: r.between(0.8, 3), resistance: r.between(0.02, 0.09), age: r.between(0, 0.6) },
    supply: { volts: r.between(4.9, 5.3), cable: r.between(0.02, 0.25) },
    charger: {
      channels: [
        {
          current: r.between(0.3, 1),
          reference: r.between(4.15, 4.24),
          wire: r.between(0.01, 0.05),
          stopShare: r.between(0.07, 0.2),
        },
      ],
    },
  });

describe("the cell", () => {
  test("its open-circuit voltage rise with the charge, without a kink that runs back", () => {
    for (const chemistry of ["lithium-ion", "iron-phosphate"] as const)
      for (let k = 0; k < 500; k++)
        expect(openCircuit(chemistry, (k + 1) / 500)).toBeGreaterThanOrEqual(openCircuit(chemistry, k / 500));
    expect(openCircuit("lithium-ion", 0.5)).toBeCloseTo(3.74, 2);
    expect(openCircuit("iron-phosphate", 0.5)).toBeCloseTo(3.295, 2);
    expect(openCircuit("lithium-ion", 5)).toBe(openCircuit("lithium-ion", 1.05));
  });

  test("age takes capacity and adds resistance", () => {
    expect(agedCapacity({ ...BENCH.cell, age: 0.5 })).toBeCloseTo(2.2 * 0.85, 9);
    expect(agedResistance({ ...BENCH.cell, age: 0.5 })).toBeCloseTo(0.045 * 1.6, 9);
  });
});

describe("a charge", () => {
  test("holds its current, then its voltage, and stops at a tenth", () => {
    const s = new ChargeSimulation(BENCH);
    s.plug(true);
    s.advance(1800);
    expect(s.read().cellCurrent).toBeCloseTo(1, 9);
    s.untilStopped(12 * 3600);
    expect(at(s, "constant-voltage")).toBeGreaterThan(3600);
    expect(at(s, "stop")).toBeGreaterThan(at(s, "constant-voltage"));
    expect(s.read().cellCurrent).toBe(0);
    expect(s.stateOfCharge).toBeGreaterThan(0.9);
  });

  test(`its end time is within 0.05 % of a ten times finer step (seed ${SEED})`, () => {
    const r = seeded(SEED);
    for (let k = 0; k < 25; k++) {
      const bench = randomBench(r);
      const [coarse, fine] = [charged(bench), charged(bench, 10)];
      expect(Math.abs(at(coarse, "stop") / at(fine, "stop") - 1)).toBeLessThan(5e-4);
    }
  });

  test(`no charge is lost: what flowed in is what the state of charge gained (seed ${SEED + 1})`, () => {
    const r = seeded(SEED + 1);
    for (let k = 0; k < 10; k++) {
      const bench = randomBench(r);
      const s = new ChargeSimulation(bench, 4);
      s.plug(true);
      let charge = 0;
      let heat = 0;
      let stored = 0;
      let input = 0;
      while (!s.stopped) {
        const before = s.read();
        const soc = s.stateOfCharge;
        s.advance(2);
        const after = s.read();
        if (s.stopped) break;
        charge += before.cellCurrent + after.cellCurrent;
        input += before.inputVoltage * before.inputCurrent + after.inputVoltage * after.inputCurrent;
        heat +=
          before.inputVoltage * before.inputCurrent -
          before.cellVoltage * before.cellCurrent +
          after.inputVoltage * after.inputCurrent -
          after.cellVoltage * after.cellCurrent;
        stored +=
          openCircuit(bench.cell.chemistry, (soc + s.stateOfCharge) / 2) *
          (s.stateOfCharge - soc) *
          agedCapacity(bench.cell) *
          3600;
      }
      expect(charge / 3600 / ((s.stateOfCharge - bench.soc) * agedCapacity(bench.cell))).toBeCloseTo(1, 3);
      // Energy: input = heat of the charger + stored + what the cell's own resistances burn, which is a few per cent.
      const burnt = input - heat - stored;
      expect(burnt).toBeGreaterThan(0);
      expect(burnt / input).toBeLessThan(0.08);
    }
  });

  test("a deeply discharged cell is conditioned with a tenth of the current first", () => {
    const s = new ChargeSimulation(chargeBench({ soc: -0.005 }));
    s.plug(true);
    s.advance(5);
    expect(s.read().cellCurrent).toBeCloseTo(0.1, 9);
    s.untilStopped(12 * 3600);
    expect(at(s, "full-current")).toBeGreaterThan(30);
    expect(at(s, "constant-voltage")).toBeGreaterThan(at(s, "full-current"));
  });

  test("a thin cable leaves the charger no room: the current falls before the voltage is reached", () => {
    const s = new ChargeSimulation(chargeBench({ supply: { volts: 5, cable: 0.6 } }));
    s.plug(true);
    s.advance(600);
    const early = s.read();
    s.untilStopped(1);
    while (s.landmarks.every((l) => l.kind !== "constant-voltage") && s.time < 20000) s.advance(60);
    expect(early.cellCurrent).toBeCloseTo(1, 6);
    expect(early.inputVoltage).toBeCloseTo(5 - 0.6 * 1.002, 6);
    expect(s.read().cellCurrent).toBeLessThan(0.95);
  });

  test("heat cuts the current and settles near where it began to", () => {
    const s = new ChargeSimulation(
      chargeBench({ charger: { foldback: { from: 70, perKelvin: 0.05 }, thermal: { resistance: 60, tau: 80 } } }),
    );
    s.plug(true);
    s.advance(900);
    const r = s.read();
    expect(r.cellCurrent).toBeLessThan(0.97);
    expect(r.partTemperature).toBeGreaterThan(70);
    expect(r.partTemperature).toBeLessThan(80);
    expect(s.landmarks.map((l) => l.kind)).toEqual(["start"]);
  });

  test("drained after it finished, it starts again at its threshold", () => {
    const s = charged(BENCH);
    s.setDrain(0.5);
    for (let k = 0; k < 2000 && !Number.isFinite(at(s, "restart")); k++) s.advance(20);
    expect(at(s, "restart")).toBeGreaterThan(at(s, "stop"));
    expect(s.stopped).toBe(false);
  });

  test("several channels share the current; the one with the lowest reference quits first, the highest last", () => {
    const channel = (reference: number) => ({ current: 0.5, reference, wire: 0.06, stopShare: 0.1 });
    const s = charged(chargeBench({ charger: { channels: [4.2, 4.17, 4.215].map(channel) } }));
    const order = s.landmarks.filter((l) => l.kind === "channel-done").map((l) => l.channel);
    expect(order).toEqual([2, 1, 3]);
    expect(at(s, "stop")).toBe(s.landmarks.filter((l) => l.kind === "channel-done").at(-1)?.time);
  });

  test("unplugged nothing flows, and plugging in again begins anew", () => {
    const s = charged(BENCH);
    s.plug(false);
    expect(s.read()).toMatchObject({ inputCurrent: 0, cellCurrent: 0 });
    s.advance(3600);
    s.plug(true);
    expect(s.read().cellCurrent).toBeGreaterThan(0);
  });
});
