import { readFile } from "node:fs/promises";
import { decodeText } from "@/core/files";
import { answerQuestion } from "@/core/files/question-file";
import { err, formatDuration, formatQuantity, ok, type Result, type Unit } from "@/core/quantities";
import { within, type QuestionKind } from "@/core/use";

/** A search may take so long, ms. */
const PATIENCE = 2000;

/** Answers a planning question; every refusal names file, place and remedy. */
export async function plan(kind: QuestionKind, file: string, json: boolean): Promise<Result<string>> {
  let bytes: Uint8Array;
  try {
    bytes = new Uint8Array(await readFile(file));
  } catch (e) {
    return err(`${file}: can't be read (${(e as NodeJS.ErrnoException).code ?? (e as Error).message})`);
  }
  const answer = answerQuestion(kind, decodeText(bytes).text, within(PATIENCE, Date.now));
  if (!answer.ok) return err(`${file}: ${answer.error}`);
  return ok(json ? JSON.stringify(answer.value, null, 2) : asText(answer.value));
}

/** Names of the answers' numbers, with their units; seconds are said as a duration. */
const NAMED: Readonly<Record<string, readonly [label: string, unit: Unit | "min"]>> = {
  runTime: ["Run time", "s"],
  endSoc: ["Charge left at the end", "1"],
  startCurrent: ["Battery current when full", "A"],
  endCurrent: ["Battery current at the end", "A"],
  highestPowerAtHalf: ["Highest power at half charge", "W"],
  perBay: ["Current per bay", "A"],
  total: ["Current of all bays", "A"],
  supplyCurrent: ["Supply current with margin", "A"],
  lanes: ["Lanes", "count"],
  baysPerLane: ["Bays per lane", "count"],
  laneCurrent: ["Lane current", "A"],
  breaker: ["Breaker", "A"],
  farBayVoltage: ["Voltage of the far bay", "V"],
  heatPerBay: ["Heat per bay", "W"],
  partTemperature: ["Part temperature", "°C"],
  thermalResistanceNeeded: ["Thermal resistance needed", "K/W"],
  finish: ["Finish", "min"],
  packCapacity: ["Pack capacity", "Ah"],
  spread: ["Spread between groups", "Ah"],
};
const WORDS: Readonly<Record<string, string>> = {
  holds: "Holds when full",
  endedBy: "Ended by",
  farBayCharges: "Far bay charges",
  foldsBack: "Folds back",
  proved: "Proved best",
  starts: "Starts",
  groups: "Groups",
};

function asText(answer: Readonly<Record<string, unknown>>): string {
  return Object.entries(answer)
    .map(([key, value]) => {
      const [label, unit] = NAMED[key] ?? [WORDS[key] ?? key, "count" as const];
      return `${label.padEnd(32)} ${said(value, unit)}`;
    })
    .join("\n");
}

function said(value: unknown, unit: Unit | "min"): string {
  if (value === null) return "none fits";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) return value.map((g) => (Array.isArray(g) ? g.join(" + ") : String(g))).join("; ");
  if (typeof value === "object")
    return Object.entries(value)
      .map(([k, v]) => `${k} at ${String(v)} min`)
      .join("; ");
  if (typeof value !== "number") return String(value);
  if (unit === "count") return String(value);
  if (unit === "min") return `${value} min`;
  if (unit === "s") return formatDuration(value);
  if (unit === "1") return `${(100 * value).toPrecision(3)} %`;
  return formatQuantity(value, unit, { digits: 4 });
}
