import { scatter, leads, model } from "../quantities";
import { meterSource } from "../instruments";
import type { Finding } from "../measurement";
import { seeded } from "../simulator/random";
import type { EvidenceRun } from "./judge-claim";
import { channelOrders, repeatsOf } from "./repeats";

const SEED = 20261130;
const GAIN = meterSource("cellVoltage", "gain");
const found = (value: number, more: Partial<Finding> = {}): Finding => ({
  characteristic: "channels.done-voltage",
  value,
  unit: "V",
  conditions: { channel: 1 },
  // 2 mV of gain that all runs share, 1 mV of each run's own.
  expandedUncertainty: 2 * Math.hypot(0.002, 0.001),
  budget: [
    { source: GAIN, u: 0.002, share: 0.8 },
    { source: scatter("scatter of the repeats"), u: 0.001, share: 0.2 },
  ],
  points: [],
  unfair: [],
  ...more,
});
let count = 0;
const run = (findings: readonly Finding[], more: Partial<EvidenceRun> = {}): EvidenceRun => ({
  id: `r${++count}`,
  title: `Run ${count}`,
  startUtc: "2026-11-20T10:00:00Z",
  finished: true,
  setAside: null,
  modifiedFunctions: [],
  findings,
  ...more,
});

test("worked: three runs at 4.150, 4.154 and 4.158 V with a common gain of 2 mV", () => {
  const [r] = repeatsOf([4.15, 4.154, 4.158].map((v) => run([found(v)])));
  // s = 4 mV, s/√3 × t(2)/2 with t(95.45 %) = 4.527: 5.227 mV; with 2 mV of gain 5.597 mV, U = 11.19 mV.
  expect(r).toMatchObject({ value: expect.closeTo(4.154, 9), conditions: { channel: 1 } });
  expect(r?.expandedUncertainty).toBeCloseTo(0.01119, 4);
  expect(r?.runs).toHaveLength(3);
});

test("runs that agree by chance are held to what their own readings leave open; the common gain never shrinks", () => {
  const same = (n: number) =>
    repeatsOf(Array.from({ length: n }, () => run([found(4.15)])))[0]?.expandedUncertainty ?? NaN;
  expect(same(2)).toBeCloseTo(2 * Math.hypot(0.002, 0.001 / Math.SQRT2), 9);
  expect(same(50)).toBeGreaterThan(2 * 0.002);
});

test.each([
  ["stated leads", leads("input lead resistance")],
  ["a model", model("shape of the curve")],
  ["the meters of several cells", { kind: "offset", id: "cell meters" } as const],
])("%s that all runs rest on are as doubtful in their mean as in one of them", (_, source) => {
  const one = { expandedUncertainty: 0.004, budget: [{ source, u: 0.002, share: 1 }] };
  const [r] = repeatsOf(Array.from({ length: 50 }, () => run([found(4.15, one)])));
  expect(r?.expandedUncertainty).toBeCloseTo(0.004, 12);
});

test.each<[string, readonly EvidenceRun[], number]>([
  ["one run alone", [run([found(4.15)])], 0],
  ["other conditions", [run([found(4.15)]), run([found(4.15, { conditions: { channel: 2 } })])], 0],
  [
    "another programming resistor",
    [run([found(4.15)], { programme: 1200 }), run([found(4.15)], { programme: 2400 })],
    0,
  ],
  ["a bound", [run([found(4.15)]), run([found(4.15, { bound: "at-least" })])], 0],
  ["a result of several runs", [run([found(4.15)]), run([found(4.15, { over: [] })])], 0],
  [
    "an unfair run",
    [run([found(4.15)]), run([found(4.15, { unfair: [{ code: "x", message: "", remedy: "", pushes: "low" }] })])],
    0,
  ],
  ["one that was set aside", [run([found(4.15)]), run([found(4.15)], { setAside: "loose clip" })], 0],
  ["one under way", [run([found(4.15)]), run([found(4.15)], { finished: false })], 0],
  ["a rehearsal beside a real one", [run([found(4.15)]), run([found(4.15)], { simulated: true })], 0],
  ["two rehearsals", [run([found(4.15)], { simulated: true }), run([found(4.15)], { simulated: true })], 2],
  ["words", [run([{ ...found(0), value: "yes" }]), run([{ ...found(0), value: "yes" }])], 0],
])("%s", (_, runs, expected) => {
  expect(repeatsOf(runs)[0]?.runs.length ?? 0).toBe(expected);
});

test("without an accuracy behind one of them the mean has no uncertainty", () => {
  const { expandedUncertainty: _u, ...bare } = found(4.16);
  void _u;
  const [r] = repeatsOf([run([found(4.15)]), run([{ ...bare, unstated: ["cellVoltage"] }])]);
  expect(r?.value).toBeCloseTo(4.155, 9);
  expect(r?.expandedUncertainty).toBeUndefined();
});

test(`the interval holds the truth for at least 93 % of 2,000 samples of three runs (seed ${SEED})`, () => {
  let held = 0;
  const r = seeded(SEED);
  const samples = Array.from({ length: 2000 }, () => [r.normal(), r.normal(), r.normal(), r.normal()] as const);
  for (const [gain, ...own] of samples) {
    const [m] = repeatsOf(own.map((x) => run([found(4.15 + 0.002 * gain + 0.003 * x)])));
    if (Math.abs((m?.value ?? NaN) - 4.15) <= (m?.expandedUncertainty ?? 0)) held++;
  }
  expect(held).toBeGreaterThanOrEqual(0.93 * samples.length);
});

describe("the order of a charger's channels over several runs", () => {
  const signals = (...amps: readonly number[]) =>
    run(
      amps.map((value, k) =>
        found(value, { characteristic: "channels.done-current", unit: "A", conditions: { channel: k + 1 } }),
      ),
    );
  test.each<[string, readonly EvidenceRun[], ReturnType<typeof channelOrders>]>([
    [
      "the same in all",
      [signals(0.1, 0.5, 0.3), signals(0.11, 0.52, 0.28), signals(0.09, 0.49, 0.31)],
      { orders: [{ channels: [2, 3, 1], runs: 3 }], unclear: 0 },
    ],
    [
      "another in one",
      [signals(0.1, 0.5), signals(0.5, 0.1), signals(0.12, 0.5)],
      {
        orders: [
          { channels: [2, 1], runs: 2 },
          { channels: [1, 2], runs: 1 },
        ],
        unclear: 0,
      },
    ],
    // 1 mV of each reading's own: two signals 2 mA apart lie within 2·√2 of it, 3 mA apart don't.
    [
      "too close to tell in one",
      [signals(0.1, 0.5), signals(0.298, 0.3)],
      { orders: [{ channels: [2, 1], runs: 1 }], unclear: 1 },
    ],
    [
      "just told apart",
      [signals(0.1, 0.5), signals(0.297, 0.3)],
      { orders: [{ channels: [2, 1], runs: 2 }], unclear: 0 },
    ],
    ["one run alone", [signals(0.1, 0.5)], null],
    ["one that saw only some of the channels", [signals(0.1, 0.5), signals(0.1)], null],
  ])("%s", (_, runs, expected) => {
    expect(channelOrders(runs)).toEqual(expected);
  });

  test("a run that was excluded and one under way don't count, and without an accuracy no order is sure", () => {
    const at = signals(0.1, 0.5);
    expect(channelOrders([at, { ...at, setAside: "loose clip" }, { ...at, finished: false }])).toBeNull();
    const bare = {
      ...at,
      findings: [0.1, 0.5].map((value, k) => {
        const { expandedUncertainty: _u, ...f } = found(value, {
          characteristic: "channels.done-current",
          unit: "A",
          conditions: { channel: k + 1 },
        });
        void _u;
        return f;
      }),
    };
    expect(channelOrders([bare, bare])).toEqual({ orders: [], unclear: 2 });
  });
});
