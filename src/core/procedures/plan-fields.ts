import type { Unit } from "../quantities";
import type { Role } from "./roles";
import type { BenchProcedure, RunConditions } from "./shape";

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

/** A condition of the run that is asked for before it starts. */
export interface ConditionField {
  readonly key: { [K in keyof RunConditions]-?: NonNullable<RunConditions[K]> extends number ? K : never }[keyof RunConditions];
  readonly label: string;
  readonly unit: Unit;
  readonly low: number;
  readonly high?: number;
  /** May be left empty: not known. */
  readonly optional?: boolean;
  /** What the field shows where nothing is stated. */
  readonly first?: number;
}

/** Conditions that a plan may state beside its fields, in the order they are asked. */
const USUAL: readonly ConditionField[] = [
  { key: "nominalOutput", label: "Nominal output", unit: "V", low: 0.5, optional: true },
  { key: "supplyCurrentLimit", label: "Supply current limit", unit: "A", low: 0.01 },
  { key: "usableCapacity", label: "Usable capacity of your cell", unit: "Ah", low: 0.001 },
  { key: "partLimitTemperature", label: "Highest part temperature", unit: "°C", low: 30 },
  { key: "cellSelfDischargeCurrent", label: "Its self-discharge, as a current", unit: "A", low: 0 },
];

/** The conditions that a procedure asks for: its own list, or of the usual ones those that its set-up states, and a nominal output where an output is read. */
export function conditionsAsked(p: Pick<BenchProcedure, "conditionFields" | "moreConditions">, stated: RunConditions, roles: readonly Role[]): readonly ConditionField[] {
  const usual = USUAL.filter((c) => stated[c.key] !== undefined || (c.key === "nominalOutput" && roles.includes("outputVoltage")));
  return [...(p.conditionFields ?? usual), ...(p.moreConditions ?? [])];
}
