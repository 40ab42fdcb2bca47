import {
  CHARACTERISTICS,
  CONDITION_UNITS,
  conditionsOf,
  type Characteristic,
  type ConditionName,
  type ConditionSpec,
  type ConditionSpecs,
  type RangeEnd,
} from "../characteristics";
import type { Claim, ClaimReading, Limit } from "../claims";
import {
  NO_CORRECTIONS,
  ofSample,
  HOUSE_RULES,
  type Analysis,
  type Answer,
  type Finding,
  type LogRow,
  type PlannedCell,
  type Readings,
  type Role,
  type RunSetup,
  type TraceEvent,
} from "../measurement";
import { analyseReadings, atBench, procedure, type BenchProcedure, type PlanContext } from "../procedures";
import { ChargeWatch, type ChargePlan } from "../procedures/charge-cycle";
import { itemsOf } from "../procedures/behaviour/plan";
import { BENCH_ACCURACY, SIMULATED_BOARDS, VirtualBench, benchFor, type SimulatedBoardId } from "../simulator";
import { chargeBench } from "../simulator/charge-boards";
import { SIMULATED_BUTTONS } from "../simulator/button-boards";
import { waveform } from "../simulator/waveform";
import { benchOf } from "../bench";
import { judgeReading, type EvidenceRun } from "../verdicts";
import { fairRun } from "../verdicts/fair-run";
import { overRuns } from "../verdicts/over-runs";
import { CHARGE_METERS } from "../bench/charge-meters";
import { rehearseChecklist } from "./checklist";
import { liveChargeFor } from "./live-bench";
import { LiveCharge } from "./live-charge";
import { logModule } from "./live-module";
import { simulatedMeters } from "./meters";
import { liveOptions } from "./simulated-bench";
import { rehearse } from "./sweep";

/**
 * Whatever condition a claim may name, the run that is prepared for it meets: from the claim through the prepared plan on the simulated
 * bench to a verdict, for every quantity and each condition it can have.
 */
const SAMPLE = { id: "A", name: "A", configuration: "J1 open", output: 5 };
const CELL: PlannedCell = {
  title: "Reed 1",
  chemistry: "lithium-ion",
  capacity: 1,
  chargeRateLimit: 1,
  chargeRate: 1,
  fullVoltage: 4.2,
  emptyVoltage: 3,
  ownProtection: false,
};
const PACK: PlannedCell = { ...CELL, title: "Heath", series: 3 };
const said = (characteristic: string, limit: Limit, conditions: ConditionSpecs = {}): Claim => ({
  id: characteristic,
  readings: [{ characteristic, limit, conditions }],
  source: { kind: "listing", wording: characteristic, date: "2026-11-01" },
});
const nominal = (v: number): Limit => ({ kind: "nominal", nominal: v, tolerance: null });
const CLAIMS: readonly Claim[] = [
  said("boost.no-load-voltage", nominal(5)),
  said("boost.max-current", { kind: "at-least", low: 2 }),
  said("boost.max-current", { kind: "at-least", low: 0.4 }),
  said("charge.cc-current", nominal(1)),
  said("protect.over-discharge-voltage", nominal(2.9)),
  said("protect.over-charge-voltage", nominal(4.28)),
  said("protect.over-current", nominal(1.9)),
];
const CONTEXT: PlanContext = {
  claims: CLAIMS,
  rules: HOUSE_RULES,
  rig: {
    instruments: BENCH_ACCURACY,
    supplyCurrentLimit: 4,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
  functions: ["charger", "protection", "boost", "power-path", "balancer"],
  cell: CELL,
};

/** A condition that a claim may well name, and the tests can tell from what a plan has anyway where it is one. */
const WANTED: Readonly<Record<ConditionName, ConditionSpec>> = {
  battery: { at: 3.4 },
  output: { at: 5 },
  configuration: { word: "J1 open" },
  channel: { at: 2 },
  state: { word: "no-load" },
  input: { word: "present" },
  event: { word: "unplugged" },
  load: { at: 0.22 },
  kind: { word: "power" },
  action: { word: "short press" },
  rate: { at: 0.5 },
  floor: { at: 3.2 },
  cell: { at: 1 },
  inputVoltage: { from: 4.5, to: 5.3 },
  ambient: { at: 30 },
};

/** What has to happen in a charge for a quantity to show, besides being charged. */
type Happens = "nothing" | "deeply discharged" | "unplugged" | "lights" | "sags" | "cut short";
const HAPPENS: Readonly<Record<string, Happens>> = {
  "charge.precharge-current": "deeply discharged",
  "charge.precharge-threshold": "deeply discharged",
  "charge.interruptions": "unplugged",
  "charge.paused-time": "unplugged",
  "charge.partial-capacity": "cut short",
  "charge.recharge-threshold": "sags",
  "channels.done-voltage": "lights",
  "channels.done-current": "lights",
  "channels.voltage-spread": "lights",
  "channels.early-time": "lights",
  "channels.early-charge": "lights",
};

function chargeReadings(id: string, setup: RunSetup<ChargePlan>, happens: Happens): Readings {
  const every = 10;
  const sags = chargeBench({
    charger: { restartBelow: 4.18 },
    cell: { capacity: 1, resistance: 0.1 },
    soc: 0.4,
    ambient: setup.conditions.ambientTemperature ?? 22,
  });
  const source = happens === "sags" ? new LiveCharge(sags, 7, every) : liveChargeFor(id, 7, every, setup as RunSetup);
  const watch = new ChargeWatch(setup);
  const rows: LogRow[] = [];
  let end = 6 * 3600;
  for (let k = 0; k * every <= end; k++) {
    if (happens === "unplugged" && k === 120) source.disturb("unplug", 1200);
    if (happens === "unplugged" && k === 180) source.disturb("plug", 1800);
    if (happens === "cut short" && k === 300) break;
    const row = source.sample(k);
    rows.push(row);
    if (watch.push(row).some((e) => e.kind === "done") && end === 6 * 3600) end = (k + 360) * every;
  }
  const roles = Object.keys(rows[0] ?? {}) as Role[];
  return {
    kind: "trace",
    trace: {
      columns: Object.fromEntries(roles.map((role) => [role, Float64Array.from(rows, (r) => r[role] ?? NaN)])),
      events: happens === "lights" ? lightsOf(rows) : [],
    },
  };
}

/** Done lights of three channels, marked by hand as the current comes down to nine, five and two tenths. */
const lightsOf = (rows: readonly LogRow[]): TraceEvent[] => {
  const most = Math.max(...rows.map((r) => r.cellCurrent ?? 0));
  return [0.9, 0.5, 0.2].flatMap((share, k) => {
    const row = rows.findLast((r) => (r.cellCurrent ?? 0) > share * most);
    return row ? [{ time: row.time, kind: `channel:${k + 1}`, what: `channel ${k + 1} done` }] : [];
  });
};

/** What a procedure's specimens are, those that show most first. */
const specimens = (p: BenchProcedure): readonly string[] =>
  p.id === "charge-cycle"
    ? ["honest-ampere", "runs-hot", "three-channels"]
    : p.id === "load-sweep" || p.id === "reverse-polarity"
      ? Object.keys(SIMULATED_BOARDS)
      : Object.keys(benchOf(p.id)?.specimens ?? {});

const made = new Map<string, Analysis>();
function analysed(p: BenchProcedure, id: string, setup: RunSetup, happens: Happens): Analysis {
  const key = JSON.stringify([p.id, id, setup, happens]);
  const known = made.get(key);
  if (known) return known;
  const readings = read(p, id, setup, happens);
  const a = analyseReadings(p, readings, setup, NO_CORRECTIONS);
  made.set(key, a);
  return a;
}

function read(p: BenchProcedure, id: string, setup: RunSetup, happens: Happens): Readings {
  if (p.id === "charge-cycle") return chargeReadings(id, setup as RunSetup<ChargePlan>, happens);
  if (p.readings === "points")
    return {
      kind: "points",
      points: rehearse(p, setup, new VirtualBench(benchFor(SIMULATED_BOARDS[id as SimulatedBoardId].model, 5)), {
        dwell: 5.2,
        id: (k) => `p${k}`,
      }).points,
    };
  if (p.readings === "answers")
    return {
      kind: "answers",
      answers: rehearseChecklist(
        SIMULATED_BUTTONS[id as keyof typeof SIMULATED_BUTTONS].model,
        itemsOf(setup as never),
        () => "2026-11-28T10:00:00Z",
      ) as Answer[],
    };
  return { kind: "trace", trace: logModule(liveOptions(p, id, setup, 5), 8 * 3600).trace };
}

/** The set-up that claims and bench suggest, on the simulated bench, for the sample as it stands. */
function planned(p: BenchProcedure, happens: Happens): RunSetup {
  const r = p.plan({ ...CONTEXT, ...(p.takes === "pack" ? { cell: PACK } : {}) });
  if (!r.ok) throw new Error(`${p.id}: ${r.error}`);
  let setup = r.value;
  if (p.id === "charge-cycle")
    setup = {
      ...setup,
      plan: { ...(setup.plan as ChargePlan), cell: CELL, startVoltage: happens === "deeply discharged" ? 2.5 : 3.2 },
    };
  setup = {
    ...setup,
    conditions: { ...setup.conditions, usableCapacity: 1, panelMaximumPower: 6, foldbackTemperature: 95 },
  };
  return ofSample(
    {
      ...setup,
      instruments: simulatedMeters(
        p.roles?.(setup) ?? p.record.roles.map((x) => x.role),
        setup.instruments,
        p.id === "charge-cycle" ? CHARGE_METERS : {},
      ),
    },
    SAMPLE,
  );
}

/** A limit that the finding meets for sure, so that only whether it is judged at all is asked. */
function limitAbout(f: Finding, c: Characteristic): Limit {
  if (c.end?.tested && typeof f.value === "number")
    return c.end.side === "low" ? { kind: "at-most", high: f.value } : { kind: "at-least", low: f.value };
  if (typeof f.value === "string")
    return f.unit === "" && (f.value === "yes" || f.value === "no")
      ? { kind: "yes-no", value: f.value === "yes" }
      : { kind: "one-of", words: [f.value] };
  const wide = 10 * Math.abs(f.value) + 10;
  return f.bound === "at-least"
    ? { kind: "at-least", low: f.value - wide }
    : f.bound === "at-most"
      ? { kind: "at-most", high: f.value + wide }
      : { kind: "from-to", low: f.value - wide, high: f.value + wide };
}

/** Ends of ranges as claims may name them. */
const ENDS: Readonly<Record<RangeEnd["of"], Readonly<Record<RangeEnd["side"], Limit>>>> = {
  inputVoltage: { low: { kind: "at-most", high: 4.8 }, high: { kind: "at-least", low: 5.3 } },
  battery: { low: { kind: "at-most", high: 3.2 }, high: { kind: "at-least", low: 4 } },
  output: { low: { kind: "at-most", high: 5 }, high: { kind: "at-least", low: 5 } },
};

/** The run, and, for what only several runs show, a second one at another input, output or setting of the current. */
function runsOf(
  p: BenchProcedure,
  id: string,
  setup: RunSetup,
  happens: Happens,
  other: RangeEnd["of"] | "programme" | null,
): EvidenceRun[] {
  const run = (name: string, s: RunSetup, programme: number): EvidenceRun => ({
    id: name,
    title: name,
    startUtc: "2026-11-28T10:00:00Z",
    finished: true,
    setAside: null,
    modifiedFunctions: [],
    programme,
    ...(s.conditions.ratedLoad ? { ratedLoad: s.conditions.ratedLoad } : {}),
    findings: analysed(p, id, s, happens).findings,
  });
  const plan = setup.plan as unknown as ChargePlan;
  const second: RunSetup =
    other === "inputVoltage"
      ? {
          ...setup,
          plan: {
            ...plan,
            supplyVoltage: plan.supplyVoltage > 5 ? plan.supplyVoltage - 0.4 : plan.supplyVoltage + 0.4,
          } as object,
        }
      : other === "output"
        ? { ...setup, conditions: { ...setup.conditions, output: 5.2 } }
        : setup;
  return [
    run("r", setup, 1200),
    ...(other && other !== "battery" ? [run("r2", second, other === "programme" ? 2400 : 1200)] : []),
  ];
}

function verdictOf(c: Characteristic, conditions: ConditionSpecs): string {
  if (c.run === "rest-check") return restVerdict(c, conditions);
  if (c.run === "ripple") return rippleVerdict(c, conditions);
  const p = atBench(procedure(c.run));
  if (!p) return `${c.run} is no run of the bench`;
  const wish: ClaimReading = {
    characteristic: c.name,
    limit: c.end ? ENDS[c.end.of][c.end.side] : { kind: "at-least", low: 0 },
    conditions,
  };
  const run = fairRun(wish, { word: "not measured", why: [], settle: [] }, [SAMPLE], HOUSE_RULES);
  if (run?.procedure.id !== p.id || run.sampleId !== "A") return "no run is offered";
  const happens = HAPPENS[c.name] ?? "nothing";
  const setup = run.patch(planned(p, happens), 5);
  let seen = "found on no specimen";
  for (const id of specimens(p)) {
    const evidence = [
      overRuns({
        id: "A",
        name: "A",
        runs: runsOf(p, id, setup, happens, c.end?.of ?? (c.name.includes(".set-current") ? "programme" : null)),
      }),
    ];
    const findings = evidence.flatMap((s) => s.runs.flatMap((r) => r.findings));
    const own = findings.filter((f) => f.characteristic === c.name && f.value !== "not stated");
    if (own.length === 0) continue;
    for (const f of own) {
      const v = judgeReading({ ...wish, limit: limitAbout(f, c) }, evidence, HOUSE_RULES);
      seen = `${v.word}: ${v.why.join(" ")} ${JSON.stringify({ ...f.conditions, ...f.under })}`;
      if (v.word === "meets") return "meets";
    }
  }
  return seen;
}

/** Cells that are read over some days come from a table: no bench makes days pass. */
function restVerdict(c: Characteristic, conditions: ConditionSpecs): string {
  const cell = (value: number) => ({ value, status: "ok" as const });
  const points = [0, 2, 5, 9].map((day, k) => ({
    id: `d${k}`,
    sequence: k,
    settings: {},
    cells: { time: cell(86400 * day), cell: cell(1), cellVoltage: cell(4.19 - 0.012 * day) },
  }));
  const { findings } = analyseReadings(
    procedure(c.run) as BenchProcedure,
    { kind: "points", points },
    { conditions: {}, instruments: { cellVoltage: BENCH_ACCURACY.batteryVoltage } },
    NO_CORRECTIONS,
  );
  const evidence = [
    {
      id: "A",
      name: "A",
      runs: [
        {
          id: "r",
          title: "r",
          startUtc: "2026-11-28T10:00:00Z",
          finished: true,
          setAside: null,
          modifiedFunctions: [],
          findings,
        },
      ],
    },
  ];
  return judgeReading(
    { characteristic: c.name, limit: { kind: "from-to", low: -1, high: 1 }, conditions },
    evidence,
    HOUSE_RULES,
  ).word;
}

/** A waveform comes from an oscilloscope's file, with what it was taken at stated beside it. */
function rippleVerdict(c: Characteristic, conditions: ConditionSpecs): string {
  const { time, outputVoltage } = waveform(
    { sawtooth: 0.04, spike: 0, hertz: 5e5, rises: 0.5, noise: 0, step: 2e-4 },
    1e8,
    2500,
    1,
  );
  const setup = ofSample(
    {
      conditions: { bandwidth: 20e6, battery: 3.4, load: 0.22 },
      instruments: { outputVoltage: BENCH_ACCURACY.outputVoltage },
    },
    SAMPLE,
  );
  const { findings } = analyseReadings(
    procedure(c.run) as BenchProcedure,
    { kind: "trace", trace: { columns: { time, outputVoltage }, events: [] } },
    setup,
    NO_CORRECTIONS,
  );
  const evidence = [
    {
      id: "A",
      name: "A",
      runs: [
        {
          id: "r",
          title: "r",
          startUtc: "2026-11-28T10:00:00Z",
          finished: true,
          setAside: null,
          modifiedFunctions: [],
          findings,
        },
      ],
    },
  ];
  return judgeReading(
    {
      characteristic: c.name,
      limit: { kind: "at-most", high: 0.06 },
      conditions: { ...(conditions.battery ? {} : { battery: { at: 3.4 } }), ...conditions },
    },
    evidence,
    HOUSE_RULES,
  ).word;
}

/** The conditions that a claim must name to say anything: what somebody did to the board. */
const always = (c: Characteristic): ConditionSpecs =>
  c.name === "behaviour.response" ? { action: WANTED.action } : {};

const CASES = CHARACTERISTICS.flatMap((c) => [
  [c.name, ""] as const,
  ...conditionsOf(c.name).map((name) => [c.name, name] as const),
]);

test.each(CASES)("%s, claimed at %s", (name, condition) => {
  const c = CHARACTERISTICS.find((x) => x.name === name) as Characteristic;
  expect(condition === "" || condition in CONDITION_UNITS).toBe(true);
  const wanted =
    condition === "action" && name === "behaviour.gauge-step"
      ? { word: "falling, 4 to 3" }
      : condition
        ? WANTED[condition]
        : undefined;
  expect(verdictOf(c, { ...always(c), ...(condition && wanted ? { [condition]: wanted } : {}) })).toBe("meets");
});

const MENDED: readonly (readonly [
  what: string,
  reading: ClaimReading,
  specimen: string,
  conditions: RunSetup["conditions"],
  plan: Readonly<Record<string, unknown>>,
])[] = [
  [
    "a supply that gave up under the load",
    {
      characteristic: "boost.max-current",
      limit: { kind: "at-least", low: 1.9 },
      conditions: { battery: { at: 3.6 } },
    },
    "steady-synchronous",
    { supplyCurrentLimit: 1 },
    {},
  ],
  [
    "a supply whose limit lies below the claimed trip",
    {
      characteristic: "protect.over-current",
      limit: { kind: "nominal", nominal: 1.9, tolerance: { kind: "relative", value: 0.3 } },
      conditions: {},
    },
    "steady-synchronous",
    { supplyCurrentLimit: 1.2 },
    {},
  ],
  [
    "a thin input cable",
    {
      characteristic: "charge.cc-current",
      limit: { kind: "nominal", nominal: 1.05, tolerance: { kind: "relative", value: 0.02 } },
      conditions: {},
    },
    "thin-cable",
    {},
    {},
  ],
  [
    "an earthed meter that bypasses the protection",
    { characteristic: "protect.over-discharge-present", limit: { kind: "yes-no", value: true }, conditions: {} },
    "minus-switch",
    {},
    { groundsJoined: true },
  ],
  [
    "an infrared thermometer on a shiny part",
    { characteristic: "heat.steady-temperature", limit: { kind: "at-most", high: 400 }, conditions: {} },
    "steady-synchronous",
    {},
    { thermometer: "infrared-shiny", load: 1.2 },
  ],
];

test.each(MENDED)("the run that is prepared after %s is judged", (_, reading, specimen, conditions, plan) => {
  const p = atBench(
    procedure(CHARACTERISTICS.find((c) => c.name === reading.characteristic)?.run ?? ""),
  ) as BenchProcedure;
  const first = planned(p, "nothing");
  const spoilt: RunSetup = {
    ...first,
    conditions: { ...first.conditions, ...conditions },
    plan: { ...(first.plan as object), ...plan },
  };
  const judged = (setup: RunSetup) =>
    judgeReading(
      reading,
      [
        {
          id: "A",
          name: "A",
          runs: [
            {
              id: "r",
              title: "r",
              startUtc: "2026-11-28T10:00:00Z",
              finished: true,
              setAside: null,
              modifiedFunctions: [],
              findings: analysed(p, specimen, setup, "nothing").findings,
            },
          ],
        },
      ],
      HOUSE_RULES,
    );
  const before = judged(spoilt);
  expect(before.word).toBe("not fairly tested");
  const run = fairRun(reading, before, [SAMPLE], HOUSE_RULES);
  const after = judged(run?.patch(spoilt, 6) as RunSetup);
  expect({ word: after.word, judged: ["meets", "misses"].includes(after.word) }).toEqual({
    word: after.word,
    judged: true,
  });
});
