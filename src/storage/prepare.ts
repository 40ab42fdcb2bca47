import type { RunId, RunRecord, SampleRecord } from "@/core/files/records";
import type { BenchProcedure, RunSetup } from "@/core/procedures";
import type { BoardDossier } from "./board-dossier";
import { newId, now } from "./door";
import { rigOf, withMeters } from "./rigs";
import { rulesOf } from "./board-dossier";

/** A run of a sample as claims, rig and house rules suggest it; `patch` changes its set-up where somebody knows better. Throws the reason where it can't be planned. */
export async function preparedRun(procedure: BenchProcedure, dossier: Pick<BoardDossier, "board" | "claims">, sample: SampleRecord, patch: (setup: RunSetup, supplyMaximum: number) => RunSetup = (s) => s): Promise<RunRecord> {
  const { board, claims } = dossier;
  const [rig, rules] = await Promise.all([rigOf(board.notebookId), rulesOf(board.notebookId)]);
  if (!rig) throw new Error("internal: the notebook has no rig");
  const configuration = { ...(sample.output ? { output: sample.output } : {}), ...(sample.configuration ? { words: sample.configuration } : {}) };
  const planned = procedure.plan({ claims, functions: board.functions, rules, rig: { ...rig, drawer: [] }, configuration });
  if (!planned.ok) throw new Error(planned.error);
  const at = now();
  const today = at.slice(0, 10);
  return {
    kind: "run",
    id: newId() as RunId,
    notebookId: board.notebookId,
    createdAt: at,
    updatedAt: at,
    boardId: board.id,
    sampleId: sample.id,
    procedure: procedure.id,
    title: `${procedure.title}, sample ${sample.name}, ${today}`,
    startUtc: at,
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC",
    state: "prepared",
    setup: { ...withMeters(patch(planned.value, rig.supplyCurrentLimit), rig), ...(rig.offsets && !procedure.measures.includes("meter.offset") ? { offsets: rig.offsets } : {}) },
    pinned: {
      configuration: sample.configuration,
      ...(sample.output ? { output: sample.output } : {}),
      modifiedFunctions: [...new Set(sample.modifications.filter((m) => m.date <= today).flatMap((m) => m.functions))],
    },
    source: { kind: "typed" },
  };
}
