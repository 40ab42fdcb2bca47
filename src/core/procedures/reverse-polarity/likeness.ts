import { likenessBy, type LogShape } from "../kit/likeness";

/** V of a battery that is connected the wrong way round. */
const REVERSED = -0.3;

/** A few points, one of them with the battery's voltage below zero. */
export function likeness(log: LogShape): number {
  const battery = log.of("batteryVoltage");
  if (!battery || !log.has("batteryCurrent", "outputVoltage")) return 0;
  return likenessBy(0.95, [battery.least >= REVERSED, 0.02], [log.seconds !== null && log.rows > 100, 0.3]);
}
