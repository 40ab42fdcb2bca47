import type { ChargeBench } from "./charge";

/** An invented charger with honest ratings, an ordinary cell and a good supply. Others are made from it by changing a part. */
export const HONEST_CHARGE: ChargeBench = {
  cell: { chemistry: "high-voltage", capacity: 2.2, resistance: 0.045, relaxations: [{ ohms: 0.02, tau: 40 }, { ohms: 0.03, tau: 900 }], age: 0.1 },
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
export function chargeBench(change: { charger?: Partial<ChargeBench["charger"]>; supply?: Partial<ChargeBench["supply"]>; cell?: Partial<ChargeBench["cell"]>; soc?: number; ambient?: number }): ChargeBench {
  const { charger, supply, cell, ...rest } = change;
  return { ...HONEST_CHARGE, ...rest, charger: { ...HONEST_CHARGE.charger, ...charger }, supply: { ...HONEST_CHARGE.supply, ...supply }, cell: { ...HONEST_CHARGE.cell, ...cell } };
}
