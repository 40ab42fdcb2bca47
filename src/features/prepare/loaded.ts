import type { BoardRecord, RigRecord, RunRecord } from "@/core/files/records";
import type { RunGuards } from "@/core/use";
import type { RangeChoice } from "@/ui/accuracy-table";

/** What a page that prepares a run starts from. */
export interface Loaded {
  readonly run: RunRecord;
  readonly board: BoardRecord;
  readonly rig: RigRecord;
  /** Ranges of the user's instruments. */
  readonly choices: readonly RangeChoice[];
  /** What would stand between a cell and the outside. */
  readonly guards: RunGuards;
  /** What the board does, and which procedures its sample has finished runs of. */
  readonly others: { readonly functions: BoardRecord["functions"]; readonly finished: readonly string[] };
}
