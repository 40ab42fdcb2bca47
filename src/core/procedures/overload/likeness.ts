import { levels, travels, trend, likenessBy, type LogShape } from "../kit/likeness";
import { ELEMENTS } from "../../quantities";

const { sampleAt } = ELEMENTS;

/** V of an output that is on, as a share of its usual one. */
const OUTPUT_ON = 0.5;
/** Share of the highest load so far under which a load was taken back. */
const BACK = 0.7;

/** A load that is raised in steps until the output gives way, the supply where it was set but for that. */
export function likeness(log: LogShape): number {
  const [volts, amps, drawn] = [log.of("outputVoltage"), log.of("outputCurrent"), log.of("batteryCurrent")];
  if (!volts || !amps || !drawn || log.seconds === null) return 0;
  // As long as the load goes up: afterwards come the trip, restarts and shorts.
  const on = (k: number) => (volts.values[k] ?? 0) > OUTPUT_ON * volts.most;
  let [highest, until] = [0, 0];
  while (until < amps.values.length) {
    const v = sampleAt(amps.values, until);
    if (v < BACK * highest && highest > 0.1 * amps.most) break;
    if (on(until)) highest = Math.max(highest, v);
    until++;
  }
  const rising = trend(amps, (k) => k < until && on(k));
  const battery = log.of("batteryVoltage");
  // A supply that limits lets its voltage go; one that is turned goes through every level.
  return likenessBy(
    0.9,
    [rising < 0.7, 0.15],
    [levels(amps) < 4, 0.4],
    [battery !== null && travels(battery), 0.3],
    [amps.most < 0.2, 0.4],
  );
}
