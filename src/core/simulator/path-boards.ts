import type { PathModel } from "./path";
import type { Random } from "./random";

const SEAMLESS: PathModel = {
  feeds: "input",
  boost: { volts: 5.06, ohms: 0.05, efficiency: 0.9 },
  passOhms: 0.09,
  plugged: { dip: 0, hold: 0, tau: 0.001, overshoot: 0.14, ring: 0.01 },
  unplugged: { dip: 0.17, hold: 0.004, tau: 0.006, overshoot: 0, ring: 0.01 },
  charger: { current: 0.6, full: 4.2, end: 0.06, inputLimit: 1 },
};

/** Invented modules for hand-overs and charging under load. Every number is made up. */
export const SIMULATED_PATHS = {
  "seamless-path": { title: "Feeds the load from the input, hands over within the band", model: SEAMLESS },
  "dropping-path": {
    title: "Drops its output at every unplugging",
    model: {
      ...SEAMLESS,
      plugged: { dip: 0.35, hold: 0.01, tau: 0.006, overshoot: 0.55, ring: 0.02 },
      unplugged: { dip: 2.6, hold: 0.12, tau: 0.03, overshoot: 0.2, ring: 0.02 },
    },
  },
  "hangs-on-cell": {
    title: "The load stays on the cell: charging never ends under it",
    model: {
      ...SEAMLESS,
      feeds: "cell",
      plugged: { dip: 0.04, hold: 0.004, tau: 0.004, overshoot: 0.04, ring: 0.005 },
      unplugged: { dip: 0.05, hold: 0.004, tau: 0.004, overshoot: 0, ring: 0.005 },
      charger: { current: 1, full: 4.2, end: 0.1, inputLimit: null },
    },
  },
} as const satisfies Record<string, { title: string; model: PathModel }>;
export type SimulatedPathId = keyof typeof SIMULATED_PATHS;

/** A plausible random module for property tests. */
export function randomPath(r: Random): PathModel {
  const transient = (): PathModel["plugged"] => ({
    dip: r.between(0.08, 2.5),
    hold: r.between(0.005, 0.15),
    tau: r.between(0.004, 0.04),
    overshoot: r.uniform() < 0.6 ? r.between(0.08, 0.8) : 0,
    ring: r.between(0.006, 0.03),
  });
  const current = r.between(0.3, 1);
  return {
    feeds: r.uniform() < 0.6 ? "input" : "cell",
    boost: { volts: r.between(4.95, 5.12), ohms: r.between(0.02, 0.1), efficiency: r.between(0.82, 0.94) },
    passOhms: r.between(0.03, 0.15),
    plugged: transient(),
    unplugged: transient(),
    charger: {
      current,
      full: r.between(4.17, 4.22),
      end: current * r.between(0.07, 0.13),
      inputLimit: r.uniform() < 0.5 ? r.between(0.9, 1.4) : null,
    },
  };
}
