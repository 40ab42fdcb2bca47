import { likenessBy, type LogShape } from "../kit/likeness";

/** The voltages of several cells beside one current. */
export const likeness = (log: LogShape): number =>
  log.seconds === null ? 0 : likenessBy(0.95, [!log.has("cell1Voltage", "cell2Voltage", "cellCurrent"), 0]);
