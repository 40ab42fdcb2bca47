import type { Source } from "./source";

/** A module as a load on the battery: what it draws and where it gives up, both by the voltage at its input. */
export interface Converter {
  /** W drawn at the input for W at the output, with so many V at the input. */
  drawn(power: number, input: number): number;
  /** A at the input beyond which it holds its output no longer, with so many V at the input. */
  inputLimit(input: number): number;
  /** V at the input below which it does not work. */
  readonly minimumInput: number;
  /** A drawn at the input with its output off. */
  readonly standbyCurrent: number;
}

/**
 * A module of fixed output voltage, V, with the loss model P = p0 + p1·I + p2·I² (W, I = output current) and one limit of input
 * current. Worked: 0.9 W at 5 V is 0.18 A; 0.02 + 0.05·0.18 + 0.12·0.18² = 0.0329 W are lost.
 */
export function lossModelConverter(m: {
  readonly outputVoltage: number;
  readonly loss: readonly number[];
  readonly inputCurrentLimit: number;
  readonly minimumInput: number;
  readonly standbyCurrent: number;
}): Converter {
  const [p0 = 0, p1 = 0, p2 = 0] = m.loss;
  return {
    drawn: (power) => {
      const amps = power / m.outputVoltage;
      return power + p0 + p1 * amps + p2 * amps * amps;
    },
    inputLimit: () => m.inputCurrentLimit,
    minimumInput: m.minimumInput,
    standbyCurrent: m.standbyCurrent,
  };
}

/** Why a load stops, in the order in which the reasons are looked at; *empty* where nothing stops it before the last charge is out, *window* where it is used no further. */
export const STOPS = ["power", "trip", "input-limit", "minimum-input", "cut", "floor", "empty", "window"] as const;
export type Stop = (typeof STOPS)[number];

/** Where source and module meet under a load. */
export interface OperatingPoint {
  /** A from the battery; NaN where it can't give that power. */
  readonly current: number;
  /** V at the module's input and at the pack's own terminals. */
  readonly input: number;
  readonly terminal: number;
  readonly stop: Stop | null;
}

/** A converter's draw changes little with its input voltage: this many rounds agree to nanovolts. */
const ROUNDS = 60;
const AGREED = 1e-10;

/** V at the input of a constant-power load behind a resistance, (V + √(V² − 4·R·P))/2; null where there is no such voltage. */
function inputVoltage(open: number, resistance: number, drawn: (input: number) => number): number | null {
  let input = open;
  for (let k = 0; k < ROUNDS; k++) {
    const root = open * open - 4 * resistance * drawn(input);
    if (!(root >= 0)) return null;
    const next = (open + Math.sqrt(root)) / 2;
    if (Math.abs(next - input) < AGREED) return next;
    input = next;
  }
  return input;
}

/**
 * What W at the output ask of the battery at a state of charge, and the first of the reasons why that can't be. The module draws
 * constant power, so V = (V_oc + √(V_oc² − 4·R·P))/2 at its input.
 * Worked: 0.933 W from 4.2 V behind 0.13 Ω: 4.1709 V at 0.2237 A.
 */
export function operatingPoint(source: Source, module: Converter, power: number, soc: number): OperatingPoint {
  const open = source.openCircuit(soc);
  const drawn = (at: number): number => module.drawn(power, at);
  const input = inputVoltage(open, source.resistance, drawn);
  if (input === null || !(input > 0)) return { current: NaN, input: NaN, terminal: NaN, stop: "power" };
  const current = drawn(input) / input;
  const terminal = open - current * source.packResistance;
  const stop: Stop | null =
    current > source.trip
      ? "trip"
      : current > module.inputLimit(input)
        ? "input-limit"
        : input < module.minimumInput
          ? "minimum-input"
          : terminal < source.cut
            ? "cut"
            : terminal < source.floor
              ? "floor"
              : null;
  return { current, input, terminal, stop };
}
