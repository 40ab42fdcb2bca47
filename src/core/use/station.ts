import { formatQuantity, highest, lowest } from "../quantities";

/** Many chargers on one line: what is asked. Shares without unit, everything else in SI, °C, K/W. */
export interface StationQuestion {
  readonly bays: number;
  readonly chargeCurrent: number;
  readonly currentTolerance: number;
  readonly quiescent: number;
  readonly margin: number;
  readonly supply: { readonly volts: number; readonly amps: number };
  readonly breakers: readonly number[];
  readonly wire: { readonly ampacity: number; readonly segmentResistance: number };
  readonly minimumInput: number;
  readonly ambient: number;
  readonly thermalResistance: number;
  readonly foldbackTemperature: number;
  readonly lowestCellVoltage: number;
}

/** The numbers of a station as they are stored: those of the question, flat; breakers are chosen from what is sold. */
export const STATION_NUMBERS = [
  "bays",
  "chargeCurrent",
  "currentTolerance",
  "quiescent",
  "margin",
  "volts",
  "amps",
  "ampacity",
  "segmentResistance",
  "minimumInput",
  "ambient",
  "thermalResistance",
  "foldbackTemperature",
  "lowestCellVoltage",
  "voltsTolerance",
  "resistanceTolerance",
] as const;
export type StationNumber = (typeof STATION_NUMBERS)[number];
export type StationPlan = Readonly<Record<StationNumber, number>>;

/** Ratings that small DC breakers are sold in, A. */
export const BREAKERS: readonly number[] = [2, 3, 4, 6, 10, 13, 16, 20, 25, 32, 40, 63];

/** The question that stored numbers ask: each at its stated value, the charge current at the top of its tolerance. */
export function stationQuestion({
  volts,
  amps,
  ampacity,
  segmentResistance,
  voltsTolerance: _v,
  resistanceTolerance: _r,
  ...same
}: StationPlan): StationQuestion {
  void [_v, _r];
  return { ...same, supply: { volts, amps }, breakers: BREAKERS, wire: { ampacity, segmentResistance } };
}

export interface StationAnswer {
  readonly perBay: number;
  readonly total: number;
  readonly supplyCurrent: number;
  readonly lanes: number;
  readonly baysPerLane: number;
  readonly laneCurrent: number;
  readonly breaker: number | null;
  readonly farBayVoltage: number;
  readonly farBayCharges: boolean;
  readonly heatPerBay: number;
  readonly partTemperature: number;
  readonly foldsBack: boolean;
  /** K/W from part to air at which it would just not fold back; null where the part makes no heat or the air is already too hot. */
  readonly thermalResistanceNeeded: number | null;
}

/** A breaker carries so many times what the lane draws. */
export const BREAKER_MARGIN = 1.25;
/** Products of decimal fractions stray by a few of the last binary digits; no count is rounded up for that. */
const STRAY = 1e-9;

/**
 * V of each bay of a lane with all its bays at full current, the nearest first: every segment (there and back) before a bay carries
 * the bays from there on. Worked: 12 bays of 0.544 A over 3 mΩ from 5.15 V: the far one 5.15 − 0.003·0.544·78 = 5.0227 V.
 */
export function bayVoltages(volts: number, perBay: number, segmentResistance: number, bays: number): number[] {
  const out: number[] = [];
  let v = volts;
  for (let k = 0; k < bays; k++) {
    v -= segmentResistance * perBay * (bays - k);
    out.push(v);
  }
  return out;
}

/** The smallest rating that carries the lane with margin and protects the wire and stays within the supply; null where there is none. */
export function breakerFor(
  laneCurrent: number,
  ratings: readonly number[],
  ampacity: number,
  supplyAmps: number,
): number | null {
  const [low, high] = [BREAKER_MARGIN * laneCurrent * (1 - STRAY), Math.min(ampacity, supplyAmps)];
  return [...ratings].sort((a, b) => a - b).find((r) => r >= low && r <= high) ?? null;
}

/** Lanes, breaker, far bay and heat of a charging station. Heat is worst in the first bay while it charges alone. */
export function planStation(q: StationQuestion): StationAnswer {
  const up = (x: number): number => Math.ceil(x * (1 - STRAY));
  const most = q.chargeCurrent * (1 + q.currentTolerance);
  const perBay = most + q.quiescent;
  const total = q.bays * perBay;
  const supplyCurrent = total * (1 + q.margin);
  const lanes = Math.max(1, up(supplyCurrent / q.supply.amps));
  const baysPerLane = up(q.bays / lanes);
  const laneCurrent = baysPerLane * perBay;
  const r = q.wire.segmentResistance;
  const farBayVoltage = q.supply.volts - (r * perBay * baysPerLane * (baysPerLane + 1)) / 2;
  const heatPerBay = (q.supply.volts - r * perBay - q.lowestCellVoltage) * most;
  const partTemperature = q.ambient + heatPerBay * q.thermalResistance;
  const room = q.foldbackTemperature - q.ambient;
  return {
    perBay,
    total,
    supplyCurrent,
    lanes,
    baysPerLane,
    laneCurrent,
    breaker: breakerFor(laneCurrent, q.breakers, q.wire.ampacity, q.supply.amps),
    farBayVoltage,
    farBayCharges: farBayVoltage >= q.minimumInput,
    heatPerBay,
    partTemperature,
    foldsBack: partTemperature > q.foldbackTemperature,
    thermalResistanceNeeded: room > 0 && heatPerBay > 0 ? room / heatPerBay : null,
  };
}

export type Range = readonly [low: number, high: number];

/** What figures of a station may come to, its inputs each somewhere within its tolerance; the lanes stay as they were planned. */
export interface StationRanges {
  readonly perBay: Range;
  readonly laneCurrent: Range;
  readonly farBayVoltage: Range;
  readonly heatPerBay: Range;
  readonly partTemperature: Range;
}

/**
 * A station at every corner of its uncertain inputs: charge current (its tolerance), supply voltage, and wire and thermal resistance (theirs).
 * Each figure rises or falls steadily with each of them where a charger has more at its input than its cell, so that the corners hold
 * its least and most. Worked: 5.15 V ± 2 %, 12 bays of 0.464 to 0.544 A over 3 mΩ ± 10 %: the far bay from 4.907 to 5.155 V.
 */
export function stationRanges(plan: StationPlan): StationRanges {
  const { baysPerLane } = planStation(stationQuestion(plan));
  const corners = [-1, 1].flatMap((i) =>
    [-1, 1].flatMap((v) =>
      [-1, 1].map((r) => {
        const current = plan.chargeCurrent * (1 + i * plan.currentTolerance);
        const volts = plan.volts * (1 + v * plan.voltsTolerance);
        const wire = plan.segmentResistance * (1 + r * plan.resistanceTolerance);
        const perBay = current + plan.quiescent;
        const heat = (volts - wire * perBay - plan.lowestCellVoltage) * current;
        const far = volts - (wire * perBay * baysPerLane * (baysPerLane + 1)) / 2;
        // Wire and heat path vary by themselves: of the latter both ends count at each corner.
        return {
          perBay,
          laneCurrent: baysPerLane * perBay,
          farBayVoltage: far,
          heatPerBay: heat,
          parts: [-1, 1].map((t) => plan.ambient + heat * plan.thermalResistance * (1 + t * plan.resistanceTolerance)),
        };
      }),
    ),
  );
  const range = (values: readonly number[]): Range => [lowest(values), highest(values)];
  return {
    perBay: range(corners.map((c) => c.perBay)),
    laneCurrent: range(corners.map((c) => c.laneCurrent)),
    farBayVoltage: range(corners.map((c) => c.farBayVoltage)),
    heatPerBay: range(corners.map((c) => c.heatPerBay)),
    partTemperature: range(corners.flatMap((c) => c.parts)),
  };
}

/** What works at the stated values and may not within the tolerances, each with what to do. */
export function stationDoubts(plan: StationPlan): string[] {
  const a = planStation(stationQuestion(plan));
  const r = stationRanges(plan);
  const shown = (x: number, unit: "V" | "°C", digits: number): string => formatQuantity(x, unit, { digits });
  return [
    ...(a.farBayCharges && r.farBayVoltage[0] < plan.minimumInput
      ? [
          `The far bay may have only ${shown(r.farBayVoltage[0], "V", 4)}, below the ${shown(plan.minimumInput, "V", 4)} that its charger needs. Measure the supply and the wire, or leave a larger margin.`,
        ]
      : []),
    ...(!a.foldsBack && r.partTemperature[1] > plan.foldbackTemperature
      ? [
          `The parts may reach ${shown(r.partTemperature[1], "°C", 3)} and cut their own current. Measure one bay before you build the rest.`,
        ]
      : []),
  ];
}

/** What of a station does not work, each with its remedy. */
export function stationRemedies(q: StationQuestion, a: StationAnswer): string[] {
  const amps = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  const volts = (x: number): string => formatQuantity(x, "V", { digits: 4 });
  const wanted = BREAKER_MARGIN * a.laneCurrent;
  return [
    ...(a.breaker === null
      ? [
          wanted > q.wire.ampacity
            ? `No breaker fits: a lane asks for ${amps(wanted)}, its wire carries ${amps(q.wire.ampacity)}. Use a thicker wire, or more lanes.`
            : wanted > q.supply.amps
              ? `No breaker fits: a lane asks for ${amps(wanted)}, its supply gives ${amps(q.supply.amps)}. Use a larger supply, or more lanes.`
              : `No breaker of your list lies between ${amps(wanted)} and ${amps(Math.min(q.wire.ampacity, q.supply.amps))}.`,
        ]
      : []),
    ...(a.farBayCharges
      ? []
      : [
          `The far bay has only ${volts(a.farBayVoltage)}, below the ${volts(q.minimumInput)} that its charger needs. Use a thicker wire, feed the line at its middle, or charge fewer bays at once.`,
        ]),
    ...(a.foldsBack
      ? [
          a.thermalResistanceNeeded === null
            ? `The parts reach ${formatQuantity(a.partTemperature, "°C", { digits: 3 })}: no heat sink helps at this ambient.`
            : `The parts reach ${formatQuantity(a.partTemperature, "°C", { digits: 3 })} and cut their own current. Use a heat sink: at most ${formatQuantity(a.thermalResistanceNeeded, "K/W", { digits: 3 })} from part to air; or a lower supply voltage, or less current.`,
        ]
      : []),
  ];
}
