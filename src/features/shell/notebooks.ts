import type { NotebookId, NotebookRecord, StoredRecord } from "@/core/files/records";
import { HOUSE_RULES } from "@/core/procedures/house-rules";
import { readingsOf } from "@/core/procedures/versions";
import { SCHEMA_VERSION } from "@/core/files/records";
import { appendChunk, change, chunked, everything, keep, meta, newId, now, present, putContent, setMeta, whileLogComes, workBegins } from "@/storage";
import { computing } from "@/workers/client";
import { download, fileName } from "@/session/download";

export const zone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** The bench a new notebook starts with. What its meters hold nobody has said yet. */
const FIRST_RIG = {
  title: "My bench",
  instruments: {},
  supplyCurrentLimit: 3,
  inputLeadResistance: 0,
  outputLeadResistance: 0,
  drawer: [],
  useDrawer: false,
} as const;

export async function createNotebook(title: string): Promise<NotebookRecord> {
  const id = newId() as NotebookId;
  const at = now();
  const base = { notebookId: id, createdAt: at, updatedAt: at };
  const notebook: NotebookRecord = { kind: "notebook", id, ...base, title, schema: SCHEMA_VERSION };
  // A notebook can't be undone away from under what is later put into it.
  await change(`new notebook “${title}”`, [notebook, { kind: "rules", id: newId(), ...base, rules: HOUSE_RULES }, { kind: "rig", id: newId(), ...base, ...FIRST_RIG }], { journal: false });
  return notebook;
}

/** Adds a fresh demo notebook beside whatever is there. */
export async function loadDemo(): Promise<NotebookRecord> {
  const [answer, { unpackDemo }, { traceToCsv }] = await Promise.all([fetch("/demo.json"), import("@/core/demo/package"), import("@/core/files/export-trace")]);
  if (!answer.ok) throw new Error(`The demo could not be fetched (${answer.status}). It is made when the application is built: build it anew.`);
  const { records, logs, derived } = unpackDemo(await answer.text(), { newId, now: now(), zone: zone() });
  const files = new Map(records.flatMap((r) => (r.kind === "run" && r.source.kind === "file" ? [[r.id as string, r.source.fileId] as const] : [])));
  await whileLogComes(async () => {
    // The files that its logs came in, written as their loggers wrote them.
    await Promise.all(logs.flatMap(({ runId, columns }) => (files.has(runId) ? [putContent(files.get(runId) as string, new Blob([traceToCsv(columns)]))] : [])));
    await Promise.all(logs.flatMap(({ runId, columns }) => [...chunked(runId, columns)].map(appendChunk)));
    await change("load the demo", records, { journal: false });
    // Worked out from these records when the application was built.
    keep(derived, workBegins());
  });
  return records.find((r): r is NotebookRecord => r.kind === "notebook") as NotebookRecord;
}

const archiveKey = (notebookId: string): string => `archived:${notebookId}`;

/** The date of the last archive in unambiguous form, or null. */
export async function lastArchive(notebookId: string): Promise<string | null> {
  const at = await meta<string>(archiveKey(notebookId));
  return at ? (await import("date-fns")).format(new Date(at), "d MMM yyyy HH:mm") : null;
}

export async function exportArchive(notebook: NotebookRecord): Promise<void> {
  const at = now();
  const records = await everything(notebook.id);
  const logs = records.flatMap((r) => (r.kind === "run" && !r.deletedAt && r.source.kind !== "file" && readingsOf(r.procedure) === "trace" ? [r.id] : []));
  const { sheetsOf } = await import("@/storage/sheet");
  const sheets = await sheetsOf(records.flatMap((r) => (r.kind === "board" && !r.deletedAt ? [r] : [])), (run) => `${location.origin}/run/${run}/review`);
  const bytes = await computing().ask("archive-write", { records, at, logs, sheets });
  download(fileName(`${notebook.title} ${at.slice(0, 10)}`, "zip"), bytes as BlobPart, "application/zip");
  await setMeta(archiveKey(notebook.id), at);
}

export interface ImportReport {
  readonly title: string;
  readonly notebookId: string;
  readonly added: number;
  readonly same: number;
  readonly copies: number;
}

/** Merges an archive: all of it or, with the reason, nothing. */
export async function importArchive(file: File): Promise<ImportReport> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const archive = await computing().ask("archive-read", { bytes });
  if ("error" in archive) throw new Error(`${file.name}: ${archive.error}`);
  const there = await present(archive.records.map((r) => r.id));
  const merge = await computing().ask("merge", { present: there, incoming: archive.records });
  const written = new Set(merge.added.map((r) => r.id as string));
  await whileLogComes(async () => {
    for (const [runId, csv] of archive.logs) {
      const id = merge.names.get(runId) ?? runId;
      if (written.has(id) && !(await computing().ask("log-restore", { runId: id, csv }))) throw new Error(`${file.name}: the log of a run in it (logs/${runId}.csv) can't be read. Nothing was imported.`);
    }
    if (merge.added.length) await change(`import ${file.name}`, merge.added as StoredRecord[]);
  });
  return { title: archive.title, notebookId: archive.notebookId, added: merge.added.length, same: merge.same, copies: merge.copies };
}
