import { compute } from "@/workers/compute";
import type { NotebookRecord, RulesRecord, StoredRecord } from "@/core/files/records";
import { ASKED_FROM } from "@/core/files/archive/limits";
import { after, conflictRecord, withOwners, type MergePlan } from "@/core/files/archive/merge";
import { nameOf } from "@/core/files/differences";
import { completeRules } from "@/core/measurement";
import { flipsIf, type Flip } from "@/notebook";
import {
  announceNotebook,
  boards,
  change,
  dropContent,
  dropTrace,
  edit,
  forgetRuns,
  now,
  ofKind,
  present,
  setMeta,
  sweepWhenQuiet,
  whileLogComes,
  type Act,
  type Item,
  localDay,
} from "@/storage";
import { rememberKept } from "@/workers/likely";
import { lessBusy, openWorker, type WorkerClient } from "@/workers/client";
import { download, fileName } from "@/browser/download";
import { archiveKey } from "./notebooks";
import { writtenArchive } from "./written-archive";

/** Boards from which an archive carries no current findings sheets: working them all out would take minutes. */
const SHEETS_UP_TO = 200;

/** Writes a notebook's archive to the download list. Gives what of it was left out, in words, or null. */
export async function exportArchive(notebook: NotebookRecord): Promise<string | null> {
  const at = now();
  const all = await boards(notebook.id);
  const withSheets = all.length <= SHEETS_UP_TO;
  const sheets = withSheets
    ? lessBusy().ask("archive-sheets", { notebookId: notebook.id }, undefined, () => undefined)
    : Promise.resolve(new Map<string, string>());
  const archive = await inBackground((one) =>
    inBackground((other) => writtenArchive(notebook.id, at, sheets, one, other)),
  );
  download(fileName(`${notebook.title} ${localDay(at)}`, "zip"), archive, "application/zip");
  await setMeta(archiveKey(notebook.id), at);
  return !withSheets
    ? `The archive holds no current findings sheets: they are written for up to ${SHEETS_UP_TO} boards. Issued sheets are included.`
    : null;
}

/** Has something long done by a worker of its own. */
async function inBackground<T>(act: (w: WorkerClient) => Promise<T>): Promise<T> {
  const worker = openWorker();
  try {
    return await act(worker);
  } finally {
    worker.close();
  }
}

/** What only the tester can say while an archive comes in. */
export interface ImportQuestions {
  /** The archive unpacks to so many bytes: go on? */
  large(bytes: number): Promise<boolean>;
  /** The archive's house rules differ: which are to be used? Null gives up the import. */
  rules(ours: RulesRecord, theirs: RulesRecord, flips: readonly Flip[]): Promise<"ours" | "theirs" | null>;
}

export interface ImportReport extends Pick<MergePlan, "added" | "updated" | "deleted" | "same" | "older" | "leftOut"> {
  readonly file: File;
  readonly title: string;
  readonly notebookId: string;
  readonly conflicts: number;
  /** Runs that continued on both sides, and came in as runs of their own. */
  readonly apart: number;
  readonly act: Act | null;
}

const orThrow = <T>(file: File, r: T | { error: string }): T => {
  if (typeof r === "object" && r !== null && "error" in r) throw new Error(`${file.name}: ${r.error}`);
  return r as T;
};

/** Takes in a notebook that is not here yet; gives how many records it has. */
async function addNotebook(
  worker: WorkerClient,
  file: File,
  notebookId: string,
  signal: AbortSignal,
  progress: (share: number) => void,
) {
  const added = orThrow(
    file,
    await worker.ask("archive-new", { file }, signal, progress).catch((e: unknown) => {
      // A worker that was ended half way leaves what nobody sees: it is swept once nothing is coming in any more.
      setTimeout(() => void sweepWhenQuiet().catch(() => undefined), 500);
      throw e;
    }),
  );
  // Nothing of it is worked out yet: what does that is started early when it is opened.
  rememberKept("notebook", false);
  announceNotebook(notebookId);
  return added;
}

/** Takes an archive in: all of it or, with the reason, nothing. Null where the tester gave it up. */
export async function importArchive(
  file: File,
  ask: ImportQuestions,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<ImportReport | null> {
  return inBackground((worker) =>
    whileLogComes(async () => {
      const head = orThrow(file, await worker.ask("archive-head", { file }));
      if (head.unpacked > ASKED_FROM && !(await ask.large(head.unpacked))) return null;
      const none = {
        file,
        title: head.title,
        notebookId: head.notebookId,
        added: 0,
        updated: 0,
        deleted: [],
        same: 0,
        older: 0,
        leftOut: [],
        conflicts: 0,
        apart: 0,
        act: null,
      };
      if (!head.here) {
        return { ...none, added: await addNotebook(worker, file, head.notebookId, signal, progress) };
      }
      const plan = orThrow(file, await worker.ask("archive-plan", { file }, signal, progress));
      const items: Item[] = plan.write.map(({ from, to }) => (from ? edit(from, to) : to));
      if (plan.rules) {
        const { ours, theirs } = plan.rules;
        const flips = await flipsIf(compute, await boards(head.notebookId), { rules: completeRules(theirs.rules) });
        const choice = await ask.rules(ours, theirs, flips);
        if (!choice) return null;
        items.push(edit(ours, choice === "theirs" ? after(theirs, ours) : after(ours, theirs)));
      }
      const at = now();
      const from = `${head.title}, ${head.exportedAt.slice(0, 16).replace("T", " ")} UTC`;
      const open = new Set((await ofKind(head.notebookId, "conflict")).map((c) => c.id));
      items.push(...plan.conflicts.map((c) => conflictRecord(c, from, at)).filter((c) => !open.has(c.id)));
      const was = new Map([...plan.apart].map(([from, to]) => [to, from]));
      const coming = plan.write.flatMap(({ to }) => (to.deletedAt ? [] : [to]));
      const runs = new Map(
        coming.flatMap((r) => (r.kind === "run" ? [[was.get(r.id) ?? r.id, r.id as string] as const] : [])),
      );
      const files = coming.flatMap((r) => (r.kind === "file" ? [r.id] : []));
      const staged = orThrow(
        file,
        await worker.ask("archive-contents", { file, files, runs, longer: plan.longer }, signal, progress),
      );
      const act = await change(`import ${file.name}`, items).catch(async (e: unknown) => {
        const fresh = new Set(plan.write.flatMap(({ from, to }) => (from ? [] : [to.id as string])));
        await Promise.all([
          ...staged.runs.filter((r) => fresh.has(r)).map(dropTrace),
          ...staged.files.filter((f) => fresh.has(f)).map(dropContent),
        ]);
        throw e;
      });
      await forgetRuns(plan.longer);
      const { added, updated, deleted, same, older, leftOut } = plan;
      return {
        ...none,
        added,
        updated,
        deleted,
        same,
        older,
        leftOut,
        conflicts: plan.conflicts.length,
        apart: plan.apart.size,
        act,
      };
    }),
  );
}

/**
 * Restores records that a merge left out because they were deleted here, each with what it belongs to, and the contents of files, which
 * may have been cleared meanwhile. Gives the records that are there again.
 */
export async function restore(
  { file, leftOut }: ImportReport,
  wanted: readonly StoredRecord[],
): Promise<readonly StoredRecord[]> {
  const among = new Map(leftOut.map((r) => [r.id as string, r]));
  const records = [...new Set(wanted.flatMap((r) => withOwners(r, among)))];
  const files = records.flatMap((r) => (r.kind === "file" ? [r.id] : []));
  const there = await present(records);
  await whileLogComes(async () => {
    if (files.length)
      orThrow(file, await inBackground((w) => w.ask("archive-contents", { file, files, runs: new Map(), longer: [] })));
    await lay(records, there);
  });
  return records;
}

function lay(records: readonly StoredRecord[], there: ReadonlyMap<string, StoredRecord>): Promise<Act | null> {
  return change(
    records.length === 1 && records[0] ? `restore ${nameOf(records[0])}` : `restore ${records.length} records`,
    records.map((r) => {
      const gone = there.get(r.id);
      return gone ? edit(gone, after(r, gone)) : r;
    }),
  );
}
