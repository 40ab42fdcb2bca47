import { SIMULATED_BOARDS } from "./boards";
import type { ModuleModel } from "./module";
import type { Random } from "./random";

const SOUND: ModuleModel = {
  boost: SIMULATED_BOARDS["steady-synchronous"].model,
  overDischarge: { cut: 2.9, release: 3.12, delay: 0.12, wakes: "charger" },
  overCharge: { cut: 4.28, release: 4.09, delay: 0.2 },
  cutOhms: 1.5e6,
  trip: { amps: 2.45, recovery: "automatic" },
  shortCurrent: 0.35,
  shortPeak: 6,
  diesShorted: false,
  idle: { amps: 4.2e-5, wakes: { period: 10, seconds: 0.1, amps: 8e-3 } },
  autoOff: { below: 0.0365, delay: 26 },
  lowSide: false,
  heat: { board: { resistance: 26, tau: 420 }, part: { resistance: 5, tau: 9 } },
};

/** Invented modules for the simulated bench, some with a fault that a careful tester finds. Every number is made up. */
export const SIMULATED_MODULES = {
  "steady-synchronous": { title: "Sound in every part", model: SOUND },
  "weak-switch": {
    title: "Nothing disconnects its battery, and nothing limits a short",
    model: {
      ...SOUND,
      boost: SIMULATED_BOARDS["weak-switch"].model,
      overDischarge: null,
      overCharge: null,
      trip: null,
      shortCurrent: null,
      shortPeak: 9,
      idle: { amps: 1.9e-3, wakes: null },
      autoOff: null,
      heat: { board: { resistance: 58, tau: 380 }, part: { resistance: 11, tau: 7 } },
      foldback: 80,
    },
  },
  "diode-rectifier": {
    title: "Latches after the cut until a charger wakes it, trips until it is unloaded",
    model: {
      ...SOUND,
      boost: SIMULATED_BOARDS["diode-rectifier"].model,
      overDischarge: { cut: 2.55, release: null, delay: 0.1, wakes: "charger" },
      trip: { amps: 1.9, recovery: "load-removal" },
      shortCurrent: 0.02,
      idle: { amps: 8e-5, wakes: null },
      autoOff: null,
    },
  },
  "hiccup-limit": {
    title: "Cuts low, wakes often, and switches off at light load",
    model: {
      ...SOUND,
      boost: SIMULATED_BOARDS["hiccup-limit"].model,
      overDischarge: { cut: 2.46, release: 2.7, delay: 0.15, wakes: "charger" },
      overCharge: { cut: 4.33, release: 4.14, delay: 0.25 },
      trip: { amps: 2, recovery: "automatic" },
      idle: { amps: 9e-5, wakes: { period: 6, seconds: 0.25, amps: 0.018 } },
      autoOff: { below: 0.061, delay: 18 },
    },
  },
  "minus-switch": {
    title: "Protection in the minus wire: joined grounds bypass it",
    model: { ...SOUND, lowSide: true },
  },
  "dies-shorted": {
    title: "Doesn't survive a short",
    model: { ...SOUND, trip: null, shortCurrent: null, diesShorted: true },
  },
} as const satisfies Record<string, { title: string; model: ModuleModel }>;
export type SimulatedModuleId = keyof typeof SIMULATED_MODULES;

/** A plausible random module, for property tests. */
export function randomModule(r: Random): ModuleModel {
  const cut = r.between(2.4, 3.1);
  return {
    boost: {
      ...SOUND.boost,
      setpoint: r.between(4.95, 5.15),
      droop: r.between(0.01, 0.06),
      minimumInput: 1.9,
      quiescent: r.between(2e-4, 3e-3),
      inputLimit: r.between(1.4, 2.8),
      overload: r.uniform() < 0.6 ? "droop" : "off",
    },
    overDischarge: {
      cut,
      release: r.uniform() < 0.8 ? cut + r.between(0.08, 0.45) : null,
      delay: r.between(0.02, 0.3),
      wakes: r.uniform() < 0.5 ? "charger" : "load-removal",
    },
    overCharge: { cut: r.between(4.2, 4.35), release: r.between(4.0, 4.15), delay: r.between(0.02, 0.3) },
    cutOhms: 10 ** r.between(4, 6.5),
    trip:
      r.uniform() < 0.6
        ? {
            amps: r.between(1.2, 2.6),
            recovery:
              (["automatic", "load-removal", "power-cycle"] as const)[Math.floor(r.uniform() * 3)] ?? "automatic",
          }
        : null,
    shortCurrent: r.uniform() < 0.7 ? r.between(0.05, 1.6) : null,
    shortPeak: r.between(2, 8),
    diesShorted: false,
    idle: {
      amps: 10 ** r.between(-5.2, -3),
      wakes:
        r.uniform() < 0.7
          ? { period: r.between(4, 40), seconds: r.between(0.05, 0.6), amps: r.between(1e-3, 2e-2) }
          : null,
    },
    autoOff: r.uniform() < 0.8 ? { below: r.between(0.008, 0.09), delay: r.between(8, 38) } : null,
    lowSide: r.uniform() < 0.3,
    heat: {
      board: { resistance: r.between(15, 60), tau: r.between(150, 800) },
      part: { resistance: r.between(1, 12), tau: r.between(3, 25) },
    },
  };
}
