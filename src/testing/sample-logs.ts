import {
  atBench,
  procedure,
  type PlanContext,
  ofTrace,
  type AtBench,
  type TraceProcedure,
  ofPoints,
} from "@/core/procedures";
import { HOUSE_RULES, type Point, type Role, type RunSetup } from "@/core/measurement";
import { logCharge, type Disturbance } from "@/core/rehearsal/charge-log";
import { rehearse } from "@/core/rehearsal";
import { logModule } from "@/core/rehearsal/live-module";
import { liveOptions } from "@/core/rehearsal/simulated-bench";
import {
  benchFor,
  chargeBench,
  seeded,
  SIMULATED_BOARDS,
  SIMULATED_CELLS,
  SIMULATED_CHARGERS,
  SIMULATED_METERS,
  SIMULATED_MODULES,
  SIMULATED_PACKS,
  SIMULATED_PANELS,
  SIMULATED_PATHS,
  VirtualBench,
} from "@/core/simulator";
import { waveform } from "@/core/simulator/waveform";

/** A file as a logger of the simulated bench would write it: one column a role, SI, NaN where nothing was read. */
export interface SampleLog {
  readonly procedure: string;
  readonly name: string;
  readonly columns: Readonly<Partial<Record<Role, readonly number[]>>>;
}

const METER = { gain: 0.001, counts: 2, resolution: 0.001 };
const FINE = { gain: 0.0015, counts: 5, resolution: 0.0001 };
const CLAIMS = [
  {
    id: "c1",
    source: { kind: "listing", wording: "5 V" },
    readings: [
      {
        characteristic: "boost.no-load-voltage",
        conditions: {},
        limit: { kind: "nominal", nominal: 5, tolerance: null },
      },
    ],
  },
];
const CONTEXT: PlanContext = {
  claims: CLAIMS as unknown as PlanContext["claims"],
  rules: HOUSE_RULES,
  rig: {
    instruments: { batteryVoltage: METER, batteryCurrent: FINE, outputVoltage: METER, outputCurrent: FINE },
    supplyCurrentLimit: 4,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
};

type Made = (k: number) => Omit<SampleLog, "procedure">;

/** The k-th of a list, going round. */
const pick = <T>(list: readonly T[], k: number): T => list[k % list.length] as T;
const ids = (table: object): string[] => Object.keys(table);

function guided(id: string, boards: readonly string[], patches: readonly object[]): Made {
  return (k) => {
    const p = ofTrace(atBench(procedure(id))) as AtBench<TraceProcedure>;
    const planned = p.plan(CONTEXT);
    if (!planned.ok) throw new Error(planned.error);
    const first = planned.value.plan as Record<string, unknown>;
    const patch = pick(patches, k) as Record<string, unknown>;
    const setup: RunSetup = {
      ...planned.value,
      conditions: { nominalOutput: 5, ...planned.value.conditions, ambientTemperature: 18 + (k % 5) * 2 },
      plan: { ...first, ...p.follows?.(first, patch), ...patch },
    };
    const board = pick(boards, k);
    const { trace } = logModule(liveOptions(p, board, setup, 100 + 17 * k));
    return {
      name: `${board} ${JSON.stringify(patch)}`,
      columns: Object.fromEntries(
        Object.entries(trace.columns).map(([role, v]) => [role, Array.from(v as Float64Array)]),
      ),
    };
  };
}

const charge: Made = (k) => {
  const id = pick(ids(SIMULATED_CHARGERS), k);
  const { charger, supply } = SIMULATED_CHARGERS[id as keyof typeof SIMULATED_CHARGERS];
  const happens: readonly (readonly Disturbance[])[] = [
    [],
    [
      { at: 2000, what: "unplug" },
      { at: 2600, what: "plug" },
    ],
    [],
    [{ at: 3000, what: "cell-out" }],
    [{ at: 2500, what: "unplug" }],
  ];
  const { trace } = logCharge(chargeBench({ charger, supply, soc: pick([0.05, 0.4, 0.1, 0.7, 0.02], k) }), {
    every: pick([4, 2.5, 10], k),
    seed: 50 + k,
    before: pick([60, 2, 20], k),
    unpluggedBefore: k % 2 === 0,
    after: pick([300, 0, 60], k),
    disturbances: pick(happens, k),
    most: 6 * 3600,
  });
  const all = Object.entries(trace.columns)
    .filter(([role]) => k % 3 !== 2 || role !== "partTemperature")
    .filter(([role]) => k % 4 !== 3 || !role.startsWith("input"));
  return { name: id, columns: Object.fromEntries(all.map(([role, v]) => [role, Array.from(v as Float64Array)])) };
};

const NUMBER = (points: readonly Point[], role: Role): number[] => points.map((p) => p.cells[role]?.value ?? NaN);

function points(id: string): Made {
  return (k) => {
    const p = ofPoints(procedure(id));
    const planned = p?.plan?.(CONTEXT);
    if (!p || !planned?.ok) throw new Error(`no plan of ${id}`);
    const board = pick(ids(SIMULATED_BOARDS), k);
    const setup: RunSetup = { ...planned.value, conditions: { nominalOutput: 5, ...planned.value.conditions } };
    const { points: made } = rehearse(
      p,
      setup,
      new VirtualBench(benchFor(SIMULATED_BOARDS[board as keyof typeof SIMULATED_BOARDS].model, 30 + k)),
      { dwell: 6, id: (n) => `p${n}` },
    );
    const roles: Role[] = [
      "batteryVoltage",
      "batteryCurrent",
      "outputVoltage",
      "outputCurrent",
      ...(k % 2 ? (["partTemperature"] as const) : []),
    ];
    return { name: board, columns: Object.fromEntries(roles.map((r) => [r, NUMBER(made, r)])) };
  };
}

const channels: Made = (k) => {
  const random = seeded(900 + k);
  const [runs, count] = [pick([3, 2, 4], k), pick([4, 3, 2], k)];
  const rows = Array.from({ length: runs * count }, (_, n) => ({
    time: 2000 + 300 * n + random.between(0, 100),
    channel: (n % count) + 1,
    repeat: Math.floor(n / count) + 1,
    volts: 4.17 + 0.012 * (n % count) + 4e-4 * random.normal(),
    amps: 0.6 / ((n % count) + 1),
  }));
  return {
    name: `${runs} × ${count}`,
    columns: {
      ...(k % 3 ? { time: rows.map((r) => Math.round(r.time)) } : {}),
      channel: rows.map((r) => r.channel),
      ...(k % 2 ? { repeat: rows.map((r) => r.repeat) } : {}),
      cellVoltage: rows.map((r) => r.volts),
      ...(k % 4 ? { cellCurrent: rows.map((r) => r.amps) } : {}),
    },
  };
};

const rest: Made = (k) => {
  const random = seeded(700 + k);
  const cells = pick([4, 8, 2, 3], k);
  const days = [0, 1, 3, 6, 10].slice(0, pick([5, 4, 3], k));
  const volts = (cell: number, day: number) =>
    4.18 - 0.006 * cell - 0.002 * day * (cell === 2 ? 8 : 1) + 2e-4 * random.normal();
  if (k % 3 === 2)
    return {
      name: `${cells} columns`,
      columns: {
        time: days.map((d) => d * 86400 + 60),
        ...Object.fromEntries(
          Array.from({ length: cells }, (_, c) => [`cell${c + 1}Voltage`, days.map((d) => volts(c, d))]),
        ),
      },
    };
  const rows = days.flatMap((d) =>
    Array.from({ length: cells }, (_, c) => ({ time: d * 86400 + 20 * c, cell: c + 1, volts: volts(c, d) })),
  );
  return {
    name: `${cells} cells`,
    columns: { time: rows.map((r) => r.time), cell: rows.map((r) => r.cell), cellVoltage: rows.map((r) => r.volts) },
  };
};

const scope: Made = (k) => {
  const random = seeded(900 + k);
  const model = {
    sawtooth: random.between(0.01, 0.06),
    spike: k % 2 ? random.between(0.005, 0.03) : 0,
    hertz: random.between(3e5, 1.2e6),
    rises: random.between(0.3, 0.7),
    noise: 5e-4,
    step: 2e-4,
  };
  const { time, outputVoltage } = waveform(model, pick([1e8, 2.5e8, 5e7], k), 2000, k + 1);
  return {
    name: `${Math.round(model.hertz / 1e3)} kHz`,
    columns: {
      time: [...time],
      outputVoltage: [...outputVoltage].map((v) => (k % 3 ? v : Number((v + 5).toPrecision(9)))),
    },
  };
};

const modules = ids(SIMULATED_MODULES);
/** How the simulated bench makes a log of each procedure that is read from files. */
export const SAMPLE_LOGS: Readonly<Record<string, Made>> = {
  "charge-cycle": charge,
  "charge-channels": channels,
  "load-sweep": points("load-sweep"),
  "reverse-polarity": points("reverse-polarity"),
  "rest-check": rest,
  ripple: scope,
  "heat-soak": guided("heat-soak", modules, [
    { load: 0.6, seconds: 1500 },
    { by: "charge", chargeCurrent: 0.8, battery: 3.2 },
    { load: 0.4, quiet: 20, seconds: 1200 },
    { load: 1 },
    { by: "charge", chargeCurrent: 0.4, battery: 3.6, seconds: 1800 },
  ]),
  "threshold-ramp": guided("threshold-ramp", modules, [
    {},
    { way: "charge" },
    { load: 0.3 },
    { way: "charge" },
    { load: 0.1 },
  ]),
  standby: guided("standby", modules, [{}, { states: ["no-load"] }, { states: ["no-load", "auto-off", "cut-off"] }]),
  "light-load": guided("light-load", modules, [{}, { from: 0.09, step: 0.005, dwell: 40 }, { from: 0.2, step: 0.01 }]),
  overload: guided("overload", modules, [{}, { from: 0.8, most: 2.4 }, { from: 0.6, most: 1.8 }, { shorts: false }]),
  "power-path": guided("power-path", ids(SIMULATED_PATHS), [
    { repeats: 2, dwell: 0.4, every: 0.002 },
    { part: "charging", every: 20, patience: 1200 },
    { repeats: 3, dwell: 0.3 },
  ]),
  "solar-input": guided("solar-input", ids(SIMULATED_PANELS), [{}, { seconds: 1200, steady: 400, every: 1 }]),
  "meter-check": guided("meter-check", ids(SIMULATED_METERS), [
    {},
    { checks: "cellVoltage" },
    { checks: "inputVoltage" },
  ]),
  discharge: guided("discharge", ids(SIMULATED_CELLS), [{ rate: 1 }, { rate: 0.5, every: 20 }, { rate: 2 }]),
  "pack-charge": guided("pack-charge", ids(SIMULATED_PACKS), [{ wait: 300 }, { every: 20 }]),
};
