import { phasesAt, type Load } from "./load";
import { measuredConverter, type MeasuredModule } from "./measured-module";
import { operatingPoint } from "./operating-point";
import type { LoadPhase } from "./run-time";
import type { Source } from "./source";

/** V of a lithium cell in the middle of its charge, at which a day's mean is taken where nothing else is said. */
const MIDDLE = 3.7;

/** What a load takes from the battery over its cycle, W at the battery. */
export interface Drawn {
  readonly least: number;
  readonly mean: number;
  readonly most: number;
}

const stiff = (volts: number): Source => ({
  capacity: 1,
  selfDischarge: 0,
  packResistance: 0,
  resistance: 0,
  floor: 0,
  cut: 0,
  trip: Infinity,
  openCircuit: () => volts,
  bends: [],
});

/**
 * Least, mean and most power, W, that a load takes through a module from a battery of `volts` V: the mean is weighted by time. Null where
 * the output does not suit the load, or a phase needs what was not measured (standby with the output off).
 */
export function drawnPower(m: MeasuredModule, load: Load, volts = MIDDLE): Drawn | null {
  const output = m.columns[0]?.output;
  const phases = output === undefined ? null : phasesAt(load, output);
  if (!phases?.ok || (m.off === null && phases.value.some((p) => p.power === null))) return null;
  const [source, converter] = [stiff(volts), measuredConverter(m)];
  const watts = (p: LoadPhase): number =>
    volts * (p.power === null ? converter.standbyCurrent : operatingPoint(source, converter, p.power, 0.5).current);
  const all = phases.value.filter((p) => p.share > 0).map((p) => ({ share: p.share, watts: watts(p) }));
  if (all.some((p) => !Number.isFinite(p.watts))) return null;
  return {
    least: all.reduce((x, p) => Math.min(x, p.watts), Infinity),
    mean: all.reduce((s, p) => s + p.share * p.watts, 0),
    most: all.reduce((x, p) => Math.max(x, p.watts), 0),
  };
}

/** The mean of it, W. */
export const meanDraw = (m: MeasuredModule, load: Load, volts = MIDDLE): number | null =>
  drawnPower(m, load, volts)?.mean ?? null;
