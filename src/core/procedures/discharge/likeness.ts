import { chargePassed, trend, likenessBy, type LogShape } from "../kit/likeness";

/** Ah that a discharge takes out at least, and V by which the cell falls. */
const TAKEN = 0.05;
const FELL = 0.25;

/** A cell that is emptied: its voltage falls for long while charge comes out of it. */
export function likeness(log: LogShape): number {
  const [volts, role, sign] = log.has("batteryVoltage", "batteryCurrent")
    ? [log.of("batteryVoltage"), "batteryCurrent" as const, 1]
    : [log.of("cellVoltage"), "cellCurrent" as const, -1];
  const amps = log.of(role);
  if (!volts || !amps || log.seconds === null) return 0;
  const out = sign * chargePassed(log, role);
  const flowing = 0.1 * Math.max(Math.abs(amps.most), Math.abs(amps.least));
  return likenessBy(
    0.9,
    [!(out > TAKEN), 0.05],
    [volts.spread < FELL, 0.1],
    [trend(volts, (k) => Math.abs(amps.values[k] ?? 0) > flowing) > -0.8, 0.1],
    [log.has("outputVoltage"), 0.1],
    [log.seconds < 600, 0.3],
  );
}
