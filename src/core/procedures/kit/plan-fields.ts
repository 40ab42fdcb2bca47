import type { Unit } from "../../quantities";
import type { Role, RunConditions } from "../../measurement";

/** One field of a plan. */
export interface PlanField {
  readonly key: string;
  readonly label: string;
  readonly unit: Unit;
  readonly low: number;
  readonly high: number;
  readonly why?: string;
  /** Shown and taken only where another field of the plan has this value. */
  readonly where?: { readonly key: string; readonly is: string | boolean };
  /** May be left empty: not known. */
  readonly optional?: boolean;
  /** It is the bench's, which remembers what it was set to. */
  readonly bench?: "supplyCurrentLimit";
}
/** Several values of one quantity, in one field. */
export interface PlanList {
  readonly key: string;
  readonly label: string;
  readonly unit: Unit;
  readonly list: "ascending" | "descending";
  readonly low: number;
  readonly where?: PlanField["where"];
}
/** Something that is done or not. */
export interface PlanTick {
  readonly key: string;
  readonly label: string;
  readonly tick: true;
  readonly where?: PlanField["where"];
}
/** One choice of a plan. */
export interface PlanChoice {
  readonly key: string;
  readonly label: string;
  /** Where it is a yes or no, `true` and `false`; several may be chosen where `many` is set. */
  readonly of: readonly { readonly value: string | boolean; readonly label: string }[];
  readonly many?: boolean;
  readonly why?: string;
  readonly where?: { readonly key: string; readonly is: string | boolean };
}
export type PlanEntry = PlanField | PlanList | PlanTick | PlanChoice;

/** Whether an entry is asked at all, as the rest of the plan is. */
export const entryShown = ({ where }: PlanEntry, plan: Readonly<Record<string, unknown>>): boolean =>
  !where || plan[where.key] === where.is;

/** A condition of the run that is asked for before it starts. */
export interface ConditionField {
  readonly key: {
    [K in keyof RunConditions]-?: NonNullable<RunConditions[K]> extends number ? K : never;
  }[keyof RunConditions];
  readonly label: string;
  readonly unit: Unit;
  readonly low: number;
  readonly high?: number;
  /** May be left empty: not known. */
  readonly optional?: boolean;
  /** Asked only where this is read. */
  readonly reads?: Role;
  /** What the field shows where nothing is stated. */
  readonly first?: number;
}
