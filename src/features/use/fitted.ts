import type { BoardFit } from "@/core/use";
import type { UsableBoard } from "@/notebook/usable";

/** A board with its answer. */
export interface Fitted {
  readonly usable: UsableBoard;
  readonly fit: BoardFit;
}
