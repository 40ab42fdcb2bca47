import type { NotebookId, NotebookRecord } from "@/core/files/records";
import { HOUSE_RULES } from "@/core/measurement/house-rules";
import { SCHEMA_VERSION } from "@/core/files/records";
import {
  appendChunk,
  change,
  chunked,
  dropContent,
  dropTrace,
  keep,
  localZone,
  meta,
  newId,
  now,
  putContent,
  storageError,
  whileLogComes,
  workBegins,
} from "@/storage";

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
  await change(
    `new notebook “${title}”`,
    [
      notebook,
      { kind: "rules", id: newId(), ...base, rules: HOUSE_RULES },
      { kind: "rig", id: newId(), ...base, ...FIRST_RIG },
    ],
    { journal: false },
  );
  return notebook;
}

/** Adds a fresh demo notebook beside whatever is there. */
export async function loadDemo(): Promise<NotebookRecord> {
  const [answer, { unpackDemo }, { traceToCsv }] = await Promise.all([
    fetch("/demo.json"),
    import("@/core/demo/package"),
    import("@/core/files/export-trace"),
  ]);
  if (!answer.ok) throw new Error(`The demo could not be loaded (${answer.status}). Build the application again.`);
  const { records, logs, derived } = unpackDemo(await answer.text(), { newId, now: now(), zone: localZone() });
  const files = new Map(
    records.flatMap((r) =>
      r.kind === "run" && r.source.kind === "file" ? [[r.id as string, r.source.fileId] as const] : [],
    ),
  );
  await whileLogComes(async () => {
    try {
      await lay();
    } catch (e) {
      // Nothing of a demo that doesn't fit stays behind.
      await Promise.all([...logs.map(({ runId }) => dropTrace(runId)), ...[...files.values()].map(dropContent)]).catch(
        () => undefined,
      );
      throw storageError(e);
    }
  });
  async function lay(): Promise<void> {
    // The files that its logs came in, written as their loggers wrote them.
    await Promise.all(
      logs.flatMap(({ runId, columns }) =>
        files.has(runId) ? [putContent(files.get(runId) as string, new Blob([traceToCsv(columns)]))] : [],
      ),
    );
    await Promise.all(logs.flatMap(({ runId, columns }) => [...chunked(runId, columns)].map(appendChunk)));
    await change("load the demo", records, { journal: false, checkedBefore: true });
    // Worked out from these records when the application was built.
    keep(derived, await workBegins());
  }
  return records.find((r): r is NotebookRecord => r.kind === "notebook") as NotebookRecord;
}

export const archiveKey = (notebookId: string): string => `archived:${notebookId}`;

/** The date of the last archive in unambiguous form, or null. */
export async function lastArchive(notebookId: string): Promise<string | null> {
  const at = await meta<string>(archiveKey(notebookId));
  return at ? (await import("date-fns")).format(new Date(at), "d MMM yyyy HH:mm") : null;
}
