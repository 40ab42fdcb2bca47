import { seeded } from "../simulator/random";
import {
  bayVoltages,
  checkStart,
  drawnAt,
  forecastBay,
  laneOf,
  packEntry,
  packSums,
  plannedStarts,
  planStation,
  roomFor,
  stackOverTime,
  stationDoubts,
  stationQuestion,
  stationRanges,
  type BayCell,
  type BayCharge,
  type PackCell,
  type StartAsked,
  type StationPlan,
} from ".";

const SEED = 20261202;
const PLAN: StationPlan = {
  bays: 6,
  chargeCurrent: 0.5,
  currentTolerance: 0.08,
  quiescent: 0.004,
  margin: 0,
  volts: 5.15,
  amps: 1.7,
  ampacity: 16,
  segmentResistance: 0.003,
  minimumInput: 4.6,
  ambient: 24,
  thermalResistance: 38,
  foldbackTemperature: 95,
  lowestCellVoltage: 3,
  voltsTolerance: 0.02,
  resistanceTolerance: 0.1,
};
const CELL: BayCell = { chemistry: "lithium-ion", capacity: 1.2, chargeRateLimit: 0.5, volts: 3.5 };
const running = (bay: number, gone: number, cellId = `c${bay}`): BayCharge => ({
  bay,
  cellId,
  forecast: forecastBay(PLAN, CELL),
  gone,
});
const ask = (more: Partial<StartAsked> = {}) =>
  checkStart({
    plan: PLAN,
    baysPerLane: 6,
    bay: 1,
    cell: CELL,
    cellId: "new",
    title: "Torch 9",
    rejected: null,
    floor: 2,
    charges: [],
    elsewhere: null,
    titleOf: (id) => id,
    ...more,
  });

describe("a charge in a bay", () => {
  test("takes longer from a lower voltage, draws what its charger is set to and the charger's own current, and nothing afterwards", () => {
    const [low, high] = [forecastBay(PLAN, { ...CELL, volts: 3.2 }), forecastBay(PLAN, { ...CELL, volts: 3.9 })];
    expect(low.seconds).toBeGreaterThan(high.seconds);
    expect(drawnAt(low, 600)).toBeCloseTo(0.5 * 1.08 + 0.004, 6);
    expect([drawnAt(low, -1), drawnAt(low, low.seconds + 1)]).toEqual([0, 0]);
    // By the time constant current ends about four fifths are in: 1.2 Ah take between 2 and 4 h at 0.5 A.
    expect(low.seconds / 3600).toBeGreaterThan(2);
    expect(low.seconds / 3600).toBeLessThan(4);
  });
  test("is refused with the reason: a taken bay, a cell that charges elsewhere, a rejected one, too much current, a deeply discharged one, a pack", () => {
    expect(ask()).toEqual({ refused: [], cautions: [], roomIn: 0 });
    expect(ask({ charges: [running(1, 60)] }).refused.join()).toMatch(/^Bay 1 is taken by c1\. Take it out first/);
    expect(ask({ charges: [running(2, 60, "new")] }).refused.join()).toMatch(/charges in bay 2 already/);
    expect(ask({ elsewhere: "in the shed" }).refused.join()).toMatch(/charges in the shed already/);
    expect(ask({ rejected: "it is swollen" }).refused.join()).toMatch(/not charged any more: it is swollen/);
    expect(ask({ cell: { ...CELL, capacity: 0.3 } }).refused.join()).toMatch(
      /gives up to 540\smA, more than the 150\smA that Torch 9 may be charged with/,
    );
    expect(ask({ cell: { ...CELL, volts: 1.6 } }).refused.join()).toMatch(
      /1\.60\sV is under the floor of 2\sV: never charge/,
    );
    expect(ask({ cell: { ...CELL, volts: 4.4 } }).refused.join()).toMatch(/above the 4\.25\sV/);
    expect(ask({ cell: { ...CELL, series: 4 } }).refused.join()).toMatch(/4 cells in series; a bay charges one/);
    expect(ask({ bay: 7 }).refused.join()).toMatch(/There is no bay 7; this station has bays 1 to 6/);
    expect(ask({ cell: { ...CELL, volts: null } }).cautions.join()).toMatch(/not read/);
    expect(ask({ cell: { ...CELL, volts: 4.18 } }).cautions.join()).toMatch(/full already/);
  });
  test("a full supply says when there is room", () => {
    const three = [running(2, 0), running(3, 0), running(4, 0)];
    const check = ask({ charges: three });
    expect(check.refused.join()).toMatch(
      /^The supply is full: with this charge its lane would draw more than 1\.70\sA\. There is room in about \d+ min\.$/,
    );
    expect(check.roomIn).toBeGreaterThan(1800);
    // On the other lane there is.
    expect(ask({ charges: three, baysPerLane: 1 }).refused).toEqual([]);
    expect(roomFor(forecastBay({ ...PLAN, chargeCurrent: 2 }, CELL), [], 1.7)).toBeNull();
  });
});

test(`starts in turns: 100 random stations never draw more than their supplies give, every bay holds one cell at a time, nobody waits who could begin (seed ${SEED})`, () => {
  const r = seeded(SEED);
  for (let k = 0; k < 100; k++) {
    const plan = { ...PLAN, bays: 2 + Math.floor(r.uniform() * 10), amps: 0.6 + 3 * r.uniform() };
    const { baysPerLane } = planStation(stationQuestion(plan));
    const waiting = Array.from({ length: 1 + Math.floor(r.uniform() * 14) }, (_, n) => ({
      cellId: `n${n}`,
      cell: { ...CELL, capacity: 1.1 + r.uniform(), volts: 3 + r.uniform() },
    }));
    const starts = plannedStarts(plan, baysPerLane, waiting, []);
    expect([k, starts.length]).toEqual([k, waiting.length]);
    const horizon = Math.max(...starts.map((s) => s.at + s.forecast.seconds));
    const lanes = new Set(starts.map((s) => laneOf(s.bay, baysPerLane)));
    for (const lane of lanes) {
      const { amps } = stackOverTime(
        starts
          .filter((s) => laneOf(s.bay, baysPerLane) === lane)
          .map((s) => ({ bay: s.bay, cellId: s.cellId, forecast: s.forecast, gone: -s.at })),
        horizon,
      );
      expect([k, lane, Math.max(...amps) <= plan.amps + 1e-9]).toEqual([k, lane, true]);
    }
    for (const a of starts)
      for (const b of starts)
        if (a !== b && a.bay === b.bay)
          expect([k, a.at + a.forecast.seconds <= b.at + 60 || b.at + b.forecast.seconds <= a.at + 60]).toEqual([
            k,
            true,
          ]);
    expect([k, starts[0]?.at]).toEqual([k, 0]);
  }
});

describe("a station's uncertain inputs", () => {
  const twelve: StationPlan = { ...PLAN, bays: 12, amps: 10, margin: 0.25 };
  test("worked: 12 bays at the corners of their tolerances", () => {
    const r = stationRanges(twelve);
    expect([...r.perBay, ...r.farBayVoltage].map((x) => Number(x.toFixed(3)))).toEqual([0.464, 0.544, 4.907, 5.155]);
    // Hottest: (5.253 − 0.0027·0.544 − 3)·0.54 W, and that times 38·1.1 K/W over 24 °C.
    expect(r.heatPerBay[1]).toBeCloseTo((5.253 - 0.0027 * 0.544 - 3) * 0.54, 9);
    expect(r.partTemperature[1]).toBeCloseTo(24 + 41.8 * (5.253 - 0.0027 * 0.544 - 3) * 0.54, 9);
  });

  test(`what any inputs within their tolerances come to lies within the ranges, which without tolerances are a point (seed ${SEED})`, () => {
    const r = seeded(SEED);
    for (let k = 0; k < 200; k++) {
      const plan: StationPlan = {
        ...twelve,
        bays: 1 + Math.floor(r.between(0, 40)),
        chargeCurrent: r.between(0.1, 1.2),
        volts: r.between(4.8, 5.6),
        currentTolerance: r.between(0, 0.2),
        voltsTolerance: r.between(0, 0.1),
        resistanceTolerance: r.between(0, 0.4),
      };
      const ranges = stationRanges(plan);
      const within = (share: number) => 1 + r.between(-share, share);
      const wire = plan.segmentResistance * within(plan.resistanceTolerance);
      const current = plan.chargeCurrent * within(plan.currentTolerance);
      const volts = plan.volts * within(plan.voltsTolerance);
      const perBay = current + plan.quiescent;
      const heat = (volts - wire * perBay - plan.lowestCellVoltage) * current;
      const bays = planStation(stationQuestion(plan)).baysPerLane;
      const seen = {
        perBay,
        laneCurrent: bays * perBay,
        farBayVoltage: bayVoltages(volts, perBay, wire, bays).at(-1) ?? NaN,
        heatPerBay: heat,
        partTemperature: plan.ambient + heat * plan.thermalResistance * within(plan.resistanceTolerance),
      };
      for (const [name, x] of Object.entries(seen)) {
        const [low, high] = ranges[name as keyof typeof seen];
        expect({ SEED, k, name, in: x >= low - 1e-9 && x <= high + 1e-9 }).toEqual({ SEED, k, name, in: true });
      }
      const exact = stationRanges({ ...plan, currentTolerance: 0, voltsTolerance: 0, resistanceTolerance: 0 });
      for (const [low, high] of Object.values(exact)) expect(high).toBeCloseTo(low, 12);
    }
  });

  test("what works as stated but not at a corner is said; what does not work at all is left to the remedies", () => {
    expect(stationDoubts({ ...twelve, minimumInput: 4.95 })).toEqual([
      expect.stringMatching(/^The far bay may have only 4\.907\sV, below the 4\.95/),
    ]);
    expect(stationDoubts({ ...twelve, foldbackTemperature: 72 })).toEqual([
      expect.stringMatching(/^The parts may reach 74\.8\s°C/),
    ]);
    expect(stationDoubts({ ...twelve, minimumInput: 5.1, foldbackTemperature: 60 })).toEqual([]);
    expect(stationDoubts(twelve)).toEqual([]);
  });
});

test("worked: a pack holds what its weakest group holds, and takes what the cell that is allowed least takes, for each of that group", () => {
  const cell = (capacity: number, chargeRateLimit = 0.5) => ({
    chemistry: "iron-phosphate" as const,
    capacity,
    rated: 2,
    chargeRateLimit,
  });
  expect(
    packEntry([
      [cell(2), cell(2)],
      [cell(1.8), cell(2)],
    ]),
  ).toEqual({ chemistry: "iron-phosphate", series: 2, capacity: 3.8, chargeRateLimit: 0.526 });
  expect(packEntry([[cell(2), cell(2, 0.25)]])).toEqual({
    chemistry: "iron-phosphate",
    capacity: 4,
    chargeRateLimit: 0.25,
  });
});

describe("a pack's sums", () => {
  const cell = (capacity: number, more: Partial<PackCell> = {}): PackCell => ({
    id: String(capacity),
    capacity,
    measured: true,
    resistance: 0.05,
    volts: 4.15,
    chemistry: "lithium-ion",
    ...more,
  });
  test("worked: 2.0 and 2.2 Ah; equal groups don't differ at the cut", () => {
    const s = packSums([[cell(2)], [cell(2.2)]]);
    expect([s.capacity, s.groups]).toEqual([2, [2, 2.2]]);
    expect(s.spreadAtCut).toBeCloseTo(0.44, 1);
    expect(packSums([[cell(2)], [cell(2)]]).spreadAtCut).toBeCloseTo(0, 6);
  });
  test("cells joined at different voltages: the difference over both resistances; not stated where one is not known", () => {
    expect(packSums([[cell(2, { volts: 4.1 }), cell(2.1, { volts: 3.9 })]]).joining).toEqual({
      amps: expect.closeTo(2, 9),
      volts: expect.closeTo(0.2, 9),
    });
    expect(packSums([[cell(2), cell(2.1, { resistance: null })]]).joining).toBeNull();
    expect(packSums([[cell(2)], [cell(2)]]).joining).toBeNull();
  });
});
