import { chargePassed, stoodWhereSet, looksLikePanel, trend, likenessBy, type LogShape } from "../kit/likeness";

/** V above which no charger of one lithium cell goes: there a protection is being sought. */
const BEYOND_FULL = 4.26;
/** Ah under which hardly anything was charged. */
const HARDLY = 0.03;

/** A charge puts charge into a cell, whose voltage follows; it is fed from something that stays put. */
export function likeness(log: LogShape): number {
  const [volts, amps] = [log.of("cellVoltage"), log.of("cellCurrent")];
  if (!volts || !amps || log.seconds === null) return 0;
  const passed = chargePassed(log, "cellCurrent");
  return likenessBy(
    0.9,
    [amps.median < 0 && passed < 0, 0.05],
    [!(passed > HARDLY), 0.3],
    [trend(volts, (k) => Math.abs(amps.values[k] ?? 0) > 0.1 * amps.most) < -0.8, 0.1],
    [volts.most > BEYOND_FULL && volts.most < 4.6, 0.3],
    [log.seconds < 600, 0.5],
    // A supply in the cell's place stands still.
    [stoodWhereSet(volts, amps) && volts.median < 4.1 && log.seconds > 300, 0.2],
    [looksLikePanel(log), 0.15],
    [log.has("outputVoltage"), 0.2],
  );
}
