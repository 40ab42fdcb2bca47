import { ELEMENTS, highest, median } from "../../quantities";
import { powerOn, type WarmingPriors, type WarmingReadings } from "../../fit";
import type { CleanColumns } from "../kit/guided";
import type { LogRow, RunSetup } from "../../measurement";

const { sampleAt } = ELEMENTS;

/** W that stay in the part at one row: battery less output, or input less cell, or as stated. NaN where a reading lacks. */
export function heatOf(row: LogRow, setup: RunSetup): number {
  const product = (v: number | undefined, a: number | undefined) => (v ?? NaN) * (a ?? NaN);
  const boost = product(row.batteryVoltage, row.batteryCurrent) - product(row.outputVoltage, row.outputCurrent);
  if (boost - boost === 0) return boost;
  const charger = product(row.inputVoltage, row.inputCurrent) - product(row.cellVoltage, row.cellCurrent);
  return charger - charger === 0 ? charger : (setup.conditions.dissipation ?? NaN);
}

/** How the heat of a log is known. */
export type HeatSource = "battery and output" | "input and cell" | "stated";
export function heatSource(c: CleanColumns, setup: RunSetup): HeatSource | null {
  if (c.batteryVoltage && c.batteryCurrent && c.outputVoltage && c.outputCurrent) return "battery and output";
  if (c.inputVoltage && c.inputCurrent && c.cellVoltage && c.cellCurrent) return "input and cell";
  return setup.conditions.dissipation ? "stated" : null;
}

/** Rows of a log in which everything that a warming needs was read. */
export function warmingRows(time: Float64Array, c: CleanColumns, setup: RunSetup): WarmingReadings {
  const source = heatSource(c, setup);
  const [v1, a1, v2, a2] =
    source === "battery and output"
      ? [c.batteryVoltage, c.batteryCurrent, c.outputVoltage, c.outputCurrent]
      : [c.inputVoltage, c.inputCurrent, c.cellVoltage, c.cellCurrent];
  const n = time.length;
  const room = () => new Float64Array(n);
  const out = { time: room(), part: room(), ambient: room(), power: room() };
  const around = setup.conditions.ambientTemperature ?? NaN;
  let m = 0;
  for (let k = 0; k < n; k++) {
    const part = c.partTemperature?.[k] ?? NaN;
    const ambient = c.ambientTemperature ? sampleAt(c.ambientTemperature, k) : around;
    const power =
      source === "stated" || !v1 || !a1 || !v2 || !a2
        ? (setup.conditions.dissipation ?? NaN)
        : sampleAt(v1, k) * sampleAt(a1, k) - sampleAt(v2, k) * sampleAt(a2, k);
    const all = part + ambient + power;
    if (all - all !== 0) continue;
    out.time[m] = sampleAt(time, k);
    out.part[m] = part;
    out.ambient[m] = ambient;
    out.power[m++] = power;
  }
  return {
    time: out.time.subarray(0, m),
    part: out.part.subarray(0, m),
    ambient: out.ambient.subarray(0, m),
    power: out.power.subarray(0, m),
  };
}

/** K that a board may still be warm by where it was logged before the load, and s and readings of that from which its rest pins the start. */
const NOT_RESTED = 0.7;
const RESTED = 0.003;
const REST = { seconds: 15, readings: 5 } as const;

/** What is known of a warming before it is fitted: from the thermometers, and whether it began cold. */
export function warmingPriors(setup: RunSetup, rows: WarmingReadings, ambientRead: boolean): WarmingPriors {
  const { power } = rows;
  const on = powerOn(power);
  const of = (role: "partTemperature" | "ambientTemperature") =>
    setup.instruments[role] ?? { gain: 0.005, counts: 10, resolution: 0.1 };
  const limit = (role: "partTemperature" | "ambientTemperature") =>
    of(role).gain * 25 + of(role).counts * of(role).resolution;
  const offset = Math.hypot(limit("partTemperature"), ambientRead ? limit("ambientTemperature") : 1) / Math.sqrt(3);
  const most = highest([
    ...Array.from({ length: Math.min(64, power.length) }, (_, k) => power[Math.floor((k * power.length) / 64)] ?? 0),
    0,
  ]);
  const first = median(Float64Array.from({ length: Math.min(3, power.length) }, (_, k) => sampleAt(power, k)));
  return {
    offset: Math.max(0.05, offset),
    start: first > most / 2 ? 12 : NOT_RESTED,
    ...(on >= REST.readings && sampleAt(rows.time, on) - sampleAt(rows.time, 0) >= REST.seconds
      ? { rested: RESTED }
      : {}),
    noise: 0.45 * Math.hypot(of("partTemperature").resolution, ambientRead ? of("ambientTemperature").resolution : 0),
  };
}
