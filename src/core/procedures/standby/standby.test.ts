import { sampling } from "../../quantities";
import { NO_CORRECTIONS, type RunSetup, type TraceEvent } from "../../measurement";
import { standby, type StandbyPlan } from ".";
import { meanCurrent, stretches } from "./analyse";
import { standbyRemarks } from "./plan";

const METER = { gain: 0.001, counts: 4, resolution: 1e-6 };
/** Means over half a second of a sleep current with pulses, as a logger writes them. */
function pulsing(
  seconds: number,
  floor: number,
  period: number,
  length: number,
  amps: number,
  phase = 3,
): { time: Float64Array; amps: Float64Array } {
  const n = Math.round(2 * seconds);
  const until = (t: number) => (t <= 0 ? 0 : Math.floor(t / period) * length + Math.min(length, t % period));
  return {
    time: Float64Array.from({ length: n }, (_, k) => k / 2),
    amps: Float64Array.from(
      { length: n },
      (_, k) => floor + amps * 2 * (until(k / 2 - phase) - until((k - 1) / 2 - phase)),
    ),
  };
}

test.each([
  [300, 4e-5, 30, 0.4, 0.02],
  [100, 1e-4, 7.3, 0.1, 0.008],
  [47, 5e-6, 4, 0.05, 0.005],
])(
  "%p s with pulses give the mean of whole periods, wherever the log begins and ends",
  (seconds, floor, period, length, amps) => {
    for (const phase of [0.2, 3, 3.3]) {
      const log = pulsing(seconds, floor, period, length, amps, phase);
      const mean = meanCurrent(log.time, log.amps, 0, seconds);
      expect(mean?.wakes?.period).toBeCloseTo(period, 1);
      expect((mean?.value ?? NaN) / (floor + (amps * length) / period)).toBeCloseTo(1, 2);
      expect(mean?.floor).toBeCloseTo(floor, 6);
    }
  },
);

test("one pulse alone is no period: it stands in the uncertainty", () => {
  const log = pulsing(60, 4e-5, 50, 0.5, 0.02, 20);
  expect(meanCurrent(log.time, log.amps, 0, 60)?.wakes).toBeNull();
  const setup: RunSetup<StandbyPlan> = {
    conditions: { state: "output-off", usableCapacity: 2, cellSelfDischargeCurrent: 6e-5 },
    instruments: { batteryCurrent: METER },
  };
  const { findings } = standby.analyse(
    { kind: "trace", trace: { columns: { time: log.time, batteryCurrent: log.amps }, events: [] } },
    setup,
    NO_CORRECTIONS,
  );
  const current = findings.find((f) => f.characteristic === "standby.current");
  expect(current?.budget[0]?.source).toEqual(sampling("pulses in the stretch"));
  expect(current?.conditions).toEqual({ state: "output-off" });
});

test("life is capacity over current and self-discharge; the naive figure and the cell's own ageing are said", () => {
  const setup: RunSetup<StandbyPlan> = {
    conditions: { state: "cut-off", usableCapacity: 2.1, cellSelfDischargeCurrent: 6e-6 },
    instruments: { batteryCurrent: METER },
  };
  const time = Float64Array.from({ length: 100 }, (_, k) => k);
  const { findings, notes } = standby.analyse(
    { kind: "trace", trace: { columns: { time, batteryCurrent: new Float64Array(100).fill(1.2e-5) }, events: [] } },
    setup,
    NO_CORRECTIONS,
  );
  expect(findings.find((f) => f.characteristic === "standby.life")?.value).toBeCloseTo((3600 * 2.1) / 1.8e-5, -3);
  expect(notes.find((n) => n.code === "life")?.message).toMatch(
    /13\.3 years with .* 20\.0 years without; beyond some 5 years the cell's own ageing decides/,
  );
});

test("marks cut a log into its states; what nobody named is said, not guessed", () => {
  const time = Float64Array.from({ length: 101 }, (_, k) => k);
  const mark = (at: number, kind: string): TraceEvent => ({ time: at, kind, what: kind });
  expect(
    stretches(time, [mark(10, "state:no-load"), mark(40, "state:end"), mark(60, "state:auto-off")], "cut-off"),
  ).toEqual([
    { state: "no-load", from: 10, to: 40 },
    { state: "auto-off", from: 60, to: 100 },
  ]);
  expect(stretches(time, [], undefined)).toEqual([]);
  const { notes, findings } = standby.analyse(
    { kind: "trace", trace: { columns: { time, batteryCurrent: new Float64Array(101).fill(1e-4) }, events: [] } },
    { conditions: {}, instruments: {} },
    NO_CORRECTIONS,
  );
  expect(findings).toEqual([]);
  expect(notes[0]?.code).toBe("no-state");
});

test("an output that switches itself off ends its no-load stretch", () => {
  const time = Float64Array.from({ length: 200 }, (_, k) => k);
  const on = (k: number) => k < 60;
  const { findings, notes } = standby.analyse(
    {
      kind: "trace",
      trace: {
        columns: {
          time,
          batteryCurrent: Float64Array.from(time, (k) => (on(k) ? 2e-3 : 5e-5)),
          outputVoltage: Float64Array.from(time, (k) => (on(k) ? 5 : 0)),
        },
        events: [{ time: 10, kind: "state:no-load", what: "" }],
      },
    },
    { conditions: { nominalOutput: 5 }, instruments: { batteryCurrent: METER } },
    NO_CORRECTIONS,
  );
  expect(findings[0]?.value).toBeCloseTo(2e-3, 6);
  expect(notes.map((n) => n.code)).toContain("switched-off");
});

test("a burden of volts makes it unfair, and is warned of before", () => {
  const plan = { states: ["output-off"], seconds: 240, shunt: 100 } as unknown as StandbyPlan;
  const log = pulsing(240, 4e-5, 30, 0.5, 0.02);
  const setup: RunSetup<StandbyPlan> = {
    conditions: { state: "output-off" },
    instruments: { batteryCurrent: METER },
    plan,
  };
  const { findings } = standby.analyse(
    { kind: "trace", trace: { columns: { time: log.time, batteryCurrent: log.amps }, events: [] } },
    setup,
    NO_CORRECTIONS,
  );
  expect(findings[0]?.unfair.map((u) => u.code)).toEqual(["burden"]);
  expect(standbyRemarks(setup).some((r) => r.text.includes("bypassed"))).toBe(true);
  expect(standbyRemarks({ ...setup, plan: { ...plan, states: [] } })[0]?.severity).toBe("refused");
});
