import type { ConditionName, Conditions } from "../characteristics";
import type { SourceShare, Unit } from "../quantities";
import type { Role } from "./roles";

/** A number with its unit at a boundary. */
export interface Figure {
  readonly label: string;
  readonly value: number;
  readonly unit: Unit;
  /** Digits that it is worth; four where nothing is said. */
  readonly digits?: number;
}

/** Why a finding may be the fault of the set-up. */
export interface Unfairness {
  readonly code: string;
  readonly message: string;
  readonly remedy: string;
  /** The direction in which the cause could have pushed the value. */
  readonly pushes: "low" | "high" | "either";
}

/** A named quantity from a run: a value, a bound or a bracket. */
export interface Finding {
  readonly characteristic: string;
  readonly conditions: Conditions;
  /** Under what it was measured besides: ambient, input voltage, what a claim may name. They tell no two findings apart. */
  readonly under?: Conditions;
  /** Expanded uncertainty of the numbers among both kinds of conditions, where a meter read them. */
  readonly within?: Readonly<Partial<Record<ConditionName, number>>>;
  readonly value: number | string;
  readonly unit: Unit;
  /** k = 2; absent for words, and where a meter behind it has no stated accuracy (`unstated`). */
  readonly expandedUncertainty?: number;
  /** The run shows only that the quantity is at least, or at most, the value. */
  readonly bound?: "at-least" | "at-most";
  /** Last held and first fell: the quantity lies between. */
  readonly bracket?: { readonly low: number; readonly high: number };
  /** Where the standard uncertainty comes from, largest first. */
  readonly budget: readonly SourceShare[];
  /** Meters behind it whose accuracy nobody stated: it has no uncertainty then. */
  readonly unstated?: readonly Role[];
  /** Meters behind it whose accuracy is that of an ordinary handheld one, by assumption. */
  readonly assumed?: readonly Role[];
  /** Meters behind it, each with the like one whose accuracy stands in for its own. */
  readonly like?: readonly (readonly [role: Role, of: Role])[];
  /** The readings behind it. */
  readonly points: readonly string[];
  readonly unfair: readonly Unfairness[];
  /** It is a result of the sample: all runs that it rests on, where no single one gives it. */
  readonly over?: readonly { readonly runId: string; readonly title: string }[];
}

/** Why a quantity that a procedure could find is not among the results. */
export type NotStatedCode =
  /** The charger never cut its current, the output never fell. */
  | "did-not-happen"
  /** The part of the log that it rests on is not there. */
  | "not-in-log"
  /** An input or a condition is missing, which could be supplied. */
  | "needs"
  /** Something disturbed the run. */
  | "disturbed"
  /** The tester stopped it before its end. */
  | "stopped";
export const NOT_STATED_CODES: readonly NotStatedCode[] = [
  "needs",
  "disturbed",
  "stopped",
  "not-in-log",
  "did-not-happen",
];

export interface NotStated {
  readonly characteristic: string;
  readonly conditions?: Conditions;
  readonly code: NotStatedCode;
  readonly reason: string;
  /** What would supply it: columns of the log, a condition of the run. */
  readonly needs?: { readonly roles?: readonly Role[]; readonly condition?: string };
}

export interface Note {
  readonly code: string;
  readonly message: string;
  readonly points?: readonly string[];
}

export interface ChartSeries {
  readonly id: string;
  readonly label: string;
  /** Index into the series palette. */
  readonly tone: number;
  readonly points: readonly {
    readonly x: number;
    readonly y: number;
    readonly id: string;
    readonly state: "counts" | "left-out" | "fell";
  }[];
  /** For a log, the column that it draws, or the heat worked out from four. */
  readonly role?: Role | "heatPower";
  /** It is what was predicted, drawn behind what is measured. */
  readonly predicted?: true;
  /** A fitted curve, ascending in x. */
  readonly fit?: readonly { readonly x: number; readonly y: number }[];
}
export interface ChartSpec {
  readonly id: string;
  readonly title: string;
  /** The title says what it is drawn against. */
  readonly namesX?: true;
  readonly x: { readonly label: string; readonly unit: Unit };
  readonly y: { readonly label: string; readonly unit: Unit };
  readonly series: readonly ChartSeries[];
  /** What has to be known to read it, as a sentence beside its title. */
  readonly note?: string;
  /** Stretches of x that are told apart, such as the phases of a charge. */
  readonly spans?: readonly { readonly from: number; readonly to: number; readonly label: string }[];
  /** Boundaries between them that the tester may move, in x. */
  readonly handles?: readonly {
    readonly id: string;
    readonly label: string;
    readonly at: number;
    readonly moved?: string;
  }[];
  /** Instants that were marked, in x. */
  readonly marks?: readonly { readonly at: number; readonly label: string }[];
  /** A shaded range of y, such as the regulation band. */
  readonly band?: { readonly low: number; readonly high: number; readonly label: string };
  /** The characteristics whose claims are drawn in, and along which axis. */
  readonly claims: readonly { readonly characteristic: string; readonly axis: "x" | "y" }[];
}

export interface Analysis {
  readonly findings: readonly Finding[];
  readonly notes: readonly Note[];
  readonly charts: readonly ChartSpec[];
  /** What of the procedure's quantities is not among the findings, and why; whoever analyses through `analyseReadings` finds every one of them. */
  readonly notStated?: readonly NotStated[];
  /** What later runs of the bench may take over. */
  readonly correction?: BenchCorrection;
}

/** What is kept of an analysis where its charts are not wanted. */
export type RunResults = Pick<Analysis, "findings" | "notStated">;

/** What a check of the bench's meters offers to its later runs. */
export interface BenchCorrection {
  /** The meter that was checked. */
  readonly role: Role;
  /** Ω of the leads on its side, both together. */
  readonly leads?: "inputLeadResistance" | "outputLeadResistance";
  readonly ohms?: number;
  /** What it reads too much with no current, V. */
  readonly offset?: number;
}
