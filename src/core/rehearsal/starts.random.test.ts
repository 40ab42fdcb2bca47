import { population, seedOf } from "@/testing/population";
import { HOUSE_RULES, NO_CORRECTIONS, procedure, type BenchProcedure, type PlanContext, type RunSetup } from "../procedures";
import type { SweepPlan } from "../procedures/load-sweep";
import { BENCH_ACCURACY, VirtualBench, benchFor, boostState, randomBoost, seeded, type BoostModel } from "../simulator";
import { rehearse } from ".";

const SEED = seedOf(20261204);
const BOARDS = population(60, 500);
const RESOLUTION = 0.02;
const sweep = procedure("load-sweep") as BenchProcedure<SweepPlan>;
const CONTEXT: PlanContext = {
  claims: [{ id: "v", source: { kind: "listing", wording: "", date: "2026-11-01" }, readings: [{ characteristic: "boost.no-load-voltage", limit: { kind: "nominal", nominal: 5, tolerance: null }, conditions: {} }] }],
  rules: HOUSE_RULES,
  rig: { instruments: BENCH_ACCURACY, supplyCurrentLimit: 6, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
};

/** The highest load into which the model itself rises to its band from off, A. */
function trueStart(m: BoostModel, battery: number, temperature: number): number {
  let [low, high] = [0, 5];
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    const s = boostState(m, battery, { mode: "current", value: middle }, temperature, m.inputLimit * m.startShare);
    if (s.outputVoltage >= 4.75 && s.outputVoltage <= 5.25) low = middle;
    else high = middle;
  }
  return low;
}

test(`of ${BOARDS} random boards the start search brackets the highest load that they start into (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const wrong: object[] = [];
  let [held, bracketed, bounds, wide] = [0, 0, 0, 0];
  for (let k = 0; k < BOARDS; k++) {
    const model: BoostModel = { ...randomBoost(r), startShare: r.between(0.4, 1) };
    const battery = r.between(3.1, 4.1);
    const planned = sweep.plan(CONTEXT);
    if (!planned.ok) throw new Error(planned.error);
    const setup: RunSetup<SweepPlan> = { ...planned.value, plan: { ...(planned.value.plan as SweepPlan), batteries: [Number(battery.toFixed(2))], starts: true, resolution: RESOLUTION } };
    const { points, recoveries } = rehearse(sweep as BenchProcedure, setup as RunSetup, new VirtualBench(benchFor(model, 3000 + k)), { dwell: 6, id: (i) => `p${i}` });
    const f = sweep.analyse({ kind: "points", points }, setup, { ...NO_CORRECTIONS, recoveries }).findings.find((x) => x.characteristic === "boost.start-current");
    // A board that does not even hold no load has no start to search.
    if (!f || typeof f.value !== "number") continue;
    const last = points.findLast((p) => p.settings.fromOff);
    const truth = trueStart(model, Number(battery.toFixed(2)), last?.cells.partTemperature?.value ?? 25);
    const u = f.expandedUncertainty ?? 0;
    const [low, high] = f.bracket ? [f.bracket.low - u, f.bracket.high + u] : f.bound === "at-least" ? [f.value - u, Infinity] : [0, f.value + u];
    const good = truth >= low && truth <= high;
    if (!good) wrong.push({ k, truth, low, high, bound: f.bound, bracket: f.bracket });
    if (f.bracket) {
      bracketed++;
      if (good) held++;
      if (f.bracket.high - f.bracket.low > 1.5 * RESOLUTION + 1e-9) wide++;
    } else {
      bounds++;
      expect({ SEED, k, good }).toEqual({ SEED, k, good: true });
    }
  }
  expect({ SEED, bracketed: bracketed >= 0.6 * BOARDS, counted: bracketed + bounds >= 0.9 * BOARDS, wide, held: held >= 0.93 * bracketed, wrong: held >= 0.93 * bracketed ? [] : wrong }).toEqual({ SEED, bracketed: true, counted: true, wide: 0, held: true, wrong: [] });
});

const LOAD = 0.3;

/** The lowest battery from which the model itself rises to its band into the load, V. */
function trueVoltage(m: BoostModel, temperature: number): number {
  let [low, high] = [0.5, 4.5];
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    const s = boostState(m, middle, { mode: "current", value: LOAD }, temperature, m.inputLimit * m.startShare);
    if (s.outputVoltage >= 4.75 && s.outputVoltage <= 5.25) high = middle;
    else low = middle;
  }
  return high;
}

test(`of ${BOARDS} random boards the lowest battery that they start from into ${LOAD} A is bracketed (seed ${SEED})`, () => {
  const r = seeded(SEED + 1);
  const wrong: object[] = [];
  let [held, bracketed, bounds, wide] = [0, 0, 0, 0];
  for (let k = 0; k < BOARDS; k++) {
    const model: BoostModel = { ...randomBoost(r), startShare: r.between(0.3, 0.9) };
    const planned = sweep.plan(CONTEXT);
    if (!planned.ok) throw new Error(planned.error);
    const setup: RunSetup<SweepPlan> = { ...planned.value, plan: { ...(planned.value.plan as SweepPlan), batteries: [4, 3.2], loads: [0, 0.1], startLoad: LOAD } };
    const { points, recoveries } = rehearse(sweep as BenchProcedure, setup as RunSetup, new VirtualBench(benchFor(model, 9000 + k)), { dwell: 6, id: (i) => `p${i}` });
    const f = sweep.analyse({ kind: "points", points }, setup, { ...NO_CORRECTIONS, recoveries }).findings.find((x) => x.characteristic === "boost.start-voltage");
    // A board that refuses at the fullest battery was tried at that alone: it has no start voltage here.
    if (!f || typeof f.value !== "number") {
      expect({ SEED, k, refuses: trueVoltage(model, 25) > 3.9 }).toEqual({ SEED, k, refuses: true });
      continue;
    }
    const truth = trueVoltage(model, points.at(-1)?.cells.partTemperature?.value ?? 25);
    const u = f.expandedUncertainty ?? 0;
    const [low, high] = f.bracket ? [f.bracket.low - u, f.bracket.high + u] : f.bound === "at-most" ? [0, f.value + u] : [f.value - u, Infinity];
    const good = truth >= low && truth <= high;
    if (!good) wrong.push({ k, truth, low, high, bound: f.bound });
    if (f.bracket) {
      bracketed++;
      if (good) held++;
      if (f.bracket.high - f.bracket.low > 0.03) wide++;
    } else {
      bounds++;
      expect({ SEED, k, good }).toEqual({ SEED, k, good: true });
    }
  }
  expect({ SEED, enough: bracketed >= 0.3 * BOARDS, tried: bracketed + bounds >= 0.9 * BOARDS, wide, held: held >= 0.93 * bracketed, wrong: held >= 0.93 * bracketed ? [] : wrong }).toEqual({ SEED, enough: true, tried: true, wide: 0, held: true, wrong: [] });
});
