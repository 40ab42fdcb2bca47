import { characteristic, formatSpec, type ConditionName } from "../characteristics";
import { formatLimit, type ClaimReading } from "./claim";

/** What one reading of a claim promises, in words. */
export function readingText(r: ClaimReading): string {
  const c = characteristic(r.characteristic);
  const conditions = Object.entries(r.conditions).flatMap(([name, spec]) =>
    spec ? [formatSpec(name as ConditionName, spec)] : [],
  );
  return `${c?.label ?? r.characteristic}: ${formatLimit(r.limit, c?.unit ?? "")}${conditions.length ? `, at ${conditions.join(", ")}` : ""}`;
}
