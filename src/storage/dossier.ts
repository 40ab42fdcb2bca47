import type { AnnotationRecord, BoardRecord, ClaimRecord, PointRecord, RunRecord, SampleRecord } from "@/core/files/records";
import { HOUSE_RULES, procedure, type Analysis, type Corrections, type HouseRules, type Point, type Readings } from "@/core/procedures";
import { judgeClaim, type ClaimVerdict, type EvidenceSample } from "@/core/verdicts";
import { database } from "./database";
import { ofBoard, ofKind, ofRun, record } from "./queries";

/** Raised when judging itself changes, so that cached verdicts are worked out again. */
const JUDGING_VERSION = 1;

/** A run with its readings and the layers over them. */
export interface RunDossier {
  readonly run: RunRecord;
  readonly points: readonly Point[];
  /** The stored points of a run that was typed or simulated, drafts and withdrawn ones apart. */
  readonly draft: PointRecord | null;
  readonly withdrawn: readonly PointRecord[];
  readonly annotations: readonly AnnotationRecord[];
  readonly corrections: Corrections;
}

export const toPoint = (p: PointRecord): Point => ({
  id: p.id,
  sequence: p.sequence,
  settings: p.settings,
  cells: p.cells,
  ...(p.dwell !== undefined ? { dwell: p.dwell } : {}),
});

export function correctionsOf(annotations: readonly AnnotationRecord[]): Corrections {
  return {
    leftOut: new Map(annotations.filter((a) => a.what === "left-out").map((a) => [a.target, a.text])),
    recoveries: new Map(annotations.flatMap((a) => (a.what === "recovery" && a.recovery ? [[a.target, a.recovery] as const] : []))),
    closed: new Set(annotations.filter((a) => a.what === "closed").map((a) => a.target)),
  };
}

/** Reads a run whole. The readings of an imported run come from its file through its mapping, each time anew. */
export async function runDossier(runId: string): Promise<RunDossier | null> {
  const run = await record("run", runId);
  if (!run) return null;
  const { points, annotations } = await ofRun(runId);
  const taken = points.filter((p) => p.state === "taken");
  return {
    run,
    points: run.source.kind === "file" ? await filePoints(run.source) : taken.map(toPoint),
    draft: points.find((p) => p.state === "draft") ?? null,
    withdrawn: points.filter((p) => p.state === "withdrawn"),
    annotations,
    corrections: correctionsOf(annotations),
  };
}

async function filePoints(source: Extract<RunRecord["source"], { kind: "file" }>): Promise<readonly Point[]> {
  const file = await record("file", source.fileId);
  if (!file) return [];
  const { pointsFromFile } = await import("@/core/files/import-points");
  const r = pointsFromFile(file.text, source.dialect, source.mapping, file.id);
  return r.ok ? r.value.points : [];
}

export function analyseRun(d: RunDossier): Analysis {
  const p = procedure(d.run.procedure);
  if (!p) return { findings: [], notes: [{ code: "unknown-procedure", message: `This version has no procedure “${d.run.procedure}”.` }], charts: [] };
  const readings: Readings = { kind: "points", points: d.points };
  return p.analyse(readings, d.run.setup, d.corrections);
}

export interface BoardDossier {
  readonly board: BoardRecord;
  readonly claims: readonly ClaimRecord[];
  readonly samples: readonly SampleRecord[];
  readonly runs: readonly RunRecord[];
  readonly evidence: readonly EvidenceSample[];
  readonly verdicts: ReadonlyMap<string, ClaimVerdict>;
  readonly rules: HouseRules;
}

export async function rulesOf(notebookId: string): Promise<HouseRules> {
  return (await ofKind(notebookId, "rules"))[0]?.rules ?? HOUSE_RULES;
}

/** Findings of a run from the cache where they are still good, else worked out and kept. */
async function findingsOf(run: RunRecord): Promise<Analysis["findings"]> {
  const stamp = `${procedure(run.procedure)?.version ?? 0}`;
  const db = await database();
  const key = `run:${run.id}`;
  const kept = await db.get("derived", key);
  if (kept?.stamp === stamp) return kept.value as Analysis["findings"];
  const d = await runDossier(run.id);
  const findings = d ? analyseRun(d).findings : [];
  await db.put("derived", { key, stamp, value: findings }).catch(() => undefined);
  return findings;
}

/** A board with its claims judged from every run that counts. */
export async function boardDossier(boardId: string): Promise<BoardDossier | null> {
  const board = await record("board", boardId);
  if (!board) return null;
  const [claims, samples, runs, rules] = await Promise.all([ofBoard(boardId, "claim"), ofBoard(boardId, "sample"), ofBoard(boardId, "run"), rulesOf(board.notebookId)]);
  const evidence: EvidenceSample[] = [];
  for (const s of samples) {
    const own = runs.filter((r) => r.sampleId === s.id && r.state !== "prepared");
    evidence.push({
      id: s.id,
      name: s.name,
      runs: await Promise.all(
        own.map(async (r) => ({ id: r.id, title: r.title, startUtc: r.startUtc, finished: r.state === "finished", setAside: r.setAside ?? null, modifiedFunctions: r.pinned.modifiedFunctions, findings: await findingsOf(r) })),
      ),
    });
  }
  return { board, claims, samples, runs, evidence, rules, verdicts: new Map(claims.map((c) => [c.id, judgeClaim(c, evidence, rules)])) };
}

/** What a list of boards shows of one: a small summary, kept until something under it changes. */
export interface BoardSummary {
  readonly verdicts: Readonly<Record<string, number>>;
  readonly claims: number;
  readonly samples: number;
  readonly runs: readonly { readonly id: string; readonly title: string; readonly state: RunRecord["state"]; readonly procedure: string }[];
}

export async function boardSummary(board: BoardRecord): Promise<BoardSummary> {
  const rules = await rulesOf(board.notebookId);
  const stamp = `${JUDGING_VERSION}|${JSON.stringify(rules)}`;
  const db = await database();
  const key = `board:${board.id}`;
  const kept = await db.get("derived", key);
  if (kept?.stamp === stamp) return kept.value as BoardSummary;
  const d = await boardDossier(board.id);
  const verdicts: Record<string, number> = {};
  for (const v of d?.verdicts.values() ?? []) verdicts[v.word] = (verdicts[v.word] ?? 0) + 1;
  const summary: BoardSummary = {
    verdicts,
    claims: d?.claims.length ?? 0,
    samples: d?.samples.length ?? 0,
    runs: (d?.runs ?? []).map((r) => ({ id: r.id, title: r.title, state: r.state, procedure: r.procedure })),
  };
  await db.put("derived", { key, stamp, value: summary }).catch(() => undefined);
  return summary;
}

/** Throws every derived record away; the next look works them out again. */
export async function forgetAllDerived(): Promise<void> {
  await (await database()).clear("derived");
}
