import { stoodWhereSet, levels, trend, likenessBy, type LogShape } from "../kit/likeness";

/** A from which a load is no light one. */
const LIGHT = 0.5;
/** V of an output that is on, as a share of its usual one. */
const OUTPUT_ON = 0.5;

/** A small load that goes down in steps while the battery stands still. */
export function likeness(log: LogShape): number {
  const [volts, amps] = [log.of("outputVoltage"), log.of("outputCurrent")];
  if (!volts || !amps || log.seconds === null) return 0;
  const falling = trend(amps, (k) => (volts.values[k] ?? 0) > OUTPUT_ON * volts.most);
  const battery = log.of("batteryVoltage");
  return likenessBy(
    0.9,
    [falling > -0.5, 0.1],
    [levels(amps) < 4, 0.4],
    [amps.most > LIGHT, 0.3],
    [battery !== null && !stoodWhereSet(battery), 0.1],
  );
}
