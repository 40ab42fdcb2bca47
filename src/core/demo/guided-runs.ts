import type { BoardId, RunId, RunRecord, SampleId, StoredRecord } from "../files/records";
import type { BenchProcedure, PlanContext, RunSetup } from "../procedures";
import { discharge } from "../procedures/discharge";
import { heatSoak } from "../procedures/heat-soak";
import { lightLoad } from "../procedures/light-load";
import { meterCheck } from "../procedures/meter-check";
import { overload } from "../procedures/overload";
import { packCharge } from "../procedures/pack-charge";
import { powerPath } from "../procedures/power-path";
import { solarInput } from "../procedures/solar-input";
import { standby } from "../procedures/standby";
import { thresholdRamp } from "../procedures/threshold-ramp";
import { assert } from "../quantities";
import { logModule } from "../rehearsal/live-module";
import { liveOptions } from "../rehearsal/simulated-bench";
import type { DemoBoard } from "./boards";
import { cellOf, type DemoLog } from "./charges";
import { loggedFile } from "./imported";

const GUIDED = {
  "threshold-ramp": thresholdRamp,
  standby,
  "light-load": lightLoad,
  overload,
  "heat-soak": heatSoak,
  "power-path": powerPath,
  "solar-input": solarInput,
  "meter-check": meterCheck,
  discharge,
  "pack-charge": packCharge,
} as unknown as Readonly<Record<string, BenchProcedure>>;

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
  (b.guided ?? []).forEach((log, k) => {
    const p = GUIDED[log.procedure] as BenchProcedure;
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
    const { trace } = logModule(liveOptions(p, log.module, setup, log.seed));
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
