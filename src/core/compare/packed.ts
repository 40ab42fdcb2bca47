import { CHARACTERISTICS, type BoardFunction } from "../characteristics";
import type { BoardColumn } from "./column";

/**
 * What comparing needs of every board: its numbers, in the order of the dictionary. A thousand of them are read at once; the cells
 * themselves, ten times as large, are fetched for the boards in sight.
 */
export interface PackedColumn {
  readonly boardId: string;
  readonly functions: readonly BoardFunction[];
  /** The value of each characteristic, NaN where it is a word, absent, or only simulated. */
  readonly values: Float64Array;
  /** 1 where the column has a cell, 2 where something was measured in it. */
  readonly there: Uint8Array;
}

export const packColumn = (c: BoardColumn): PackedColumn => ({
  boardId: c.boardId,
  functions: c.functions,
  values: Float64Array.from(CHARACTERISTICS, ({ name }) => {
    const cell = c.cells[name];
    // What was only played is shown, but is neither best nor worst.
    return typeof cell?.value === "number" && !cell.simulated ? cell.value : NaN;
  }),
  there: Uint8Array.from(CHARACTERISTICS, ({ name }) => {
    const cell = c.cells[name];
    return cell ? (cell.value === null ? 1 : 2) : 0;
  }),
});
