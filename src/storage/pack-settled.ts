import { bundlesOf, isRunPart } from "./bundles";
import { database } from "./database";
import { Packer } from "./pack-runs";

/** Readings that a notebook has apart from which packing is worth the work: fewer are read and written in no time. */
const MANY_READINGS = 5000;
/** ms since its last change after which a finished run counts as settled: what is still being corrected would be unpacked again. */
const SETTLED = 86_400_000;
/** ms of rest after each run, so that nobody who writes waits. */
const REST = 25;

/** Whether a notebook has so many readings stored one by one that it opens and travels slowly. */
export async function manyApart(notebookId: string): Promise<boolean> {
  return (await (await database()).countFromIndex("records", "by-kind", [notebookId, "point"])) > MANY_READINGS;
}

/** Packs what belongs to a run, where all of it was last changed before `before` (ISO); whether it did. */
export async function packRun(runId: string, before: string): Promise<boolean> {
  const tx = (await database()).transaction(["records", "bundles"], "readwrite");
  const [records, bundles] = [tx.objectStore("records"), tx.objectStore("bundles")];
  const [run, parts, packed] = await Promise.all([
    records.get(runId),
    records.index("by-run").getAll(runId),
    bundles.count(bundlesOf(runId)),
  ]);
  const own = parts.filter(isRunPart);
  const settled =
    run?.kind === "run" &&
    run.state === "finished" &&
    packed === 0 &&
    own.length > 0 &&
    own.length === parts.length &&
    [run, ...own].every((r) => r.updatedAt < before);
  if (settled) {
    const packer = new Packer();
    for (const r of own) packer.add(r);
    await Promise.all([...packer.end().map((b) => bundles.add(b)), ...own.map((r) => records.delete(r.id)), tx.done]);
  } else await tx.done;
  return settled;
}

/** Runs that are looked at before whoever asked is answered. */
const ROUND = 100;

/**
 * Packs the finished runs of a notebook in which nothing was changed for a day before `at` (ms since 1970), a round of them, one at a
 * time, those with ids beyond `after`. Gives the last id that it looked at; null where there are no more.
 */
export async function packSettled(
  notebookId: string,
  at: number,
  after: string | null = null,
  rest = REST,
): Promise<string | null> {
  const before = new Date(at - SETTLED).toISOString();
  const all = await (await database()).getAllKeysFromIndex("records", "by-kind", [notebookId, "run"]);
  const round = all.filter((id) => after === null || id > after).slice(0, ROUND);
  for (const runId of round) if (await packRun(runId, before)) await new Promise((ok) => setTimeout(ok, rest));
  return round.length < ROUND ? null : (round.at(-1) ?? null);
}
