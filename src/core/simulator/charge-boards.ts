import type { ChargeBench } from "./charge";

/** An invented charger with honest ratings, an ordinary cell and a good supply. Others are made from it by changing a part. */
export const HONEST_CHARGE: ChargeBench = {
  cell: {
    chemistry: "lithium-ion",
    capacity: 2.2,
    resistance: 0.045,
    relaxations: [
      { ohms: 0.02, tau: 40 },
      { ohms: 0.03, tau: 900 },
    ],
    age: 0.1,
  },
  charger: {
    channels: [{ current: 1, reference: 4.2, wire: 0.025, stopShare: 0.1 }],
    conditionBelow: 2.9,
    conditionShare: 0.1,
    restartBelow: 4.06,
    passOhms: 0.3,
    quiescent: 0.002,
    foldback: { from: 120, perKelvin: 0.03 },
    thermal: { resistance: 25, tau: 60 },
  },
  supply: { volts: 5.1, cable: 0.08 },
  ambient: 22,
  soc: 0.05,
};

/** That bench with parts of it changed. */
export function chargeBench(change: {
  charger?: Partial<ChargeBench["charger"]>;
  supply?: Partial<ChargeBench["supply"]>;
  cell?: Partial<ChargeBench["cell"]>;
  soc?: number;
  ambient?: number;
}): ChargeBench {
  const { charger, supply, cell, ...rest } = change;
  return {
    ...HONEST_CHARGE,
    ...rest,
    charger: { ...HONEST_CHARGE.charger, ...charger },
    supply: { ...HONEST_CHARGE.supply, ...supply },
    cell: { ...HONEST_CHARGE.cell, ...cell },
  };
}

const CHARGER = HONEST_CHARGE.charger;
/** Invented chargers that can stand on the simulated bench, some with what a careful tester should find. Every number is made up. */
export const SIMULATED_CHARGERS = {
  "honest-ampere": { title: "Linear charger, 1 A, honest ratings", charger: CHARGER, supply: HONEST_CHARGE.supply },
  "gentle-third": {
    title: "Linear charger, 330 mA",
    charger: { ...CHARGER, channels: [{ current: 0.33, reference: 4.2, wire: 0.025, stopShare: 0.1 }] },
    supply: HONEST_CHARGE.supply,
  },
  "short-of-amps": {
    title: "Linear charger, 0.78 A instead of 1 A",
    charger: { ...CHARGER, channels: [{ current: 0.78, reference: 4.214, wire: 0.03, stopShare: 0.12 }] },
    supply: HONEST_CHARGE.supply,
  },
  "runs-hot": {
    title: "Linear charger that cuts back when hot",
    charger: { ...CHARGER, foldback: { from: 92, perKelvin: 0.035 }, thermal: { resistance: 62, tau: 70 } },
    supply: { volts: 5.2, cable: 0.05 },
  },
  "shuts-off-hot": {
    title: "Linear charger that shuts itself off when hot, and comes back",
    charger: { ...CHARGER, thermal: { resistance: 60, tau: 80 }, shutdown: { at: 96, below: 62 } },
    supply: { volts: 5.2, cable: 0.05 },
  },
  "short-timer": {
    title: "Linear charger whose safety timer runs out after an hour",
    charger: { ...CHARGER, timer: 3600 },
    supply: HONEST_CHARGE.supply,
  },
  "thin-cable": { title: "The honest charger on a thin cable", charger: CHARGER, supply: { volts: 4.9, cable: 0.7 } },
  "switching-ampere": {
    title: "Switching charger, 1 A, nine tenths of the power reach the cell",
    charger: { ...CHARGER, switching: 0.9, passOhms: 0.12, thermal: { resistance: 30, tau: 60 } },
    supply: HONEST_CHARGE.supply,
  },
  "switching-poor": {
    title: "Switching charger that wastes a quarter",
    charger: {
      ...CHARGER,
      channels: [{ current: 0.92, reference: 4.19, wire: 0.03, stopShare: 0.1 }],
      switching: 0.75,
      passOhms: 0.12,
      thermal: { resistance: 34, tau: 60 },
    },
    supply: HONEST_CHARGE.supply,
  },
  "three-channels": {
    title: "Three chargers on one cell",
    charger: {
      ...CHARGER,
      channels: [
        { current: 0.31, reference: 4.198, wire: 0.06, stopShare: 0.1 },
        { current: 0.31, reference: 4.189, wire: 0.06, stopShare: 0.1 },
        { current: 0.31, reference: 4.209, wire: 0.06, stopShare: 0.1 },
      ],
    },
    supply: HONEST_CHARGE.supply,
  },
} as const satisfies Record<string, { title: string; charger: ChargeBench["charger"]; supply: ChargeBench["supply"] }>;
export type SimulatedChargerId = keyof typeof SIMULATED_CHARGERS;
