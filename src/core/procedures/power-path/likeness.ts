import { likenessBy, type LogShape } from "../kit/likeness";

/** The input and the output of one board side by side. */
export const likeness = (log: LogShape): number =>
  log.seconds === null || !log.has("outputVoltage")
    ? 0
    : likenessBy(
        0.95,
        [!log.has("inputVoltage") && !log.has("inputCurrent") && !log.has("outputLow"), 0.02],
        [log.has("batteryVoltage"), 0.3],
      );
