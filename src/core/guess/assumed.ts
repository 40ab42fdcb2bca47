import { unstatedAccuracies } from "../procedures/kit/accuracies";
import type { Procedure } from "../procedures";
import type { Readings, RunConditions, RunSetup } from "../measurement";
import { assumedInstruments } from "../procedures/catalogue";
import { formatQuantity } from "../quantities";

/** Something that was assumed of a log because nothing says it, and what rests on that. */
export interface Assumption {
  /** The condition, or `instruments`. */
  readonly what: string;
  readonly text: string;
}

/** V that outputs are usually claimed for. */
const USUAL_OUTPUTS = [3.3, 5, 9, 12] as const;
/** Share by which an output without load is above or below what it is claimed for, in sound modules. */
const NEAR = 0.03;

/** The output a module was likely made for, V, from its highest usual reading; null where no output was read. */
export function likelyOutput(readings: Readings): number | null {
  const values =
    readings.kind === "points"
      ? readings.points.flatMap((p) => p.cells.outputVoltage?.value ?? [])
      : readings.kind === "trace"
        ? Array.from(readings.trace.columns.outputVoltage ?? []).filter(Number.isFinite)
        : [];
  const sorted = values.sort((a, b) => a - b);
  // Without load the output is highest; a spike is higher still.
  const high = sorted[Math.floor(0.95 * (sorted.length - 1))] ?? 0;
  if (!(high > 1)) return null;
  return USUAL_OUTPUTS.find((v) => Math.abs(high / v - 1) <= NEAR) ?? Number(high.toFixed(1));
}

/**
 * A set-up for a log of which only its readings are known: what was stated stays, and the rest is what a quantity needs and can fairly be
 * assumed, each with its reason in words.
 */
export function assumedSetup(
  p: Procedure,
  readings: Readings,
  stated: RunConditions = {},
  regulationBand?: number,
  meters: RunSetup["instruments"] = {},
): { readonly setup: RunSetup; readonly assumed: readonly Assumption[] } {
  const assumed: Assumption[] = [];
  const conditions: Record<string, unknown> = { ...(regulationBand !== undefined ? { regulationBand } : {}) };
  for (const q of p.asks) if (q.first !== undefined) conditions[q.condition] = q.first;
  // What is there and holds nothing was emptied by somebody: it is not assumed again.
  for (const [condition, value] of Object.entries(stated)) {
    if (value === undefined) delete conditions[condition];
    else conditions[condition] = value;
  }
  const output =
    p.asks.some((q) => q.condition === "nominalOutput") && conditions.nominalOutput === undefined
      ? likelyOutput(readings)
      : null;
  if (output !== null) {
    conditions.nominalOutput = output;
    assumed.push({
      what: "nominalOutput",
      text: `Nominal output assumed: ${formatQuantity(output, "V")}, from the output's highest readings. What counts as in regulation depends on it.`,
    });
  }
  for (const q of p.chooses ?? [])
    if (conditions[q.condition] === undefined) {
      conditions[q.condition] = q.of[0].value;
      assumed.push({ what: q.condition, text: `${q.label} assumed: ${q.of[0].label}.` });
    }
  const unstated = unstatedAccuracies(readings, { instruments: meters }, p.oscilloscope);
  const instruments = { ...meters, ...unstated };
  if (Object.keys(unstated).length)
    assumed.push({
      what: "instruments",
      text: `Meter accuracy assumed: ${assumedInstruments(p.id)}. Every uncertainty comes from it.`,
    });
  return { setup: { conditions: conditions as RunConditions, instruments }, assumed };
}
