import { LOAD_KINDS } from "../characteristics";
import type { Finding, RunSetup, Corrections, ReadingsOf } from "../measurement";
import { loadSweepFacts } from "../procedures/load-sweep/facts";
import { analyseSweep } from "../procedures/load-sweep";
import { columnLimits } from "../procedures/load-sweep/analyse";
import { lossAt, type LossModel } from "../procedures/load-sweep/loss-model";
import type { SweepPlan } from "../procedures/load-sweep/plan";
import { assert, median, standardUncertainty } from "../quantities";
import type { EvidenceSample } from "../verdicts";
import { DRAWS, type Draw } from "./load";
import type { Converter } from "./operating-point";

/** The procedure that a module is measured by for use. */
export const SWEEP = loadSweepFacts.id;

/** What a load sweep showed of a module at one battery voltage. */
export interface MeasuredColumn {
  /** V that the supply was set to. */
  readonly battery: number;
  readonly loss: LossModel;
  /** V at the output, in regulation. */
  readonly output: number;
  /** The highest load held: A of load and A from the battery. */
  readonly held: { readonly load: number; readonly battery: number };
  /** Whether the output was seen to fall above that; else the module may hold more. */
  readonly fell: boolean;
  /** Relative standard uncertainty of the power drawn. */
  readonly spread: number;
}

/** A start from off: V of the battery, how the load draws, A at the nominal output; `more` where it may start into more. */
export interface MeasuredStart {
  readonly battery: number;
  readonly draw: Draw;
  readonly amps: number;
  readonly more: boolean;
}

/** What was measured of one sample as far as putting it to use needs it; what was not is null. */
export interface MeasuredModule {
  readonly sample: string;
  readonly runId: string;
  readonly runTitle: string;
  readonly simulated: boolean;
  /** It rests on claims alone: nothing was measured. */
  readonly claimed?: true;
  /** From the lowest battery voltage up; never empty. */
  readonly columns: readonly MeasuredColumn[];
  /** Measured cut-off of the board's own protection, V. */
  readonly cut: number | null;
  /** V at the battery below which the output leaves its band. */
  readonly dropout: number | null;
  /** A that it draws with its output off. */
  readonly off: { readonly value: number; readonly u: number } | null;
  /** A that still flow after its protection cut off. */
  readonly residual: number | null;
  /** The highest load that it starts into, by battery voltage and how the load draws; `more` where it may start into more. */
  readonly starts: readonly MeasuredStart[];
}

/** Below four points no loss model, and so no column. */
export function measuredColumns(
  readings: ReadingsOf<"points">,
  setup: RunSetup,
  corrections: Corrections,
): MeasuredColumn[] {
  const { columns } = analyseSweep(readings, setup as RunSetup<SweepPlan>, corrections);
  return columns
    .flatMap((c): MeasuredColumn[] => {
      const { held, fell } = columnLimits(c);
      const steady = c.points.filter((p) => p.inBand && !p.fromOff);
      if (!c.model || !held || steady.length === 0) return [];
      const spreads = steady.flatMap((p) =>
        p.efficiency && p.efficiency.value > 0 ? [standardUncertainty(p.efficiency) / p.efficiency.value] : [],
      );
      return [
        {
          battery: c.battery,
          loss: c.model,
          output: median(steady.map((p) => p.outputV.value)),
          held: { load: held.outputI.value, battery: held.batteryI.value },
          fell: fell !== null,
          spread: spreads.length ? median(spreads) : 0,
        },
      ];
    })
    .sort((a, b) => a.battery - b.battery);
}

const numberOf = (f: Finding | undefined): number | null => (f && typeof f.value === "number" ? f.value : null);

const PRESENT = "protect.over-discharge-present";

/**
 * Whether a board really disconnects an empty cell, by fair runs with real readings, the newest of each sample: no where any sample
 * showed that it does not, yes where one showed that it does, null where nothing did. What a simulated bench showed protects nobody.
 */
export function disconnects(evidence: readonly EvidenceSample[]): boolean | null {
  const words = evidence.flatMap((s) => {
    const runs = s.runs
      .filter((r) => r.finished && r.setAside === null && !r.simulated)
      .sort((a, b) => b.startUtc.localeCompare(a.startUtc));
    return (
      runs
        .flatMap((r) => r.findings)
        .find((f) => f.characteristic === PRESENT && f.unfair.length === 0 && f.value !== "not stated")?.value ?? []
    );
  });
  return words.includes("no") ? false : words.includes("yes") ? true : null;
}

/** States in which the output is off, the ones to be preferred first. */
const OFF = ["output-off", "auto-off", "cut-off"];

/** Further results of the sample that matter in use, from the newest fair runs first. */
export function measuredLimits(
  findings: readonly Finding[],
): Pick<MeasuredModule, "cut" | "dropout" | "off" | "residual" | "starts"> {
  const fair = findings.filter((f) => f.unfair.length === 0 && f.value !== "not stated");
  const find = (name: string): Finding | undefined => fair.find((f) => f.characteristic === name);
  const off = OFF.flatMap(
    (state) => fair.find((f) => f.characteristic === "standby.current" && f.conditions.state === state) ?? [],
  )[0];
  const starts = new Map<string, MeasuredStart>();
  for (const f of fair) {
    const { battery, kind } = f.conditions;
    const draw = DRAWS.find((d) => LOAD_KINDS[d] === kind) ?? "current";
    const key = `${battery} ${draw}`;
    if (
      f.characteristic === "boost.start-current" &&
      typeof battery === "number" &&
      typeof f.value === "number" &&
      !starts.has(key)
    )
      starts.set(key, { battery, draw, amps: f.value, more: f.bound === "at-least" });
  }
  return {
    cut: numberOf(find("protect.over-discharge-voltage")),
    dropout: numberOf(find("boost.dropout-voltage")),
    off: off && typeof off.value === "number" ? { value: off.value, u: off.expandedUncertainty ?? 0 } : null,
    residual:
      numberOf(find("protect.residual-current")) ??
      numberOf(fair.find((f) => f.characteristic === "standby.current" && f.conditions.state === "cut-off")),
    starts: [...starts.values()].sort((a, b) => a.battery - b.battery),
  };
}

/**
 * A module as a load on the battery, from its sweep: loss and limit by straight lines between the battery voltages of the sweep, held
 * beyond them (what the lowest showed is what is planned with below it). `more` is a share by which everything drawn is raised, for
 * seeing what an uncertainty changes.
 */
export function measuredConverter(m: MeasuredModule, more = 0): Converter {
  const at = (input: number, of: (c: MeasuredColumn) => number): number => {
    const above = m.columns.findIndex((c) => c.battery >= input);
    const [low, high] = [m.columns[above - 1], m.columns[above] ?? m.columns.at(-1)];
    assert(high, "measuredConverter: no columns");
    return low && above > 0
      ? of(low) + ((of(high) - of(low)) * (input - low.battery)) / (high.battery - low.battery)
      : of(high);
  };
  return {
    drawn: (power, input) => {
      const amps = power / at(input, (c) => c.output);
      return (power + at(input, (c) => Math.max(0, lossAt(c.loss, amps)))) * (1 + more);
    },
    inputLimit: (input) => at(input, (c) => c.held.battery) * (1 + more),
    minimumInput: Math.max(0, m.dropout ?? 0, m.cut ?? 0),
    standbyCurrent: m.off?.value ?? NaN,
  };
}
