import type { Chemistry } from "../cells";

/** A lithium cell: series resistance and two relaxations around its open-circuit curve. Every number is made up. */

export interface CellModel {
  readonly chemistry: Chemistry;
  /** Ah, as new. */
  readonly capacity: number;
  /** Ω, as new. */
  readonly resistance: number;
  /** Two relaxations: resistance in Ω, time constant in s. */
  readonly relaxations: readonly [
    { readonly ohms: number; readonly tau: number },
    { readonly ohms: number; readonly tau: number },
  ];
  /** 0 new … 1 worn out: capacity falls by 30 % of it, resistance rises by 120 % of it. */
  readonly age: number;
}

/** Capacity in Ah and series resistance in Ω at the cell's age. */
export const agedCapacity = (m: CellModel): number => m.capacity * (1 - 0.3 * m.age);
export const agedResistance = (m: CellModel): number => m.resistance * (1 + 1.2 * m.age);
