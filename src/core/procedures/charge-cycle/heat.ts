import {
  ELEMENTS,
  formatDuration,
  formatQuantity,
  median,
  multiply,
  rectangular,
  subtract,
  uncertain,
  withPart,
  model,
  sampling,
} from "../../quantities";
import { extremeOfFive, finite, highestMean, indexAt } from "../../traces";
import { meterReading as read } from "../kit/log-reading";
import type { Phases } from "./phases";
import { AT_LEAST, find, silent, type Work } from "./work";

const { sampleAt } = ELEMENTS;

/** The most that stays in the charger, as a 1-minute mean, W. */
export function dissipation(w: Work): void {
  const { p, setup } = w;
  const [vi, ii] = [p.inputVoltage, p.inputCurrent];
  if (!vi || !ii || !p.heat) return;
  const began = p.start ?? sampleAt(p.time, 0);
  const peak = highestMean(p.time, p.heat, began, p.through, 60);
  if (!peak) return silent(w, "not-in-log", "The log has less than a minute of charging.", "charge.peak-dissipation");
  const from = indexAt(p.time, sampleAt(p.time, peak.end) - 60);
  const mean = (c: Float64Array) => median(finite(c, from, peak.end + 1));
  const count = Math.max(1, peak.end - from);
  const x = {
    vi: read(mean(vi), "inputVoltage", setup, "peak", count),
    ii: read(mean(ii), "inputCurrent", setup, "peak", count),
    vc: read(mean(p.cellVoltage), "cellVoltage", setup, "peak", count),
    ic: read(mean(p.cellCurrent), "cellCurrent", setup, "peak", count),
  };
  const watts = subtract(multiply(x.vi, x.ii), multiply(x.vc, x.ic));
  // It is highest at the start of the full current: a log without that shows only that it was at least as high.
  find(
    w,
    "charge.peak-dissipation",
    { ...watts, value: peak.value },
    [],
    p.start === null && p.step === null ? AT_LEAST : {},
  );
}

/** How much its part warms, K, and at which temperature it cuts its own current, °C. */
export function heat(w: Work): void {
  const { p, setup } = w;
  const part = p.partTemperature;
  if (!part) return;
  const [from, to] = [p.start === null ? 0 : indexAt(p.time, p.start), indexAt(p.time, p.through)];
  const highest = extremeOfFive(finite(part, from, to), -1);
  const around = p.ambientTemperature
    ? median(finite(p.ambientTemperature, from, to))
    : setup.conditions.ambientTemperature;
  if (around !== undefined && Number.isFinite(highest)) {
    const ambient = p.ambientTemperature
      ? read(around, "ambientTemperature", setup, "ambient", 100)
      : uncertain(around, [[model("ambient as stated"), rectangular(0.5)]]);
    const top = read(highest, "partTemperature", setup, "peak");
    find(w, "charge.peak-temperature-rise", subtract(top, ambient), [], peakMayCome(p, part, highest) ? AT_LEAST : {});
  }
  const cut = p.cuts.find((c) => c.heat);
  if (!cut)
    return silent(
      w,
      p.start === null || (p.stop === null && !p.onset) ? "not-in-log" : "did-not-happen",
      p.start === null
        ? "The log begins while current flows: an earlier cut is not in it."
        : "The charger did not cut its own current because of heat.",
      "charge.foldback-onset-temperature",
    );
  const at = indexAt(p.time, cut.from);
  const onset = median(finite(part, at - 3, at + 4));
  // Between the first sign and 5 % of current lost the part warms on.
  const later = median(finite(part, indexAt(p.time, cut.from + 30) - 3, indexAt(p.time, cut.from + 30) + 4));
  find(
    w,
    "charge.foldback-onset-temperature",
    withPart(
      read(onset, "partTemperature", setup, "foldback", 4),
      sampling("beginning of the cut"),
      rectangular(Math.abs(later - onset)),
    ),
  );
  w.notes.push({
    code: "foldback",
    message: `At about ${formatQuantity(onset, "°C", { digits: 3 })} the charger cut its own current because of heat${cut.to === null ? "" : `, for ${formatDuration(cut.to - cut.from)}`}: the programming resistor is not the cause.`,
  });
}

/** The charge was cut off while the part was near its highest, before the voltage phase: it may have grown hotter. The hottest part of a charge without its start may lie before the log. */
function peakMayCome(p: Phases, part: Float64Array, highest: number): boolean {
  if (p.start === null && p.step === null) return true;
  if (p.stop !== null || p.onset) return false;
  const last = finite(part, 0, indexAt(p.time, p.through)).slice(-8);
  return last.length > 0 && median(last) > highest - 2;
}
