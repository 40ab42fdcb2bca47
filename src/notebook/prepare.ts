import { localDay, localZone } from "@/storage";
import type { RunId, RunRecord, SampleRecord } from "@/core/files/records";
import { ofSample, type RunSetup } from "@/core/measurement";
import type { BenchProcedure } from "@/core/procedures";
import type { EvidenceSample } from "@/core/verdicts";
import type { BoardDossier } from "./board-dossier";
import { highest } from "@/core/quantities";
import { change, edit, newId, now } from "@/storage/door";
import { freeName, namingIn, runTitlesOf } from "./naming";
import { ofBoard, ofKind, record } from "@/storage/queries";
import { rigOf, withMeters } from "./rigs";
import { rulesOf } from "./rules";

/** A run of a sample as claims, rig and house rules suggest it; `patch` changes its set-up where somebody knows better. Throws the reason where it can't be planned. */
export async function preparedRun(
  procedure: BenchProcedure,
  dossier: Pick<BoardDossier, "board" | "claims"> & Partial<Pick<BoardDossier, "evidence">>,
  sample: SampleRecord,
  patch: (setup: RunSetup, supplyMaximum: number) => RunSetup = (s) => s,
): Promise<RunRecord> {
  const { board, claims } = dossier;
  const [rig, rules] = await Promise.all([rigOf(board.notebookId), rulesOf(board.notebookId)]);
  if (!rig) throw new Error("internal: the notebook has no rig");
  const configuration = {
    ...(sample.output ? { output: sample.output } : {}),
    ...(sample.configuration ? { words: sample.configuration } : {}),
  };
  const needs = await ofKind(board.notebookId, "need");
  const wanted = needs.flatMap((n) =>
    n.requirements.flatMap((r) => (r.kind === "quantity" ? [r.reading.characteristic] : [])),
  );
  const planned = procedure.plan({
    claims,
    wanted,
    functions: board.functions,
    rules,
    rig: { ...rig, drawer: [] },
    configuration,
    measured: measuredOn(dossier.evidence?.find((s) => s.id === sample.id)),
  });
  if (!planned.ok) throw new Error(planned.error);
  const at = now();
  // What the supplies of the bench give at most; the rig holds the limit that is set.
  const supplies = (await ofKind(board.notebookId, "instrument")).flatMap((i) =>
    i.device === "supply" && i.limit ? [i.limit] : [],
  );
  const supplyMaximum = highest([rig.supplyCurrentLimit, ...supplies]);
  return {
    kind: "run",
    id: newId() as RunId,
    notebookId: board.notebookId,
    createdAt: at,
    updatedAt: at,
    boardId: board.id,
    sampleId: sample.id,
    procedure: procedure.id,
    title: `${procedure.title}, sample ${sample.name}, ${localDay(at)}`,
    startUtc: at,
    zone: localZone(),
    state: "prepared",
    setup: {
      ...withMeters(patch(ofSample(planned.value, sample), supplyMaximum), rig),
      ...(rig.offsets && !procedure.measures.includes("meter.offset") ? { offsets: rig.offsets } : {}),
    },
    pinned: pinnedOn(sample, localDay(at)),
    source: { kind: "typed" },
  };
}

/** What the fair runs of a sample with real readings found, the newest of each quantity; bounds and words tell a plan nothing, but those of a range over several runs do. */
function measuredOn(sample: EvidenceSample | undefined): Readonly<Record<string, number>> {
  const runs = (sample?.runs ?? [])
    .filter((r) => r.finished && r.setAside === null && !r.simulated)
    .sort((a, b) => a.startUtc.localeCompare(b.startUtc));
  return Object.fromEntries(
    runs.flatMap((r) =>
      r.findings.flatMap((f) =>
        typeof f.value === "number" && (!f.bound || f.over) && f.unfair.length === 0
          ? [[f.characteristic, f.value]]
          : [],
      ),
    ),
  );
}

/**
 * Keeps a run that is being prepared: one draft a board and procedure, which a new one takes the place of. A draft is no run and counts
 * nowhere until it is started. Gives the id it is kept under.
 */
export const keepDraft = (draft: RunRecord, anew: boolean): Promise<RunId> =>
  namingIn(draft.notebookId, () => keepNamed(draft, anew));

async function keepNamed(wanted: RunRecord, anew: boolean): Promise<RunId> {
  const there = (await ofBoard(wanted.boardId, "run")).find(
    (r) => r.procedure === wanted.procedure && r.state === "prepared",
  );
  const draft: RunRecord = { ...wanted, title: freeName(wanted.title, await runTitlesOf(wanted.boardId, there?.id)) };
  if (!there) await change(`prepare ${draft.title}`, [draft], { journal: false });
  else if (anew || there.sampleId !== draft.sampleId) {
    const { cellId: _cell, ...rest } = there;
    void _cell;
    await change(
      `prepare ${draft.title}`,
      [edit(there, { ...rest, ...draft, id: there.id, createdAt: there.createdAt })],
      { journal: false, insist: true },
    );
  }
  return there?.id ?? draft.id;
}

/** A sample as it was on a day (YYYY-MM-DD, where the run was taken): its configuration, and the functions that had been modified by then. */
export function pinnedOn(
  sample: Pick<SampleRecord, "configuration" | "output" | "programme" | "modifications">,
  day: string,
): RunRecord["pinned"] {
  return {
    configuration: sample.configuration,
    ...(sample.output ? { output: sample.output } : {}),
    ...(sample.programme ? { programme: sample.programme } : {}),
    modifiedFunctions: [...new Set(sample.modifications.filter((m) => m.date <= day).flatMap((m) => m.functions))],
  };
}

/** What a prepared run becomes as it starts: dated now, and its sample pinned as it is now, not as it was when the run was prepared. */
export async function startedNow(run: RunRecord): Promise<RunRecord> {
  const at = now();
  const sample = await record("sample", run.sampleId);
  const begun: RunRecord = { ...run, startUtc: at, updatedAt: at, state: "open" };
  if (!sample) return begun;
  const pinned = pinnedOn(sample, localDay(at));
  if (pinned.configuration === run.pinned.configuration && pinned.output === run.pinned.output)
    return { ...begun, pinned };
  // What was set differently meanwhile belongs to the conditions that its results stand at.
  const { configuration: _words, output: _volts, ...conditions } = run.setup.conditions;
  void [_words, _volts];
  return {
    ...begun,
    pinned,
    setup: {
      ...run.setup,
      conditions: {
        ...conditions,
        ...(pinned.configuration ? { configuration: pinned.configuration } : {}),
        ...(pinned.output ? { output: pinned.output } : {}),
      },
    },
  };
}
