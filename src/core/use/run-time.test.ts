import { seeded, type Random } from "../simulator/random";
import {
  bayVoltages,
  dutyPhases,
  highestPower,
  lossModelConverter,
  meanCurrent,
  operatingPoint,
  planStation,
  runTime,
  stationRemedies,
  sourceOf,
  type Between,
  type PackCells,
  type Source,
  type StationQuestion,
} from ".";

const CURVE = [
  [0, 3.0],
  [0.03, 3.3],
  [0.1, 3.56],
  [0.2, 3.66],
  [0.35, 3.73],
  [0.5, 3.8],
  [0.65, 3.92],
  [0.8, 4.05],
  [0.95, 4.16],
  [1, 4.2],
] as const;
const CELL: PackCells = { capacity: 2.2, resistance: 0.08, openCircuit: CURVE, floor: 3, selfDischargeCurrent: 2e-5 };
const WAY: Between = { resistance: 0.05, cut: 2.8, trip: 3 };
const BOOST = {
  outputVoltage: 5,
  loss: [0.02, 0.05, 0.12],
  inputCurrentLimit: 1.8,
  minimumInput: 2.5,
  standbyCurrent: 2e-4,
};
const boost = lossModelConverter(BOOST);
type DutyLoad = Parameters<typeof dutyPhases>[0];
const recorder: DutyLoad = { power: 0.9, duty: 1, sleepPower: 0 };

/** The slow, obvious twin: the cell drained a five-thousandth of its charge at a time until something stops it; energy is kept account of. */
function drained(
  source: Source,
  load: DutyLoad,
  converter = boost,
): { seconds: number; open: number; out: number; lost: number } {
  const STEP = 2e-4;
  let [seconds, open, out, lost] = [0, 0, 0, 0];
  for (let soc = 1; soc > STEP; soc -= STEP) {
    const middle = soc - STEP / 2;
    const p = operatingPoint(source, converter, load.power, middle);
    if (p.stop) break;
    const mean = meanCurrent(source, converter, dutyPhases(load), middle);
    const dt = (source.capacity * 3600 * STEP) / mean;
    seconds += dt;
    open += source.openCircuit(middle) * p.current * dt;
    out += load.power * dt;
    lost += (p.current * p.current * source.resistance + converter.drawn(load.power, p.input) - load.power) * dt;
  }
  return { seconds, open, out, lost };
}

test("worked: 0.9 W from a full cell behind 0.13 Ω draws 0.2237 A at 4.1709 V", () => {
  const p = operatingPoint(sourceOf(CELL, WAY), boost, 0.9, 1);
  expect(p.stop).toBeNull();
  expect(p.current).toBeCloseTo(0.22366, 5);
  expect(p.input).toBeCloseTo(4.17092, 5);
  expect(p.input * p.current).toBeCloseTo(0.9 + 0.02 + 0.05 * 0.18 + 0.12 * 0.18 ** 2, 12);
});

test.each<[string, Partial<PackCells>, Between, number, string]>([
  ["more power than the resistance lets through", { resistance: 2 }, { resistance: 1 }, 3, "power"],
  ["the protection trips", {}, { resistance: 0.05, trip: 0.2 }, 0.9, "trip"],
  ["the module's own limit, the protection's above it", {}, WAY, 9, "input-limit"],
  [
    "the module's lowest input",
    {
      openCircuit: [
        [0, 2.2],
        [1, 2.5],
      ],
      floor: 0,
    },
    { resistance: 0.05 },
    0.9,
    "minimum-input",
  ],
  [
    "the cut",
    {
      openCircuit: [
        [0, 2.5],
        [1, 2.85],
      ],
      floor: 0,
    },
    { resistance: 0.05, cut: 2.84 },
    0.9,
    "cut",
  ],
  [
    "the cell's floor",
    {
      openCircuit: [
        [0, 2.5],
        [1, 3],
      ],
      floor: 3,
    },
    { resistance: 0.05 },
    0.9,
    "floor",
  ],
])("does not hold when full: %s", (_n, cell, way, power, stop) => {
  expect(runTime(sourceOf({ ...CELL, ...cell }, way), boost, dutyPhases({ ...recorder, power }))).toMatchObject({
    holds: false,
    endedBy: stop,
  });
});

test("nothing stops it before the last charge is out: empty", () => {
  expect(
    runTime(sourceOf({ ...CELL, floor: 0 }, { resistance: 0 }), boost, dutyPhases({ ...recorder, power: 0.1 })),
  ).toMatchObject({ holds: true, endedBy: "empty", endSoc: 0 });
});

const SEED = 20261130;
const random = (r: Random) => {
  const cell: PackCells = {
    ...CELL,
    capacity: r.between(0.5, 4),
    resistance: r.between(0.02, 0.2),
    floor: r.between(2.6, 3.3),
    series: 1,
    parallel: r.uniform() < 0.3 ? 2 : 1,
  };
  const way: Between = { resistance: r.between(0, 0.15), cut: r.between(2.4, 3), trip: r.between(1.5, 5) };
  const load: DutyLoad = {
    power: r.between(0.1, 4),
    duty: r.uniform() < 0.5 ? 1 : r.between(0.02, 0.9),
    sleepPower: r.uniform() < 0.5 ? 0 : r.between(0, 0.05),
  };
  return { cell, way, load };
};

test(`200 random uses: the sum agrees with a cell drained step by step, and no energy appears or is lost (0.5 %, seed ${SEED})`, () => {
  const r = seeded(SEED);
  let held = 0;
  for (let k = 0; k < 200; k++) {
    const { cell, way, load } = random(r);
    const source = sourceOf(cell, way);
    const sum = runTime(source, boost, dutyPhases(load));
    if (!sum.holds) continue;
    held++;
    const slow = drained(source, load);
    expect([k, Math.abs(sum.seconds / slow.seconds - 1) < 0.005]).toEqual([k, true]);
    if (load.duty === 1) {
      const { open, out, lost } = slow;
      expect([k, Math.abs((out + lost) / open - 1) < 0.005]).toEqual([k, true]);
    }
  }
  expect(held).toBeGreaterThan(150);
});

test(`200 random uses: run time falls with load, resistance and floor, and rises with cells in parallel (seed ${SEED + 1})`, () => {
  const r = seeded(SEED + 1);
  const seconds = (cell: PackCells, way: Between, load: DutyLoad): number => {
    const t = runTime(sourceOf(cell, way), boost, dutyPhases(load));
    return t.holds ? t.seconds : 0;
  };
  for (let k = 0; k < 200; k++) {
    const { cell, way, load } = random(r);
    const t = seconds(cell, way, load);
    const less = (other: number): void => expect([k, other <= t * (1 + 1e-9)]).toEqual([k, true]);
    less(seconds(cell, way, { ...load, power: load.power * 1.1 }));
    less(seconds(cell, way, { ...load, duty: Math.min(1, load.duty * 1.1) }));
    less(seconds({ ...cell, resistance: cell.resistance * 1.3 }, way, load));
    less(seconds(cell, { ...way, resistance: way.resistance + 0.03 }, load));
    less(seconds({ ...cell, floor: cell.floor + 0.1 }, way, load));
    expect([k, seconds({ ...cell, parallel: (cell.parallel ?? 1) + 1 }, way, load) >= t]).toEqual([k, true]);
  }
});

test(`the highest power holds, and a thousandth more does not (200 states, seed ${SEED + 2})`, () => {
  const r = seeded(SEED + 2);
  for (let k = 0; k < 200; k++) {
    const { cell, way } = random(r);
    const [source, soc] = [sourceOf(cell, way), r.between(0.2, 1)];
    const most = highestPower(source, boost, soc);
    expect([k, operatingPoint(source, boost, most * 0.9999, soc).stop]).toEqual([k, null]);
    expect([k, operatingPoint(source, boost, most * 1.001, soc).stop]).not.toEqual([k, null]);
  }
});

test("a module whose loss depends on its input voltage meets itself: what it draws is what the voltage it gets says", () => {
  const converter = { ...boost, drawn: (power: number, input: number) => power * (1.4 - 0.08 * input) };
  const source = sourceOf(CELL, WAY);
  const p = operatingPoint(source, converter, 2, 0.5);
  expect(p.input * p.current).toBeCloseTo(2 * (1.4 - 0.08 * p.input), 8);
  expect(p.input).toBeCloseTo(3.8 - 0.13 * p.current, 8);
});

const STATION: StationQuestion = {
  bays: 24,
  chargeCurrent: 0.5,
  currentTolerance: 0.08,
  quiescent: 0.004,
  margin: 0.25,
  supply: { volts: 5.15, amps: 10 },
  breakers: [16, 4, 10, 6, 13],
  wire: { ampacity: 16, segmentResistance: 0.003 },
  minimumInput: 4.6,
  ambient: 24,
  thermalResistance: 38,
  foldbackTemperature: 95,
  lowestCellVoltage: 3,
};

test("worked: 24 bays of half an amp need two lanes of 12, a 10 A breaker, and the far bay stands at 5.023 V", () => {
  expect(planStation(STATION)).toMatchObject({
    lanes: 2,
    baysPerLane: 12,
    breaker: 10,
    farBayCharges: true,
    foldsBack: false,
  });
  expect(bayVoltages(5.15, 0.544, 0.003, 12).at(-1)).toBeCloseTo(planStation(STATION).farBayVoltage, 12);
});

test("a product that strays in its last digits buys no lane: 50 bays of 0.8 A with a quarter more are five supplies of 10 A", () => {
  expect(planStation({ ...STATION, bays: 50, chargeCurrent: 0.8, currentTolerance: 0, quiescent: 0 }).lanes).toBe(5);
  expect(
    planStation({
      ...STATION,
      bays: 3,
      chargeCurrent: 0.1,
      currentTolerance: 0,
      quiescent: 0,
      margin: 0,
      supply: { volts: 5, amps: 0.1 },
    }).lanes,
  ).toBe(3);
});

test("no thermal resistance helps where the air itself is at the limit", () => {
  expect(planStation({ ...STATION, ambient: 96 }).thermalResistanceNeeded).toBeNull();
});

test.each<[string, Partial<StationQuestion>, RegExp | null]>([
  ["as planned", {}, null],
  [
    "a wire too thin for the lane",
    { wire: { ampacity: 6, segmentResistance: 0.003 } },
    /its wire carries.*thicker wire, or more lanes/,
  ],
  ["no rating in the list", { breakers: [4, 6] }, /No breaker of your list lies between/],
  [
    "a far bay that starves",
    { wire: { ampacity: 16, segmentResistance: 0.03 } },
    /The far bay has only.*feed the line at its middle/,
  ],
  ["parts too hot", { thermalResistance: 80 }, /Use a heat sink: at most 61\.2.K\/W/],
  ["an ambient at the limit", { ambient: 96 }, /no heat sink helps/],
])("a station says what does not work, with the remedy: %s", (_n, change, words) => {
  const q = { ...STATION, ...change };
  const said = stationRemedies(q, planStation(q)).join(" ");
  if (words) expect(said).toMatch(words);
  else expect(said).toBe("");
});
