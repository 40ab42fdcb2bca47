import type { BoardRecord, RigRecord, RunRecord } from "@/core/files/records";

/** What a page that prepares a run starts from. */
export interface Loaded {
  readonly run: RunRecord;
  readonly board: BoardRecord;
  readonly rig: RigRecord;
  /** What the board does, and which procedures its sample has finished runs of. */
  readonly others: { readonly functions: BoardRecord["functions"]; readonly finished: readonly string[] };
}
