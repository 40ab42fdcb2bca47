import { characteristic, conditionsOf, type ConditionName, type Conditions } from "../../characteristics";
import { accuracyAt } from "../../instruments";
import { highest } from "../../quantities";
import type { Role, Analysis, Readings, RunSetup } from "../../measurement";

/** Which meter shows a condition that is a number. */
const SHOWN_BY: Readonly<Partial<Record<ConditionName, Role>>> = {
  battery: "batteryVoltage",
  load: "outputCurrent",
  inputVoltage: "inputVoltage",
  ambient: "ambientTemperature",
};
/** Where a plan says it, for what was not logged. */
const PLANNED: Readonly<Partial<Record<ConditionName, string>>> = {
  battery: "battery",
  load: "load",
  inputVoltage: "inputVolts",
};

/** The mean of a column while the condition was there: of a supply that comes and goes, of a load that is put on, the part above half its highest. */
function meanOf(readings: Readings, role: Role, signed: boolean): number | null {
  const values =
    readings.kind === "trace"
      ? (readings.trace.columns[role] ?? [])
      : readings.kind === "points"
        ? readings.points.flatMap((p) => p.cells[role]?.value ?? [])
        : readings.answers.flatMap((a) => (role === "batteryVoltage" ? (a.volts ?? []) : []));
  const least = signed ? -Infinity : highest(values) / 2;
  let [sum, count] = [0, 0];
  for (const v of values) {
    if (!(v >= least)) continue;
    sum += v;
    count++;
  }
  return count > 0 ? sum / count : null;
}

/** What a run was measured under: what was logged (its mean), else what was set, else what was stated. */
export function circumstancesOf(readings: Readings, setup: RunSetup): Conditions {
  const out: Partial<Record<ConditionName, number | string>> = {};
  const { conditions } = setup;
  const plan = (setup.plan ?? {}) as Readonly<Record<string, unknown>>;
  if (conditions.configuration) out.configuration = conditions.configuration;
  if (conditions.output !== undefined) out.output = conditions.output;
  for (const [name, role] of Object.entries(SHOWN_BY) as [ConditionName, Role][]) {
    const set = plan[PLANNED[name] ?? ""];
    const value =
      name === "battery" && typeof set === "number"
        ? set
        : (meanOf(readings, role, name === "ambient") ?? (name === "ambient" ? conditions.ambientTemperature : set));
    if (typeof value === "number" && Number.isFinite(value)) out[name] = value;
  }
  return out;
}

/** The analysis with what each finding was measured under, as far as a claim on its quantity may name it. */
export function withCircumstances<A extends Analysis>(readings: Readings, setup: RunSetup, analysis: A): A {
  const all = circumstancesOf(readings, setup);
  const within = (name: ConditionName, value: number | string | undefined): number => {
    const accuracy = setup.instruments[SHOWN_BY[name] as Role];
    return typeof value === "number" && accuracy ? accuracyAt(accuracy, value) : 0;
  };
  return {
    ...analysis,
    findings: analysis.findings.map((f) => {
      if (!characteristic(f.characteristic)) return f;
      // What the analysis itself says of a finding stands before what holds for the whole run.
      const own = conditionsOf(f.characteristic).filter(
        (name) => f.conditions[name] === undefined && (f.under?.[name] ?? all[name]) !== undefined,
      );
      const under: Conditions = { ...Object.fromEntries(own.map((name) => [name, all[name]])), ...f.under };
      const ownConditions: Conditions = { ...under, ...f.conditions };
      const doubts = (Object.keys(ownConditions) as ConditionName[])
        .map((name) => [name, within(name, ownConditions[name])] as const)
        .filter(([, u]) => u > 0);
      return {
        ...f,
        ...(own.length ? { under } : {}),
        ...(doubts.length ? { within: Object.fromEntries(doubts) } : {}),
      };
    }),
  };
}
