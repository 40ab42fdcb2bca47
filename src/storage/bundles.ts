import type { IDBPTransaction } from "idb";
import type { RecordOf, StoredRecord } from "@/core/files/records";
import type { Bundle, DatabaseSchema, PartKind, WriteTransaction } from "./database";

/*
 * What belongs to a run, its readings above all, is nine of ten records, and is read and written a run at a time. Once a run comes out of
 * an archive it is stored packed: some fifty records as one value, which costs the database a hundredth of the work. Whatever writes one
 * of them unpacks the run first, in its own transaction; so a run's records are all packed or all apart, and nobody outside this room
 * need know of it.
 */

export const PART_KINDS: readonly PartKind[] = ["point", "answer", "annotation"];
export type RunPart = RecordOf<PartKind>;
export const isRunPart = (r: StoredRecord): r is RunPart => (PART_KINDS as readonly string[]).includes(r.kind);

/** The records of a bundle. */
export const inBundle = (b: Bundle): RunPart[] => JSON.parse(`[${UTF8.decode(b.lines)}]`) as RunPart[];
const UTF8 = new TextDecoder();

/** Keys of the bundles of a run. */
export const bundlesOf = (runId: string): IDBKeyRange => IDBKeyRange.bound([runId], [runId, []]);

/** What belongs to a run as it is stored, in bundles or apart: one of the two is empty. */
export interface StoredParts {
  readonly bundles: readonly Bundle[];
  readonly apart: readonly RunPart[];
}

export async function storedParts(
  tx: IDBPTransaction<DatabaseSchema, ("records" | "bundles")[]>,
  runId: string,
): Promise<StoredParts> {
  const bundles = await tx.objectStore("bundles").getAll(bundlesOf(runId));
  if (bundles.length) return { bundles, apart: [] };
  return { bundles, apart: (await tx.objectStore("records").index("by-run").getAll(runId)).filter(isRunPart) };
}

/** Stores what belongs to these runs apart, where it is packed; before any of it is written in this transaction. Says whether any was. */
export async function unpackRuns(tx: WriteTransaction, runs: readonly string[]): Promise<boolean> {
  const [bundles, records] = [tx.objectStore("bundles"), tx.objectStore("records")];
  const unpacked = await Promise.all(
    [...new Set(runs)].map(async (runId) => {
      const packed = await bundles.getAll(bundlesOf(runId));
      if (packed.length === 0) return false;
      await Promise.all([
        bundles.delete(bundlesOf(runId)),
        ...packed.flatMap((b) => inBundle(b).map((r) => records.add(r))),
      ]);
      return true;
    }),
  );
  return unpacked.includes(true);
}

/** The runs that these records belong to, as parts of them. */
export const runsOfParts = (records: readonly StoredRecord[]): string[] =>
  records.flatMap((r) => (isRunPart(r) ? [r.runId] : []));
