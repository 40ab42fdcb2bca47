import { likenessBy, type LogShape } from "../kit/likeness";

/** s between the readings of a rest check, of which there are few. */
const LONG = 6 * 3600;

/** Voltages of resting cells over days, a row or a column each, and no current. */
export function likeness(log: LogShape): number {
  const cells = log.roles.filter((r) => /^cell\d+Voltage$/.test(r)).length;
  if (log.seconds === null || (cells === 0 && !log.has("cell", "cellVoltage"))) return 0;
  return likenessBy(0.95, [log.has("cellCurrent"), 0.1], [log.seconds < LONG, 0.4]);
}
