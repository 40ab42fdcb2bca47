import { NO_CORRECTIONS, type Finding, type RunSetup } from "../../measurement";
import { lightLoad, type LightLoadPlan } from ".";
import { ladder, lightRemarks } from "./plan";
import { numeric } from "../../quantities";

const METERS = {
  outputCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
};
const SETUP: RunSetup<LightLoadPlan> = { conditions: { nominalOutput: 5, usableCapacity: 2 }, instruments: METERS };

/** Loads that stand for so many seconds each, two readings a second; off after `delay` s below `below`. */
function analyse(loads: readonly number[], dwell: number, below: number, delay: number) {
  const rows: [number, number, number][] = [];
  let light = 0;
  let off = false;
  for (const load of loads)
    for (let k = 0; k < 2 * dwell; k++) {
      light = load < below ? light + 0.5 : 0;
      off = off || light > delay;
      rows.push(off ? [0, 0, 1e-4] : [load, 5.05, 0.01 + 1.6 * load]);
    }
  const column = (k: 0 | 1 | 2) => Float64Array.from(rows, (r) => r[k]);
  return lightLoad.analyse(
    {
      kind: "trace",
      trace: {
        columns: {
          time: Float64Array.from(rows, (_, k) => k / 2),
          outputCurrent: column(0),
          outputVoltage: column(1),
          batteryCurrent: column(2),
        },
        events: [],
      },
    },
    SETUP,
    NO_CORRECTIONS,
  );
}
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const codes = (a: { notes: readonly { code: string }[] }) => a.notes.map((n) => n.code);

test("the switch-off lies between two loads, its delay from the step to the fall", () => {
  const a = analyse([0.06, 0.05, 0.04, 0.03], 40, 0.042, 25);
  expect(find(a.findings, "standby.auto-off-current")?.value).toBeCloseTo(0.045, 9);
  expect(find(a.findings, "standby.auto-off-current")?.expandedUncertainty).toBeCloseTo(
    (2 / Math.sqrt(3)) * Math.hypot(0.005, 0.0005),
    3,
  );
  expect(Math.abs(numeric(find(a.findings, "standby.auto-off-delay")?.value) - 25)).toBeLessThanOrEqual(
    numeric(find(a.findings, "standby.auto-off-delay")?.expandedUncertainty),
  );
});

test("the bleed resistor keeps the load above it, from the series, with its heat and what it costs the cell", () => {
  const bleed = analyse([0.06, 0.05, 0.04, 0.03], 40, 0.042, 25).notes.find((n) => n.code === "bleed")?.message ?? "";
  // 5.05 V over 1.15 × 50.5 mA is 87 Ω; the next lower of E24 is 82 Ω, which draws 62 mA and 0.31 W.
  expect(bleed).toMatch(/A bleed resistor of 82\sΩ .* draws 62\smA .* 311\smW/);
  expect(bleed).toMatch(/From the battery that is about 109\smA.*a cell of 2\.00\sAh lasts 18 h/);
});

test("loads that stood for less than the switch-off takes make the step doubtful, and that is said", () => {
  const a = analyse([0.06, 0.05, 0.04, 0.035, 0.03, 0.025], 10, 0.042, 25);
  expect(codes(a)).toContain("dwell-short");
});

test("one that never switches off is a bound, one that does at the first load too", () => {
  const stays = analyse([0.06, 0.03, 0.01], 40, 0, 25);
  expect(find(stays.findings, "standby.auto-off-current")).toMatchObject({ bound: "at-most", value: 0.01 });
  expect(codes(stays)).toContain("stays-on");
  const first = analyse([0.02], 60, 0.042, 25);
  expect(find(first.findings, "standby.auto-off-current")).toMatchObject({ bound: "at-least", value: 0.02 });
  expect(codes(first)).toContain("one-load");
});

test("the ladder ends at the least load, and a plan with nothing to lower is refused", () => {
  const plan: LightLoadPlan = { battery: 3.6, from: 0.05, step: 0.02, least: 0, dwell: 40, every: 0.5, timeLimit: 100 };
  expect(ladder(plan)).toEqual([0.05, 0.03, 0.01, 0]);
  expect(lightRemarks({ ...SETUP, plan: { ...plan, from: 0 } })[0]?.severity).toBe("refused");
  expect(lightRemarks({ ...SETUP, plan: { ...plan, dwell: 10 } })[0]?.text).toMatch(/the wrong step is blamed/);
});
