import { applySettings, readBench, rehearse } from "../../src/core/rehearsal";
import { chooseLoads } from "../../src/core/procedures/load-sweep/resistors";
import {
  atBench,
  procedure,
  PROCEDURES,
  type BenchProcedure,
  type PlanContext,
  ofTrace,
  ofPoints,
} from "../../src/core/procedures";
import { HOUSE_RULES, NO_CORRECTIONS, type RunSetup, type Trace } from "../../src/core/measurement";
import { logModule } from "../../src/core/rehearsal/live-module";
import { liveOptions } from "../../src/core/rehearsal/simulated-bench";
import {
  BENCH_ACCURACY,
  chargeBench,
  ChargeSimulation,
  seeded,
  type ChargeBench,
  SIMULATED_BOARDS,
  VirtualBench,
  benchFor,
} from "../../src/core/simulator";
import { timed, type Figure } from "./report";

/** Rows of a long log. */
const LONG = 100_000;
const LEADS = { inputLeadResistance: 0.05, outputLeadResistance: 0.04 };

/** Three battery voltages × 30 loads with 5 s of settling each, at full speed. */
function plainSweep(seed: number): number {
  const bench = new VirtualBench(benchFor(SIMULATED_BOARDS["steady-synchronous"].model, seed, LEADS));
  let sum = 0;
  for (const supplyVoltage of [4.1, 3.6, 3.1])
    for (let k = 0; k < 30; k++) {
      applySettings(bench, { supplyVoltage, supplyCurrentLimit: 3, load: { mode: "current", value: 0.03 * k } });
      bench.advance(5);
      sum += readBench(bench).outputVoltage?.value ?? 0;
    }
  return sum;
}

/** A charge of about three hours to its end; `finer` shortens its steps. Gives the time of the stop, s. */
function charge(bench: ChargeBench, finer = 1): number {
  const s = new ChargeSimulation(bench, finer);
  s.plug(true);
  s.untilStopped(12 * 3600);
  return s.landmarks.find((l) => l.kind === "stop")?.time ?? NaN;
}
const chargeBenches = (): ChargeBench[] => {
  const random = seeded(77);
  return Array.from({ length: 12 }, () =>
    chargeBench({
      cell: { capacity: random.between(2.2, 3) },
      soc: random.between(0, 0.15),
      supply: { cable: random.between(0.02, 0.15) },
    }),
  );
};

function plannedSetup(): RunSetup {
  const source = { kind: "listing", wording: "", date: "2026-11-01" } as const;
  const context: PlanContext = {
    claims: [
      {
        id: "v",
        source,
        readings: [
          {
            characteristic: "boost.no-load-voltage",
            limit: { kind: "nominal", nominal: 5, tolerance: null },
            conditions: {},
          },
        ],
      },
      {
        id: "i",
        source,
        readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1 }, conditions: {} }],
      },
    ],
    rules: HOUSE_RULES,
    rig: { instruments: BENCH_ACCURACY, supplyCurrentLimit: 5, ...LEADS, drawer: [] },
  };
  const planned = procedure("load-sweep")?.plan?.(context);
  if (!planned?.ok) throw new Error("internal: the sweep can't be planned");
  return planned.value;
}

/** What makes a log long enough where a thousand samples a second of the usual plan don't. */
const LONGER: Readonly<Record<string, object>> = {
  "power-path": { dwell: 16 },
  "meter-check": { dwell: 17 },
  "heat-soak": { enough: 0 },
  "solar-input": { steady: 3600 },
};

/** A log of 100,000 rows of each procedure that is led, from the simulated bench, sampled as finely as that takes. */
function longLogs(): { readonly p: BenchProcedure; readonly setup: RunSetup; readonly trace: Trace }[] {
  const context: PlanContext = {
    claims: [],
    rules: HOUSE_RULES,
    rig: {
      instruments: BENCH_ACCURACY,
      supplyCurrentLimit: 4,
      inputLeadResistance: 0,
      outputLeadResistance: 0,
      drawer: [],
    },
  };
  return PROCEDURES.flatMap((listed) => {
    const p = ofTrace(atBench(listed));
    const planned = p?.plan(context);
    if (!p?.guide || !planned?.ok) return [];
    const make = (every: number) => {
      const setup: RunSetup = {
        ...planned.value,
        conditions: { nominalOutput: 5, ...planned.value.conditions },
        plan: { ...(planned.value.plan as object), ...LONGER[p.id], every },
      };
      return { setup, log: logModule(liveOptions(p, "", setup, 5)) };
    };
    const coarse = make(1).log.trace.columns.time?.length ?? 1;
    const fine = make(Math.max(1e-3, coarse / LONG));
    const rows = Math.min(LONG, fine.log.trace.columns.time?.length ?? 0);
    return [
      {
        p,
        setup: fine.setup,
        trace: {
          events: fine.log.trace.events,
          columns: Object.fromEntries(
            Object.entries(fine.log.trace.columns).map(([role, c]) => [role, c?.slice(0, rows)]),
          ),
        },
      },
    ];
  });
}

/** Figures of the core alone, in Node. */
export function computeFigures(): Figure[] {
  const sweep = ofPoints(procedure("load-sweep"));
  if (!sweep) throw new Error("internal: no load sweep");
  let seed = 1;
  const setup = plannedSetup();
  const random = seeded(60);
  const drawer = Array.from({ length: 60 }, () => ({
    ohms: Number((10 ** (0.3 + 3 * random.uniform())).toPrecision(2)),
    watts: 5,
  }));
  const targets = Array.from({ length: 30 }, (_, k) => 0.005 * 1.22 ** k);
  const charges = chargeBenches();
  let turn = 0;
  return [
    {
      name: "Simulated charge of about 3 h, to its end",
      unit: "ms",
      judged: "median",
      target: 1,
      values: timed(60, () => charge(charges[turn++ % charges.length] as ChargeBench)),
    },
    {
      name: "… its end time against steps ten times finer",
      unit: "%",
      judged: "most",
      target: 0.05,
      values: charges.map((b) => 100 * Math.abs(charge(b) / charge(b, 10) - 1)),
    },
    {
      name: "Simulated sweep, 3 × 30 points, settling",
      unit: "ms",
      judged: "p95",
      target: 100,
      values: timed(30, () => plainSweep(seed++)),
    },
    {
      name: "The same bench through the guide, collapse search included",
      unit: "ms",
      judged: "median",
      target: 100,
      values: timed(15, () =>
        rehearse(
          sweep,
          setup,
          new VirtualBench(benchFor(SIMULATED_BOARDS["steady-synchronous"].model, seed++, LEADS)),
          { dwell: 5, id: (n) => `p${n}` },
        ),
      ),
    },
    ...longLogs().map(({ p, setup, trace }) => ({
      name: `Analysis of a log of ${Math.round((trace.columns.time?.length ?? 0) / 1000)} 000 rows: ${p.title.toLowerCase()}`,
      unit: "ms" as const,
      judged: "p95" as const,
      target: 50,
      values: timed(20, () => p.analyse({ kind: "trace", trace }, setup, NO_CORRECTIONS)),
    })),
    {
      name: "Resistors: drawer of 60, up to three, 30 targets",
      unit: "ms",
      judged: "p95",
      target: 100,
      values: timed(15, () => chooseLoads(targets, 5, drawer)),
    },
  ];
}
