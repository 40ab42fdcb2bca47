import type { BoardId, RunId, RunRecord, SampleId, StoredRecord } from "../files/records";
import { BENCHES } from "../bench";
import { atBench, ofTrace, procedure, type PlanContext } from "../procedures";
import type { RunSetup } from "../measurement";
import { assert } from "../quantities";
import { logModule } from "../rehearsal/live-module";
import { liveOptions } from "../rehearsal/simulated-bench";
import type { DemoBoard } from "./boards";
import { cellOf, type DemoLog } from "./charges";
import { loggedFile } from "./imported";

/** A board's guided runs, each on the bench of its procedure, in their order. */
const guidedOf = (board: string) =>
  BENCHES.flatMap((bench) => (bench.demo ?? []).map((run) => ({ ...run, procedure: bench.procedure })))
    .filter((run) => run.board === board)
    .sort((a, b) => a.place - b.place);

/** The hide knows its meters: what a plan only assumes of them is stated there. */
const stated = (instruments: RunSetup["instruments"]): RunSetup["instruments"] =>
  Object.fromEntries(
    Object.entries(instruments).map(([role, a]) => [
      role,
      a && { gain: a.gain, counts: a.counts, resolution: a.resolution },
    ]),
  );

/** A board's guided logs, made on the simulated bench as it is made, with the marks of their guides. */
export function buildGuided(
  b: DemoBoard,
  means: {
    readonly newId: () => string;
    readonly zone: string;
    readonly at: (minutesAgo: number) => string;
    readonly base: Pick<RunRecord, "notebookId">;
  },
  boardId: BoardId,
  context: PlanContext,
  samples: readonly SampleId[],
  cells: ReadonlyMap<string, string>,
): { records: StoredRecord[]; logs: DemoLog[] } {
  const records: StoredRecord[] = [];
  const logs: DemoLog[] = [];
  guidedOf(b.title).forEach(({ procedure: id, ...log }, k) => {
    const p = ofTrace(atBench(procedure(id)));
    assert(p !== null, `the demo has a run of ${id}, which no guide drives`);
    const configuration = b.samples[log.sample]?.configuration ?? "";
    const planned = p.plan({ ...context, ...(configuration ? { configuration: { words: configuration } } : {}) });
    assert(planned.ok, `the demo's ${p.title} of ${b.title} can't be planned`);
    const first = planned.value.plan as Record<string, unknown>;
    const patch = log.plan ?? {};
    const setup: RunSetup = {
      ...planned.value,
      instruments: stated(planned.value.instruments),
      conditions: {
        ...planned.value.conditions,
        ambientTemperature: 21,
        ...(log.supplyLimit ? { supplyCurrentLimit: log.supplyLimit } : {}),
      },
      plan: { ...first, ...p.follows?.(first, patch), ...patch },
    };
    const { trace } = logModule(liveOptions(p, log.specimen, setup, log.seed));
    const runId = means.newId() as RunId;
    const begun = means.at(30 - 4 * k);
    const stamp = { notebookId: means.base.notebookId, createdAt: begun, updatedAt: begun };
    const logged = loggedFile(log.title, trace.columns, means.newId(), stamp);
    records.push(logged.file, {
      kind: "run",
      ...stamp,
      id: runId,
      boardId,
      sampleId: samples[log.sample] as SampleId,
      procedure: p.id,
      title: log.title,
      startUtc: begun,
      zone: means.zone,
      state: "finished",
      setup,
      pinned: { configuration, modifiedFunctions: [] },
      source: logged.source,
      ...cellOf(cells, log.cell),
    });
    for (const m of trace.events)
      records.push({
        kind: "annotation",
        ...stamp,
        id: means.newId(),
        runId,
        what: "mark",
        target: m.kind ?? "note",
        text: m.what,
        time: m.time,
      });
    logs.push({ runId, columns: logged.columns });
  });
  return { records, logs };
}
