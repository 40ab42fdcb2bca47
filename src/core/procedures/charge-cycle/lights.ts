import {
  budget,
  expandedUncertainty,
  formatDuration,
  formatQuantity,
  rectangular,
  uncertain,
  type Uncertain,
  withPart,
  sampling,
  withoutKind,
  scale,
} from "../../quantities";
import { characteristic } from "../../characteristics";
import type { Finding, Note, TraceEvent } from "../../measurement";
import type { Phases } from "./phases";
import { indexAt, integrate, valueBefore } from "../../traces";

/** s within which a light is marked by hand. */
const HAND = 2;

interface Light {
  readonly channel: number;
  readonly time: number;
}

/** The first mark of each channel's done light, `channel:2` and the like, in the order they came. */
export function lightsOf(marks: readonly TraceEvent[]): Light[] {
  const first = new Map<number, number>();
  for (const m of marks) {
    const channel = Number(/^channel:(\d+)$/.exec(m.kind ?? "")?.[1] ?? NaN);
    if (channel > 0 && !(m.time >= (first.get(channel) ?? Infinity))) first.set(channel, m.time);
  }
  return [...first].map(([channel, time]) => ({ channel, time })).sort((a, b) => a.time - b.time);
}

/**
 * What the done lights of several chargers on one cell tell, marked during its log: volts and current at each, how long and how
 * much charge the first one is too early by, and which light to show. `read` gives a reading of a meter its sources.
 */
export function analyseLights(
  p: Phases,
  marks: readonly TraceEvent[],
  read: (value: number, role: "cellVoltage" | "cellCurrent", count: number) => Uncertain,
): { findings: Finding[]; notes: Note[] } {
  const lights = lightsOf(marks);
  const findings: Finding[] = [];
  const find = (name: string, x: Uncertain, conditions: Finding["conditions"] = {}) => {
    const c = characteristic(name);
    if (c && Number.isFinite(x.value))
      findings.push({
        characteristic: name,
        conditions,
        value: x.value,
        unit: c.unit,
        expandedUncertainty: expandedUncertainty(x),
        budget: budget(x),
        points: [],
        unfair: [],
      });
  };
  const volts: number[] = [];
  for (const { channel, time } of lights) {
    const end = indexAt(p.time, time) + 1;
    const v = valueBefore(p.time, p.cellVoltage, end, time);
    const a = valueBefore(p.time, p.cellCurrent, end, time);
    const hand = (x: NonNullable<typeof v>, u: Uncertain): Uncertain =>
      withPart(u, sampling("marked by hand"), Math.abs(x.slope) * rectangular(HAND));
    if (v) {
      find("channels.done-voltage", hand(v, read(v.value, "cellVoltage", v.count)), { channel });
      volts.push(v.value);
    }
    if (a) find("channels.done-current", hand(a, read(a.value, "cellCurrent", a.count)), { channel });
  }
  const [first, last] = [lights[0], lights[lights.length - 1]];
  if (!first || !last || first === last) return { findings, notes: [] };
  const spread = volts.reduce((m, v) => Math.max(m, v), -Infinity) - volts.reduce((m, v) => Math.min(m, v), Infinity);
  // One meter reads both: its offset is gone.
  find("channels.voltage-spread", withoutKind(read(spread, "cellVoltage", 12), "offset"));
  const early = last.time - first.time;
  find("channels.early-time", uncertain(early, [[sampling("marked by hand"), Math.SQRT2 * rectangular(HAND)]]));
  const charge = integrate(p.time, p.cellCurrent, null, first.time, last.time, p.usual, () => true).value / 3600;
  const share = early > 0 ? rectangular(HAND) / early : 0;
  find(
    "channels.early-charge",
    withPart(
      scale(read(charge / (early / 3600), "cellCurrent", 100), early / 3600),
      sampling("marked by hand"),
      charge * share * Math.SQRT2,
    ),
  );
  return {
    findings,
    notes: [
      {
        code: "first-and-last",
        message: `Channel ${first.channel} signals done first, ${formatDuration(early)} before channel ${last.channel}: trusting its light misses ${formatQuantity(charge, "Ah", { digits: 2 })}. Use the light of channel ${last.channel}.`,
      },
    ],
  };
}
