import type { ClaimReading, Limit } from "../claims";
import { HOUSE_RULES, type Finding } from "../measurement";
import { fairRun } from "./fair-run";
import { judgeReading, type EvidenceRun } from "./judge-claim";
import { overRuns } from "./over-runs";

let count = 0;
const run = (findings: readonly Finding[], more: Partial<EvidenceRun> = {}): EvidenceRun => {
  const n = ++count;
  return {
    id: `run-${n}`,
    title: `Run ${n}`,
    startUtc: `2026-11-${String((n % 28) + 1).padStart(2, "0")}T10:00:00Z`,
    finished: true,
    setAside: null,
    modifiedFunctions: [],
    findings,
    ...more,
  };
};
const finding = (characteristic: string, value: number, more: Partial<Finding> = {}): Finding => ({
  characteristic,
  value,
  unit: characteristic.includes("current") ? "A" : "V",
  conditions: {},
  expandedUncertainty: 0.004,
  budget: [],
  points: [],
  unfair: [],
  ...more,
});
const charge = (amps: number, volts: number, more: Partial<EvidenceRun> = {}, of: Partial<Finding> = {}) =>
  run(
    [finding("charge.cc-current", amps, { under: { inputVoltage: volts }, within: { inputVoltage: 0.012 }, ...of })],
    more,
  );
const of = (runs: readonly EvidenceRun[]) => overRuns({ id: "s", name: "A", runs });
const found = (runs: readonly EvidenceRun[], name: string) =>
  of(runs).runs.flatMap((r) => r.findings.filter((f) => f.characteristic === name).map((f) => ({ run: r, f })));
const reading = (characteristic: string, limit: Limit): ClaimReading => ({ characteristic, limit, conditions: {} });
const word = (r: ClaimReading, runs: readonly EvidenceRun[]) => judgeReading(r, [of(runs)], HOUSE_RULES);

describe("input range of a charger", () => {
  const runs = [charge(0.31, 4.2), charge(0.99, 4.5), charge(1, 5), charge(0.98, 6)];
  test("lowest and highest input with the full current, a bracket where it was lost below, a bound where nobody went further", () => {
    const [low] = found(runs, "charge.input-minimum");
    expect(low?.f).toMatchObject({ value: 4.5, bracket: { low: 4.2, high: 4.5 }, expandedUncertainty: 0.012 });
    expect(low?.run.id).toBe(runs[1]?.id);
    expect(low?.f.over?.map((o) => o.runId)).toEqual(runs.map((r) => r.id));
    const [high] = found(runs, "charge.input-maximum");
    expect(high?.f).toMatchObject({ value: 6, bound: "at-least" });
    expect(high?.f.bracket).toBeUndefined();
  });
  test("what was excluded, is unfinished, unfair or modified counts nowhere", () => {
    const low = (extra: EvidenceRun) => found([...runs, extra], "charge.input-minimum")[0]?.f.value;
    expect(low(charge(1, 4.3, { setAside: "loose clip" }))).toBe(4.5);
    expect(low(charge(1, 4.3, { finished: false }))).toBe(4.5);
    expect(low(charge(1, 4.3, { modifiedFunctions: ["charger"] }))).toBe(4.5);
    expect(
      low(charge(1, 4.3, {}, { unfair: [{ code: "supply-limit", message: "", remedy: "", pushes: "low" }] })),
    ).toBe(4.5);
    expect(low(charge(1, 4.3))).toBe(4.3);
    // One whose input sagged shows where the range ends only where the current was lost for most of the phase.
    const sagged = (amps: number) =>
      found(
        [
          ...runs.slice(1),
          charge(amps, 4.3, {}, { unfair: [{ code: "input-sagged", message: "", remedy: "", pushes: "low" }] }),
        ],
        "charge.input-minimum",
      )[0]?.f;
    expect(sagged(0.6)).toMatchObject({ value: 4.5, bracket: { low: 4.3, high: 4.5 } });
    expect(sagged(0.99)).toMatchObject({ value: 4.5, bound: "at-most" });
  });
  test("runs of the simulated bench are never mixed with real ones", () => {
    const mixed = [...runs, charge(1, 3.9, { simulated: true }), charge(1, 8, { simulated: true })];
    expect(found(mixed, "charge.input-minimum").map(({ f, run: r }) => [f.value, r.simulated ?? false])).toEqual([
      [4.5, false],
      [3.9, true],
    ]);
    expect(word(reading("charge.input-minimum", { kind: "at-most", high: 4 }), mixed).word).toBe("misses");
  });
  test("charges at one input alone state neither, and the verdict says what it takes", () => {
    const same = [charge(1, 5), charge(1, 5.05)];
    expect(found(same, "charge.input-minimum")).toEqual([]);
    const v = word(reading("charge.input-minimum", { kind: "at-most", high: 4.5 }), same);
    expect(v.word).toBe("not measured");
    expect(v.why.join()).toMatch(/takes charges at several input voltages/);
  });
  test("another setting of the current is another range", () => {
    const set = (amps: number, volts: number) =>
      charge(amps, volts, {}, { conditions: { configuration: `R for ${amps} A` } });
    const both = found([set(1, 5), set(1, 6), set(0.3, 4.4), set(0.3, 5)], "charge.input-minimum");
    expect(both.map(({ f }) => [f.value, f.conditions.configuration])).toEqual([
      [5, "R for 1 A"],
      [4.4, "R for 0.3 A"],
    ]);
  });
  test("a meter of the input whose accuracy nobody stated leaves it without uncertainty, and the claim not fairly tested", () => {
    const blind = [4.5, 5].map((v) => charge(1, v, {}, { within: {} }));
    expect(found(blind, "charge.input-minimum")[0]?.f).toMatchObject({ unstated: ["inputVoltage"] });
    expect(word(reading("charge.input-minimum", { kind: "at-most", high: 4.5 }), blind).word).toBe("not fairly tested");
  });
  test("doing it again changes nothing", () => {
    const once = of(runs);
    expect(overRuns(once)).toEqual(once);
  });
});

describe("a claim on an end is met only where that end was tested", () => {
  const at = (...volts: readonly (readonly [number, number])[]) => volts.map(([v, amps]) => charge(amps, v));
  test.each<readonly [string, Limit, readonly (readonly [number, number])[]]>([
    [
      "meets",
      { kind: "at-most", high: 4.5 },
      [
        [4.507, 1],
        [5, 1],
      ],
    ], // the claimed 4.5 V as closely as the meter tells
    [
      "meets",
      { kind: "at-most", high: 4.5 },
      [
        [4.4, 1],
        [5, 1],
      ],
    ],
    [
      "meets",
      { kind: "from-to", low: 4.5, high: 6 },
      [
        [4.49, 1],
        [5, 1],
      ],
    ],
    [
      "not measured",
      { kind: "at-most", high: 4.5 },
      [
        [4.7, 1],
        [5, 1],
      ],
    ],
    [
      "not measured",
      { kind: "at-most", high: 4.5 },
      [
        [4.3, 0.2],
        [4.7, 1],
        [5, 1],
      ],
    ],
    [
      "misses",
      { kind: "at-most", high: 4.5 },
      [
        [4.502, 0.2],
        [4.7, 1],
        [5, 1],
      ],
    ],
    [
      "misses",
      { kind: "at-most", high: 4.5 },
      [
        [4.6, 0.2],
        [4.7, 1],
        [5, 1],
      ],
    ],
  ])("%s: %o with charges at %o", (expected, limit, volts) => {
    expect(word(reading("charge.input-minimum", limit), at(...volts)).word).toBe(expected);
  });
  test("the upper end likewise", () => {
    const high = (limit: number, ...volts: readonly (readonly [number, number])[]) =>
      word(reading("charge.input-maximum", { kind: "at-least", low: limit }), at(...volts)).word;
    expect([
      high(6, [5, 1], [6, 1]),
      high(6, [5, 1], [5.5, 1]),
      high(6, [5, 1], [6, 0.4]),
      high(6, [5, 1], [7, 0.4]),
    ]).toEqual(["meets", "not measured", "misses", "not measured"]);
  });
  test("the run that would settle it has that input in its plan", () => {
    const r = reading("charge.input-minimum", { kind: "at-most", high: 4.5 });
    const fair = fairRun(r, word(r, at([4.7, 1], [5, 1])), [{ id: "s", name: "A", configuration: "" }], HOUSE_RULES);
    expect(fair?.words[0]).toMatch(/input voltage 4\.5\sV/);
    expect(
      (
        fair?.patch({ conditions: {}, instruments: {}, plan: { supplyVoltage: 5, cable: 0.1, supplyLimit: 1 } }, 2)
          .plan as unknown as { supplyVoltage: number }
      ).supplyVoltage,
    ).toBe(4.5);
  });
});

test("the battery range at the rated load, from one sweep or several; a battery that tells nothing is left out", () => {
  const most = (battery: number, amps: number, more: Partial<Finding> = {}) =>
    finding("boost.max-current", amps, { conditions: { battery }, within: { battery: 0.004 }, ...more });
  const sweeps = [
    run(
      [most(4.1, 1.2, { bound: "at-least" }), most(3.6, 1.1), most(3.1, 0.6, { bracket: { low: 0.6, high: 0.62 } })],
      { ratedLoad: 1 },
    ),
    run([most(3.3, 1.02), most(3.2, 0.8, { bracket: { low: 0.8, high: 1.3 } })], { ratedLoad: 1 }),
    run([most(2.5, 5)]),
  ];
  const [low] = found(sweeps, "boost.input-minimum");
  expect(low?.f).toMatchObject({ value: 3.3, bracket: { low: 3.1, high: 3.3 }, under: { load: 1 }, conditions: {} });
  expect(low?.run.id).toBe(sweeps[1]?.id);
  expect(found(sweeps, "boost.input-maximum")[0]?.f).toMatchObject({ value: 4.1, bound: "at-least" });
  const r = reading("boost.input-minimum", { kind: "at-most", high: 3 });
  expect(word(r, sweeps).word).toBe("misses");
  const fair = fairRun(
    r,
    { word: "not measured", why: [], settle: [] },
    [{ id: "s", name: "A", configuration: "" }],
    HOUSE_RULES,
  );
  expect(
    (
      fair?.patch({ conditions: {}, instruments: {}, plan: { batteries: [4.1, 3.6] } }, 2).plan as unknown as {
        batteries: readonly number[];
      }
    ).batteries,
  ).toEqual([4.1, 3.6, 3]);
});

test("what a charge current and an output were set to, at least at two settings, as bounds", () => {
  const set = (amps: number, programme: number) => charge(amps, 5, { programme });
  expect(found([set(1, 1200), set(0.99, 1200)], "charge.set-current-minimum")).toEqual([]);
  const runs = [set(1, 1200), set(0.13, 10_000), set(0.5, 2400)];
  expect(found(runs, "charge.set-current-minimum")[0]?.f).toMatchObject({
    value: 0.13,
    bound: "at-most",
    expandedUncertainty: 0.004,
  });
  expect(found(runs, "charge.set-current-maximum")[0]?.f).toMatchObject({ value: 1, bound: "at-least" });
  expect(word(reading("charge.set-current-maximum", { kind: "at-least", low: 1.2 }), runs).word).toBe("not measured");
  expect(word(reading("charge.set-current-minimum", { kind: "at-most", high: 0.15 }), runs).word).toBe("meets");
  const sweep = (output: number) =>
    run(
      [3.1, 3.6, 4.1].map((battery, k) =>
        finding("boost.no-load-voltage", output + 0.01 * k, { conditions: { battery, output } }),
      ),
    );
  const outputs = [sweep(5), sweep(12), sweep(9)];
  expect(found(outputs, "boost.output-minimum")[0]?.f).toMatchObject({ value: 5.01, bound: "at-most" });
  expect(found(outputs, "boost.output-maximum")[0]?.f).toMatchObject({ value: 12.01, bound: "at-least" });
  expect(word(reading("boost.output-maximum", { kind: "at-least", low: 12 }), outputs).word).toBe("meets");
});
