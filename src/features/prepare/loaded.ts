import type { BoardRecord, RigRecord, RunRecord } from "@/core/files/records";

/** What a page that prepares a run starts from. */
export interface Loaded {
  readonly run: RunRecord;
  readonly board: BoardRecord;
  readonly rig: RigRecord;
}
