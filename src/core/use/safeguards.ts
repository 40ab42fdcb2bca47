import { formatQuantity, highest } from "../quantities";

/** Standard ratings of small fuses, A. */
export const FUSES = [0.5, 0.63, 0.8, 1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10, 12.5, 15] as const;

/** A fuse carries this share of its rating for good. */
export const FUSE_SHARE = 0.75;
/** So many times its rating blow it quickly. */
export const FUSE_BLOWS = 10;

export interface FuseQuestion {
  /** Highest current in use, A. */
  readonly highest: number;
  /** What the wire carries, A. */
  readonly ampacity: number;
  /** V of the battery at its lowest, and all resistance of a short behind the fuse, Ω. */
  readonly volts: number;
  readonly resistance: number;
  readonly ratings?: readonly number[];
}

export interface FuseAnswer {
  /** A; null where none will do. */
  readonly rating: number | null;
  /** The least and the most that will do, A. */
  readonly least: number;
  readonly most: number;
  readonly why: string;
}

/**
 * A fuse at the cell: at least I ÷ 0.75, at most what the wire carries, and the cell must be able to blow it: V ÷ ΣR ≥ 10 × rating.
 * Worked: 1.2 A in use, a 5 A wire, 3 V behind 0.13 Ω: 1.6 A to 2.31 A, so 1.6 A.
 */
export function chooseFuse(q: FuseQuestion): FuseAnswer {
  const least = q.highest / FUSE_SHARE;
  const blows = q.volts / q.resistance / FUSE_BLOWS;
  const most = Math.min(q.ampacity, blows);
  const a = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  const rating =
    [...(q.ratings ?? FUSES)].sort((x, y) => x - y).find((r) => r >= least * (1 - 1e-9) && r <= most * (1 + 1e-9)) ??
    null;
  const limits = `${a(q.highest)} in use asks for at least ${a(least)}; the wire carries ${a(q.ampacity)}; the cell drives ${a(q.volts / q.resistance)} into a short and blows at most ${a(blows)}`;
  if (rating !== null) return { rating, least, most, why: `${limits}.` };
  const remedy =
    least > q.ampacity
      ? "Use a thicker wire."
      : least > blows
        ? "The cell can't blow a fuse that carries this load: more cells in parallel, or less load."
        : "No standard rating lies between.";
  return { rating, least, most, why: `${limits}. ${remedy}` };
}

/** A protection board that is put between cell and board. */
export interface AddedProtection {
  /** The board of the notebook that it is, if it is one. */
  readonly boardId?: string;
  /** A at which it trips, and the share by which that strays. */
  readonly trip: number;
  readonly tolerance: number;
  /** V at which it cuts off. */
  readonly cut: number;
  /** Ω in the way of the current. */
  readonly resistance: number;
  /** A that it draws for good. */
  readonly current: number;
}

/** It should trip at so many times what the load draws. */
export const TRIP_MARGIN = 1.2;

/** Several in series: the lowest trip, the highest cut, resistances and currents added. */
export function inSeries(boards: readonly AddedProtection[]): AddedProtection | null {
  if (boards.length === 0) return null;
  const weakest = boards.reduce((a, b) => (b.trip * (1 - b.tolerance) < a.trip * (1 - a.tolerance) ? b : a));
  return {
    trip: weakest.trip,
    tolerance: weakest.tolerance,
    cut: highest(boards.map((b) => b.cut)),
    resistance: boards.reduce((s, b) => s + b.resistance, 0),
    current: boards.reduce((s, b) => s + b.current, 0),
  };
}

/** What is wrong with an added board for a load of so many W at the battery, and a cell with its floor and the lowest battery voltage; empty: it suits. */
export function checkAdded(
  b: AddedProtection,
  use: { readonly batteryPower: number; readonly lowestVoltage: number; readonly floor: number },
): string[] {
  const amps = (TRIP_MARGIN * use.batteryPower) / use.lowestVoltage;
  const trips = b.trip * (1 - b.tolerance);
  const q = formatQuantity;
  return [
    ...(trips > amps
      ? []
      : [
          `It may trip at ${q(trips, "A", { digits: 3 })}; the load asks for ${q(amps, "A", { digits: 3 })} with margin at ${q(use.lowestVoltage, "V")}.`,
        ]),
    ...(b.cut < use.floor
      ? [
          `It cuts off at ${q(b.cut, "V")}, below the cell's floor of ${q(use.floor, "V")}: it doesn't guard this cell from a deep discharge.`,
        ]
      : []),
    ...(b.cut > use.lowestVoltage
      ? [`It cuts off at ${q(b.cut, "V")}, before the battery is down to ${q(use.lowestVoltage, "V")}.`]
      : []),
  ];
}

/** Lithium-ion below this is ruined, V. */
export const RUINED = 2.0;

export interface CutCheck {
  /** Whether the cut lies under the cell's floor. */
  readonly belowFloor: boolean;
  /** Share of the cell's charge that is left unused above the cut, 0 to 1. */
  readonly unused: number;
  /** Days until a cell that is forgotten after the cut is ruined; null where nothing draws. */
  readonly days: number | null;
}

/**
 * A cut held against the cell: days = C·(SoC(V_cut) − SoC(2.0 V)) ÷ (residual + self-discharge).
 * Worked: 2.2 Ah of which 1.5 % is left at the cut, 5 µA residual and 20 µA self-discharge: 55 days.
 */
export function checkCut(q: {
  readonly cut: number;
  readonly floor: number;
  readonly capacity: number;
  readonly residual: number;
  readonly selfDischarge: number;
  stateOfCharge(volts: number): number;
}): CutCheck {
  const left = Math.max(0, q.stateOfCharge(q.cut) - q.stateOfCharge(RUINED));
  const drain = q.residual + q.selfDischarge;
  return {
    belowFloor: q.cut < q.floor,
    unused: Math.max(0, Math.min(1, q.stateOfCharge(q.cut))),
    days: drain > 0 ? (q.capacity * left) / drain / 24 : null,
  };
}

/** A that flow when two cells of different voltage are joined: ΔV ÷ (R1 + R2). */
export const joiningCurrent = (
  a: { readonly volts: number; readonly resistance: number },
  b: { readonly volts: number; readonly resistance: number },
): number => Math.abs(a.volts - b.volts) / (a.resistance + b.resistance);
