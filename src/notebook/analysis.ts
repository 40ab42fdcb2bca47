import { analyseReadings, procedure } from "@/core/procedures";
import type { Analysis, Readings } from "@/core/measurement";
import { readingsOf } from "@/core/procedures/catalogue";
import type { RunDossier } from "./compute";

const unknown = (id: string): Analysis => ({
  findings: [],
  notes: [{ code: "unknown-procedure", message: `This version has no procedure “${id}”.` }],
  charts: [],
});

function found(d: Pick<RunDossier, "run" | "corrections">, readings: Readings): Analysis {
  const p = procedure(d.run.procedure);
  return p ? analyseReadings(p, readings, d.run.setup, d.corrections) : unknown(d.run.procedure);
}

/** Analyses a run of points or answers here and now, charts and all. Apart from the index, so that a page without a run loads no procedure. */
export const analysePoints = (
  d: Pick<RunDossier, "run" | "points" | "corrections"> & { readonly answers?: RunDossier["answers"] },
): Analysis =>
  found(
    d,
    readingsOf(d.run.procedure) === "answers"
      ? { kind: "answers", answers: d.answers ?? [] }
      : { kind: "points", points: d.points },
  );
