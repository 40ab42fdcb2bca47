import { CHARACTERISTICS, type BoardFunction } from "../characteristics";
import type { ClaimMark } from "./claim-marks";
import type { BoardColumn } from "./column";

/**
 * What comparing needs of every board: its numbers, each by the name of its characteristic, so that another dictionary reads it right. A
 * thousand of them are read at once; the cells themselves, ten times as large, are fetched for the boards in sight.
 */
export interface PackedColumn {
  readonly boardId: string;
  readonly functions: readonly BoardFunction[];
  /** The characteristics that the column has a cell of. */
  readonly names: readonly string[];
  /** The value of each, NaN where it is a word, absent, or only simulated. */
  readonly values: Float64Array;
  /** The expanded uncertainty of each, NaN where it has none. */
  readonly uncertainties: Float64Array;
  /** 1 where something was measured in it, 0 where it is only claimed. */
  readonly measured: Uint8Array;
  /** Its claims, each on the scale of its kind. */
  readonly marks: readonly ClaimMark[];
}

export function packColumn(c: BoardColumn, marks: readonly ClaimMark[] = []): PackedColumn {
  const cells = Object.entries(c.cells);
  return {
    boardId: c.boardId,
    functions: c.functions,
    names: cells.map(([name]) => name),
    // What was only played is shown, but is neither best nor worst.
    values: Float64Array.from(cells, ([, cell]) =>
      typeof cell.value === "number" && !cell.simulated ? cell.value : NaN,
    ),
    uncertainties: Float64Array.from(cells, ([, cell]) => cell.uncertainty ?? NaN),
    measured: Uint8Array.from(cells, ([, cell]) => (cell.value === null ? 0 : 1)),
    marks,
  };
}

/** A column laid out in the order of today's dictionary: 0 where it has no cell, 1 where it has one, 2 where something was measured in it. */
export interface LaidColumn {
  readonly values: Float64Array;
  readonly there: Uint8Array;
}

const places: ReadonlyMap<string, number> = new Map(CHARACTERISTICS.map(({ name }, k) => [name, k]));
const laid = new WeakMap<PackedColumn, LaidColumn>();

/** The column in the order of the dictionary, worked out once. */
export function layColumn(c: PackedColumn): LaidColumn {
  const packed = laid.get(c);
  if (packed) return packed;
  const out: LaidColumn = {
    values: new Float64Array(CHARACTERISTICS.length).fill(NaN),
    there: new Uint8Array(CHARACTERISTICS.length),
  };
  for (const [i, name] of c.names.entries()) {
    const k = places.get(name);
    if (k === undefined) continue;
    out.values[k] = c.values[i] ?? NaN;
    out.there[k] = 1 + (c.measured[i] ?? 0);
  }
  laid.set(c, out);
  return out;
}
