import { likenessBy, type LogShape } from "../kit/likeness";

/** Rows of a table of points at most; beyond, it was logged. */
const MOST_POINTS = 200;
/** V of a battery that is connected the wrong way round. */
const REVERSED = -0.3;

/** A table of points, a row a load, with no time of its own. */
export function likeness(log: LogShape): number {
  const battery = log.of("batteryVoltage");
  if (!battery || !log.has("batteryCurrent", "outputVoltage", "outputCurrent")) return 0;
  return likenessBy(
    0.95,
    [battery.least < REVERSED, 0.02],
    [log.seconds !== null, 0.3],
    [log.rows > MOST_POINTS, 0.1],
    [log.has("inputVoltage"), 0.5],
  );
}
