import { ofTrace } from "./contract";
import type { Claim, ClaimReading } from "../claims";
import { atBench, procedure, type BenchProcedure, type PlanContext } from ".";
import { HOUSE_RULES, type RunSetup } from "../measurement";
import type { LightLoadPlan } from "./light-load";
import type { OverloadPlan } from "./overload";
import type { StandbyPlan } from "./standby";
import type { RampPlan } from "./threshold-ramp";

const METER = { gain: 0.005, counts: 5, resolution: 0.001 };
const nominal = (characteristic: string, value: number): ClaimReading => ({
  characteristic,
  limit: { kind: "nominal", nominal: value, tolerance: null },
  conditions: {},
});
const claim = (...readings: ClaimReading[]): Claim => ({
  id: "c",
  readings,
  source: { kind: "listing", wording: "", date: "2026-11-01" },
});

function planned<P>(
  id: string,
  ...claims: Claim[]
): { readonly p: BenchProcedure; readonly setup: RunSetup; readonly plan: P } {
  const p = atBench(procedure(id)) as BenchProcedure;
  const context: PlanContext = {
    claims,
    rules: HOUSE_RULES,
    rig: {
      instruments: { batteryVoltage: METER, batteryCurrent: METER, outputVoltage: METER, outputCurrent: METER },
      supplyCurrentLimit: 4,
      inputLeadResistance: 0.05,
      outputLeadResistance: 0,
      drawer: [],
    },
  };
  const r = p.plan(context);
  if (!r.ok) throw new Error(r.error);
  return { p, setup: r.value, plan: r.value.plan as P };
}

describe("a ramp's plan", () => {
  test("stands around the claimed cut, and is slow near it", () => {
    const { plan, setup } = planned<RampPlan>(
      "threshold-ramp",
      claim(nominal("protect.over-discharge-voltage", 2.5), nominal("protect.over-charge-voltage", 4.25)),
      claim(nominal("boost.no-load-voltage", 5)),
    );
    expect(plan).toMatchObject({ way: "discharge", expected: 2.5, start: 2.9, farthest: 2 });
    expect(plan.slow).toBeLessThanOrEqual(0.005);
    expect(setup.conditions).toMatchObject({ nominalOutput: 5, inputLeadResistance: 0.05 });
    // An ampere range can't tell a disconnect from a leak.
    expect(setup.instruments.batteryCurrent?.resolution).toBeLessThanOrEqual(1e-4);
  });
  test("the other way takes the other claim, another expected cut moves both ends, anything else moves nothing", () => {
    const { p, plan } = planned<RampPlan>("threshold-ramp", claim(nominal("protect.over-charge-voltage", 4.25)));
    expect(p.follows?.(plan, { way: "charge" })).toMatchObject({
      way: "charge",
      expected: 4.25,
      start: 4,
      farthest: 4.37,
    });
    expect(p.follows?.(plan, { expected: 3 })).toMatchObject({ expected: 3, start: 3.4, farthest: 2.2 });
    expect(p.follows?.(plan, { load: 0.2 })).toEqual({ load: 0.2 });
  });
  test("is wired the way it goes: the source in place of the cell carries its preload", () => {
    const { p, setup, plan } = planned<RampPlan>("threshold-ramp");
    expect(p.wiring(setup).devices.map((d) => d.id)).toEqual(["supply", "module", "load"]);
    const up = { ...setup, plan: { ...plan, way: "charge" as const } };
    expect(p.wiring(up).devices.map((d) => d.id)).toEqual(["charger", "module", "source"]);
    expect(p.wiring(up).devices[2]?.lines.join(" ")).toMatch(/preload 500\smA/);
    expect(p.roles?.(up)).toEqual(["cellVoltage", "cellCurrent"]);
    expect(p.cautions(up).some((c) => c.severity === "danger" && c.text.includes("preload"))).toBe(true);
    expect(p.stopRules(up).map((r) => r.role)).toContain("cellVoltage");
  });
});

test("standby asks for the states that claims speak of, and measures in a range of microamps", () => {
  expect(planned<StandbyPlan>("standby").plan.states).toEqual(["no-load"]);
  const { plan, setup, p } = planned<StandbyPlan>(
    "standby",
    claim({
      characteristic: "standby.current",
      limit: { kind: "at-most", high: 1e-4 },
      conditions: { state: { word: "output-off" } },
    }),
    claim(nominal("standby.auto-off-current", 0.05), nominal("protect.over-discharge-voltage", 2.6)),
  );
  expect(plan.states).toEqual(["no-load", "output-off", "auto-off", "cut-off"]);
  expect(plan).toMatchObject({ cutTo: 2.2, cutAt: 2.5 });
  expect(setup.instruments.batteryCurrent?.resolution).toBe(1e-6);
  // Starting through a microamp range blows its fuse: that is said as a danger.
  expect(
    p
      .cautions(setup)
      .filter((c) => c.severity === "danger")
      .some((c) => c.text.includes("bypassed")),
  ).toBe(true);
});

test("light load begins at twice the claimed switch-off and stays longer than its claimed delay", () => {
  const { plan } = planned<LightLoadPlan>(
    "light-load",
    claim(nominal("standby.auto-off-current", 0.05), nominal("standby.auto-off-delay", 30)),
  );
  expect(plan).toMatchObject({ from: 0.1, step: 0.005, dwell: 45 });
});

describe("an overload's plan", () => {
  test("reaches past the claimed trip with its tolerance, or far past the rating where none is claimed", () => {
    expect(planned<OverloadPlan>("overload", claim(nominal("protect.over-current", 2))).plan).toMatchObject({
      claimedTrip: 2,
      from: 1,
      most: 3.2,
    });
    const { plan } = planned<OverloadPlan>(
      "overload",
      claim({ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1 }, conditions: {} }),
    );
    expect(plan.claimedTrip).toBeNull();
    expect(plan.most).toBeGreaterThanOrEqual(2.5);
  });
  test("says before the short which limit keeps it small, and watches that limit", () => {
    const { p, setup } = planned<OverloadPlan>("overload");
    expect(p.cautions(setup).find((c) => c.text.startsWith("Set the supply's limit"))?.text).toMatch(/4\sA/);
    expect(p.stopRules(setup).find((r) => r.role === "batteryCurrent")?.above).toBe(8);
  });
  test("without shorts it ends after the overload", () => {
    const { p, setup, plan } = planned<OverloadPlan>("overload");
    const guide = ofTrace(p)?.guide?.({ ...setup, plan: { ...plan, shorts: false, from: 0.1, step: 0.5, most: 0.6 } });
    const marks: string[] = [];
    let step = guide?.push({ time: 0, outputVoltage: 5 });
    for (let t = 1; t < 60 && !step?.done; t++) {
      step = guide?.push({ time: t, outputVoltage: 5 });
      if (step?.mark) marks.push(step.mark.kind);
    }
    expect(step?.done).toBe(true);
    expect(marks).toEqual([]);
  });
});
