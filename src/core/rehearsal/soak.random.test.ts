import { fewestHeld, population, seedOf } from "@/testing/population";
import { fitWarming } from "../fit";
import { analyseReadings, type Procedure } from "../procedures";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type Point, type RunSetup } from "../measurement";
import { cleanLog } from "../procedures/kit/guided";
import { chargeChannels } from "../procedures/charge-channels";
import { heatSoak, type HeatPlan } from "../procedures/heat-soak";
import { warmingPriors, warmingRows } from "../procedures/heat-soak/readings";
import {
  boostState,
  drawMeter,
  ModuleSimulation,
  randomModule,
  seeded,
  showReading,
  type ModuleModel,
} from "../simulator";
import { directFit } from "./fixtures/direct-fit";
import { logModule } from "./live-module";
import { moduleBench } from "../bench/around";
import { liveOptions } from "./simulated-bench";
import { numeric } from "../quantities";

const SEED = seedOf(20261201);
const SOAKS = population(80, 500);
const VOLTS = { gain: 0.0005, counts: 2, resolution: 0.001 };
const AMPS = { gain: 0.002, counts: 4, resolution: 1e-4 };
const HEAT = { gain: 0.002, counts: 10, resolution: 0.1 };
const METERS = {
  batteryVoltage: VOLTS,
  batteryCurrent: AMPS,
  outputVoltage: VOLTS,
  outputCurrent: AMPS,
  partTemperature: HEAT,
  ambientTemperature: HEAT,
};
const ROLES = [
  "partTemperature",
  "ambientTemperature",
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
] as const;

const median = (v: readonly number[]): number => [...v].sort((a, b) => a - b)[v.length >> 1] ?? NaN;

test(`of ${SOAKS} soaks of 1.3 to 5 time constants, the fit is about as sure as a direct one that knows the start, and holds the truth (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const held = { tau: 0, resistance: 0, steady: 0 };
  const wider: { tau: number[]; resistance: number[]; blind: number[]; off: number[] } = {
    tau: [],
    resistance: [],
    blind: [],
    off: [],
  };
  for (let k = 0; k < SOAKS; k++) {
    const base = randomModule(r);
    const board: ModuleModel = {
      ...base,
      overDischarge: null,
      trip: null,
      autoOff: null,
      boost: { ...base.boost, overload: "droop" },
    };
    const { heat } = board;
    const [load, ambient, drift, span] = [
      r.between(0.25, 0.5),
      r.between(15, 30),
      r.between(-4e-4, 4e-4),
      r.between(1.3, 5),
    ];
    const planned = heatSoak.plan({
      claims: [],
      rules: HOUSE_RULES,
      rig: { instruments: METERS, supplyCurrentLimit: 4, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
    });
    if (!planned.ok) throw new Error(planned.error);
    const setup: RunSetup<HeatPlan> = {
      ...planned.value,
      conditions: { nominalOutput: 5, ...planned.value.conditions, ambientTemperature: ambient },
      plan: { ...(planned.value.plan as HeatPlan), load, seconds: span * heat.board.tau, enough: 0 },
    };
    const { trace, live } = logModule(
      liveOptions(
        heatSoak,
        "",
        setup,
        k + 1,
        () => new ModuleSimulation({ ...moduleBench(board, setup as RunSetup), ambient, drift }),
      ),
    );
    const { findings } = analyseReadings(
      heatSoak as unknown as Procedure,
      { kind: "trace", trace },
      setup as RunSetup,
      NO_CORRECTIONS,
    );
    const of = (name: string) => findings.find((f) => f.characteristic === name) as Finding;
    const holds = (f: Finding, truth: number) => Math.abs(numeric(f.value) - truth) <= (f.expandedUncertainty ?? 0);
    const resistance = heat.board.resistance + heat.part.resistance;
    const mean = ambient + (drift * (trace.columns.time?.at(-1) ?? 0)) / 2;
    let settles = mean;
    for (let n = 0; n < 50; n++)
      settles = mean + resistance * boostState(board.boost, 3.6, { mode: "current", value: load }, settles).loss;
    held.tau += Number(holds(of("heat.time-constant"), heat.board.tau));
    held.resistance += Number(holds(of("heat.thermal-resistance"), resistance));
    held.steady += Number(holds(of("heat.steady-temperature"), settles));

    const log = cleanLog(trace, setup, ROLES);
    const rows = warmingRows(log?.time ?? new Float64Array(), log?.columns ?? {}, setup);
    const fit = fitWarming(rows, warmingPriors(setup, rows, true));
    const [part, air] = [live.meters.get("partTemperature"), live.meters.get("ambientTemperature")];
    if (!fit || !part || !air) throw new Error("no fit");
    // What the two thermometers really differ by, and where the board really began.
    const apart = ambient * (part.gainError - air.gainError) + part.offsetError - air.offsetError;
    const fitted = (difference: "known" | "fitted") =>
      directFit(
        rows,
        apart,
        ambient * (1 + air.gainError) + air.offsetError,
        [heat.board.tau, heat.part.tau, heat.board.resistance, heat.part.resistance],
        difference,
      );
    const [direct, blind] = [fitted("known"), fitted("fitted")];
    if (!direct || !blind) continue;
    wider.tau.push((of("heat.time-constant").expandedUncertainty ?? NaN) / (2 * direct.u.tau));
    wider.resistance.push(fit.u.resistance / direct.u.resistance);
    wider.blind.push(fit.u.resistance / blind.u.resistance);
    wider.off.push(Math.abs(fit.tau - direct.tau) / (2 * direct.u.tau));
  }

  const share = (v: readonly number[]) => v.filter((x) => x <= 1.5).length / v.length;
  expect({
    seed: SEED,
    ...held,
    enough: held.tau >= fewestHeld(SOAKS) && held.resistance >= fewestHeld(SOAKS) && held.steady >= fewestHeld(SOAKS),
  }).toEqual({ seed: SEED, ...held, enough: true });
  expect({
    seed: SEED,
    tau: share(wider.tau) >= 0.97,
    off: share(wider.off) >= 0.95,
    compared: wider.tau.length > 0.9 * SOAKS,
  }).toEqual({ seed: SEED, tau: true, off: true, compared: true });
  // What the two thermometers differ by has to be read from the log: a direct fit that has to do so too is hardly surer of the resistance.
  expect({ seed: SEED, blind: median(wider.blind), good: share(wider.blind) >= 0.97 }).toEqual({
    seed: SEED,
    blind: median(wider.blind),
    good: true,
  });
  expect({ seed: SEED, resistance: median(wider.resistance), good: median(wider.resistance) < 2.5 }).toEqual({
    seed: SEED,
    resistance: median(wider.resistance),
    good: true,
  });
});

test(`of 500 pooled repeats the mean's interval holds the truth, however few they are (seed ${SEED})`, () => {
  const r = seeded(SEED + 1);
  const counted = new Map<string, { held: number; of: number }>();
  const count = (name: string, good: boolean) => {
    const c = counted.get(name) ?? { held: 0, of: 0 };
    counted.set(name, { held: c.held + Number(good), of: c.of + 1 });
  };
  for (let k = 0; k < 500; k++) {
    const meters = { cellVoltage: drawMeter(VOLTS, r), cellCurrent: drawMeter(AMPS, r) };
    const repeats = 2 + Math.floor(5 * r.uniform());
    const truth = [0, 1, 2].map(() => ({
      volts: r.between(4.15, 4.21),
      amps: r.between(0.04, 0.6),
      spread: Math.exp(r.between(Math.log(2e-4), Math.log(6e-3))),
    }));
    const points: Point[] = [];
    for (let n = 1; n <= repeats; n++)
      truth.forEach((t, c) => {
        const cell = (value: number) => ({ value, status: "ok" as const });
        points.push({
          id: `${c}-${n}`,
          sequence: points.length,
          settings: {},
          cells: {
            channel: cell(c + 1),
            repeat: cell(n),
            time: cell(1000 * (c + 1)),
            cellVoltage: cell(showReading(meters.cellVoltage, t.volts + t.spread * r.normal(), r)),
            cellCurrent: cell(showReading(meters.cellCurrent, t.amps + t.spread * r.normal(), r)),
          },
        });
      });
    const { findings } = analyseReadings(
      chargeChannels,
      { kind: "points", points },
      { conditions: {}, instruments: { cellVoltage: VOLTS, cellCurrent: AMPS } },
      NO_CORRECTIONS,
    );
    for (const f of findings) {
      const t = truth[Number(f.conditions.channel) - 1];
      if (!t || typeof f.value !== "number") continue;
      const real = f.characteristic === "channels.done-voltage" ? t.volts : t.amps;
      count(f.characteristic, Math.abs(f.value - real) <= (f.expandedUncertainty ?? 0));
    }
  }
  for (const [name, c] of counted)
    expect({ name, seed: SEED, held: c.held / c.of, good: c.held >= fewestHeld(c.of) }).toEqual({
      name,
      seed: SEED,
      held: c.held / c.of,
      good: true,
    });
  expect(counted.size).toBe(2);
});
