import { stateOfCharge } from "./open-circuit";

/** Share of its capacity that a sound lithium-ion cell loses by itself in a day: a fifteenth in a year. */
const USUAL_LOSS = 1 / 15 / 365;

export interface WaitingCell {
  /** V at rest now, and Ah that it holds. */
  readonly volts: number;
  readonly capacity: number;
  /** V by which it falls at rest a day; null where that was not measured. */
  readonly fall: number | null;
}

export interface StorageAdvice {
  /** State of charge now, 0 to 1. */
  readonly soc: number;
  /** Above the voltage that cells are stored at: discharge it before it waits for months. */
  readonly above: boolean;
  /** Days until its next charge: until it is down to the lowest state of charge that cells are used at; 0 where it is there. */
  readonly days: number;
  /** Whether the fall was measured, or a sound cell's is taken. */
  readonly measured: boolean;
}

/**
 * A lithium-ion cell that waits: whether it stands too high for months, and when it wants its next charge. Its loss is the charge that its
 * measured fall a day stands for on the open-circuit curve, else a sound cell's. Source: days = C·(SoC(V) − SoC_low) ÷ loss.
 * Worked: at 3.83 V (60 %) down to 20 %, losing a fifteenth of its capacity a year: 0.4 × 15 × 365 = 2,190 days.
 */
export function storageAdvice(
  { volts, capacity, fall }: WaitingCell,
  rules: { readonly storageVoltage: number; readonly socLow: number },
): StorageAdvice {
  const share = (v: number): number => Math.min(1, Math.max(0, stateOfCharge("lithium-ion", v)));
  const soc = share(volts);
  const fell = fall !== null && fall > 0 ? (soc - share(volts - fall)) * capacity : 0;
  const loss = fell > 0 ? fell : USUAL_LOSS * capacity;
  return {
    soc,
    above: volts > rules.storageVoltage,
    days: Math.max(0, ((soc - rules.socLow) * capacity) / loss),
    measured: fell > 0,
  };
}
