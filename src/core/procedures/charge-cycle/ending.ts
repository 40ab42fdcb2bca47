import { median } from "../../quantities";

/** What stopped a charge that had not ended. */
export type StopCause = "input" | "cell" | "heat" | "timer";

/** What is known of a stop of the current; NaN and empty lists where the log has no such column. SI. */
export interface StopEvidence {
  /** Current and cell voltage in the last instants before it, and the highest constant current of the charge. */
  readonly amps: number;
  readonly volts: number;
  readonly fullAmps: number;
  /** Terminal voltages of the samples after it, in their order. */
  readonly voltsAfter: readonly number[];
  readonly input: number;
  readonly inputAfter: readonly number[];
  /** The part was at its heat limit: it was cutting its own current, or stood at its stated limit. */
  readonly atHeatLimit: boolean;
  /** Resistance of cell and leads as the start of the charge showed it, Ω; NaN where it did not. */
  readonly ohms: number;
  /** Whether full current had been reached, and whether the voltage loop had taken over. */
  readonly conditioning: boolean;
  readonly regulated: boolean;
  /** Termination current and set current from claims or conditions, A. */
  readonly termination?: number | undefined;
  readonly programmed?: number | undefined;
}

export interface StopVerdict {
  /** Whether the charge ended there; null where the log can't tell. */
  readonly ended: boolean | null;
  readonly cause: StopCause | null;
}

/** Share of the constant current down to which a stop may be the charger's own end although no voltage phase was seen. */
const LAST_SHARE = 0.35;
/** … and the same without an input column, where only the voltage phase tells. */
const LAST_SHARE_BLIND = 0.5;
/** Share of its voltage that an input loses when it is gone. */
const INPUT_LOST = 0.3;
/** V by which the terminals leave the cell when it was taken out. */
const LEAVES = 0.1;
/** V above which terminals that rise at a stop are no meter's step. */
const RISES = 0.0035;
/** V of I·R that a voltmeter shows well enough to miss them. */
const LETS_GO = 0.006;
/** Ω taken for cell and leads where the log does not show them. */
const USUAL_OHMS = 0.3;

const ended: StopVerdict = { ended: true, cause: null };
const interrupted = (cause: StopCause | null): StopVerdict => ({ ended: false, cause });
const UNKNOWN: StopVerdict = { ended: null, cause: null };

/**
 * Whether a stop of the current is the end of the charge or an interruption.
 *
 * Signs come first, in any phase: the input is gone (it loses more than 30 % of its voltage), the cell was taken out (its
 * terminals leave by more than 0.1 V beyond I·R, alternate, or do not even show the drop of I·R), the part was at its heat
 * limit with more than 0.35 of the constant current flowing. Without a sign it ended if the voltage phase was seen, or if the
 * current was down to max(0.35, 3·I_term/I_set) of the constant current. Without an input column the voltage phase must have
 * been seen and at most half the current flow; more than half that drops the terminals by I·R is an interruption, and
 * anything else is not known. What remains, input there and the cell not full, is a timer or a protection.
 */
export function judgeStop(e: StopEvidence): StopVerdict {
  const after = e.voltsAfter.filter(Number.isFinite);
  const inputAfter = e.inputAfter.filter(Number.isFinite);
  const seesInput = Number.isFinite(e.input) && inputAfter.length > 0;
  if (seesInput && e.input > 1 && median(inputAfter) < (1 - INPUT_LOST) * e.input) return interrupted("input");
  const share = e.fullAmps > 0 ? e.amps / e.fullAmps : NaN;
  const drop = e.amps * (Number.isFinite(e.ohms) ? e.ohms : USUAL_OHMS);
  if (after.length && cellLeft(e, after, drop)) return interrupted("cell");
  if (e.atHeatLimit && share > LAST_SHARE) return interrupted("heat");
  if (e.conditioning) return seesInput ? interrupted("timer") : UNKNOWN;
  if (seesInput) {
    const least = Math.max(LAST_SHARE, e.termination && e.programmed ? (3 * e.termination) / e.programmed : 0);
    return e.regulated || share <= least ? ended : interrupted("timer");
  }
  if (share <= LAST_SHARE_BLIND) return e.regulated ? ended : UNKNOWN;
  // The terminals come down by I·R when the current stops and the cell is still there.
  return after.length && e.volts - median(after) > Math.max(0.004, 0.2 * drop) ? interrupted(null) : UNKNOWN;
}

function cellLeft(e: StopEvidence, after: readonly number[], drop: number): boolean {
  const now = median(after);
  if (now > e.volts + LEAVES || now < e.volts - drop - LEAVES) return true;
  if (
    after.reduce((m, v) => Math.max(m, v), -Infinity) - after.reduce((m, v) => Math.min(m, v), Infinity) >
    LEAVES + drop
  )
    return true;
  // No cell rises when its current stops: terminals that do float at the charger's voltage.
  if (now > e.volts + RISES) return true;
  // A cell that is there lets go of I·R; terminals that stay where they were float at the charger's voltage.
  return Number.isFinite(e.ohms) && drop > LETS_GO && e.volts - now < 0.15 * drop;
}

/** What stopped it, for a sentence: “the input is gone”. */
export const CAUSE_TEXT: Readonly<Record<StopCause, string>> = {
  input: "the input is gone",
  cell: "the cell was removed",
  heat: "the part shut itself off at its heat limit",
  timer: "input and cell are present and the cell is not full, so a timer or a protection stopped it",
};
