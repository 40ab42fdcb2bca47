import { powerOn, type Warming, type WarmingReadings } from "../../fit";
import {
  add,
  divide,
  ELEMENTS,
  formatQuantity,
  median,
  multiply,
  rectangular,
  subtract,
  uncertain,
  type Uncertain,
  sampling,
  model,
} from "../../quantities";
import { finite } from "../../traces";
import type { CleanColumns } from "../kit/guided";
import { meterReading } from "../kit/log-reading";
import type { Note, NotStated, RunSetup } from "../../measurement";
import type { HeatPlan } from "./plan";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const NAME = "heat.lowest-cell-voltage";
/** s after the charge came on within which its current is its full one: no part has warmed far by then. */
const FRESH = 60;
/** Share of the full current under which it has been cut back, and of the cell current within which a linear charger's input current lies. */
const FULL = 0.97;
const LINEAR = { share: 0.03, own: 0.01 };
/** K to which a stated temperature of cutting back is good. */
const STATED = 1;
/** V of a cell at which full-current charging usually begins. */
const LOW_CELL = 3;
/** K by which the air in a closed case is usually warmer than that of the bench. */
const IN_CASE = 15;

export interface ChargerHeat {
  /** Lowest cell voltage at full current, V; null where it can't be stated, and then why. */
  readonly lowest: Uncertain | null;
  readonly notStated: NotStated | null;
  readonly notes: readonly Note[];
}

/** The log's columns as a charger's soak has them; null where one is missing. */
interface Read {
  readonly time: Float64Array;
  readonly inputVoltage: Float64Array;
  readonly inputCurrent: Float64Array;
  readonly cellCurrent: Float64Array;
  readonly partTemperature: Float64Array;
}
function readOf(
  time: Float64Array,
  { inputVoltage, inputCurrent, cellCurrent, partTemperature }: CleanColumns,
): Read | null {
  return inputVoltage && inputCurrent && cellCurrent && partTemperature
    ? { time, inputVoltage, inputCurrent, cellCurrent, partTemperature }
    : null;
}

/** What the charger did while it was fresh, and where it first cut its current back. */
function full(
  read: Read,
): { readonly from: number; readonly to: number; readonly amps: number; readonly folds: number | null } | null {
  const from = powerOn(read.cellCurrent);
  const start = read.time[from] ?? NaN;
  let to = from;
  while (to < read.time.length && sampleAt(read.time, to) <= start + FRESH) to++;
  const amps = median(finite(read.cellCurrent, from, to));
  if (!(amps > 0) || to - from < 3) return null;
  let below = 0;
  for (let k = to; k < read.time.length; k++) {
    const i = sampleAt(read.cellCurrent, k);
    // What stopped altogether was pulled or had ended; cutting back goes on charging.
    below = i < FULL * amps && i > 0.05 * amps ? below + 1 : 0;
    if (below === 5) return { from, to, amps, folds: k - 4 };
  }
  return { from, to, amps, folds: null };
}

/** °C at which it cuts its current back: seen in this log, else as stated. */
function foldback(read: Read, folds: number | null, setup: RunSetup): Uncertain | null {
  if (folds !== null) {
    const near = finite(read.partTemperature, Math.max(0, folds - 3), folds + 3);
    const [before, at] = [median(finite(read.partTemperature, Math.max(0, folds - 20), folds)), median(near)];
    // By then 3 % are gone: it began within the last few kelvin.
    const seen = meterReading(at, "partTemperature", setup, "cutting back", near.length);
    return add(
      seen,
      uncertain(0, [[sampling("where it began to cut back"), rectangular(Math.max(0.5, Math.abs(at - before)))]]),
    );
  }
  const stated = setup.conditions.foldbackTemperature;
  return stated === undefined ? null : uncertain(stated, [[model("cutting back as stated"), rectangular(STATED)]]);
}

const silent = (code: NotStated["code"], reason: string, needs?: NotStated["needs"]): ChargerHeat => ({
  lowest: null,
  notStated: { characteristic: NAME, code, reason, ...(needs ? { needs } : {}) },
  notes: [],
});

/**
 * The lowest cell voltage at which a linear charger keeps its full current at the log's ambient: V_c = (V_in·I_in − (T_fold − T_a)/R_th)/I,
 * what it burns then being just what takes its part to where it cuts back. Voltages in V, currents in A, temperatures in °C, `resistance` in
 * K/W. Worked: 5 V, 1 A, 100 °C, 25 °C and 40 K/W give 5 − 75/40 = 3.125 V.
 */
export function chargerHeat(
  time: Float64Array,
  columns: CleanColumns,
  rows: WarmingReadings,
  fit: Warming,
  resistance: Uncertain,
  setup: RunSetup<HeatPlan>,
): ChargerHeat {
  const read = readOf(time, columns);
  const fresh = read && full(read);
  if (!read || !fresh)
    return silent(
      "not-in-log",
      "The log doesn't show a charge: it is stated for chargers, soaked while they charge a supply that plays a low cell.",
    );
  const { from, to, amps } = fresh;
  const of = (column: Float64Array, role: "inputVoltage" | "inputCurrent" | "cellCurrent") =>
    meterReading(median(finite(column, from, to)), role, setup, "fresh", to - from);
  const [vin, iin, i] = [
    of(read.inputVoltage, "inputVoltage"),
    of(read.inputCurrent, "inputCurrent"),
    of(read.cellCurrent, "cellCurrent"),
  ];
  if (Math.abs(iin.value - amps) > LINEAR.share * amps + LINEAR.own)
    return silent(
      "not-in-log",
      "The charger switches: its heat doesn't follow from the difference between input and cell as a linear one's does.",
    );
  const folds = foldback(read, fresh.folds, setup);
  if (!folds)
    return silent(
      "needs",
      "The temperature at which the charger cuts its current back was neither seen in the log nor stated.",
      { condition: "foldbackTemperature" },
    );
  const ambient = meterReading(
    rows.ambient.reduce((s, v) => s + v, 0) / rows.ambient.length,
    "ambientTemperature",
    setup,
    "soak",
    rows.ambient.length,
  );
  const room = subtract(folds, ambient);
  const burns = divide(room, resistance);
  const lowest = divide(subtract(multiply(vin, iin), burns), i);
  const notes: Note[] =
    fresh.folds !== null
      ? [
          {
            code: "cut-back",
            message: `The charger cut its current back at ${q(folds.value, "°C", { digits: 3 })}: at this ambient and cell voltage it doesn't keep its full current of ${q(amps, "A", { digits: 3 })}.`,
          },
        ]
      : [];
  const all = {
    watts: vin.value * iin.value - LOW_CELL * i.value,
    room: room.value,
    resistance: resistance.value,
    input: vin.value * iin.value,
    amps: i.value,
    fit,
  };
  if (!(lowest.value > 0))
    return {
      lowest: null,
      notStated: {
        characteristic: NAME,
        code: "did-not-happen",
        reason: "At this ambient it keeps its full current into a cell of any voltage.",
      },
      notes: [...notes, ...sink(all)],
    };
  return { lowest, notStated: null, notes: [...notes, ...sink(all), ...sideBySide(all)] };
}

interface Sums {
  /** W burned into a low cell, K from ambient to where it cuts back, K/W from part to air, W drawn from the input, A into the cell. */
  readonly watts: number;
  readonly room: number;
  readonly resistance: number;
  readonly input: number;
  readonly amps: number;
  readonly fit: Warming;
}

/** What must change for full current from the beginning of a charge: on this bench and in a case. */
function sink({ watts, room, resistance }: Sums): Note[] {
  if (!(watts > 0)) return [];
  const most = (less: number) => (room - less) / watts;
  const low = `Into a cell of ${q(LOW_CELL, "V")} it burns ${q(watts, "W", { digits: 3 })}`;
  const inCase =
    most(IN_CASE) > 0
      ? `; in a closed case, ${q(IN_CASE, "K")} warmer, ${q(most(IN_CASE), "K/W", { digits: 3 })}`
      : `; in a closed case, ${q(IN_CASE, "K")} warmer, no heat sink is enough`;
  if (!(most(0) > 0))
    return [
      {
        code: "heat-sink",
        message: `${low}: at this ambient no heat sink keeps it at full current. Lower the input voltage or the charge current.`,
      },
    ];
  const has =
    resistance <= most(0)
      ? `the board as it is has ${q(resistance, "K/W", { digits: 3 })}, which is enough on this bench`
      : `the board as it is has ${q(resistance, "K/W", { digits: 3 })}, so it needs a heat sink, more copper, or less voltage or current`;
  return [
    {
      code: "heat-sink",
      message: `${low}. To keep its full current then, it may have up to ${q(most(0), "K/W", { digits: 3 })} from part to air${inCase}; ${has}.`,
    },
  ];
}

/** Chargers that stand side by side on boards like these. */
const BESIDE = [2, 3, 4] as const;
const COUNTS: Readonly<Record<(typeof BESIDE)[number], string>> = { 2: "Two", 3: "three", 4: "four" };

/** Several of them on one board: each warms by itself above the board, and all warm the board together. */
function sideBySide({ room, input, amps, fit, resistance }: Sums): Note[] {
  if (fit.quickTau === null) return [];
  const own = (fit.quick / (fit.quick + fit.slow)) * resistance;
  const from = BESIDE.map((n) => ({ n, lowest: (input - room / (own + n * (resistance - own))) / amps }));
  const text = from
    .map(
      ({ n, lowest }) =>
        `${COUNTS[n]}${n === 2 ? " keep their full current" : ""} ${lowest > 0 ? `from a cell of ${q(lowest, "V", { digits: 3 })}` : "into any cell"}`,
    )
    .join(", ");
  return [
    {
      code: "side-by-side",
      message: `Several chargers like this one on one board of this size warm it together. ${text}.`,
    },
  ];
}
