import type {
  BoardId,
  NotebookId,
  PointId,
  RigRecord,
  RunId,
  RunRecord,
  SampleId,
  StoredRecord,
} from "../files/records";
import { SCHEMA_VERSION } from "../files/records";
import { HOUSE_RULES, metersPinned, type Point, type Role, type RunSetup } from "../measurement";
import type { PlanContext } from "../procedures";
import { loadSweep, type SweepPlan } from "../procedures/load-sweep";
import { assert } from "../quantities";
import { rehearse } from "../rehearsal";
import { simulatedMeters } from "../rehearsal/meters";
import { BENCH_ACCURACY, SIMULATED_BOARDS, VirtualBench, benchFor } from "../simulator";
import { DEMO_BOARDS, DEMO_LOAD, DEMO_NEED, type DemoBoard } from "./boards";
import { buildDrawer } from "./drawer";
import { buildInstruments } from "./instruments";
import { buildGuided } from "./guided-runs";
import { buildCharges, type DemoLog } from "./charges";
import { buildWaveforms } from "./waveforms";
import { buildDay, buildMany } from "./many";
import { buildTables } from "./tables";

export interface DemoMeans {
  /** Fresh random ids. */
  readonly newId: () => string;
  /** ISO UTC of the moment of making. */
  readonly now: string;
  readonly zone: string;
}

/** What the meters of the hide hold, whatever they are clipped to. */
const HIDE = simulatedMeters(
  [
    "batteryVoltage",
    "batteryCurrent",
    "outputVoltage",
    "outputCurrent",
    "inputVoltage",
    "inputCurrent",
    "cellVoltage",
    "cellCurrent",
    "referenceVoltage",
    "referenceCurrent",
    "partTemperature",
    "ambientTemperature",
    "cellTemperature",
    "cell1Voltage",
    "cell2Voltage",
    "cell3Voltage",
    "cell4Voltage",
  ] satisfies readonly Role[],
  BENCH_ACCURACY,
);

export const DEFAULT_RIG = {
  title: "Bench of the hide",
  instruments: HIDE,
  supplyCurrentLimit: 5,
  inputLeadResistance: 0,
  outputLeadResistance: 0,
  drawer: [],
  useDrawer: false,
} as const;

/** Seconds that demo points stood; longer than the house dwell. */
const DEMO_DWELL = 6;

/** The demo notebook's records alone. */
export const buildDemo = (means: DemoMeans): StoredRecord[] => buildDemoWithLogs(means).records;

/** The demo notebook, its runs measured on the simulated bench as they are made, and the logs of those that are charges. */
export function buildDemoWithLogs(means: DemoMeans): { records: StoredRecord[]; logs: DemoLog[] } {
  const notebookId = means.newId() as NotebookId;
  const start = Date.parse(means.now);
  const at = (minutesAgo: number): string => new Date(start - minutesAgo * 60_000).toISOString();
  const base = { notebookId, createdAt: means.now, updatedAt: means.now };
  const bench = buildInstruments(means.newId, base);
  const records: StoredRecord[] = [
    {
      kind: "notebook",
      id: notebookId,
      ...base,
      title: "Reed bed recorders (demo)",
      schema: SCHEMA_VERSION,
      demo: true,
    },
    { kind: "rules", id: means.newId(), ...base, rules: HOUSE_RULES },
    ...bench.records,
    { kind: "rig", id: means.newId(), ...base, ...DEFAULT_RIG, instruments: BENCH_ACCURACY, meters: bench.meters },
  ];
  records.push(
    { kind: "need", id: means.newId(), ...base, ...DEMO_NEED },
    { kind: "load", id: means.newId(), ...base, ...DEMO_LOAD },
  );
  const drawer = buildDrawer(means.newId, base, at);
  records.push(...drawer.records, ...buildMany({ newId: means.newId, base, at }));
  const logs: DemoLog[] = [];
  DEMO_BOARDS.forEach((b, i) => {
    const made = buildBoard(b, { ...means, base, at: (m) => at(m + (DEMO_BOARDS.length - i) * 90), cells: drawer.ids });
    records.push(...made.records);
    logs.push(...made.logs);
  });
  records.push(...buildDay({ newId: means.newId, base, at }, records));
  return { records: records.map((r) => (r.kind === "run" ? readByTheRig(r, bench.meters) : r)), logs };
}

/** A run with the meters of the rig named in it, where it was read with their accuracy. */
function readByTheRig(run: RunRecord, meters: NonNullable<RigRecord["meters"]>): RunRecord {
  const named = metersPinned(run.setup.instruments, { instruments: BENCH_ACCURACY, meters });
  return Object.keys(named).length ? { ...run, setup: { ...run.setup, meters: named } } : run;
}

interface BoardMeans extends DemoMeans {
  readonly base: { readonly notebookId: NotebookId; readonly createdAt: string; readonly updatedAt: string };
  readonly at: (minutesAgo: number) => string;
  /** Ids of the drawer's cells by their names. */
  readonly cells: ReadonlyMap<string, string>;
}

function buildBoard(b: DemoBoard, means: BoardMeans): { records: StoredRecord[]; logs: DemoLog[] } {
  const { base } = means;
  const boardId = means.newId() as BoardId;
  const created = { ...base, createdAt: means.at(60), updatedAt: means.at(60) };
  const day = means.at(24 * 60).slice(0, 10);
  const claims = b.claims.map((c, k) => ({
    kind: "claim" as const,
    ...created,
    createdAt: means.at(59 - k / 10),
    id: means.newId(),
    boardId,
    readings: c.readings,
    source: { ...c.source, date: day },
  }));
  const samples = b.samples.map((s, k) => ({
    kind: "sample" as const,
    ...created,
    createdAt: means.at(50 - k / 10),
    id: means.newId() as SampleId,
    boardId,
    name: s.name,
    configuration: s.configuration,
    modifications: [],
    note: s.note,
  }));
  const board: StoredRecord = {
    kind: "board",
    ...created,
    id: boardId,
    title: b.title,
    note: b.note,
    functions: b.functions,
    facts: b.facts,
    simulatedAs: b.simulatedAs,
  };
  const ids = samples.map((s) => s.id);
  const charges = buildCharges(b, means, boardId, claims, ids, means.cells);
  const waveforms = buildWaveforms(b, means, boardId, ids);
  const guided = buildGuided(b, means, boardId, { claims, rules: HOUSE_RULES, rig: DEFAULT_RIG }, ids, means.cells);
  const tables = buildTables(b, means, boardId, { claims, rules: HOUSE_RULES, rig: DEFAULT_RIG }, ids);
  return {
    records: [
      board,
      ...claims,
      ...samples,
      ...(b.sweeps ?? []).flatMap((sweep, k, all) =>
        buildSweep(b, sweep, means, boardId, claims, ids, 45 + 25 * (all.length - 1 - k)),
      ),
      ...charges.records,
      ...waveforms.records,
      ...guided.records,
      ...tables,
    ],
    logs: [...charges.logs, ...waveforms.logs, ...guided.logs],
  };
}

type DemoSweep = NonNullable<DemoBoard["sweeps"]>[number];

/** The set-up that a demo sweep is planned with. */
function sweepSetup(b: DemoBoard, sweep: DemoSweep, claims: PlanContext["claims"]): RunSetup<SweepPlan> {
  const context: PlanContext = { claims, rules: HOUSE_RULES, rig: { ...DEFAULT_RIG, instruments: BENCH_ACCURACY } };
  const planned = loadSweep.plan(context);
  assert(planned.ok, `the demo sweep of ${b.title} can't be planned`);
  return {
    ...planned.value,
    conditions: {
      ...planned.value.conditions,
      ...(sweep.supplyLimit ? { supplyCurrentLimit: sweep.supplyLimit } : {}),
    },
    ...(sweep.starts && planned.value.plan ? { plan: { ...planned.value.plan, starts: true } } : {}),
  };
}

/** What a meter that shows too little or too much shows, in the steps of its display. */
function shownBy(meter: DemoSweep["meter"], cells: Point["cells"]): Point["cells"] {
  const read = meter && cells[meter.role]?.value;
  const step = meter && DEFAULT_RIG.instruments[meter.role]?.resolution;
  return meter && step && typeof read === "number"
    ? {
        ...cells,
        [meter.role]: { value: Number((Math.round((read * meter.shows) / step) * step).toFixed(6)), status: "ok" },
      }
    : cells;
}

function buildSweep(
  b: DemoBoard,
  sweep: DemoSweep,
  means: BoardMeans,
  boardId: BoardId,
  claims: PlanContext["claims"],
  samples: readonly SampleId[],
  minutesAgo: number,
): StoredRecord[] {
  const p = loadSweep;
  const setup = sweepSetup(b, sweep, claims);
  const bench = new VirtualBench(benchFor(SIMULATED_BOARDS[b.simulatedAs].model, sweep.seed));
  const result = rehearse(p, setup, bench, {
    dwell: DEMO_DWELL,
    id: () => means.newId(),
    ...(sweep.most ? { most: sweep.most } : {}),
  });
  const runId = means.newId() as RunId;
  const begun = means.at(minutesAgo);
  const stamp = { ...means.base, createdAt: begun, updatedAt: begun };
  const out: StoredRecord[] = [
    {
      kind: "run",
      ...stamp,
      id: runId,
      boardId,
      sampleId: samples[sweep.sample] as SampleId,
      procedure: p.id,
      title: sweep.title,
      startUtc: begun,
      zone: means.zone,
      state: sweep.most ? "open" : "finished",
      setup,
      pinned: { configuration: b.samples[sweep.sample]?.configuration ?? "", modifiedFunctions: [] },
      source: sweep.simulated ? { kind: "simulated", board: b.simulatedAs, seed: sweep.seed } : { kind: "typed" },
    },
  ];
  result.points.forEach((point, k) => {
    const takenAt = new Date(Date.parse(begun) + k * 25_000).toISOString();
    out.push({
      kind: "point",
      ...stamp,
      id: point.id as PointId,
      runId,
      sequence: k,
      state: "taken",
      settings: point.settings,
      cells: shownBy(sweep.meter, point.cells),
      takenAt,
      ...(point.dwell !== undefined ? { dwell: point.dwell } : {}),
    });
  });
  for (const [target, recovery] of result.recoveries)
    out.push({
      kind: "annotation",
      ...stamp,
      id: means.newId(),
      runId,
      what: "recovery",
      target,
      text: `came back: ${recovery}`,
      recovery,
    });
  const dropped = sweep.leftOut ? result.points[sweep.leftOut.at] : undefined;
  if (dropped && sweep.leftOut)
    out.push({
      kind: "annotation",
      ...stamp,
      id: means.newId(),
      runId,
      what: "left-out",
      target: dropped.id,
      text: sweep.leftOut.why,
    });
  return out;
}
