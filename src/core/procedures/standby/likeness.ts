import { travels, likenessBy, type LogShape } from "../kit/likeness";

/** A of a module that idles, at most, for most of the time. */
const IDLE = 0.01;

/** Hardly any current, from a battery that is at most switched from one level to another. */
export function likeness(log: LogShape): number {
  const amps = log.of("batteryCurrent");
  if (!amps || log.seconds === null) return 0;
  const volts = log.of("batteryVoltage");
  const load = log.of("outputCurrent");
  return likenessBy(
    0.9,
    [Math.abs(amps.median) > IDLE, 0.05],
    [volts !== null && travels(volts), 0.2],
    [load !== null && load.spread > 0.005, 0.1],
    [log.has("cellVoltage"), 0.2],
  );
}
