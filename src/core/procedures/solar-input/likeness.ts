import { looksLikePanel, likenessBy, type LogShape } from "../kit/likeness";

/** A charger fed by something that yields as a panel does. */
export function likeness(log: LogShape): number {
  if (!log.has("inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent") || log.seconds === null) return 0;
  return likenessBy(0.9, [!looksLikePanel(log), 0.1], [log.has("outputVoltage"), 0.3]);
}
