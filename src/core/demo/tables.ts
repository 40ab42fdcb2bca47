import { checksum } from "../files/versions";
import { guessMapping } from "../files/mapping";
import type {
  AnswerRecord,
  BoardId,
  FileRecord,
  PointId,
  RunId,
  RunRecord,
  SampleId,
  StoredRecord,
} from "../files/records";
import { readTable } from "../files/table";
import type { PlanContext, Procedure, PointsProcedure } from "../procedures";
import type { RunSetup } from "../measurement";
import { behaviour } from "../procedures/behaviour";
import { chargeChannels } from "../procedures/charge-channels";
import { restCheck } from "../procedures/rest-check";
import { reversePolarity } from "../procedures/reverse-polarity";
import { assert } from "../quantities";
import { rehearse } from "../rehearsal";
import { rehearseChecklist } from "../rehearsal/checklist";
import {
  benchFor,
  chargeBench,
  ChargeSimulation,
  seeded,
  SIMULATED_BOARDS,
  SIMULATED_BUTTONS,
  SIMULATED_CELLS,
  SIMULATED_CHARGERS,
  VirtualBench,
} from "../simulator";
import type { DemoBoard } from "./boards";
import { restVolts } from "./drawer";

interface Means {
  readonly newId: () => string;
  readonly zone: string;
  readonly at: (minutesAgo: number) => string;
  readonly base: Pick<RunRecord, "notebookId">;
}
type Maker = (
  b: DemoBoard,
  means: Means,
  boardId: BoardId,
  context: PlanContext,
  samples: readonly SampleId[],
) => StoredRecord[];

const METERS = {
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.0015, counts: 5, resolution: 0.0001 },
} as const;

function runOf(
  p: Procedure,
  b: DemoBoard,
  means: Means,
  boardId: BoardId,
  sampleId: SampleId,
  sample: number,
  title: string,
  minutesAgo: number,
  setup: RunSetup,
  source: RunRecord["source"],
): RunRecord {
  const begun = means.at(minutesAgo);
  return {
    kind: "run",
    notebookId: means.base.notebookId,
    createdAt: begun,
    updatedAt: begun,
    id: means.newId() as RunId,
    boardId,
    sampleId,
    procedure: p.id,
    title,
    startUtc: begun,
    zone: means.zone,
    state: "finished",
    setup,
    pinned: { configuration: b.samples[sample]?.configuration ?? "", modifiedFunctions: [] },
    source,
  };
}

/** A table from a logger, with the run that reads it. */
function fromTable(
  p: Procedure,
  b: DemoBoard,
  means: Means,
  boardId: BoardId,
  sampleId: SampleId,
  sample: number,
  title: string,
  minutesAgo: number,
  name: string,
  text: string,
): StoredRecord[] {
  const table = readTable(text);
  assert(table.ok, `the demo's ${name} is no table`);
  const fileId = means.newId();
  const run = runOf(
    p,
    b,
    means,
    boardId,
    sampleId,
    sample,
    title,
    minutesAgo,
    { conditions: {}, instruments: METERS },
    { kind: "file", fileId, dialect: table.value.dialect, mapping: guessMapping(table.value), skipBadRows: false },
  );
  const file: FileRecord = {
    kind: "file",
    id: fileId,
    notebookId: run.notebookId,
    createdAt: run.createdAt,
    updatedAt: run.updatedAt,
    name,
    sha256: checksum(new TextEncoder().encode(text)),
    text,
  };
  return [file, run];
}

/** Done signals of several chargers on one cell, a row each, charge after charge. */
const channels: Maker = (b, means, boardId, _context, samples) => {
  const { channels: c } = b;
  if (!c) return [];
  const { charger, supply } = SIMULATED_CHARGERS[c.charger];
  const noise = seeded(31);
  const lines = ["Elapsed (s),Channel,Run,Cell voltage (V),Cell current (A)"];
  for (let repeat = 1; repeat <= c.repeats; repeat++) {
    // References wander a little between charges, as they do with the room.
    const wandering = {
      ...charger,
      channels: charger.channels.map((x) => ({ ...x, reference: x.reference + 3e-4 * noise.normal() })),
    };
    const simulation = new ChargeSimulation(chargeBench({ charger: wandering, supply, soc: 0.3 + 0.05 * repeat }));
    simulation.plug(true);
    let seen = 0;
    while (!simulation.stopped && simulation.time < 8 * 3600) {
      simulation.advance(2);
      const { cellVoltage, cellCurrent } = simulation.read();
      for (const l of simulation.landmarks.slice(seen))
        if (l.kind === "channel-done")
          lines.push(`${l.time.toFixed(0)},${l.channel},${repeat},${cellVoltage.toFixed(3)},${cellCurrent.toFixed(3)}`);
      seen = simulation.landmarks.length;
    }
  }
  return fromTable(
    chargeChannels,
    b,
    means,
    boardId,
    samples[c.sample] as SampleId,
    c.sample,
    c.title,
    35,
    "done-signals.csv",
    `${lines.join("\n")}\n`,
  );
};

/** Four cells read over ten days, one of which loses its charge inside. */
const rest: Maker = (b, means, boardId, _context, samples) => {
  const { rest: r } = b;
  if (!r) return [];
  const noise = seeded(32);
  const model = SIMULATED_CELLS["honest-cell"].model;
  const lines = ["Elapsed (h),Cell,Cell voltage (V)"];
  for (const hours of [0.1, 26, 74, 146, 242])
    [5e-5, 8e-5, 3.4e-3, 7e-5].forEach((leak, k) =>
      lines.push(
        `${hours},${k + 1},${(restVolts({ ...model, capacity: 1.2 }, 0.92 + 0.004 * k, leak, hours / 24) + 2e-4 * noise.normal()).toFixed(3)}`,
      ),
    );
  return fromTable(
    restCheck,
    b,
    means,
    boardId,
    samples[r.sample] as SampleId,
    r.sample,
    r.title,
    50,
    "rest-volts.csv",
    `${lines.join("\n")}\n`,
  );
};

/** What each press, light and plug did on the simulated bench. */
const checklist: Maker = (b, means, boardId, context, samples) => {
  const { behaviour: c } = b;
  if (!c) return [];
  const planned = behaviour.plan({ ...context, functions: b.functions });
  assert(planned.ok, `the demo's checklist of ${b.title} can't be planned`);
  const run = runOf(
    behaviour as Procedure,
    b,
    means,
    boardId,
    samples[c.sample] as SampleId,
    c.sample,
    c.title,
    12,
    planned.value as RunSetup,
    { kind: "typed" },
  );
  const started = Date.parse(run.startUtc);
  const answers = rehearseChecklist(SIMULATED_BUTTONS[c.buttons].model, behaviour.items?.(planned.value) ?? [], (k) =>
    new Date(started + 9000 * k).toISOString(),
  );
  return [
    run,
    ...answers.map((a): AnswerRecord => ({
      kind: "answer",
      id: means.newId(),
      notebookId: run.notebookId,
      createdAt: a.at,
      updatedAt: a.at,
      runId: run.id,
      item: a.item,
      word: a.word,
      takenAt: a.at,
      ...(a.volts !== undefined ? { volts: a.volts } : {}),
    })),
  ];
};

/** A sample reversed through a resistor, and what it does afterwards. */
const reversal: Maker = (b, means, boardId, context, samples) => {
  const { reversal: c } = b;
  if (!c) return [];
  const planned = reversePolarity.plan(context);
  assert(planned.ok, `the demo's reversal of ${b.title} can't be planned`);
  const setup = planned.value as RunSetup;
  const run = runOf(
    reversePolarity as Procedure,
    b,
    means,
    boardId,
    samples[c.sample] as SampleId,
    c.sample,
    c.title,
    8,
    setup,
    { kind: "typed" },
  );
  const { points } = rehearse(
    reversePolarity as PointsProcedure,
    setup,
    new VirtualBench(benchFor(SIMULATED_BOARDS[b.simulatedAs].model, c.seed)),
    { dwell: 6, id: () => means.newId() },
  );
  return [
    run,
    ...points.map((x, k): StoredRecord => ({
      kind: "point",
      notebookId: run.notebookId,
      createdAt: run.createdAt,
      updatedAt: run.updatedAt,
      id: x.id as PointId,
      runId: run.id,
      sequence: k,
      state: "taken",
      settings: x.settings,
      cells: x.cells,
      dwell: 6,
      takenAt: new Date(Date.parse(run.startUtc) + 40_000 * k).toISOString(),
    })),
  ];
};

/** A board's runs that are no logs and no sweeps. */
export const buildTables: Maker = (...of) => [channels, rest, checklist, reversal].flatMap((make) => make(...of));
