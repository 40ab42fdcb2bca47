import { population } from "@/testing/population";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup } from "../measurement";
import type { PlanContext, AtBench, TraceProcedure } from "../procedures";
import { heatSoak, type HeatPlan } from "../procedures/heat-soak";
import { meterCheck, type MeterCheckPlan } from "../procedures/meter-check";
import { solarInput, type SolarPlan } from "../procedures/solar-input";
import { powerPath, type PathPlan } from "../procedures/power-path";
import {
  boostState,
  MeterPairSimulation,
  ModuleSimulation,
  PanelSimulation,
  panelBest,
  PathSimulation,
  randomModule,
  randomPath,
  randomSolar,
  seeded,
  transientAt,
  type BenchSimulation,
  type ModuleModel,
  type Transient,
} from "../simulator";
import { stateOfCharge } from "../cells";
import { logModule } from "./live-module";
import { Score } from "@/testing/score";
import { moduleBench } from "../bench/around";
import { liveOptions } from "./simulated-bench";
import { numeric } from "../quantities";

const SEED = 20261126;
const BOARDS = 500;
const CHARGERS = population(150, 500);
const METERS = {
  batteryVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  batteryCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  outputCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  inputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  inputCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.002, counts: 4, resolution: 1e-4 },
  partTemperature: { gain: 0.002, counts: 10, resolution: 0.1 },
  ambientTemperature: { gain: 0.002, counts: 10, resolution: 0.1 },
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
function run<P>(
  p: AtBench<TraceProcedure<P>>,
  setup: RunSetup<P>,
  seed: number,
  simulation: () => BenchSimulation,
  most?: number,
) {
  const { trace, live } = logModule(liveOptions(p, "", setup, seed, simulation), most);
  return { trace, live, ...p.analyse({ kind: "trace", trace }, setup, NO_CORRECTIONS) };
}
const find = (list: readonly Finding[], name: string, conditions: Finding["conditions"] = {}) =>
  list.find(
    (f) =>
      f.characteristic === name &&
      Object.entries(conditions).every(([k, v]) => f.conditions[k as keyof Finding["conditions"]] === v),
  );
const bad = (score: Score, missing?: number) => score.results(missing).filter((r) => !r.good);

test(`of ${BOARDS} random modules a soak stopped early foretells where they settle (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const base = randomModule(r);
    const board: ModuleModel = {
      ...base,
      overDischarge: null,
      trip: null,
      autoOff: null,
      boost: { ...base.boost, overload: "droop" },
    };
    const { heat } = board;
    const load = r.between(0.4, 0.7);
    const drift = r.between(-4e-4, 4e-4);
    const ambient = r.between(15, 30);
    const setup = planned<HeatPlan>(
      heatSoak,
      { load, seconds: r.between(1, 2.5) * heat.board.tau, quiet: 40, enough: 0 },
      { ambientTemperature: ambient, partLimitTemperature: 200 },
    );
    const simulation = () => new ModuleSimulation({ ...moduleBench(board, setup as RunSetup), ambient, drift });
    const { findings, trace } = run(heatSoak, setup, k + 1, simulation);
    const end = trace.columns.time?.at(-1) ?? 0;
    const mean = ambient + (drift * end) / 2;
    // The converter's loss grows a little with its own heat: the truth is where the two agree.
    const resistance = heat.board.resistance + heat.part.resistance;
    let settles = mean;
    for (let n = 0; n < 50; n++)
      settles = mean + resistance * boostState(board.boost, 3.6, { mode: "current", value: load }, settles).loss;
    score.add("steady", find(findings, "heat.steady-temperature"), settles);
    score.add("time constant", find(findings, "heat.time-constant"), heat.board.tau);
    score.add("resistance", find(findings, "heat.thermal-resistance"), resistance);
    score.add("ambient", find(findings, "heat.max-ambient"), 200 - (settles - mean));
  }
  expect(bad(score)).toEqual([]);
});

test(`of ${CHARGERS} random linear chargers a soak tells from which cell voltage they keep their full current (seed ${SEED + 12})`, () => {
  const r = seeded(SEED + 12);
  const score = new Score();
  let cutBack = 0;
  for (let k = 0; k < CHARGERS; k++) {
    const base = randomModule(r);
    const board: ModuleModel = {
      ...base,
      overDischarge: null,
      overCharge: null,
      trip: null,
      autoOff: null,
      idle: { amps: 1e-6, wakes: null },
      boost: { ...base.boost, quiescent: 1e-6 },
      foldback: r.between(75, 115),
    };
    const resistance = board.heat.board.resistance + board.heat.part.resistance;
    const [chargeCurrent, battery, ambient] = [r.between(0.3, 1.1), r.between(2.9, 3.5), r.between(15, 30)];
    const setup = planned<HeatPlan>(
      heatSoak,
      { by: "charge", chargeCurrent, battery, seconds: 2.5 * board.heat.board.tau, quiet: 40, enough: 0 },
      { ambientTemperature: ambient, partLimitTemperature: 200, foldbackTemperature: numeric(board.foldback) },
    );
    const simulation = () => new ModuleSimulation({ ...moduleBench(board, setup as RunSetup), ambient });
    const { findings, notes } = run(heatSoak, setup, k + 1, simulation);
    cutBack += Number(notes.some((n) => n.code === "cut-back"));
    const drawn = 5 * (chargeCurrent + 0.002);
    const truth = (drawn - (numeric(board.foldback) - ambient) / resistance) / chargeCurrent;
    const found = find(findings, "heat.lowest-cell-voltage");
    // Into which cell voltage it gives its full current is no question where it does into any.
    if (truth > 0.3 || found) score.add("lowest cell", found, truth);
  }
  expect(cutBack).toBeGreaterThan(CHARGERS / 10);
  expect(bad(score)).toEqual([]);
});

/** What a transient truly does: extremes and time out of band, from its curve in steps of 50 µs. */
function truthOf(x: Transient, settled: number, seconds: number) {
  let [low, high, outside] = [0, 0, 0];
  const step = 5e-5;
  // Once the last of it has died away nothing changes any more.
  const quiet = Math.abs(settled - 5) < 0.24 ? x.hold + 4 * x.tau + 9 * Math.max(x.tau, x.ring) : Infinity;
  for (let t = 0; t < Math.min(seconds, quiet); t += step) {
    const v = transientAt(x, t);
    low = Math.min(low, v);
    high = Math.max(high, v);
    if (Math.abs(settled + v - 5) > 0.25) outside += step;
  }
  return { dip: -low, overshoot: high, outside };
}

test(`of ${BOARDS} random modules the handover shows dip, overshoot and the time out of band (seed ${SEED + 1})`, () => {
  const r = seeded(SEED + 1);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const model = randomPath(r);
    const load = r.between(0.1, 0.4);
    const setup = planned<PathPlan>(powerPath, { load, repeats: 1, dwell: 0.6 });
    const bench = {
      module: model,
      supply: { volts: 5.15, limit: 3, cable: 0.05 },
      cell: { chemistry: "lithium-ion" as const, capacity: 1, resistance: 0.09 },
      soc: 0.5,
    };
    const { findings } = run(powerPath, setup, k + 1, () => new PathSimulation(bench));
    const boosted = model.boost.volts - model.boost.ohms * load;
    const total = Math.min(
      3,
      model.feeds === "input"
        ? load +
            Math.min(
              model.charger.current,
              model.charger.inputLimit === null ? Infinity : Math.max(0, model.charger.inputLimit - load),
            )
        : 0,
    );
    const fed = model.feeds === "input" ? 5.15 - 0.05 * total - model.passOhms * load : boosted;
    for (const event of ["plugged", "unplugged"] as const) {
      const settled = event === "plugged" ? fed : boosted;
      const truth = truthOf(model[event], settled, 0.6);
      score.add("dip", find(findings, "path.dip", { event }), truth.dip);
      if (truth.overshoot > 0.06) score.add("overshoot", find(findings, "path.overshoot", { event }), truth.overshoot);
      const away = Math.max(4.75 - settled, settled - 5.25);
      if (truth.outside > 0.003 && away < -0.08)
        score.add("outside", find(findings, "path.handover-time", { event }), truth.outside);
    }
    score.add("output absent", find(findings, "path.output-voltage", { input: "absent" }), boosted);
    score.add("output present", find(findings, "path.output-voltage", { input: "present" }), fed);
  }
  expect(bad(score)).toEqual([]);
});

test(`of ${BOARDS} random modules the currents under load and whether the charge ends (seed ${SEED + 2})`, () => {
  const r = seeded(SEED + 2);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const model = randomPath(r);
    const load = r.between(0.1, 0.4);
    const capacity = r.between(0.6, 1.5);
    const startVoltage = r.between(3.7, 3.9);
    const setup = planned<PathPlan>(powerPath, {
      part: "charging",
      load,
      every: 10,
      dwell: 60,
      capacity,
      startVoltage,
      inputLimit: 3,
    });
    const bench = {
      module: model,
      supply: { volts: 5.15, limit: 3, cable: 0.05 },
      cell: { chemistry: "lithium-ion" as const, capacity, resistance: 0.09 / capacity },
      soc: stateOfCharge("lithium-ion", startVoltage),
    };
    const { findings, live } = run(powerPath, setup, k + 1, () => new PathSimulation(bench), 12 * 3600);
    // On the cell, the charger sees its end current only where the load takes less; what is left over may take days to fill the cell.
    const takes = (5 * load) / (model.boost.efficiency * 4.2);
    const slow = model.feeds === "cell" && Math.abs(model.charger.current - takes) < 0.12;
    if (!slow) expect([k, live.done]).toEqual([k, true]);
    const charger = Math.min(model.charger.current, model.charger.inputLimit ?? Infinity);
    score.add("charge, no load", find(findings, "path.charge-current", { load: 0 }), charger);
    score.add("input, no load", find(findings, "path.input-current", { load: 0 }), charger);
    if (model.feeds === "input") {
      const left = Math.min(
        model.charger.current,
        model.charger.inputLimit === null ? Infinity : Math.max(0, model.charger.inputLimit - load),
      );
      score.add("charge, load", find(findings, "path.charge-current", { load }), left);
      score.add("input, load", find(findings, "path.input-current", { load }), left + load);
    }
    const near = Math.abs(takes - model.charger.end) < 0.03 * takes + 0.005;
    if (model.feeds === "input" || !(slow || near))
      expect([k, find(findings, "path.finishes-under-load")?.value]).toEqual([
        k,
        model.feeds === "input" || takes < model.charger.end ? "yes" : "no",
      ]);
  }
  expect(bad(score)).toEqual([]);
});

test(`of ${BOARDS} random solar chargers under clouds the efficiency and the panel's volts over steady light (seed ${SEED + 3})`, () => {
  const r = seeded(SEED + 3);
  const score = new Score();
  let dark = 0;
  for (let k = 0; k < BOARDS; k++) {
    const { panel, charger } = randomSolar(r);
    const most = panelBest(panel, 0.92).watts;
    const setup = planned<SolarPlan>(
      solarInput,
      { seconds: 500, steady: 120, every: 0.5 },
      { panelMaximumPower: most * (1 + r.between(-0.02, 0.02)) },
    );
    const bench = {
      panel,
      charger,
      seed: k,
      clouds: 30,
      cell: { chemistry: "lithium-ion" as const, capacity: 2, resistance: 0.05 },
      soc: r.between(0.2, 0.7),
    };
    const { findings, charts, trace, notes } = run(solarInput, setup, k + 1, () => new PanelSimulation(bench));
    const windows = charts[0]?.spans ?? [];
    if (windows.length === 0) {
      dark++;
      expect(notes.map((n) => n.code)).toContain("no-steady-light");
      continue;
    }
    // The same bench without meters: what truly flowed in those windows.
    const twin = new PanelSimulation(bench);
    const on = {
      supplyVoltage: 0,
      supplyOn: true,
      load: 0,
      shorted: false,
      output: true,
      chargeCurrent: 0,
      input: true,
    };
    twin.set(on);
    twin.advance(2);
    let [panelSum, cellSum, volts, n] = [0, 0, 0, 0];
    (trace.columns.time ?? new Float64Array()).forEach((t, i) => {
      if (i > 0) twin.advance(0.5);
      if (!windows.some((w) => t >= w.from && t <= w.to)) return;
      const x = twin.read();
      panelSum += (x.inputVoltage ?? 0) * (x.inputCurrent ?? 0);
      cellSum += (x.cellVoltage ?? 0) * (x.cellCurrent ?? 0);
      volts += x.inputVoltage ?? 0;
      n++;
    });
    score.add("efficiency", find(findings, "solar.conversion-efficiency"), cellSum / panelSum);
    score.add("harvest", find(findings, "solar.harvest"), cellSum / n / most);
    if (charger.holds !== null || charger.kind === "linear")
      score.add("panel voltage", find(findings, "solar.panel-voltage"), volts / n);
  }
  expect(dark).toBeLessThan(0.1 * BOARDS);
  expect(bad(score)).toEqual([]);
});

test(`of ${BOARDS} random pairs of meters the offset and the leads (seed ${SEED + 4})`, () => {
  const r = seeded(SEED + 4);
  const score = new Score();
  for (let k = 0; k < BOARDS; k++) {
    const leads = r.between(0.002, 0.25);
    const offset = r.between(-0.01, 0.01);
    const setup = planned<MeterCheckPlan>(meterCheck, { most: r.between(0.5, 2), steps: 6 });
    const { findings, live } = run(
      meterCheck,
      setup,
      k + 1,
      () => new MeterPairSimulation({ volts: 5.05, source: 0.04, leads, offset, gain: 0, checks: "outputVoltage" }),
    );
    const [own, ref] = [live.meters.get("outputVoltage"), live.meters.get("referenceVoltage")];
    const shows = (m: typeof own, v: number) => v * (1 + (m?.gainError ?? 0)) + (m?.offsetError ?? 0);
    score.add("offset", find(findings, "meter.offset"), shows(own, 5.05 + offset) - shows(ref, 5.05));
    score.add("leads", find(findings, "meter.lead-resistance"), leads);
  }
  expect(bad(score)).toEqual([]);
});
