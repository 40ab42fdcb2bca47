import type { CellModel } from "./cell";
import type { PackBench } from "./pack";
import type { Random } from "./random";

const CELL: CellModel = {
  chemistry: "lithium-ion",
  capacity: 2.2,
  resistance: 0.045,
  relaxations: [
    { ohms: 0.015, tau: 40 },
    { ohms: 0.02, tau: 700 },
  ],
  age: 0.1,
};

/** Invented cells for discharges: model, and the state of charge that they come with. Every number is made up. */
export const SIMULATED_CELLS = {
  "honest-cell": { title: "A cell with its rated capacity", model: { ...CELL, capacity: 2.3 } },
  "tired-cell": { title: "A tired cell: less in it, more resistance", model: { ...CELL, age: 0.9 } },
  "boastful-cell": {
    title: "A cell with half its rated capacity",
    model: { ...CELL, capacity: 1.15, resistance: 0.09 },
  },
} as const satisfies Record<string, { title: string; model: CellModel }>;
export type SimulatedCellId = keyof typeof SIMULATED_CELLS;

const pack = (socs: readonly number[], board: Partial<PackBench["board"]> = {}): PackBench => ({
  board: { cut: 4.25, release: 4.195, lowCut: 2.8, delay: 1, balancer: null, ...board },
  chemistry: "lithium-ion",
  cells: socs.map((soc, k) => ({ model: { ...CELL, capacity: 1.2 - 0.03 * k }, soc })),
  charger: { current: 0.7, volts: 4.2 * socs.length + 0.05 },
});

/** Invented packs. */
export const SIMULATED_PACKS = {
  "balanced-three": { title: "Three balanced cells", bench: pack([0.4, 0.385, 0.369]) },
  "drifted-four": { title: "Four cells that have drifted apart, no balancer", bench: pack([0.42, 0.36, 0.55, 0.4]) },
  "drifted-balancer": {
    title: "The same four with a balancer",
    bench: pack([0.42, 0.36, 0.55, 0.4], { balancer: { above: 4.18, amps: 0.06 } }),
  },
  "resistor-three": {
    title: "Three cells behind a charger that a resistor limits",
    bench: { ...pack([0.4, 0.39, 0.38], { wakes: "by itself" }), charger: { current: 1, volts: 13.1, ohms: 4 } },
  },
} as const satisfies Record<string, { title: string; bench: PackBench }>;
export type SimulatedPackId = keyof typeof SIMULATED_PACKS;

/** A plausible random pack, for property tests. */
export function randomPack(r: Random): PackBench {
  const n = 2 + Math.floor(r.uniform() * 3);
  const cut = r.between(4.2, 4.3);
  const middle = r.between(0.35, 0.5);
  const current = r.between(0.4, 0.9);
  return {
    // Below what the cells fall to at once, or the board would hunt.
    board: {
      cut,
      release: cut - current * 0.067 - r.between(0.008, 0.022),
      lowCut: r.between(2.6, 3),
      delay: r.between(0.5, 2),
      wakes: r.uniform() < 0.4 ? "by itself" : r.uniform() < 0.8 ? "by a charger" : "never",
      balancer: null,
    },
    chemistry: "lithium-ion",
    cells: Array.from({ length: n }, () => ({
      model: { ...CELL, capacity: r.between(0.9, 1.3), age: r.between(0, 0.4) },
      soc: middle + r.between(-0.12, 0.12),
    })),
    charger: { current, volts: 4.35 * n },
  };
}

/** A plausible random cell. */
export const randomCell = (r: Random): CellModel => ({
  ...CELL,
  capacity: r.between(0.6, 3.2),
  resistance: r.between(0.025, 0.12),
  age: r.between(0, 0.9),
  relaxations: [
    { ohms: r.between(0.005, 0.03), tau: r.between(20, 80) },
    { ohms: r.between(0.005, 0.04), tau: r.between(300, 1200) },
  ],
});
