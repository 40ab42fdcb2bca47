import { assert } from "../quantities";

/** One cell and how many of it stand in a pack; all of ONE cell, SI units, capacity in Ah. */
export interface PackCells {
  readonly capacity: number;
  readonly resistance: number;
  /** [state of charge 0 to 1, V] in rising order of both, straight lines between. */
  readonly openCircuit: readonly (readonly [soc: number, volts: number])[];
  readonly series?: number;
  readonly parallel?: number;
  /** V of one cell under load below which it is not discharged. */
  readonly floor: number;
  /** A that one cell loses by itself. */
  readonly selfDischargeCurrent: number;
}

/** What stands between the pack and the module; a protection that is not there has no cut and no trip. */
export interface Between {
  /** Ω, there and back. */
  readonly resistance: number;
  /** V at the pack's terminals at which the protection cuts off. */
  readonly cut?: number;
  /** A of the whole pack at which it trips. */
  readonly trip?: number;
}

/** Pack and what follows it, seen from the module. */
export interface Source {
  /** Ah of the whole pack. */
  readonly capacity: number;
  /** Ω of the pack alone, and of pack and what lies between. */
  readonly packResistance: number;
  readonly resistance: number;
  /** V of the whole pack at its terminals under load. */
  readonly floor: number;
  readonly cut: number;
  readonly trip: number;
  readonly selfDischarge: number;
  /** States of charge at which the open-circuit curve bends. */
  readonly bends: readonly number[];
  openCircuit(soc: number): number;
}

/** Straight lines between pairs in rising order; held at the first and the last. */
export function between(pairs: readonly (readonly [number, number])[], x: number): number {
  const above = pairs.findIndex(([at]) => at >= x);
  const [first, last] = [pairs[0], pairs.at(-1)];
  assert(first && last, "between: no pairs");
  if (above === 0) return first[1];
  const [high, low] = [pairs[above], pairs[above - 1]];
  if (!high || !low) return last[1];
  return low[1] + ((high[1] - low[1]) * (x - low[0])) / (high[0] - low[0]);
}

/**
 * The pack as one source: voltages × series, resistance × series ÷ parallel, capacity and self-discharge × parallel.
 * Worked: 2 in series and 2 in parallel of 2.2 Ah and 80 mΩ hold 4.4 Ah behind 80 mΩ.
 */
export function sourceOf(cells: PackCells, way: Between): Source {
  const { series = 1, parallel = 1 } = cells;
  const packResistance = (cells.resistance * series) / parallel;
  return {
    capacity: cells.capacity * parallel,
    packResistance,
    resistance: packResistance + way.resistance,
    floor: cells.floor * series,
    cut: way.cut ?? -Infinity,
    trip: way.trip ?? Infinity,
    selfDischarge: cells.selfDischargeCurrent * parallel,
    bends: cells.openCircuit.map(([soc]) => soc),
    openCircuit: (soc) => series * between(cells.openCircuit, soc),
  };
}
