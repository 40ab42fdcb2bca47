import { openCircuit, stateOfCharge, type Chemistry } from "../cells";
import { highest, lowest } from "../quantities";
import { joiningCurrent } from "./safeguards";

/** A cell as a pack is made of it. */
export interface PackCell {
  readonly id: string;
  /** Ah, measured or rated. */
  readonly capacity: number;
  readonly measured: boolean;
  /** Ω; null where it was not measured. */
  readonly resistance: number | null;
  /** V as last read; null where it was not. */
  readonly volts: number | null;
  readonly chemistry: Chemistry;
}

export interface PackSums {
  /** Ah of each group, in the order given. */
  readonly groups: readonly number[];
  /** Ah of the weakest group: what the pack gives. */
  readonly capacity: number;
  /** V between the highest and the lowest group when the weakest is empty: what a board sees at its low cut. */
  readonly spreadAtCut: number;
  /** Highest current when the cells of a group are joined as they are, A, with V between the two; null where voltages or resistances are missing. */
  readonly joining: { readonly amps: number; readonly volts: number } | null;
}

/** What a pack is to the drawer: its own capacity and rates, as one thing. */
export interface PackEntry {
  readonly chemistry: Chemistry;
  /** Groups in series; absent for one. */
  readonly series?: number;
  /** Ah. */
  readonly capacity: number;
  /** Highest charge current, as a multiple of the capacity an hour. */
  readonly chargeRateLimit: number;
}

/**
 * A pack as an entry of the drawer: it holds what its weakest group holds, and is charged with no more than its weakest group allows, whose
 * cells share the current unevenly, so that the one that is allowed least counts for each of them.
 *
 * `members` are cells by their groups: Ah held, Ah rated, and the current that is allowed as a multiple of the rating an hour.
 * Worked: 2 + 2 Ah beside 1.8 + 2 Ah, 0.5 C of 2 Ah each: 3.8 Ah, 2 A, which is 0.526 C.
 */
export function packEntry(
  members: readonly (readonly {
    readonly chemistry: Chemistry;
    readonly capacity: number;
    readonly rated: number;
    readonly chargeRateLimit: number;
  }[])[],
): PackEntry {
  const capacity = lowest(members.map((g) => g.reduce((s, c) => s + c.capacity, 0)));
  const amps = lowest(members.map((g) => g.length * lowest(g.map((c) => c.chargeRateLimit * c.rated))));
  return {
    chemistry: members[0]?.[0]?.chemistry ?? "lithium-ion",
    ...(members.length > 1 ? { series: members.length } : {}),
    capacity: Number(capacity.toFixed(4)),
    chargeRateLimit: Number((amps / capacity).toFixed(3)),
  };
}

/** V a cell is empty at when a pack is cut off. */
const EMPTY: Readonly<Record<Chemistry, number>> = { "lithium-ion": 3, "iron-phosphate": 2.5 };

/**
 * What a pack of series groups of parallel cells gives. All groups begin full and give the same charge; when the weakest stands at its
 * empty voltage, every other one still holds what it has more, and shows the voltage of that state of charge at rest.
 *
 * Worked: groups of 2.0 and 2.2 Ah, lithium-ion: at the cut the second still holds about 0.2 of 2.2 Ah and shows 3.44 V against 3.0 V.
 */
export function packSums(groups: readonly (readonly PackCell[])[]): PackSums {
  const sums = groups.map((g) => g.reduce((s, c) => s + c.capacity, 0));
  const capacity = lowest(sums);
  const chemistry = groups[0]?.[0]?.chemistry ?? "lithium-ion";
  const empty = stateOfCharge(chemistry, EMPTY[chemistry]);
  const given = capacity * (1 - empty);
  const volts = sums.map((c) => openCircuit(chemistry, 1 - given / c));
  const pairs = groups.flatMap((g) => g.flatMap((a, i) => g.slice(i + 1).map((b) => [a, b] as const)));
  const complete = pairs.every(
    ([a, b]) => a.volts !== null && b.volts !== null && a.resistance !== null && b.resistance !== null,
  );
  const joined = pairs.map(([a, b]) => {
    const of = (c: PackCell) => ({ volts: c.volts ?? 0, resistance: c.resistance ?? 0 });
    const [one, other] = [of(a), of(b)];
    return { amps: joiningCurrent(one, other), volts: Math.abs(one.volts - other.volts) };
  });
  return {
    groups: sums,
    capacity,
    spreadAtCut: sums.length ? highest(volts) - lowest(volts) : 0,
    joining: complete && joined.length ? joined.reduce((a, b) => (b.amps > a.amps ? b : a)) : null,
  };
}
