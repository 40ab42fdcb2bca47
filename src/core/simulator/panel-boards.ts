import type { PanelModel, SolarChargerModel } from "./panel";
import type { Random } from "./random";

const PANEL: PanelModel = { open: 7.2, short: 0.36, knee: 0.42 };
const SWITCHING: SolarChargerModel = {
  kind: "switching",
  efficiency: 0.88,
  holds: 5.95,
  current: 0.8,
  full: 4.2,
  restart: 2.5,
};

/** Invented solar chargers with a panel of two watts. Every number is made up. */
export const SIMULATED_PANELS = {
  "holding-switcher": {
    title: "Switching, holds the panel where it was set, sun and clouds",
    charger: SWITCHING,
    panel: PANEL,
    clouds: 26,
  },
  "holding-switcher-lamp": { title: "The same under a steady lamp", charger: SWITCHING, panel: PANEL, clouds: 0 },
  "poor-switcher": {
    title: "Switching, wastes a quarter, holds the panel too low",
    charger: { ...SWITCHING, efficiency: 0.74, holds: 5.1, restart: 9 },
    panel: PANEL,
    clouds: 26,
  },
  "linear-dragger": {
    title: "Linear: drags the panel down to the cell",
    charger: { kind: "linear", efficiency: 1, holds: null, current: 0.5, full: 4.2, restart: 1 },
    panel: PANEL,
    clouds: 26,
  },
} as const satisfies Record<string, { title: string; charger: SolarChargerModel; panel: PanelModel; clouds: number }>;
export type SimulatedPanelId = keyof typeof SIMULATED_PANELS;

/** A plausible random solar charger with a panel, for property tests. */
export function randomSolar(r: Random): { readonly panel: PanelModel; readonly charger: SolarChargerModel } {
  const open = r.between(6.2, 12);
  const panel: PanelModel = { open, short: r.between(0.15, 0.6), knee: r.between(0.3, 0.6) };
  const linear = r.uniform() < 0.3;
  return {
    panel,
    charger: {
      kind: linear ? "linear" : "switching",
      efficiency: linear ? 1 : r.between(0.7, 0.95),
      holds: linear && r.uniform() < 0.7 ? null : r.between(0.72, 0.86) * open,
      current: r.between(0.6, 1.5),
      full: 4.2,
      restart: r.between(0.5, 8),
    },
  };
}
