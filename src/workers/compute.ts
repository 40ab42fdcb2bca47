import type { BoardWork, Compute } from "@/notebook/compute";
import { readingsIn, type RunDossier } from "@/notebook/run-dossier";
import { keep } from "@/storage/derived";
import { computing, lessBusy, readingLogs } from "./client";

const logAsk = ({ run, log, marks, corrections }: RunDossier) => ({
  run: { id: run.id, procedure: run.procedure, setup: run.setup },
  rows: log?.rows ?? 0,
  marks,
  corrections,
});

/** Everything worked out in the page's workers, so that a list of boards loads no procedure. */
export const compute: Compute = {
  results: async (d) =>
    d.log
      ? lessBusy().ask("log-results", logAsk(d))
      : lessBusy().ask("results", {
          run: { procedure: d.run.procedure, setup: d.run.setup },
          readings: await readingsIn(d),
          corrections: d.corrections,
        }),
  stored: ({ id }) => lessBusy().ask("stored-results", { runId: id }),
  log: (d) => readingLogs().ask("log-analysis", logAsk(d)),
  ofBoard: async <K extends keyof BoardWork>(what: K, boardId: string, ask: BoardWork[K]["ask"]) =>
    (await lessBusy().ask("of-board", { what, boardId, ask })) as BoardWork[K]["give"],
  keep,
  verdicts: (claims, evidence, rules) => computing().ask("verdicts", { claims, evidence, rules }),
  storeLog: ({ id, source }) => readingLogs().ask("log-store", { run: { id, source } }),
};
