import { chargePassed, travels, likenessBy, type LogShape } from "../kit/likeness";

/** Ah and s under which a ramp stays: a supply is turned, no cell is emptied or filled. */
const LITTLE = 0.2;
const SOON = 3600;
/** V to which a ramp of the cell voltage goes at least, or nothing is found. */
const BEYOND_FULL = 4.21;

/** The voltage of a battery lowered, or that of a cell raised, by hand in minutes. */
export function likeness(log: LogShape): number {
  if (log.seconds === null) return 0;
  const [battery, cell] = [log.of("batteryVoltage"), log.of("cellVoltage")];
  if (battery && log.has("batteryCurrent") && !cell)
    return likenessBy(
      0.9,
      [!travels(battery), 0.08],
      [!log.has("outputVoltage") && Math.abs(chargePassed(log, "batteryCurrent")) > LITTLE, 0.25],
      [log.seconds > SOON, 0.4],
      [log.has("inputVoltage"), 0.3],
    );
  if (cell && log.has("cellCurrent"))
    return likenessBy(
      0.9,
      [!travels(cell), 0.08],
      [cell.most < BEYOND_FULL, 0.1],
      [Math.abs(chargePassed(log, "cellCurrent")) > LITTLE, 0.25],
      [log.seconds > SOON, 0.4],
      [log.has("inputVoltage"), 0.3],
      [log.has("outputVoltage"), 0.3],
    );
  return 0;
}
