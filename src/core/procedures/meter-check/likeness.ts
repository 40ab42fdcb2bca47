import type { LogShape } from "../kit/likeness";

/** Only a meter check has a reference beside the meter. */
export const likeness = (log: LogShape): number =>
  log.has("referenceVoltage") || log.has("referenceCurrent") ? 0.95 : 0;
