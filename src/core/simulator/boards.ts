import type { Accuracy } from "../instruments";
import type { BenchConfig, BenchMeter } from "./bench";
import type { BoostModel, ReverseModel } from "./boost";
import type { Random } from "./random";

/** Meters of an ordinary bench: 0.05 % + 2 counts volts, 0.15 % + 5 counts amps, a thermocouple. */
export const BENCH_ACCURACY: Readonly<Record<BenchMeter, Accuracy>> = {
  batteryVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  batteryCurrent: { gain: 0.0015, counts: 5, resolution: 0.0001 },
  outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  outputCurrent: { gain: 0.0015, counts: 5, resolution: 0.0001 },
  partTemperature: { gain: 0.005, counts: 10, resolution: 0.1 },
};

/** A diode across the terminals takes the current, and its part is hurt by no more than a resistor lets through. */
const CONDUCTS: ReverseModel = { conducts: { volts: 0.62, ohms: 0.9 }, leak: 2e-6 };

/** What small boards of this kind do: 94 % at best with a synchronous rectifier, 87 % with a diode. */
const GOOD: BoostModel = {
  reverse: { leak: 4e-7 },
  setpoint: 5.08,
  droop: 0.045,
  lineSlope: 0.01,
  inductorOhms: 0.045,
  switchOhms: 0.06,
  rectifier: { kind: "synchronous", ohms: 0.07 },
  frequency: 1e6,
  transition: 4.4e-8,
  gateCharge: 8e-9,
  quiescent: 9e-4,
  burstBelow: 0.12,
  inputLimit: 2.6,
  startShare: 0.85,
  minimumInput: 2.5,
  overload: "droop",
  recovery: "automatic",
  thermal: { resistance: 38, tau: 90, copper: 0.0039 },
};

/** Invented boards for the simulated bench. Every number is made up. */
export const SIMULATED_BOARDS = {
  "steady-synchronous": { title: "Synchronous boost, honest ratings", model: GOOD },
  "weak-switch": {
    title: "Boost with an early current limit",
    model: {
      ...GOOD,
      setpoint: 5.12,
      droop: 0.06,
      inductorOhms: 0.08,
      switchOhms: 0.1,
      inputLimit: 1.55,
      quiescent: 2.4e-3,
      thermal: { ...GOOD.thermal, resistance: 52 },
      reverse: { ...CONDUCTS, hurtAbove: 0.04, hurt: { kind: "dead" } },
    },
  },
  "diode-rectifier": {
    title: "Boost with a diode, high output",
    model: {
      ...GOOD,
      setpoint: 5.31,
      droop: 0.09,
      rectifier: { kind: "diode", volts: 0.42, ohms: 0.06 },
      frequency: 6e5,
      transition: 8e-8,
      inputLimit: 2.1,
      quiescent: 4e-3,
      burstBelow: 0.02,
      overload: "off",
      recovery: "load-removal",
      reverse: { ...CONDUCTS, hurtAbove: 0.06, hurt: { kind: "shifted", share: -0.02 } },
    },
  },
  "hiccup-limit": {
    title: "Boost that switches off and tries again",
    model: {
      ...GOOD,
      setpoint: 5.02,
      droop: 0.02,
      inputLimit: 2.1,
      overload: "off",
      recovery: "automatic",
      reverse: CONDUCTS,
    },
  },
} as const satisfies Record<string, { title: string; model: BoostModel }>;
export type SimulatedBoardId = keyof typeof SIMULATED_BOARDS;

/** A bench around one of the invented boards. */
export function benchFor(model: BoostModel, seed: number, change: Partial<BenchConfig> = {}): BenchConfig {
  return {
    module: model,
    meters: BENCH_ACCURACY,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    ambient: 21,
    seed,
    supplyMaximum: { volts: 30, amps: 5 },
    loadMaximum: { amps: 10, watts: 60 },
    ...change,
  };
}

/** A plausible random board, for property tests. */
export function randomBoost(random: Random): BoostModel {
  const diode = random.uniform() < 0.3;
  return {
    ...GOOD,
    setpoint: random.between(4.9, 5.18),
    droop: random.between(0.005, 0.09),
    lineSlope: random.between(-0.01, 0.02),
    inductorOhms: random.between(0.015, 0.07),
    switchOhms: random.between(0.02, 0.09),
    rectifier: diode
      ? { kind: "diode", volts: random.between(0.25, 0.4), ohms: random.between(0.02, 0.08) }
      : { kind: "synchronous", ohms: random.between(0.02, 0.09) },
    frequency: random.between(4e5, 1.5e6),
    transition: random.between(1e-8, 4e-8),
    quiescent: random.between(2e-4, 5e-3),
    burstBelow: random.between(0, 0.2),
    inputLimit: random.between(1.1, 3),
    overload: random.uniform() < 0.6 ? "droop" : "off",
    thermal: { ...GOOD.thermal, resistance: random.between(20, 50) },
  };
}

/** What a plausible random board does reversed: some block, some conduct and live, some die or come out changed. */
export function randomReverse(random: Random): ReverseModel {
  const leak = 10 ** random.between(-7, -5.3);
  if (random.uniform() < 0.35) return { leak };
  const conducts = { volts: random.between(0.25, 0.75), ohms: random.between(0.2, 3) };
  const u = random.uniform();
  if (u < 0.4) return { conducts, leak };
  return {
    conducts,
    leak,
    hurtAbove: random.between(0.02, 0.06),
    hurt:
      u < 0.75
        ? { kind: "dead" }
        : { kind: "shifted", share: (random.uniform() < 0.5 ? -1 : 1) * random.between(0.006, 0.04) },
  };
}
