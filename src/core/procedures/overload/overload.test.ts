import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup, type TraceEvent } from "../../measurement";
import { overload, type OverloadPlan } from ".";
import { overloadRemarks, supplyFor } from "./plan";

const METERS = {
  batteryCurrent: { gain: 0.002, counts: 3, resolution: 0.001 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  outputCurrent: { gain: 0.002, counts: 3, resolution: 0.001 },
};
const SETUP: RunSetup<OverloadPlan> = { conditions: { nominalOutput: 5, supplyCurrentLimit: 4 }, instruments: METERS };

type Part = readonly [seconds: number, load: number, output: number, battery: number];
/** A log at ten readings a second from stretches that stand. */
function analyse(parts: readonly Part[], events: readonly TraceEvent[], setup = SETUP) {
  const rows = parts.flatMap(([s, ...values]) => Array.from({ length: Math.round(10 * s) }, () => values));
  const column = (k: 0 | 1 | 2) => Float64Array.from(rows, (r) => r[k]);
  return overload.analyse(
    {
      kind: "trace",
      trace: {
        columns: {
          time: Float64Array.from(rows, (_, k) => k / 10),
          outputCurrent: column(0),
          outputVoltage: column(1),
          batteryCurrent: column(2),
        },
        events,
      },
    },
    setup,
    NO_CORRECTIONS,
  );
}
const value = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name)?.value;
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const STEPS: Part[] = [
  [3, 0.8, 5, 1.2],
  [3, 1, 5, 1.5],
  [3, 1.2, 5, 1.8],
];
const mark = (time: number, kind: string): TraceEvent => ({ time, kind, what: kind });
const SHORT = [mark(13, "short-on"), mark(18, "short-off")];
/** Steps, a trip, back at a small load, then a short. */
const through = (shorted: number, after: readonly Part[]): Part[] => [
  ...STEPS,
  [2, 0, 0, 0.001],
  [2, 0.2, 5, 0.3],
  [5, 0.1, 0.05, shorted],
  ...after,
];

test("the trip lies between the last load held and the next step", () => {
  const { findings, notes } = analyse(through(0.6, [[5, 0.2, 5, 0.3]]), SHORT);
  expect(value(findings, "protect.over-current")).toBeCloseTo(1.3, 6);
  expect(find(findings, "protect.over-current")?.expandedUncertainty).toBeCloseTo(
    2 * Math.hypot(0.1 / Math.sqrt(3), 0.0058 / Math.sqrt(3)),
    2,
  );
  expect(notes.map((n) => n.code)).toContain("trips");
});

test("an electronic load that keeps its current while the output droops tells the step itself", () => {
  const { findings, notes } = analyse([...STEPS, [3, 1.5, 3.9, 2]], []);
  expect(value(findings, "protect.over-current")).toBeCloseTo(1.35, 6);
  expect(notes.map((n) => n.code)).toEqual(expect.arrayContaining(["limits", "no-short"]));
});

test("loads that were all held are a bound", () => {
  expect(find(analyse(STEPS, []).findings, "protect.over-current")).toMatchObject({ bound: "at-least", value: 1.2 });
});

test.each<[string, readonly Part[], readonly TraceEvent[], string | undefined]>([
  ["by itself", [[5, 0.2, 5, 0.3]], [], "automatic"],
  [
    "without its load",
    [
      [6, 0.2, 0, 0.001],
      [6, 0, 5, 0.01],
    ],
    [mark(24, "load-off")],
    "load-removal",
  ],
  [
    "after its supply was off",
    [
      [6, 0.2, 0, 0.001],
      [6, 0, 0, 0.001],
      [2, 0, 0, 0],
      [4, 0, 5, 0.01],
    ],
    [mark(24, "load-off"), mark(30, "supply-off"), mark(32, "supply-on")],
    "power-cycle",
  ],
  [
    "never",
    [
      [6, 0.2, 0, 0.08],
      [6, 0, 0, 0.08],
      [2, 0, 0, 0],
      [6, 0, 0, 0.08],
    ],
    [mark(24, "load-off"), mark(30, "supply-off"), mark(32, "supply-on")],
    "none",
  ],
  ["nobody knows", [[1, 0.2, 0, 0.001]], [], undefined],
])("it comes back %s", (_name, after, more, word) => {
  const { findings } = analyse(through(0.6, after), [...SHORT, ...more]);
  expect(value(findings, "protect.short-recovery")).toBe(word);
  // A module that did not live through it protected nothing.
  expect(value(findings, "protect.short-present")).toBe(word === "none" ? "no" : "yes");
});

describe("a short at the supply's own limit", () => {
  const parts = through(3.995, [[5, 0.2, 5, 0.3]]);
  const planned = overload.plan({
    claims: [],
    rules: HOUSE_RULES,
    rig: { instruments: METERS, supplyCurrentLimit: 4, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
  });
  const withTrip = (claimedTrip: number | null): RunSetup<OverloadPlan> => {
    if (!planned.ok) throw new Error(planned.error);
    return {
      ...planned.value,
      conditions: SETUP.conditions,
      instruments: METERS,
      plan: { ...(planned.value.plan as OverloadPlan), claimedTrip },
    };
  };
  test("is none of the module's doing", () => {
    const { findings } = analyse(parts, SHORT);
    expect(value(findings, "protect.short-present")).toBe("no");
    expect(value(findings, "protect.short-recovery")).toBeUndefined();
    expect(value(findings, "protect.short-current")).toBeCloseTo(3.995, 6);
  });
  test("is not stated where the claimed trip lies above it, and is where it lies below", () => {
    expect(supplyFor(2.4, 5, 3.6)).toBeGreaterThan(4);
    expect(find(analyse(parts, SHORT, withTrip(2.4)).findings, "protect.short-present")).toMatchObject({
      value: "not stated",
      unfair: [{ code: "supply-below-trip", pushes: "either" }],
    });
    expect(value(analyse(parts, SHORT, withTrip(1.5)).findings, "protect.short-present")).toBe("no");
  });
  test("is warned of before the short", () => {
    const remarks = (trip: number) =>
      overloadRemarks(withTrip(trip)).filter((r) => r.text.startsWith("Not a fair test"));
    expect(remarks(2.4)).toHaveLength(1);
    expect(remarks(1.5)).toHaveLength(0);
  });
});

test("an output that falls because the supply is at its limit is not the module's over-current", () => {
  const { findings } = analyse([...STEPS.slice(0, 2), [3, 1.2, 3, 3.99]], []);
  expect(find(findings, "protect.over-current")?.unfair.map((u) => u.code)).toEqual(["supply-limit"]);
});

test("the peak is the highest reading of the first second, and several shorts are counted", () => {
  const two: Part[] = [
    ...through(0.6, [[3, 0.2, 5, 0.3]]),
    [0.1, 0.1, 0.3, 5.2],
    [4.9, 0.1, 0.05, 0.62],
    [3, 0.2, 5, 0.3],
  ];
  const { findings, notes } = analyse(two, [...SHORT, mark(21, "short-on"), mark(26, "short-off")]);
  expect(find(findings, "protect.short-peak")).toMatchObject({ value: 5.2, bound: "at-least" });
  expect(notes.find((n) => n.code === "repeats")?.message).toMatch(/2 of 2 shorts survived/);
});
