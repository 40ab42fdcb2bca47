import type { ArchivePart } from "@/core/files/archive";
import { changesSoFar, halvesOf } from "@/storage";
import type { WorkerClient } from "@/workers/client";

/** A notebook's archive, written by two workers that read half of the runs each; by the first alone where there are few. */
export async function writtenArchive(
  notebookId: string,
  at: string,
  sheets: Promise<ReadonlyMap<string, string>>,
  one: WorkerClient,
  other: WorkerClient,
): Promise<Blob> {
  // They are waited for last: until then nobody else takes their failure.
  sheets.catch(() => undefined);
  const since = await changesSoFar();
  const write = async (parts: readonly ArchivePart[] | null) =>
    one.ask("archive-write", { notebookId, at, sheets: await sheets, parts }, undefined, () => undefined);
  const halves = await halvesOf(notebookId);
  if (!halves) return write(null);
  const half = (w: WorkerClient, runs: readonly string[]) =>
    w.ask("archive-part", { runs }, undefined, () => undefined);
  const archive = await write(await Promise.all([half(one, halves[0]), half(other, halves[1])]));
  // Something was changed meanwhile: its halves may not be of one moment. Run by run, each run is.
  return (await changesSoFar()) === since ? archive : write(null);
}
