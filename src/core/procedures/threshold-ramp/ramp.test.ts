import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup, type TraceEvent } from "../../measurement";
import { thresholdRamp, type RampPlan } from ".";
import { currentEdges, flowLevel, valueAtEdge } from "./edges";
import { rampRemarks } from "./plan";
import { numeric } from "../../quantities";

const METERS = {
  batteryVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  batteryCurrent: { gain: 0.002, counts: 4, resolution: 1e-5 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
};
const planned = thresholdRamp.plan({
  claims: [],
  rules: HOUSE_RULES,
  rig: { instruments: METERS, supplyCurrentLimit: 3, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
});
if (!planned.ok) throw new Error(planned.error);
const PLANNED = planned.value;
const FILE: RunSetup<RampPlan> = { conditions: { nominalOutput: 5, regulationBand: 0.05 }, instruments: METERS };

type Row = readonly [volts: number, amps: number, output: number];
/** A log at one reading a second. */
function analyse(
  rows: readonly Row[],
  setup: RunSetup<RampPlan> = FILE,
  events: readonly TraceEvent[] = [],
  roles: readonly [string, string] = ["batteryVoltage", "batteryCurrent"],
) {
  const column = (k: 0 | 1 | 2) => Float64Array.from(rows, (r) => r[k]);
  return thresholdRamp.analyse(
    {
      kind: "trace",
      trace: {
        columns: {
          time: Float64Array.from(rows, (_, k) => k),
          [roles[0]]: column(0),
          [roles[1]]: column(1),
          ...(roles[0] === "batteryVoltage" ? { outputVoltage: column(2) } : {}),
        },
        events,
      },
    },
    setup,
    NO_CORRECTIONS,
  );
}
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const codes = (a: { notes: readonly { code: string }[] }) => a.notes.map((n) => n.code);
/** Down from `from` at 4 mV/s, cut at `cut`, up again from where it was cut, back at `release`. */
function ramp(from: number, cut: number, lowest: number, release: number, up: number, residual = 1e-6): Row[] {
  const rows: Row[] = [];
  let on = true;
  for (let v = from; v > lowest; v -= 0.004) {
    on = on && v >= cut;
    rows.push([v, on ? 0.25 : residual, on ? 5.04 : 0]);
  }
  for (let v = lowest; v < up; v += 0.004) {
    on = on || v > release;
    rows.push([v, on ? 0.25 : residual, on ? 5.04 : 0]);
  }
  return rows;
}

test("cut, release and residual current of a worked ramp, with what delay and sampling leave", () => {
  const a = analyse(ramp(3.2, 2.9, 2.7, 3.1, 3.3));
  expect(find(a.findings, "protect.over-discharge-voltage")?.value).toBeCloseTo(2.9, 2);
  expect(find(a.findings, "protect.over-discharge-release")?.value).toBeCloseTo(3.1, 2);
  expect(find(a.findings, "protect.over-discharge-present")?.value).toBe("yes");
  expect(find(a.findings, "protect.residual-current")?.value).toBeCloseTo(1e-6, 9);
  expect(codes(a)).toContain("restarts-loaded");
  // Meter 3.45 mV, sampling 2 mV, delay 1.2 mV, all rectangular: U = 2·√(Σ a²/3).
  expect(find(a.findings, "protect.over-discharge-voltage")?.expandedUncertainty).toBeCloseTo(
    (2 / Math.sqrt(3)) * Math.hypot(0.00145, 0.002, 0.002, 0.0012),
    3,
  );
});

test("a stated delay moves the reading back by half of what the ramp does in it", () => {
  const rows = ramp(3.2, 2.9, 2.7, 3.1, 3.3);
  const value = (delay: number) =>
    numeric(
      find(
        analyse(rows, { ...PLANNED, plan: { ...(PLANNED.plan as RampPlan), delay } }).findings,
        "protect.over-discharge-voltage",
      )?.value,
    );
  expect(value(1) - value(0)).toBeCloseTo(0.002, 6);
});

test.each<[string, Row[], TraceEvent[], string]>([
  [
    "latched until a charger wakes it",
    [
      ...ramp(3.2, 2.9, 2.7, 9, 3.7),
      ...Array.from({ length: 8 }, (): Row => [3.7, 0, 0]),
      ...Array.from({ length: 8 }, (): Row => [3.7, 0.2, 5]),
    ],
    [
      { time: 380, what: "", kind: "load-off" },
      { time: 381, what: "", kind: "charger-on" },
    ],
    "latched",
  ],
  [
    "back only without its load",
    [...ramp(3.2, 2.9, 2.7, 9, 3.7), ...Array.from({ length: 12 }, (): Row => [3.7, 0.002, 5])],
    [{ time: 376, what: "", kind: "load-off" }],
    "load-removal",
  ],
  ["a log that ends too soon", ramp(3.2, 2.9, 2.85, 9, 2.95), [], "no-release"],
  ["a ramp that is not carried far enough", ramp(3.2, 1, 2.8, 1, 3.2), [], "ramp-too-short"],
])("%s is told apart, and no release is made up", (_name, rows, events, code) => {
  const a = analyse(rows, FILE, events);
  expect(codes(a)).toContain(code);
  expect(find(a.findings, "protect.over-discharge-release")).toBeUndefined();
  if (code === "ramp-too-short") expect(find(a.findings, "protect.over-discharge-present")).toBeUndefined();
});

test("a converter that stops while milliamps flow on has not disconnected the battery", () => {
  const a = analyse(ramp(3.2, 2.9, 2.7, 3.1, 3.3, 0.009));
  expect(find(a.findings, "protect.over-discharge-present")?.value).toBe("no");
  expect(find(a.findings, "protect.over-discharge-voltage")).toBeUndefined();
  expect(codes(a)).toContain("still-flowing");
});

test("an ammeter that can't tell microamps from milliamps gives no yes", () => {
  const coarse = { ...FILE, instruments: { ...METERS, batteryCurrent: { gain: 0.01, counts: 5, resolution: 0.001 } } };
  const a = analyse(ramp(3.2, 2.9, 2.7, 3.1, 3.3, 0), coarse);
  expect(codes(a)).toContain("meter-too-coarse");
  expect(find(a.findings, "protect.over-discharge-present")).toBeUndefined();
  expect(find(a.findings, "protect.over-discharge-voltage")?.value).toBeCloseTo(2.9, 2);
});

test("a dropout by the supply's own limit is the supply's", () => {
  const rows: Row[] = Array.from({ length: 400 }, (_, k) => [3.4 - 0.004 * k, 0.98, Math.min(5, 5 - 0.02 * (k - 150))]);
  const limited = analyse(rows, { ...FILE, conditions: { ...FILE.conditions, supplyCurrentLimit: 1 } });
  expect(find(limited.findings, "boost.dropout-voltage")?.value).toBeCloseTo(3.4 - 0.004 * 162.5, 2);
  expect(find(limited.findings, "boost.dropout-voltage")?.unfair.map((u) => u.code)).toEqual(["supply-limit"]);
  expect(find(analyse(rows).findings, "boost.dropout-voltage")?.unfair).toEqual([]);
});

describe("over-charge", () => {
  const up = (taper: boolean, jump = 0): Row[] =>
    Array.from({ length: 200 }, (_, k) => {
      const v = 4.05 + 0.002 * k;
      const on = v < 4.28;
      const amps = taper ? Math.max(0, 0.4 * Math.exp(-k / 20)) : on ? 0.4 : 0;
      return [on ? v + jump : v, amps, 0];
    });
  const ROLES = ["cellVoltage", "cellCurrent"] as const;
  test("a sudden stop is the cut, a falling current the charger's own regulation", () => {
    expect(find(analyse(up(false), FILE, [], ROLES).findings, "protect.over-charge-voltage")?.value).toBeCloseTo(
      4.28,
      2,
    );
    const a = analyse(up(true), FILE, [], ROLES);
    expect(codes(a)).toContain("tapered");
    expect(a.findings).toEqual([]);
  });
  test("a source that the current lifted makes it unfair", () => {
    expect(
      find(analyse(up(false, 0.3), FILE, [], ROLES).findings, "protect.over-charge-voltage")?.unfair.map((u) => u.code),
    ).toEqual(["no-preload"]);
  });
  test("no cut at all is a bound", () => {
    const a = analyse(
      Array.from({ length: 100 }, (_, k): Row => [4.1 + 0.002 * k, 0.4, 0]),
      FILE,
      [],
      ROLES,
    );
    expect(find(a.findings, "protect.over-charge-voltage")?.bound).toBe("at-least");
  });
});

describe("edges", () => {
  const time = Float64Array.from({ length: 12 }, (_, k) => k);
  test("a spike of one sample is no edge, two samples are", () => {
    expect(
      currentEdges(time, Float64Array.of(1, 1, 1, 0, 1, 1, 1, 0, 0, 0, 0, 0), 1).map((e) => [e.kind, e.time]),
    ).toEqual([["off", 6.5]]);
    expect(flowLevel(Float64Array.of(0.24, 0.25, 0, 0, 0, 0, 0.25))).toBe(0.25);
  });
  test("volts set in steps by hand give the middle between the last step and the next", () => {
    const volts = Float64Array.of(3, 3, 3, 2.95, 2.95, 2.93, 2.91, 2.89, 2.89, 2.89, 2.89, 2.89);
    const e = valueAtEdge(
      Float64Array.of(0, 5, 9, 11, 20, 21, 30, 33, 40, 41, 42, 43),
      volts,
      { kind: "off", time: 31.5, index: 7, gap: 3 },
      0.001,
    );
    expect(e?.slope).toBe(0);
    expect(e?.value).toBeCloseTo(2.9, 6);
    expect(e?.halfStep).toBeCloseTo(0.01, 6);
  });
});

test("a plan that would test nothing, or without a preload, is refused; a joined ground and a light load are warned of", () => {
  const with_ = (patch: Partial<RampPlan>) =>
    rampRemarks({
      ...PLANNED,
      conditions: { ...PLANNED.conditions, nominalOutput: 5 },
      plan: { ...(PLANNED.plan as RampPlan), ...patch },
    });
  const refused = (patch: Partial<RampPlan>) =>
    with_(patch)
      .filter((r) => r.severity === "refused")
      .map((r) => r.text);
  expect(refused({})).toEqual([]);
  expect(refused({ start: 2.8 })[0]).toMatch(/already past/);
  expect(refused({ farthest: 3 })[0]).toMatch(/the claim would not be tested/);
  expect(refused({ way: "charge", expected: 4.28, start: 4.1, farthest: 4.4, preload: 0.1 })[0]).toMatch(
    /preload it with at least 440\smA/,
  );
  expect(refused({ load: 3 })[0]).toMatch(/more than the supply's limit/);
  expect(with_({ groundsJoined: true }).some((r) => r.text.includes("bypasses"))).toBe(true);
  expect(with_({ load: 0.05 }).some((r) => r.text.includes("switches itself off"))).toBe(true);
});
