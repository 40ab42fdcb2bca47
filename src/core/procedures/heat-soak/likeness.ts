import { stoodWhereSet, steadyShare, likenessBy, type LogShape } from "../kit/likeness";

/** K by which a part warms up at least where anybody soaks it. */
const WARMED = 0.8;
/** Share of the time under load in which the load stands. */
const STEADY = 0.85;

/** A part that warms up under one steady load from a supply that stands still. */
export function likeness(log: LogShape): number {
  const part = log.of("partTemperature");
  if (!part || log.seconds === null) return 0;
  const source = log.of("batteryVoltage") ?? log.of("cellVoltage");
  const load = log.of("outputCurrent") ?? log.of("batteryCurrent") ?? log.of("cellCurrent") ?? log.of("inputCurrent");
  // A temperature alone may be anything's.
  return likenessBy(
    0.95,
    [source === null && load === null, 0.4],
    [part.most - part.first < WARMED, 0.2],
    [source !== null && !stoodWhereSet(source, load), 0.1],
    [load !== null && steadyShare(load) < STEADY, 0.15],
    [load !== null && load.most < 0.02, 0.2],
  );
}
