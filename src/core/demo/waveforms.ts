import type { BoardId, RunId, RunRecord, SampleId, StoredRecord } from "../files/records";
import { ripple } from "../procedures/ripple";
import { waveform } from "../simulator/waveform";
import type { DemoBoard } from "./boards";
import type { DemoLog } from "./charges";
import { loggedFile } from "./imported";

/** Samples a second, and samples, of the hide's oscilloscope; what it and its probe follow, Hz, and what its data sheet says. */
const [RATE, SAMPLES, BANDWIDTH] = [50e6, 1000, 20e6];
const SCOPE = { gain: 0.03, counts: 1, resolution: 4e-4 };
const NOISE = { noise: 4e-4, step: 4e-4 };

/** A board's waveforms of its output, as files of an oscilloscope. */
export function buildWaveforms(
  b: DemoBoard,
  means: {
    readonly newId: () => string;
    readonly zone: string;
    readonly at: (minutesAgo: number) => string;
    readonly base: Pick<RunRecord, "notebookId">;
  },
  boardId: BoardId,
  samples: readonly SampleId[],
): { records: StoredRecord[]; logs: DemoLog[] } {
  const records: StoredRecord[] = [];
  const logs: DemoLog[] = [];
  (b.waveforms ?? []).forEach((w, k) => {
    const configuration = b.samples[w.sample]?.configuration ?? "";
    const runId = means.newId() as RunId;
    const begun = means.at(22 - k);
    const stamp = { notebookId: means.base.notebookId, createdAt: begun, updatedAt: begun };
    const { file, source, columns } = loggedFile(
      w.title,
      { ...waveform({ ...w, ...NOISE }, RATE, SAMPLES, w.seed) },
      means.newId(),
      stamp,
    );
    records.push(file, {
      kind: "run",
      ...stamp,
      id: runId,
      boardId,
      sampleId: samples[w.sample] as SampleId,
      procedure: ripple.id,
      title: w.title,
      startUtc: begun,
      zone: means.zone,
      state: "finished",
      setup: {
        conditions: {
          bandwidth: BANDWIDTH,
          battery: w.battery,
          load: w.load,
          ...(configuration ? { configuration } : {}),
        },
        instruments: { outputVoltage: SCOPE },
      },
      pinned: { configuration, modifiedFunctions: [] },
      source,
    });
    logs.push({ runId, columns });
  });
  return { records, logs };
}
