import type { ConditionField } from "./plan-fields";
import type { Role, RunConditions } from "../../measurement";
import type { BenchProcedure } from "../contract";

/** Conditions that a plan may state beside its fields, in the order they are asked. */
const USUAL: readonly ConditionField[] = [
  { key: "nominalOutput", label: "Nominal output", unit: "V", low: 0.5, optional: true },
  { key: "supplyCurrentLimit", label: "Supply current limit", unit: "A", low: 0.01 },
  { key: "usableCapacity", label: "Usable capacity of your cell", unit: "Ah", low: 0.001 },
  { key: "partLimitTemperature", label: "Highest part temperature", unit: "°C", low: 30 },
  { key: "cellSelfDischargeCurrent", label: "Its self-discharge, as a current", unit: "A", low: 0 },
];

/** The conditions that a procedure asks for: its own list, or of the usual ones those that its set-up states, and a nominal output where an output is read. */
export function conditionsAsked(
  p: Pick<BenchProcedure, "conditionFields" | "moreConditions">,
  stated: RunConditions,
  roles: readonly Role[],
): readonly ConditionField[] {
  const usual = USUAL.filter(
    (c) => stated[c.key] !== undefined || (c.key === "nominalOutput" && roles.includes("outputVoltage")),
  );
  return [...(p.conditionFields ?? usual), ...(p.moreConditions ?? [])].filter(
    (c) => !c.reads || roles.includes(c.reads),
  );
}
