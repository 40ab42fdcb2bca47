import type { ConditionSpecs } from "../characteristics";
import type { Claim, Limit } from "../claims";
import { HOUSE_RULES } from "../measurement";
import { seeded } from "../simulator/random";
import type { EvidenceSample } from "../verdicts";
import {
  claimedModule,
  compareFits,
  disconnects,
  type Draw,
  drawnPower,
  fitModule,
  highestCurrent,
  phasesAt,
  PLAIN_WIRING,
  worstFit,
  type Load,
  type MeasuredColumn,
  type MeasuredModule,
  type UseBattery,
} from ".";

const column = (battery: number, load: number): MeasuredColumn => ({
  battery,
  loss: { idle: 0.02, proportional: 0.05, resistive: 0.12, outliers: [], scatter: 0 },
  output: 5,
  held: { load, battery: (5 * load + 0.02 + 0.05 * load + 0.12 * load * load) / battery },
  fell: true,
  spread: 0.004,
});
const start = (draw: Draw, amps: number, more = false) => ({ battery: 3.1, draw, amps, more });
const MODULE: MeasuredModule = {
  sample: "A",
  runId: "r",
  runTitle: "Sweep",
  simulated: false,
  columns: [column(3.1, 0.8), column(3.7, 1), column(4.1, 1.2)],
  cut: 2.9,
  dropout: null,
  off: { value: 4e-5, u: 2e-6 },
  residual: 1e-6,
  starts: [start("current", 0.6)],
};
const LOAD: Load = {
  title: "Recorder",
  note: "",
  voltage: 5,
  lowest: 4.75,
  steps: [{ draw: "current", value: 0.18, seconds: 3600 }],
  converters: [],
  wiring: PLAIN_WIRING,
};
const BATTERY: UseBattery = {
  cells: {
    capacity: 2.2,
    resistance: 0.08,
    openCircuit: [
      [0, 3],
      [0.1, 3.5],
      [0.5, 3.75],
      [1, 4.2],
    ],
    floor: 3,
    selfDischargeCurrent: 2e-5,
  },
  between: { resistance: 0.05 },
  capacityU: 0.05,
  resistanceU: 0.005,
  curveU: 0,
};
const fit = (m: Partial<MeasuredModule> = {}, l: Partial<Load> = {}, b: Partial<UseBattery> = {}) =>
  fitModule({ ...MODULE, ...m }, { ...LOAD, ...l }, { ...BATTERY, ...b });

test("a load that is well within: it runs, with the end, its uncertainty, and cells for a day", () => {
  const f = fit();
  expect(f).toMatchObject({ word: "runs", endedBy: "floor", perDay: 3 });
  expect(f.why).toEqual(
    [
      "It starts into 600 mA at 3.1 V.",
      "It ends when the cell is at its floor of 3.00 V.",
      "Below 3.1 V nothing was measured: its loss and limit there are taken as at 3.1 V.",
    ].map((w) => w.replace(/(\d) (mA|V)/g, "$1\u00a0$2")),
  );
  // Capacity 2.3 %, resistance and power well below: the capacity sets it.
  expect((f.secondsU ?? 0) / (f.seconds ?? 1)).toBeGreaterThan(0.022);
  expect((f.secondsU ?? 0) / (f.seconds ?? 1)).toBeLessThan(0.035);
});

test("a cell whose curve may lie 30 mV lower leaves the run time that much more open", () => {
  const seconds = fit().seconds ?? NaN;
  const lower =
    fit(
      {},
      {},
      {
        cells: { ...BATTERY.cells, openCircuit: BATTERY.cells.openCircuit.map(([soc, v]) => [soc, v - 0.03] as const) },
      },
    ).seconds ?? NaN;
  const [without, withIt] = [fit().secondsU ?? NaN, fit({}, {}, { curveU: 0.03 }).secondsU ?? NaN];
  expect(withIt ** 2 - without ** 2).toBeCloseTo((seconds - lower) ** 2, -3);
  expect(withIt).toBeGreaterThan(without);
});

test("a load that changes is said as least, mean and most at the battery, worked from the loss model", () => {
  const steps = [
    { draw: "current" as const, value: 0.18, seconds: 600 },
    { draw: "current" as const, value: 0, seconds: 3000 },
  ];
  // 0.9 + 0.02 + 0.05·0.18 + 0.12·0.18² = 0.932888 W for a sixth of the time; 20 mW for the rest.
  const d = drawnPower(MODULE, { ...LOAD, steps });
  expect(d?.most).toBeCloseTo(0.932888, 6);
  expect(d?.least).toBeCloseTo(0.02, 9);
  expect(d?.mean).toBeCloseTo(0.932888 / 6 + (0.02 * 5) / 6, 6);
  expect(fit({}, { steps }).why[1]?.replace(/\u00a0/g, " ")).toBe(
    "From the battery it takes 20.0 mW at least, 172 mW in the mean, 933 mW at most.",
  );
  // A load of one power says nothing of it; with its output off it takes the standby current, and nothing is said where that is not known.
  expect(fit().why.join(" ")).not.toContain("in the mean");
  const off = steps.map((s, k) => (k ? { ...s, off: true } : s));
  expect(drawnPower(MODULE, { ...LOAD, steps: off })?.least).toBeCloseTo(3.7 * 4e-5, 9);
  expect(drawnPower({ ...MODULE, off: null }, { ...LOAD, steps: off })).toBeNull();
});

test("asleep with the output off it lasts longer; without a measured standby current nothing is said", () => {
  const steps = [
    { draw: "current" as const, value: 0.18, seconds: 600 },
    { draw: "current" as const, value: 0, seconds: 3000, off: true },
  ];
  expect(fit({}, { steps }).seconds).toBeGreaterThan(5 * (fit().seconds ?? Infinity));
  expect(fit({ off: null }, { steps })).toMatchObject({
    word: "not measured",
    why: [expect.stringContaining("run standby")],
  });
});

test.each<[string, ReturnType<typeof fit>, string, string]>([
  [
    "more than it holds",
    fit({}, { steps: [{ draw: "current", value: 1.4, seconds: 1 }] }),
    "does not hold",
    "its output fell above",
  ],
  [
    "more than it was given",
    fit(
      { columns: MODULE.columns.map((c) => ({ ...c, fell: false })) },
      { steps: [{ draw: "current", value: 1.4, seconds: 1 }] },
    ),
    "does not hold",
    "is the highest load it was given",
  ],
  ["a voltage too low for the load", fit({}, { voltage: 9, lowest: 8.5 }), "does not hold", "below the 8.5"],
  ["a voltage too high for the load", fit({}, { voltage: 3.3, lowest: 3 }), "does not hold", "more than a tenth above"],
  ["no sweep", fit({ columns: [] }), "not measured", "No load sweep"],
  ["a surge that it does not start into", fit({}, { surge: 0.9 }), "does not start", "the load asks for"],
  ["a start that nobody tested", fit({ starts: [] }), "start not tested", "run a load sweep with starts"],
  ["a start tested not far enough", fit({ starts: [start("current", 0.1, true)] }), "start not tested", "tested up to"],
  [
    "a start into a resistance alone",
    fit({ starts: [start("resistance", 0.6)] }),
    "start not tested",
    "as a constant current",
  ],
  ["a start into constant power, the hardest", fit({ starts: [start("power", 0.6)] }), "runs", "It starts into"],
  [
    "a refused start into constant power alone",
    fit({ starts: [start("power", 0.1)] }),
    "start not tested",
    "as a constant current",
  ],
  [
    "a load behind a converter, started as a current alone",
    fit({}, { converters: [0.9] }),
    "start not tested",
    "as a constant power",
  ],
])("%s", (_n, f, word, why) => {
  expect(f.word).toBe(word);
  expect(f.why[0]).toContain(why);
});

describe("a board of which nothing was measured", () => {
  const say = (characteristic: string, limit: Limit, conditions: ConditionSpecs = {}): Claim => ({
    id: characteristic,
    source: { kind: "listing", wording: characteristic, date: "2026-11-01" },
    readings: [{ characteristic, limit, conditions }],
  });
  const CLAIMS = [
    say("boost.no-load-voltage", { kind: "nominal", nominal: 5, tolerance: null }),
    say("boost.max-current", { kind: "at-least", low: 1 }),
    say("boost.peak-efficiency", { kind: "at-least", low: 0.9 }),
  ];
  const claimed = (...more: Claim[]) => claimedModule([...CLAIMS, ...more], HOUSE_RULES);
  test("its claims as a module, worked: 0.556 W lost for an ampere, 1.79 A from 3.1 V", () => {
    const m = claimed();
    expect(m?.columns.map((c) => c.battery)).toEqual([3.1, 4.1]);
    expect(m?.columns[0]?.loss.proportional).toBeCloseTo(0.5556, 4);
    expect(m?.columns[0]?.held).toEqual({ load: 1, battery: expect.closeTo(1.7921, 4) });
  });
  test("it runs as claimed, with a time but no uncertainty; beyond its claims it does not hold", () => {
    const m = claimed(say("protect.over-discharge-voltage", { kind: "nominal", nominal: 3.2, tolerance: null }));
    const f = fitModule(m as MeasuredModule, LOAD, BATTERY);
    expect(f).toMatchObject({
      word: "runs as claimed",
      claimed: true,
      why: ["By its claims alone: nothing of it was measured.", expect.stringContaining("claimed to cut off at 3.20")],
    });
    expect(f.seconds).toBeGreaterThan(3600);
    expect(f.secondsU).toBeUndefined();
    expect(f.runId).toBeUndefined();
    expect(
      fitModule(m as MeasuredModule, { ...LOAD, steps: [{ draw: "current", value: 1.3, seconds: 1 }] }, BATTERY),
    ).toMatchObject({
      word: "does not hold",
      claimed: true,
      why: [expect.stringContaining("than the 1.00"), "By its claims alone: nothing of it was measured."],
    });
    // What was measured, if only in part, stands before what was promised.
    expect(compareFits(fit({ starts: [] }), f)).toBeLessThan(0);
  });
  test("of several claims the cautious one; without output, load or efficiency nothing is said", () => {
    expect(
      claimed(say("boost.max-current", { kind: "at-least", low: 0.4 }, { battery: { at: 3.1 } }))?.columns.map(
        (c) => c.held.load,
      ),
    ).toEqual([0.4, 1]);
    expect(
      claimed(say("boost.lowest-efficiency", { kind: "at-least", low: 0.8 }))?.columns[0]?.loss.proportional,
    ).toBeCloseTo(1.25, 9);
    for (const gone of CLAIMS)
      expect([
        gone.id,
        claimedModule(
          CLAIMS.filter((c) => c !== gone),
          HOUSE_RULES,
        ),
      ]).toEqual([gone.id, null]);
  });
});

test("a converter between them frees the voltage, and its efficiency multiplies", () => {
  const l: Load = {
    ...LOAD,
    voltage: 9,
    lowest: 8,
    converters: [0.9, 0.8],
    steps: [{ draw: "resistance", value: 81, seconds: 1 }],
  };
  const p = phasesAt(l, 5);
  expect(p.ok && p.value).toEqual([{ share: 1, power: expect.closeTo(1 / 0.72, 9) }]);
  expect(highestCurrent(l, 5)).toBeCloseTo(1 / 0.72 / 5, 9);
});

test("a board cuts off before the cell's floor: the cut is what ends it", () => {
  expect(fit({ cut: 3.3 })).toMatchObject({
    endedBy: "minimum-input",
    why: expect.arrayContaining([expect.stringContaining("the board cuts off at 3.3")]),
  });
});

test("200 random boards: more capacity, less load and more efficiency never shorten it; the worst of two samples decides (seed 20261130)", () => {
  const r = seeded(20261130);
  for (let k = 0; k < 200; k++) {
    const columns = [column(3.1, r.between(0.3, 1)), column(4.1, r.between(1, 1.5))];
    const steps = [
      { draw: "power" as const, value: r.between(0.2, 2), seconds: 60 },
      { draw: "current" as const, value: r.between(0, 0.01), seconds: r.between(0, 600) },
    ];
    const base = fit({ columns }, { steps });
    const t = base.seconds ?? 0;
    expect([k, (fit({ columns }, { steps }, { cells: { ...BATTERY.cells, capacity: 3 } }).seconds ?? 0) >= t]).toEqual([
      k,
      true,
    ]);
    expect([
      k,
      (fit({ columns }, { steps: steps.map((s) => ({ ...s, value: s.value * 0.9 })) }).seconds ?? 0) >= t,
    ]).toEqual([k, true]);
    const worse = fit({ columns: columns.map((c) => ({ ...c, loss: { ...c.loss, idle: 0.1 } })) }, { steps });
    expect([k, (worse.seconds ?? 0) <= t]).toEqual([k, true]);
    expect(worstFit([base, worse])).toBe(compareFits(worse, base) > 0 ? worse : base);
  }
});

describe("whether a board disconnects", () => {
  type Run = EvidenceSample["runs"][number];
  const run = (value: string, change: Partial<Run> = {}): Run => ({
    id: "r",
    title: "Ramp",
    startUtc: "2026-11-01T00:00:00Z",
    finished: true,
    setAside: null,
    modifiedFunctions: [],
    findings: [
      {
        characteristic: "protect.over-discharge-present",
        conditions: {},
        value,
        unit: "",
        budget: [],
        points: [],
        unfair: [],
      },
    ],
    ...change,
  });
  const sample = (...runs: Run[]): EvidenceSample => ({ id: "s", name: "A", runs });
  test.each<[string, EvidenceSample[], boolean | null]>([
    ["nothing was run", [], null],
    ["a real run shows it", [sample(run("yes"))], true],
    ["only the simulated bench shows it: that protects nobody", [sample(run("yes", { simulated: true }))], null],
    ["a run that is set aside shows nothing", [sample(run("yes", { setAside: "wrong clip" }))], null],
    ["the newest of a sample counts", [sample(run("no"), run("yes", { startUtc: "2026-11-02T00:00:00Z" }))], true],
    ["of two samples the worst decides", [sample(run("yes")), sample(run("no"))], false],
  ])("%s", (_n, evidence, expected) => {
    expect(disconnects(evidence)).toBe(expected);
  });
});

test("a window of states of charge: 20 to 80 % runs about 0.6 of the time, and says what ends it; the board's own end comes first where it is higher", () => {
  const whole = fit();
  const part = fit({}, {}, { window: { high: 0.8, low: 0.2 } });
  expect(part.endedBy).toBe("window");
  expect(part.why.join(" ")).toMatch(/the cell is down to 20\s%, the end of its window/);
  expect((part.seconds ?? 0) / (whole.seconds ?? 1)).toBeGreaterThan(0.55);
  expect((part.seconds ?? 0) / (whole.seconds ?? 1)).toBeLessThan(0.7);
  expect(part.curve?.[0]?.soc).toBe(0.8);
  expect(fit({ cut: 3.65 }, {}, { window: { high: 1, low: 0.05 } }).endedBy).toBe("minimum-input");
});
