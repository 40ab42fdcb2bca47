import { localZone } from "@/storage/calendar";
import type { Compute } from "./compute";
import { fileStem } from "@/core/files/file-stem";
import type { RunRecord } from "@/core/files/records";
import { procedure } from "@/core/procedures";
import { findingsSheet, sheetMarkdown, type FindingsSheet, type SheetRun } from "@/core/sheet";
import { boardDossier, type BoardDossier } from "./board-dossier";
import { now } from "@/storage/door";

export interface BoardSheet {
  readonly dossier: BoardDossier;
  readonly sheet: FindingsSheet;
  readonly finished: readonly RunRecord[];
}

/** A board's findings as a document, worked out from what is stored now; null where there is no such board. Apart from the index: it loads every procedure. */
export async function boardSheet(compute: Compute, id: string): Promise<BoardSheet | null> {
  const dossier = await boardDossier(compute, id);
  if (!dossier) return null;
  const findings = new Map(dossier.evidence.flatMap((s) => s.runs).map((r) => [r.id as string, r.findings]));
  const finished = dossier.runs.filter((r) => r.state === "finished");
  const runs = finished.map((r): SheetRun => {
    const p = procedure(r.procedure);
    return {
      id: r.id,
      title: r.title,
      procedure: r.procedure,
      procedureTitle: p?.title ?? r.procedure,
      version: p?.version ?? 0,
      startUtc: r.startUtc,
      zone: r.zone,
      source: r.source.kind,
      setAside: r.setAside ?? null,
      modifiedFunctions: r.pinned.modifiedFunctions,
      setup: r.setup,
      sampleName: dossier.samples.find((s) => s.id === r.sampleId)?.name ?? "deleted",
      findings: findings.get(r.id) ?? [],
    };
  });
  const { board } = dossier;
  const sheet = findingsSheet({
    title: board.title,
    note: board.note,
    functions: board.functions,
    claims: dossier.claims,
    verdicts: dossier.verdicts,
    runs,
    touchLimit: dossier.rules.touchLimit,
    madeAt: now(),
    samples: dossier.samples.map((s) => ({
      name: s.name,
      configuration: s.configuration,
      note: s.note,
      modifications: s.modifications.map((m) => `${m.date} ${m.text}`),
    })),
  });
  return { dossier, sheet, finished };
}

/** The sheet of every board as Markdown, file name → text, for an archive. */
export async function sheetsOf(
  compute: Compute,
  boards: readonly { readonly id: string; readonly title: string }[],
): Promise<ReadonlyMap<string, string>> {
  const out = new Map<string, string>();
  for (const b of boards) {
    const paper = await boardSheet(compute, b.id);
    if (!paper?.finished.length) continue;
    const name = fileStem(b.title) || "board";
    out.set(out.has(name) ? `${name}-${b.id.slice(0, 8)}` : name, sheetMarkdown(paper.sheet, localZone()));
  }
  return out;
}
