import type { LogShape } from "../kit/likeness";

/** s that a waveform lasts at most, and rows that it has at least. */
const LONGEST = 1;
const ROWS = 100;

/** An output alone, over a moment. */
export const likeness = (log: LogShape): number =>
  log.has("time", "outputVoltage") && log.seconds !== null && log.seconds < LONGEST && log.rows >= ROWS ? 0.9 : 0;
