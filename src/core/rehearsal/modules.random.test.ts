import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup } from "../measurement";
import type { PlanContext, AtBench, TraceProcedure } from "../procedures";
import { lightLoad, type LightLoadPlan } from "../procedures/light-load";
import { overload, type OverloadPlan } from "../procedures/overload";
import { standby, type StandbyPlan } from "../procedures/standby";
import { reach, thresholdRamp } from "../procedures/threshold-ramp";
import { boostState, ModuleSimulation, randomModule, seeded, type ModuleModel } from "../simulator";
import { logModule } from "./live-module";
import { Score } from "@/testing/score";
import { moduleBench } from "../bench/around";
import { liveOptions } from "./simulated-bench";
import { numeric } from "../quantities";

const SEED = 20261125;
const BOARDS = 500;

const METERS = {
  batteryVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  batteryCurrent: { gain: 0.002, counts: 4, resolution: 1e-5 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  outputCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
};
const CONTEXT: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  rig: { instruments: METERS, supplyCurrentLimit: 4, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
};

function planned<P>(
  p: AtBench<TraceProcedure<P>>,
  change: Partial<P>,
  conditions: RunSetup["conditions"] = {},
): RunSetup<P> {
  const r = p.plan(CONTEXT);
  if (!r.ok) throw new Error(r.error);
  return {
    ...r.value,
    conditions: { nominalOutput: 5, ...r.value.conditions, ...conditions },
    plan: { ...(r.value.plan as P), ...change },
  };
}

function run<P extends { readonly every: number }>(
  p: AtBench<TraceProcedure<P>>,
  board: ModuleModel,
  setup: RunSetup<P>,
  seed: number,
  most?: number,
) {
  const { trace, live } = logModule(
    liveOptions(p, "", setup, seed, () => new ModuleSimulation(moduleBench(board, setup as RunSetup))),
    most,
  );
  return { trace, live, analysis: p.analyse({ kind: "trace", trace }, setup, NO_CORRECTIONS) };
}

const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const word = (list: readonly Finding[], name: string) => find(list, name)?.value;

test(`of ${BOARDS} random modules the ramps find cut, release and residual current (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const board = randomModule(r);
    const od = board.overDischarge as NonNullable<ModuleModel["overDischarge"]>;
    const claimed = od.cut + r.between(-0.08, 0.08);
    const setup = planned(thresholdRamp, { ...reach("discharge", claimed), load: r.between(0.12, 0.3) });
    const { findings } = run(thresholdRamp, board, setup, k + 1).analysis;
    score.add("cut", find(findings, "protect.over-discharge-voltage"), od.cut);
    score.add("residual", find(findings, "protect.residual-current"), od.cut / board.cutOhms);
    expect([k, word(findings, "protect.over-discharge-present")]).toEqual([k, "yes"]);
    if (od.release === null) expect(find(findings, "protect.over-discharge-release")).toBeUndefined();
    else score.add("release", find(findings, "protect.over-discharge-release"), od.release);
    const oc = board.overCharge as NonNullable<ModuleModel["overCharge"]>;
    const up = planned(thresholdRamp, { way: "charge", ...reach("charge", oc.cut + r.between(-0.04, 0.04)) });
    const charge = run(thresholdRamp, board, up, k + 5000).analysis.findings;
    score.add("over-charge cut", find(charge, "protect.over-charge-voltage"), oc.cut);
    score.add("over-charge release", find(charge, "protect.over-charge-release"), numeric(oc.release));
  }
  expect(score.results().filter((r) => !r.good)).toEqual([]);
});

test(`of ${BOARDS} random modules without a cut the ramp says so, and finds the dropout (seed ${SEED + 1})`, () => {
  const r = seeded(SEED + 1);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const base = randomModule(r);
    // Cold: the truth below is that of one temperature, and a warm board drops out some millivolts earlier.
    const board: ModuleModel = {
      ...base,
      overDischarge: null,
      trip: null,
      boost: { ...base.boost, overload: "droop" },
      heat: { board: { ...base.heat.board, resistance: 0.01 }, part: { ...base.heat.part, resistance: 0.01 } },
    };
    const load = r.between(0.5, 0.95);
    const setup = planned(thresholdRamp, { expected: 2.6, start: 3.5, farthest: 2, slow: 0.005, quick: 0.02, load });
    const { findings } = run(thresholdRamp, board, setup, k + 1).analysis;
    expect([k, word(findings, "protect.over-discharge-present")]).toEqual([k, "no"]);
    expect(find(findings, "protect.over-discharge-voltage")).toBeUndefined();
    const drops = (vb: number) =>
      boostState(board.boost, vb, { mode: "current", value: load }, 23).outputVoltage < 4.75;
    if (!drops(2.02)) continue;
    let [low, high] = [2, 3.5];
    for (let n = 0; n < 40; n++) {
      const middle = (low + high) / 2;
      if (drops(middle)) low = middle;
      else high = middle;
    }
    if (high > 3.4) continue;
    score.add("dropout", find(findings, "boost.dropout-voltage"), high);
  }
  expect(score.results()).toEqual([expect.objectContaining({ name: "dropout", good: true })]);
  expect(score.results()[0]?.of).toBeGreaterThan(BOARDS / 4);
});

test(`of ${BOARDS} random modules the standby means hold the truth, pulses and all (seed ${SEED + 2})`, () => {
  const r = seeded(SEED + 2);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const board = { ...randomModule(r), autoOff: null };
    const setup = planned<StandbyPlan>(
      standby,
      { states: ["output-off"], seconds: 240 },
      { usableCapacity: 2, cellSelfDischargeCurrent: 6e-5 },
    );
    const { findings } = run(standby, board, setup, k + 1).analysis;
    const { amps, wakes } = board.idle;
    const mean = amps + (wakes ? (wakes.amps * wakes.seconds) / wakes.period : 0);
    score.add("current", find(findings, "standby.current"), mean);
    score.add("life", find(findings, "standby.life"), 7200 / (mean + 6e-5));
  }
  expect(score.results().filter((r) => !r.good)).toEqual([]);
});

test(`of ${BOARDS} random modules the light load finds switch-off and delay (seed ${SEED + 3})`, () => {
  const r = seeded(SEED + 3);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const board = randomModule(r);
    const setup = planned<LightLoadPlan>(lightLoad, { from: 0.1, step: 0.005, dwell: 42 });
    const { findings } = run(lightLoad, board, setup, k + 1).analysis;
    const off = find(findings, "standby.auto-off-current");
    if (!board.autoOff) expect([k, off?.bound]).toEqual([k, "at-most"]);
    else {
      score.add("load", off, board.autoOff.below);
      score.add("delay", find(findings, "standby.auto-off-delay"), board.autoOff.delay);
    }
  }
  expect(score.results().filter((r) => !r.good)).toEqual([]);
});

test(`of ${BOARDS} random modules the overload finds limit, short and recovery (seed ${SEED + 4})`, () => {
  const r = seeded(SEED + 4);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const board = randomModule(r);
    const setup = planned<OverloadPlan>(
      overload,
      { from: 0.2, step: 0.05, most: 2.6, repeats: 2, after: 0.1 },
      { supplyCurrentLimit: 5 },
    );
    const { analysis } = run(overload, board, setup, k + 1);
    const { findings } = analysis;
    // Where the output falls: at the trip, or where the converter can hold its band no more.
    const falls = (load: number) => {
      const s = boostState(board.boost, 3.6, { mode: "current", value: load }, 30);
      return s.outputVoltage < 4.75 || (board.trip !== null && s.batteryCurrent > board.trip.amps);
    };
    let [low, high] = [0.1, 2.7];
    if (falls(high)) {
      for (let n = 0; n < 40; n++) {
        const middle = (low + high) / 2;
        if (falls(middle)) high = middle;
        else low = middle;
      }
      if (high < 2.5) score.add("limit", find(findings, "protect.over-current"), high);
    }
    const limited = board.trip !== null || board.shortCurrent !== null;
    expect([k, word(findings, "protect.short-present")]).toEqual([k, limited ? "yes" : "no"]);
    if (board.trip) expect([k, word(findings, "protect.short-recovery")]).toEqual([k, board.trip.recovery]);
  }
  expect(score.results().filter((r) => !r.good)).toEqual([]);
});
