import type { Accuracy } from "../instruments";
import type { ChargeReading } from "../simulator";

/** Meters of an ordinary charging bench. */
export const CHARGE_METERS: Readonly<Record<keyof ChargeReading, Accuracy>> = {
  inputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  inputCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
  partTemperature: { gain: 0.002, counts: 10, resolution: 0.1 },
};
